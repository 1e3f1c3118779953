import { jobName, worthOf, type PricedEntry, type Pricer } from '@half-penny/core/billing';
import { Fault, type Entry, type Letter, type Picture } from '@half-penny/core/model';
import { asksTrail, readDefinition, sheetOf, type ReportResult, type ReportSheet } from '@half-penny/core/reports';
import type { Day } from '@half-penny/core/time';
import { reportXlsx, type LengthsShown, type ReportEntry } from '@half-penny/formats/reports';
import { proxy } from 'comlink';
import { reportsWork } from '../workers/reports';
import { makeReportPdf } from '../workers/tasks';
import type { DexieReader } from './executor';
import type { Session } from './session';

/** Entries at most that go into a spreadsheet: what spreadsheets themselves can hold, with room to spare. */
const MOST_ENTRIES = 200_000;

/** A report's PDF with the studio's head. */
export function reportPdf(pricer: Pricer, sheet: ReportSheet, logo: Picture | undefined) {
  const { name, address, email, paper } = pricer.book.workspace;
  return makeReportPdf(sheet, { name, address, email, paper }, logo, null);
}

/**
 * A report as a spreadsheet with live sums, and the entries that are behind it.
 *
 * @param worth what of the entries’ worth goes into it: all where not given
 */
export async function reportSpreadsheet(
  { reader, entry }: Pick<Session, 'reader' | 'entry'>,
  pricer: Pricer,
  sheet: ReportSheet,
  today: Day,
  lengths: LengthsShown = 'h:mm',
  worth: (pricer: Pricer, entries: readonly Entry[]) => PricedEntry[] = worthOf,
): Promise<Blob> {
  const entries = await entriesBehind(reader, pricer, worth, entry.database, today);
  return reportXlsx(sheet, entries, pricer.book.workspace.amountRounding, lengths);
}

/**
 * The files of a report that goes with a letter: asked as of the letter's day, over what there is now.
 *
 * @throws Fault where it asks the trail, which goes to nobody
 */
export async function reportFiles(
  session: Session,
  pricer: Pricer,
  letter: Letter,
): Promise<{ name: string; blob: Blob }[]> {
  const { name, note, definition: kept, day } = letter.report!;
  const { definition } = readDefinition(kept);
  if (asksTrail(definition))
    throw new Fault('internal', 'This report asks the trail, which stays on this computer.', 'report');
  const { workspace } = pricer.book;
  const work = reportsWork(session.entry.database, day);
  await work.ready;
  const answer: ReportResult = await work.api.ask(
    { definition, runOn: day },
    proxy(() => undefined),
  );
  const sheet = sheetOf(answer, name, note, workspace.lengthStyle);
  const logo = workspace.logoId ? await session.reader.get('pictures', workspace.logoId) : undefined;
  const plain = name.replace(/[^\w.-]+/g, '-');
  const files: { name: string; blob: Blob }[] = [];
  for (const kind of letter.enclosed) {
    if (kind === 'pdf') files.push({ name: `${plain}.pdf`, blob: await reportPdf(pricer, sheet, logo).result });
    if (kind === 'xlsx')
      files.push({ name: `${plain}.xlsx`, blob: await reportSpreadsheet(session, pricer, sheet, day) });
  }
  return files;
}

/** Every entry that the report holds, priced. */
async function entriesBehind(
  reader: DexieReader,
  pricer: Pricer,
  worth: (pricer: Pricer, entries: readonly Entry[]) => PricedEntry[],
  database: string,
  today: Day,
): Promise<ReportEntry[]> {
  const { rows } = await reportsWork(database, today).api.behind([], null, MOST_ENTRIES);
  const ids = new Set(rows.filter((row) => row.what === 'time').map((row) => row.source));
  const own = (await reader.many('entries', [...ids])).filter((row) => row !== undefined);
  // Rounding may go by a whole day, so each is priced among what was done beside it.
  const days = [...new Set(own.map((row) => JSON.stringify([row.memberId, row.day])))];
  const beside = await reader.by(
    'entries',
    'memberId+day',
    days.map((each) => JSON.parse(each) as [string, string]),
  );
  return worth(pricer, beside)
    .filter(({ entry }) => ids.has(entry.id))
    .sort((a, b) => (a.entry.day < b.entry.day ? -1 : a.entry.day > b.entry.day ? 1 : 0))
    .map(({ entry, billed, price }) => ({
      day: entry.day,
      member: pricer.member.get(entry.memberId)?.name ?? '',
      job: jobName(pricer, entry.projectId, entry.unlisted),
      service: pricer.service.get(entry.serviceId ?? '')?.name ?? '',
      note: entry.note,
      recorded: entry.seconds,
      billed,
      scaled: price?.scaled ?? null,
      perSeconds: price?.perSeconds ?? 3600,
      currency: price?.currency ?? pricer.book.workspace.currency,
    }));
}
