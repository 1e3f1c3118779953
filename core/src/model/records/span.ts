import * as z from 'zod';
import { instant } from '../fields';

/** From one moment to another. */
export const spanSchema = z
  .strictObject({ start: instant, end: instant })
  .refine((span) => span.end > span.start, { message: 'The end is before the start.', path: ['end'] });

export type Span = z.infer<typeof spanSchema>;
