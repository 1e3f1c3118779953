import { computeDraft, newDraft, type Draft } from '../billing/draft';
import { freeze } from '../billing/freeze';
import type { Pricer } from '../billing/pricer';
import { Fault } from '../faults/fault';
import { agreedDefaults } from '../model/defaults-billing';
import type { IdSource } from '../model/ids';
import type {
  Agreed,
  AgreedKind,
  FrozenInvoice,
  Invoice,
  Project,
  Quote,
  QuoteLine,
  QuoteVersion,
} from '../model/records';
import type { Minor } from '../money/amount';
import { SCALE, toScaled } from '../money/decimal';
import { divideRounded, product, sumExact } from '../money/rational';
import { amountOfPieces } from '../money/price';
import { showDayShort, type Day } from '../time/day';

/** Where a quote stands. Derived, never typed. */
export const quoteStandings = ['draft', 'given', 'out of date', 'accepted', 'accepted in part', 'declined'] as const;
export type QuoteStanding = (typeof quoteStandings)[number];

/** As it was given last; none where it has not been. */
export const lastVersion = ({ versions }: Pick<Quote, 'versions'>): QuoteVersion | undefined => versions.at(-1);

/** How far a quote is on a day. */
export function quoteStanding(quote: Quote, today: Day): QuoteStanding {
  const { answer } = quote;
  const given = lastVersion(quote);
  if (answer?.kind === 'declined') return 'declined';
  if (answer) {
    const whole = quote.versions[answer.version - 1]!.lines;
    return whole.some((line) => !line.optional && !answer.keys.includes(line.key)) ? 'accepted in part' : 'accepted';
  }
  if (!given) return 'draft';
  return today > given.frozen.quote!.validUntil ? 'out of date' : 'given';
}

/** Whether what is written now differs from what was given last. */
export function isChanged(quote: Quote): boolean {
  const given = lastVersion(quote);
  if (!given) return true;
  const { title, validUntil, intro } = given.frozen.quote!;
  return (
    title !== quote.title ||
    validUntil !== quote.validUntil ||
    intro !== quote.intro ||
    given.frozen.note !== quote.note ||
    JSON.stringify(given.lines) !== JSON.stringify(quote.lines)
  );
}

/** The sums of a quote, by the same rules as an invoice's: of what is firm, and of what may be left out. */
export interface QuoteSums {
  firm: Draft;
  options: Draft;
}

/** @param day taxes are as on that day */
export function quoteSums(pricer: Pricer, quote: Quote, day: Day): QuoteSums {
  const of = (lines: readonly QuoteLine[]) =>
    computeDraft(pricer, { invoice: invoiceOf(pricer, quote, lines), entries: [], allocations: [], day });
  return {
    firm: of(quote.lines.filter((line) => !line.optional)),
    options: of(quote.lines.filter((line) => line.optional)),
  };
}

/** What a quote would be as an invoice: nothing but lines by hand. */
function invoiceOf(pricer: Pricer, quote: Quote, lines: readonly QuoteLine[]): Invoice {
  const client = pricer.client.get(quote.clientId)!;
  return {
    ...newDraft(
      { ...client, currency: quote.currency, taxId: quote.taxId },
      { id: quote.id, createdAt: quote.createdAt },
    ),
    byHand: lines.map(({ basis: _basis, optional: _optional, costCodeId: _code, ...line }) => ({
      ...line,
      account: '',
      projectId: null,
    })),
    note: quote.note,
  };
}

/** "Q-0007", "Q-0007/2" from its second version on. */
export const quoteNumber = (prefix: string, seq: number, version: number): string =>
  `${prefix}${String(seq).padStart(4, '0')}${version > 1 ? `/${version}` : ''}`;

/**
 * A quote as it is given to the client: copied, so that nothing changed later can reach it.
 *
 * @throws Fault where all of it may be left out, something on it has no amount, or it would be out of date already
 */
export function freezeQuote(pricer: Pricer, quote: Quote, seq: number, day: Day): FrozenInvoice {
  const { firm, options } = quoteSums(pricer, quote, day);
  if (firm.lines.length === 0)
    throw new Fault('empty', 'A quote needs a line that is not optional: that is its sum.', 'lines');
  if (quote.validUntil < day)
    throw new Fault(
      'too-early',
      `It would be out of date since ${showDayShort(quote.validUntil)}. Say until when it holds.`,
      'validUntil',
    );
  const client = pricer.client.get(quote.clientId)!;
  const invoice = (lines: readonly QuoteLine[]) => ({ ...invoiceOf(pricer, quote, lines), purchaseOrder: '-' });
  const sheet = freeze(pricer, firm, invoice(quote.lines.filter((line) => !line.optional)), seq, day);
  const optional = quote.lines.filter((line) => line.optional);
  const left = optional.length === 0 ? [] : freeze(pricer, options, invoice(optional), seq, day).lines;
  const version = quote.versions.length + 1;
  return {
    ...sheet,
    number: quoteNumber(pricer.book.workspace.quotePrefix ?? 'Q-', seq, version),
    dueDay: quote.validUntil,
    client: { name: client.name, address: client.address, taxNumber: client.taxNumber },
    purchaseOrder: '',
    quote: { title: quote.title, version, validUntil: quote.validUntil, intro: quote.intro, options: left },
  };
}

/** What a line comes to before tax. */
const amountOfLine = (line: QuoteLine, quote: Quote, pricer: Pricer): Minor =>
  amountOfPieces(line.quantity, line.price, quote.currency, pricer.book.workspace.amountRounding);

/** What lines of a quote become when they are accepted. */
export interface Accepted {
  agreed: Agreed[];
  /** Before tax. */
  sum: Minor;
  /** Hours of what is billed as it is worked, in seconds; 0 where none are told. */
  seconds: number;
}

/** An hour, however it is written on a line. */
const HOURS = /^(?:h|hr|hrs|hour|hours|std\.?|stunden?|heures?|horas?|ore|ora|uur)$/i;

/**
 * Agreed amounts of accepted lines: parts of the price where the project has a fixed one; else sums that are billed as they are, and
 * estimates of what is billed as it is worked. What comes on top of an earlier quote is an extra.
 *
 * @param change whether the project has an accepted quote already
 */
export function acceptedOf(
  pricer: Pricer,
  quote: Quote,
  lines: readonly QuoteLine[],
  of: { project: Pick<Project, 'id' | 'kind'>; day: Day; by: string; change: boolean },
  newId: IdSource,
): Accepted {
  const agreed = lines.map((line): Agreed => {
    const amount = amountOfLine(line, quote, pricer);
    return {
      ...agreedDefaults,
      id: newId(),
      projectId: of.project.id,
      kind: kindOf(line, of),
      text: line.text.slice(0, 1000),
      amount,
      costCodeId: line.costCodeId,
      agreedOn: of.day,
      agreedBy: of.by,
    };
  });
  const hours = lines.filter((line) => line.basis === 'estimate' && HOURS.test(line.unitName.trim()));
  return {
    agreed,
    sum: sumExact(agreed.map((row) => row.amount)),
    seconds: sumExact(
      hours.map((line) => divideRounded(product(toScaled(line.quantity), 3600), SCALE, 'half away from zero')),
    ),
  };
}

function kindOf(
  { basis }: QuoteLine,
  { project, change }: { project: Pick<Project, 'kind'>; change: boolean },
): AgreedKind {
  if (change) return 'extra';
  if (project.kind === 'fixed price') return 'fixed';
  return basis === 'fixed' ? 'extra' : 'estimate';
}
