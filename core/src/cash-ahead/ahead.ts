import { owedOn, type InvoiceBalance } from '../billing/standing';
import type { Id } from '../model/ids';
import type { Repeat } from '../model/records';
import type { Minor } from '../money/amount';
import { addExact, divideRounded, product, sumExact } from '../money/rational';
import { draftIdOf, occurrences } from '../repeats/repeat';
import { addDays, daysBetween, type Day } from '../time/day';
import { Chance } from './chance';
import { lateDaysOf, PayingHabits } from './late-days';

// What will come in when: of what is owed, of what is agreed to come, and of what will be invoiced at the present pace. Each is drawn many
// times, as clients paid and were invoiced before; what half, a tenth and nine tenths of the draws come to by a day is what is likely.

/** What is known on a day. Amounts are with tax, in minor units of the studio's currency. */
export interface CashFacts {
  today: Day;
  invoices: readonly InvoiceBalance[];
  /** An amount of an invoice in the studio's currency; null where no exchange rate is known. */
  atHome: (amount: Minor, invoice: InvoiceBalance['invoice']) => Minor | null;
  repeats: readonly Repeat[];
  /** What the lines of a repeat come to with tax. */
  sumOf: (repeat: Repeat) => Minor;
  /** What could be invoiced to a client now, drafts among it. */
  toBill: ReadonlyMap<Id, Minor>;
  /** What is invoiced once a milestone is reached. */
  milestones: readonly { clientId: Id; day: Day; amount: Minor; name: string }[];
  /** Days until an invoice of a client is due. */
  termsOf: (clientId: Id) => number;
}

/** Money that is to come. */
export interface CashItem {
  key: string;
  kind: 'owed' | 'recurring' | 'milestone' | 'pace';
  clientId: Id;
  /** The invoice that it is owed on; null where it is still to be issued. */
  invoiceId: Id | null;
  /** What it is called: an invoice's number, the name of an agreement or a milestone; empty of what comes at the present pace. */
  name: string;
  amount: Minor;
  /** When it is invoiced, of what is not yet. */
  invoicedOn: Day | null;
  due: Day;
  /** When it likely comes in. */
  likely: Day;
}

/** What comes in up to the end of a week, all weeks before it among it. */
export interface CashWeek {
  from: Day;
  to: Day;
  /** So much or less in one of ten draws; in half; in nine of ten. */
  low: Minor;
  likely: Minor;
  high: Minor;
  /** What likely comes in within this week alone. */
  items: CashItem[];
}

export interface CashAhead {
  weeks: CashWeek[];
  /** In the order in which they likely come in; beyond the last week too. */
  items: CashItem[];
  /** Left out, as no exchange rate to the studio's currency is known. */
  unknown: number;
}

/** A quarter is looked ahead. */
export const WEEKS_AHEAD = 13;
const DRAWS = 600;

/** One thing that is to come, as it is drawn. */
interface Source {
  item: CashItem;
  /** How many days it is past its due day on the day it is drawn on, at most; nothing is paid before today. */
  past: number;
  /** What it may come to. */
  amounts: readonly Minor[];
}

/** What will come in over the coming weeks, and how sure that is. */
export function cashAhead(facts: CashFacts, weeks = WEEKS_AHEAD): CashAhead {
  const habits = new PayingHabits(lateDaysOf(facts.invoices));
  const end = addDays(facts.today, weeks * 7);
  const { sources, unknown } = sourcesOf(facts, habits, end);
  const chance = new Chance(Number(facts.today.replaceAll('-', '')));
  // Days from today to the end of each week, and what was drawn to have come in by then.
  const drawn = Array.from({ length: weeks }, () => new Float64Array(DRAWS));
  for (let draw = 0; draw < DRAWS; draw++) {
    for (const { item, past, amounts } of sources) {
      const late = habits.draw(chance, item.clientId, past);
      const week = Math.floor((daysBetween(facts.today, item.due) + late - 1) / 7);
      const amount = chance.pick(amounts);
      if (week < weeks) drawn[Math.max(0, week)]![draw]! += amount;
    }
  }
  for (let week = 1; week < weeks; week++)
    for (let draw = 0; draw < DRAWS; draw++) drawn[week]![draw]! += drawn[week - 1]![draw]!;
  const items = sources.map((source) => source.item).sort((one, other) => (one.likely < other.likely ? -1 : 1));
  return {
    weeks: drawn.map((sums, index) => {
      const sorted = [...sums].sort((one, other) => one - other);
      const at = (share: number) => Math.round(sorted[Math.min(DRAWS - 1, Math.floor(share * DRAWS))]!);
      const from = addDays(facts.today, index * 7 + 1);
      const to = addDays(from, 6);
      return {
        from,
        to,
        low: at(0.1),
        likely: at(0.5),
        high: at(0.9),
        items: items.filter(({ likely }) => likely >= from && likely <= to),
      };
    }),
    items,
    unknown,
  };
}

