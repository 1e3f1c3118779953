import type { LedgerLine, MoneyInLine } from '@half-penny/core/commands';
import { Fault } from '@half-penny/core/model';
import { currencyDigits, isCurrency } from '@half-penny/core/money';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** What a statement holds. */
export interface Statement {
  /** Money spent, and where asked for money that came back. */
  lines: LedgerLine[];
  /** Money that came in and was left out. */
  incoming: number;
  /** The same as what invoices may have been paid with. */
  moneyIn: MoneyInLine[];
}

export interface StatementOptions {
  /** Whether money that came in is taken as well, below nothing: refunds. */
  incoming?: boolean;
}

/**
 * A plain decimal as minor units: ("12.5", "GBP") → 1250.
 *
 * @throws Fault when it is none, or has more digits than the currency
 */
export function minorOf(text: string, currency: string, place: string): number {
  const digits = currencyDigits(currency);
  const match = /^([+-]?)(\d{1,13})(?:[.,](\d*))?$/.exec(text.trim());
  const fraction = (match?.[3] ?? '').replace(/0+$/, '');
  if (!match || fraction.length > digits) {
    throw new Fault('not-an-amount', `${place}: “${text.slice(0, 30)}” is not an amount in ${currency}.`, 'file', {
      place,
    });
  }
  const minor = Number(match[2]! + fraction.padEnd(digits, '0'));
  return match[1] === '-' ? -minor || 0 : minor;
}

/** @throws Fault when it is no currency */
export function currencyOf(text: unknown, place: string): string {
  const code = String(text ?? '')
    .trim()
    .toUpperCase();
  if (!isCurrency(code))
    throw new Fault('not-a-currency', `${place}: “${code.slice(0, 10)}” is not a currency.`, 'file', { place });
  return code;
}

/** A line as it was read, with what its file may tell it apart by. */
export interface ReadLine extends Omit<LedgerLine, 'source'>, Partial<Payer> {
  /** The account it is of; empty where the file does not say. */
  account: string;
  /** The bank's own number of it; empty where there is none. */
  given: string;
  /** What versions before this one took for its number, where that was another. */
  formerly?: string;
}

/** What a line tells of whoever paid, besides a name, a text and a reference. */
interface Payer {
  /** What was handed to the bank, where that is another sum than what arrived. */
  sent: MoneyInLine['sent'];
}

/** A line of a statement with all that it tells. */
export type StatementLine = LedgerLine & Partial<Payer>;

/** Numbers that say there is none (ISO 20022 practice). */
const NO_NUMBER = new Set(['NONREF', 'NOTPROVIDED', 'NOTPROVIDED.', 'NONE', 'UNKNOWN']);

/**
 * Lines with an id each. The bank's own number is one only where no other line of the file has the same: references are often those of a
 * contract, and come again every month. All others are known by their content and their place among equal lines.
 */
export function withIds(kind: string, lines: readonly ReadLine[]): StatementLine[] {
  const given = lines.map((line) => (NO_NUMBER.has(line.given.trim().toUpperCase()) ? '' : line.given.trim()));
  const counts = new Map<string, number>();
  lines.forEach(({ account }, index) => {
    const key = `${account} ${given[index]}`;
    counts.set(key, (counts.get(key) ?? 0) + 1);
  });
  const ids = new OwnIds();
  const olderIds = new OwnIds();
  return lines.map(({ account, given: said, formerly = said, ...line }, index) => {
    const number = given[index]!;
    const unique = number !== '' && counts.get(`${account} ${number}`) === 1;
    const id = unique
      ? number.slice(0, 100)
      : ids.of(account, line.day, line.amount, line.currency, line.supplier, line.text);
    const place = [kind, account.slice(-34)].filter(Boolean).join(':');
    // What older versions knew it by, so that a line that is here already is met again.
    const was = `${place}:${formerly.slice(0, 110) || olderIds.of(line.day, line.amount, line.supplier, line.text)}`;
    return { ...line, source: `${place}:${id}`, ...(was !== `${place}:${id}` && { was }) };
  });
}

/** Ids of lines whose source gives none: by content plus an occurrence index. */
export class OwnIds {
  readonly #seen = new Map<string, number>();

  of(...said: readonly (string | number)[]): string {
    const key = said.join('\u0000');
    const count = (this.#seen.get(key) ?? 0) + 1;
    this.#seen.set(key, count);
    return bytesToHex(sha256(new TextEncoder().encode(`${key}\u0000${count}`))).slice(0, 32);
  }
}

/** Keeps what was spent; money that came in only where asked for. */
export function spent(all: readonly StatementLine[], { incoming = false }: StatementOptions): Statement {
  const came = all.filter((line) => line.amount < 0);
  const lines = all.flatMap(({ reference = '', sent: _sent, ...line }) =>
    line.amount > 0 || (incoming && line.amount < 0) ? [{ ...line, ...(reference !== '' && { reference }) }] : [],
  );
  return { lines, incoming: came.length, moneyIn: came.map(moneyInOf) };
}

const moneyInOf = ({
  source,
  was,
  day,
  supplier,
  text,
  reference = '',
  sent = null,
  amount,
  currency,
}: StatementLine) => ({
  source,
  ...(was !== undefined && { was }),
  day,
  payer: supplier,
  text,
  reference,
  amount: -amount,
  currency,
  sent,
});

/** A text on one line, of a length that is kept. */
export const oneLine = (text: unknown, most = 300): string =>
  String(text ?? '')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, most);
