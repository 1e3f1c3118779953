import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { invoiceItems, type InvoiceItem, type InvoiceMakings } from '../billing/invoice-items';
import type { Pricer } from '../billing/pricer';
import type { HeadingMoney } from '../costing/project-money';
import { canonical } from '../model/canonical';
import type { Id } from '../model/ids';
import type { ClientPageShows, FrozenInvoice, Quote, QuoteVersion } from '../model/records';
import type { Minor } from '../money/amount';
import { lessExact, sumExact } from '../money/rational';
import type { Day } from '../time/day';
import type { Seconds } from '../time/length';
import type { RoundingPolicy } from '../time/rounding';

/** What a line is made of: an entry, a line of a cost or an agreed amount. */
export interface PageItem {
  /** The key of the line that it stands on. */
  line: string;
  kind: 'time' | 'cost' | 'agreed';
  /** Empty of what is of no day. */
  day: Day | '';
  /** Who worked, as far as the client is told. */
  who: string;
  text: string;
  /** Recorded, of time. */
  seconds: Seconds;
  /** After rounding; null of costs, and of what was issued before this was kept. */
  billed: Seconds | null;
  /** Its share of the line's amount. */
  amount: Minor;
}

/** What was agreed for the work, and what of it is still to come; before tax. */
export interface PageRest {
  agreed: Minor;
  changes: Minor;
  /** With this invoice. */
  invoiced: Minor;
  remaining: Minor;
}

/** What an answer to a quote is bound to and signed with. */
export interface PageQuote {
  id: Id;
  digest: string;
  seal: string;
  /** What can be accepted: the key of each line, and what it comes to before tax. */
  choices: { key: string; text: string; amount: Minor; optional: boolean }[];
}

/** What a page for a client holds: an invoice, a credit note or a quote as it was issued, and what lies behind it. */
export interface ClientPage {
  frozen: FrozenInvoice;
  items: PageItem[];
  /** How lengths were rounded, by line; none where recorded lengths are billed as they are. */
  roundings: Record<string, RoundingPolicy[]>;
  rest: PageRest | null;
  quote: PageQuote | null;
  /** Where it is paid online, and how much is owed now; null where it is not. */
  pay: { at: string; amount: Minor } | null;
  made: Day;
}

/** What a client sees where nothing else was said. */
export const usualPage: ClientPageShows = { workings: true, people: 'names', rest: false };

/** A document as a client may have it: the accounts of the studio's bookkeeping are no affair of theirs. */
export const withoutAccounts = (frozen: FrozenInvoice): FrozenInvoice => ({
  ...frozen,
  lines: frozen.lines.map((line) => ({ ...line, account: '' })),
  ...(frozen.quote && {
    quote: { ...frozen.quote, options: frozen.quote.options.map((line) => ({ ...line, account: '' })) },
  }),
});

/**
 * The page of an issued invoice or credit note.
 *
 * @param shows what of its making the client is shown
 * @param rest of the project that it is for; null where that is not shown
 */
export function pageOfInvoice(
  pricer: Pricer,
  makings: InvoiceMakings,
  { shows, rest, pay, made }: Pick<ClientPage, 'rest' | 'pay' | 'made'> & { shows: ClientPageShows },
): ClientPage {
  const frozen = withoutAccounts(makings.invoice.frozen!);
  const found = shows.workings ? invoiceItems(pricer, makings) : [];
  const roundings: Record<string, RoundingPolicy[]> = {};
  for (const { allocation, entry } of found) {
    const policy = entry && pricer.policyOf(entry.projectId);
    if (!policy || (policy.increment === 1 && policy.minimum === 0)) continue;
    const own = (roundings[allocation.line] ??= []);
    if (!own.some((each) => canonical(each) === canonical(policy))) own.push(policy);
  }
  const items = found.map((item) => itemOf(pricer, item, shows.people));
  return { frozen, items, roundings, rest, quote: null, pay, made };
}

function itemOf(
  pricer: Pricer,
  { allocation, day, text, entry }: InvoiceItem,
  people: ClientPageShows['people'],
): PageItem {
  return {
    line: allocation.line,
    kind: entry ? 'time' : allocation.agreedId ? 'agreed' : 'cost',
    day,
    who: entry
      ? people === 'names'
        ? (pricer.member.get(entry.memberId)?.name ?? '')
        : people === 'services'
          ? (pricer.service.get(entry.serviceId ?? '')?.name ?? '')
          : ''
      : '',
    text,
    seconds: allocation.seconds,
    billed: entry ? allocation.billed : null,
    amount: allocation.amount ?? 0,
  };
}

/** The page of a quote as it was given last; null where it was not given, or can bear no signed answer. */
export function pageOfQuote(quote: Quote, made: Day): ClientPage | null {
  const given = quote.versions.at(-1);
  if (!given?.seal) return null;
  return {
    frozen: withoutAccounts(given.frozen),
    items: [],
    roundings: {},
    rest: null,
    quote: { id: quote.id, digest: digestOf(given.frozen), seal: given.seal, choices: choicesOf(given) },
    pay: null,
    made,
  };
}

/** Lines as they were written, with the amounts that the frozen ones have: these stand in the same order, what is optional apart. */
function choicesOf({ lines, frozen }: QuoteVersion): PageQuote['choices'] {
  const firm = [...frozen.lines];
  const left = [...frozen.quote!.options];
  return lines.map(({ key, text, optional }) => {
    const { amount } = (optional ? left : firm).shift()!;
    return { key, text, amount, optional };
  });
}

/** Tells a version of a quote from every other by what it says: SHA-256 of it, in hexadecimal. */
export const digestOf = (frozen: FrozenInvoice): string =>
  bytesToHex(sha256(utf8ToBytes(canonical(withoutAccounts(frozen)))));

/** What of a project was agreed, came on top and was invoiced, and what is left; null where nothing was agreed in figures. */
export function restOf(headings: readonly HeadingMoney[]): PageRest | null {
  const sum = (of: (heading: HeadingMoney) => Minor) => sumExact(headings.map(of));
  const agreed = sum(({ agreed: { estimate, allowances } }) => sumExact([estimate.amount, allowances.amount]));
  const changes = sum((heading) => heading.agreed.extras.amount);
  if (agreed === 0 && changes === 0) return null;
  const invoiced = sum(({ asked }) => asked.invoiced.amount);
  return { agreed, changes, invoiced, remaining: lessExact(sumExact([agreed, changes]), invoiced) };
}

/** Recorded seconds by day, in order; days between that have none are among them. */
export function hoursByDay(items: readonly PageItem[], nextDay: (day: Day) => Day): { day: Day; seconds: Seconds }[] {
  const days = new Map<Day, Seconds>();
  for (const { day, kind, seconds } of items)
    if (kind === 'time' && day !== '') days.set(day, (days.get(day) ?? 0) + seconds);
  const known = [...days.keys()].sort();
  const [first] = known;
  const last = known.at(-1);
  if (first === undefined || last === undefined) return [];
  const all: { day: Day; seconds: Seconds }[] = [];
  for (let day = first; day <= last && all.length < MOST_DAYS; day = nextDay(day))
    all.push({ day, seconds: days.get(day) ?? 0 });
  return all;
}

/** More days than this are not drawn one by one. */
const MOST_DAYS = 400;