function sourcesOf(facts: CashFacts, habits: PayingHabits, end: Day): { sources: Source[]; unknown: number } {
  let unknown = 0;
  const sources: Source[] = [];
  for (const row of facts.invoices) {
    const owed = owedOn(row);
    if (owed <= 0) continue;
    const amount = facts.atHome(owed, row.invoice);
    if (amount === null) {
      unknown++;
      continue;
    }
    const { id, clientId, frozen } = row.invoice;
    sources.push(
      sourceOf(facts, habits, {
        key: id,
        kind: 'owed',
        clientId,
        invoiceId: id,
        name: frozen!.number,
        amount,
        invoicedOn: null,
        due: frozen!.dueDay,
      }),
    );
  }
  const later = (item: Omit<CashItem, 'invoiceId' | 'due' | 'likely'> & { invoicedOn: Day }, amounts?: Minor[]) =>
    sources.push(
      sourceOf(
        facts,
        habits,
        { ...item, invoiceId: null, due: addDays(item.invoicedOn, facts.termsOf(item.clientId)) },
        amounts,
      ),
    );
  for (const repeat of facts.repeats) {
    if (repeat.paused || repeat.kind !== 'sums') continue;
    for (const day of occurrences(repeat, end)) {
      if (day <= facts.today || repeat.prepared.includes(day)) continue;
      const { id, clientId, name } = repeat;
      later({ key: `${id} ${day}`, kind: 'recurring', clientId, name, amount: facts.sumOf(repeat), invoicedOn: day });
    }
  }
  for (const { clientId, day, amount, name } of facts.milestones) {
    if (amount <= 0 || day > end) continue;
    const invoicedOn = day > facts.today ? day : addDays(facts.today, 1);
    later({ key: `${name} ${day} ${clientId}`, kind: 'milestone', clientId, name, amount, invoicedOn });
  }
  for (const pace of pacesOf(facts)) {
    for (const { day, amounts } of invoicesAhead(pace, facts, end)) {
      const { clientId } = pace;
      later(
        { key: `${clientId} ${day}`, kind: 'pace', clientId, name: '', amount: middle(amounts), invoicedOn: day },
        amounts,
      );
    }
  }
  return { sources, unknown };
}

const middle = (amounts: readonly Minor[]): Minor =>
  amounts.toSorted((one, other) => one - other)[Math.floor(amounts.length / 2)]!;

function sourceOf(
  { today }: CashFacts,
  habits: PayingHabits,
  item: Omit<CashItem, 'likely'>,
  amounts: readonly Minor[] = [item.amount],
): Source {
  const past = daysBetween(item.due, today);
  const usual = addDays(item.due, habits.usual(item.clientId));
  // What should have come by now comes soon, or so one hopes.
  const likely = usual > today ? usual : addDays(today, 7);
  return { item: { ...item, likely }, past, amounts };
}

/** How a client was invoiced so far. */
interface Pace {
  clientId: Id;
  /** Its last invoice. */
  last: Day;
  /** Days from one to the next, in the middle. */
  gap: number;
  /** What they came to. */
  amounts: Minor[];
}

/** Clients with fewer invoices in a year have no pace. */
const FEWEST = 2;
const LOOKED_BACK = 365;
/** What was invoiced longer ago says little of what will be. */
const RECENT = 6;

/** Clients that are invoiced again and again for what was worked, each at its pace. */
function pacesOf({ invoices, repeats, atHome, today }: CashFacts): Pace[] {
  const agreed = new Set(
    repeats
      .filter((row) => row.kind === 'sums')
      .flatMap(({ id, prepared }) => prepared.map((day) => draftIdOf(id, day))),
  );
  const since = addDays(today, -LOOKED_BACK);
  const byClient = new Map<Id, { day: Day; amount: Minor }[]>();
  for (const { invoice, credits } of invoices) {
    const { frozen, voided, kind, clientId, id, advance } = invoice;
    // Money that was asked for ahead says nothing of the pace of the work.
    if (!frozen || voided || advance || kind === 'credit note' || agreed.has(id) || frozen.day < since) continue;
    const credited = sumExact(credits.filter((note) => !note.voided).map((note) => note.frozen?.total ?? 0));
    const amount = atHome(addExact(frozen.total, credited), invoice);
    if (amount === null || amount <= 0) continue;
    byClient.set(clientId, [...(byClient.get(clientId) ?? []), { day: frozen.day, amount }]);
  }
  return [...byClient].flatMap(([clientId, found]): Pace[] => {
    const rows = found.toSorted((one, other) => (one.day < other.day ? -1 : 1));
    if (rows.length < FEWEST) return [];
    const gaps = rows.slice(1).map(({ day }, index) => daysBetween(rows[index]!.day, day));
    const gap = Math.max(7, gaps.toSorted((one, other) => one - other)[Math.floor(gaps.length / 2)]!);
    const last = rows.at(-1)!.day;
    // Nothing for twice as long as usual: the work came to its end.
    if (daysBetween(last, today) > 2 * gap + 7) return [];
    return [{ clientId, last, gap, amounts: rows.slice(-RECENT).map((row) => row.amount) }];
  });
}

/** Invoices that come at a client's pace; the next one bears what could be invoiced already. */
function invoicesAhead({ clientId, last, gap, amounts }: Pace, { today, toBill }: CashFacts, end: Day) {
  const open = toBill.get(clientId);
  const found: { day: Day; amounts: Minor[] }[] = [];
  for (let day = addDays(last, gap); day <= end; day = addDays(day, gap)) {
    const on = day > today ? day : addDays(today, 1);
    if (found.length > 0 || open === undefined) found.push({ day: on, amounts });
    else {
      // What is open now, and for the days until then as much as was invoiced before in as many.
      const left = Math.min(gap, Math.max(0, daysBetween(today, on)));
      const more = amounts.map((amount) => divideRounded(product(amount, left), gap, 'half away from zero'));
      found.push({ day: on, amounts: more.map((amount) => addExact(open, amount)) });
    }
    if (day < today) day = today;
  }
  return found.filter((each) => middle(each.amounts) > 0);
}
