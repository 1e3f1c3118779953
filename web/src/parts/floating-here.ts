import type { ComponentType } from 'react';
import type { FloatingProps } from './floating';

let here: ComponentType<FloatingProps> | null = null;

/** What floats was read: from now on it opens at once, so that what is typed right after a press goes into it. */
export const floatingIsHere = (component: ComponentType<FloatingProps>): void => void (here = component);

/** What floats, where it was read already. */
export const floatingHere = (): ComponentType<FloatingProps> | null => here;
