import { createContext, type RefObject } from 'react';

/** The element a screen scrolls in. */
export const ScrollContext = createContext<RefObject<HTMLElement | null>>({ current: null });
