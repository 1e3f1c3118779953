import { Fault } from '@half-penny/core/model';

/** Whole days from 0 to 365, as typed. */
export function readTerms(text: string): number {
  if (!/^\d{1,3}$/.test(text.trim()) || Number(text) > 365)
    throw new Fault('out-of-range', 'Terms are whole days from 0 to 365.', 'termsDays', { text });
  return Number(text);
}
