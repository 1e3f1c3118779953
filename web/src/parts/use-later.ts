import { useEffect, useState } from 'react';

const LATER = 2500;

/** Turns true a moment after the page is there: for what the first look does without. */
export function useLater(): boolean {
  const [later, setLater] = useState(false);
  useEffect(() => {
    const waiting = setTimeout(() => setLater(true), LATER);
    return () => clearTimeout(waiting);
  }, []);
  return later;
}
