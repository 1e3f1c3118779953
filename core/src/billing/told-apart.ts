import type { Day } from '../time/day';
import type { DraftLine } from './draft-line';
import type { Pricer } from './pricer';

/**
 * The texts of an invoice's lines, told apart: where several under one heading read the same, each also says its day, its days or whose
 * work it is, whichever differs. What was written by hand stays as it was written.
 */
export function textsToldApart(pricer: Pricer, lines: readonly DraftLine[], language = 'en-GB'): string[] {
  const alike = new Map<string, DraftLine[]>();
  let heading = '';
  for (const line of lines) {
    if (line.heading) heading = line.heading;
    if (line.written || line.byHand) continue;
    const key = JSON.stringify([heading, line.text]);
    alike.set(key, [...(alike.get(key) ?? []), line]);
  }
  const texts = new Map<DraftLine, string>();
  const day = new Intl.DateTimeFormat(language, { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });
  for (const group of alike.values()) {
    if (group.length === 1) continue;
    const whens = group.map((line) => showDays(day, daysOf(line)));
    const whose = group.map((line) => membersOf(pricer, line));
    const both = group.map((_, at) => [whose[at], whens[at]].filter(Boolean).join(', '));
    const single = group.every((line) => daysOf(line).length === 1);
    const orders = single ? [whens, whose, both] : [whose, whens, both];
    const told = orders.find((words) => new Set(words).size === words.length && words.every(Boolean));
    if (told) group.forEach((line, at) => texts.set(line, `${line.text}, ${told[at]}`));
  }
  return lines.map((line) => texts.get(line) ?? line.text);
}

const dateOf = (day: Day): Date => new Date(`${day}T00:00:00Z`);

/** The days of what stands on a line, in order, each once. */
const daysOf = ({ sources, charges }: DraftLine): Day[] => [
  ...new Set(
    [...sources.map(({ entry }) => entry.day), ...charges.map((charge) => charge.day).filter(Boolean)].toSorted(),
  ),
];

const showDays = (format: Intl.DateTimeFormat, days: readonly Day[]): string =>
  days.length === 0 ? '' : format.formatRange(dateOf(days[0]!), dateOf(days.at(-1)!));

const membersOf = (pricer: Pricer, { sources }: DraftLine): string =>
  [...new Set(sources.map(({ entry }) => pricer.member.get(entry.memberId)?.name ?? ''))].filter(Boolean).join(', ');
