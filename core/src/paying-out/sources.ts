import type { Reader } from '../engine/store';

/** Which of some lines of statements paid something, and are here by that. */
export async function sourcesPaid(reader: Reader, sources: readonly string[]): Promise<Set<string>> {
  const payouts = await reader.by('payouts', 'source', sources);
  const refunds = await reader.by('payments', 'source', sources);
  const wanted = new Set(sources);
  const back = (await reader.all('deposits')).flatMap((row) => row.paidBack ?? []);
  return new Set(
    [...payouts, ...refunds, ...back].flatMap(({ source }) =>
      source !== undefined && wanted.has(source) ? source : [],
    ),
  );
}
