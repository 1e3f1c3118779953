import {
  FactStore,
  choicesOf,
  OpenReport,
  smallPicture,
  wordOf,
  type ReportResult,
  type BaseMeasure,
  type FieldName,
  type Noticed,
  type ReportQuery,
  type SmallPicture,
} from '@half-penny/core/reports';
import type { JournalRow } from '@half-penny/core/model';
import type { Day } from '@half-penny/core/time';
import { expose } from 'comlink';
import Dexie, { liveQuery, type Subscription } from 'dexie';
import { WorkspaceDatabase } from '../data/database';
import { DexieReader } from '../data/executor';

// Reports are computed here, off the page: facts are read once and follow the journal; a question runs over their columns.

/** What stands behind a figure: one source with what it brings. */
export interface Behind {
  source: string;
  what: string;
  day: Day;
  currency: string;
  values: Partial<Record<BaseMeasure, number>>;
}

/** A thing that can be filtered by. */
export interface Choice {
  key: string;
  label: string;
}

/** A pause after so long, so that the work can be told to stop and asked how far it is. */
const BREATH = 40;

class Desk {
  readonly #database: WorkspaceDatabase;
  readonly #reader: DexieReader;
  readonly #known = new Map<string, number>();
  #facts: FactStore | null = null;
  #open: { question: ReportQuery; report: OpenReport } | null = null;
  #watch: Subscription | null = null;
  #trail: readonly Noticed[] = [];
  /** Changes wait for what is being done, and questions for them. */
  #turn: Promise<unknown> = Promise.resolve();

  constructor(name: string) {
    this.#database = new WorkspaceDatabase(name);
    this.#reader = new DexieReader(this.#database);
  }

  inTurn<T>(task: () => Promise<T>): Promise<T> {
    const done = this.#turn.then(task);
    this.#turn = done.catch(() => undefined);
    return done;
  }

