import type { LedgerLine } from '@half-penny/core/commands';
import { Fault } from '@half-penny/core/model';
import { isDay } from '@half-penny/core/time';
import * as z from 'zod';
import { currencyOf, minorOf, oneLine } from './lines';

const answerSchema = z.object({
  transactions: z.array(
    z.object({
      id: z.string().min(1).max(100),
      revision: z.number().int().min(1),
      date: z.string(),
      payee: z.string(),
      narrative: z.string(),
      amount: z.string(),
      currency: z.string(),
      withdrawn: z.boolean(),
    }),
  ),
  cursor: z.string().max(500),
  more: z.boolean(),
});

/** One answer of a bookkeeping service: lines, and where to go on. */
export interface LedgerPage {
  lines: LedgerLine[];
  cursor: string;
  more: boolean;
}

/**
 * Reads an answer of the bookkeeping service. Of a transaction that stands in it several times the last revision counts.
 *
 * @throws Fault that says where the answer is not what it should be; none of it is to be taken then
 */
export function readLedgerPage(answer: unknown): LedgerPage {
  const parsed = answerSchema.safeParse(answer);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    throw new Fault(
      'unreadable',
      `The bookkeeping answered something that cannot be read, at ${issue.path.join('/') || 'its head'}: ${issue.message}`,
      'answer',
    );
  }
  const { transactions, cursor, more } = parsed.data;
  const latest = new Map<string, (typeof transactions)[number]>();
  for (const each of transactions) {
    const before = latest.get(each.id);
    if (!before || before.revision <= each.revision) latest.set(each.id, each);
  }
  const lines = [...latest.values()].map((each): LedgerLine => {
    const place = `The bookkeeping, transaction ${each.id}`;
    if (!isDay(each.date))
      throw new Fault('not-a-day', `${place}: “${each.date.slice(0, 30)}” is not a day.`, 'answer');
    const currency = currencyOf(each.currency, place);
    return {
      source: `ledger:${each.id}`,
      day: each.date,
      supplier: oneLine(each.payee),
      text: oneLine(each.narrative, 2000),
      amount: minorOf(each.amount, currency, place),
      currency,
      withdrawn: each.withdrawn,
    };
  });
  return { lines, cursor, more };
}
