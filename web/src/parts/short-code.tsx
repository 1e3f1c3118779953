import type { PublicKeys } from '@half-penny/core/model';
import { shortCode } from '@half-penny/formats/sealed-files';
import { useEffect, useState } from 'react';

interface ShortCodeProps {
  studio: PublicKeys;
  member: PublicKeys;
}

/** The figures that both sides read to one another. Working them out takes a moment on purpose. */
export function ShortCode({ studio, member }: ShortCodeProps) {
  const [code, setCode] = useState<string>();
  const asked = JSON.stringify([studio, member]);
  useEffect(() => {
    let left = false;
    const [ours, theirs] = JSON.parse(asked) as [PublicKeys, PublicKeys];
    void shortCode(ours, theirs).then((found) => left || setCode(found));
    return () => void (left = true);
  }, [asked]);
  return (
    <output
      aria-label="Short code"
      className="block border-y-2 border-ink bg-side px-4 py-3 text-center font-mono text-title tracking-wide text-time"
    >
      {code ?? 'Working it out…'}
    </output>
  );
}