  async begin(today: Day, onProgress: (share: number) => void, onChange: () => void): Promise<void> {
    await this.#newRows();
    await this.#read(today, onProgress);
    this.#watch?.unsubscribe();
    let first = true;
    this.#watch = liveQuery(() => this.#newest()).subscribe(() => {
      if (!first) void this.inTurn(() => this.#follow(today, onProgress)).then((changed) => changed && onChange());
      first = false;
    });
  }

  async ask(question: ReportQuery, onProgress: (share: number) => void): Promise<ReportResult> {
    const facts = this.#facts!;
    const report = new OpenReport(facts.words, facts.days, question);
    let last = performance.now();
    for (const share of report.run(facts.table)) {
      if (performance.now() - last < BREATH) continue;
      onProgress(share);
      await new Promise((resolve) => setTimeout(resolve));
      last = performance.now();
    }
    this.#open = { question, report };
    return report.answer();
  }

  /** A question beside the report that is open, which stays open. */
  picture(question: ReportQuery): SmallPicture | null {
    const { words, days, table } = this.#facts!;
    const report = new OpenReport(words, days, question);
    for (const _ of report.run(table));
    return smallPicture(report.answer());
  }

  /** What is behind a figure of the report that is open: the sources and what each brings, latest first. */
  behind(path: readonly string[], column: string | null, most: number): { rows: Behind[]; more: boolean } {
    const { table, words } = this.#facts!;
    const { report } = this.#open!;
    const found = report.behind(table, path, column, most + 1);
    const sources = new Map<string, Behind>();
    for (const row of found.slice(0, most)) {
      const source = wordOf(words, 'source', table.code('source', row));
      const what = wordOf(words, 'what', table.code('what', row));
      const key = `${what} ${source}`;
      const day = wordOf(words, 'day', table.code('day', row));
      let own = sources.get(key);
      if (!own) {
        const currency = wordOf(words, 'currency', table.code('currency', row));
        sources.set(key, (own = { source, what, day, currency, values: {} }));
      }
      for (const base of report.baseMeasures) own.values[base] = (own.values[base] ?? 0) + table.measure(base, row);
    }
    const rows = [...sources.values()].filter((row) => Object.values(row.values).some((value) => value !== 0));
    return { rows: rows.sort((a, b) => (a.day < b.day ? 1 : -1)), more: found.length > most };
  }

  choices(field: FieldName): Choice[] {
    const { words, days } = this.#facts!;
    return choicesOf(words, field, days);
  }

  /** Facts of the trail, in the place of those there were. */
  setTrail(facts: readonly Noticed[]): void {
    this.#trail = facts;
    this.#facts?.putTrail(facts);
  }

  async #read(today: Day, onProgress: (share: number) => void): Promise<void> {
    let last = performance.now();
    this.#open = null;
    this.#facts = await FactStore.read(this.#reader, today, async (share) => {
      if (performance.now() - last < BREATH) return;
      onProgress(share);
      await new Promise((resolve) => setTimeout(resolve));
      last = performance.now();
    });
    this.#facts.putTrail(this.#trail);
  }

  /** Brings facts and the open report in step; false where nothing happened. */
  async #follow(today: Day, onProgress: (share: number) => void): Promise<boolean> {
    const rows = await this.#newRows();
    if (rows.length === 0) return false;
    const facts = this.#facts!;
    const open = this.#open;
    if (!FactStore.canFollow(rows)) {
      await this.#read(today, onProgress);
      if (open) await this.ask(open.question, onProgress);
      return true;
    }
    await facts.follow(rows, open ? [open.report] : []);
    // A report knows the words there were when it was asked: with new ones it is asked again.
    if (open?.report.isStale(facts.days)) await this.ask(open.question, onProgress);
    return true;
  }

  answer(): ReportResult | null {
    return this.#open?.report.answer() ?? null;
  }

  /** The last number of each device's chain of changes: a look at each device, whatever the length of its chain. */
  async #newest(): Promise<Map<string, number>> {
    const newest = new Map<string, number>();
    const { journal } = this.#database;
    for (let device = ''; ;) {
      const next = await journal.where('[device+seq]').above([device, Dexie.maxKey]).first();
      if (!next) return newest;
      device = next.device;
      const last = await journal.where('[device+seq]').between([device, Dexie.minKey], [device, Dexie.maxKey]).last();
      newest.set(device, last!.seq);
    }
  }

  async #newRows(): Promise<JournalRow[]> {
    const rows: JournalRow[] = [];
    const isFirst = this.#known.size === 0;
    for (const [device, seq] of await this.#newest()) {
      const known = this.#known.get(device) ?? 0;
      this.#known.set(device, seq);
      if (isFirst || seq <= known) continue;
      rows.push(
        ...(await this.#database.journal
          .where('[device+seq]')
          .between([device, known + 1], [device, seq], true, true)
          .toArray()),
      );
    }
    return rows;
  }
}

let desk: Desk | null = null;
const now = (): Desk => {
  if (!desk) throw new Error('No workspace is open here.');
  return desk;
};

const work = {
  /** Reads a workspace. Days are owed up to yesterday and for today. */
  open(database: string, today: Day, onProgress: (share: number) => void, onChange: () => void): Promise<void> {
    const own = (desk = new Desk(database));
    return own.inTurn(() => own.begin(today, onProgress, onChange));
  },
  ask: (question: ReportQuery, onProgress: (share: number) => void): Promise<ReportResult> =>
    now().inTurn(() => now().ask(question, onProgress)),
  picture: (question: ReportQuery): Promise<SmallPicture | null> => now().inTurn(async () => now().picture(question)),
  /** The open report as it is now. */
  again: (): Promise<ReportResult | null> => now().inTurn(async () => now().answer()),
  behind: (path: readonly string[], column: string | null, most: number): Promise<{ rows: Behind[]; more: boolean }> =>
    now().inTurn(async () => now().behind(path, column, most)),
  choices: (field: FieldName): Promise<Choice[]> => now().inTurn(async () => now().choices(field)),
  setTrail: (facts: readonly Noticed[]): Promise<void> => now().inTurn(async () => now().setTrail(facts)),
};
export type ReportsWork = typeof work;

expose(work);
