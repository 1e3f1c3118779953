import type { ReportSheet } from '@half-penny/core/reports';
import { Pricer, readBook, worthOf } from '@half-penny/core/billing';
import {
  plainDefinition,
  FactStore,
  OpenReport,
  figureAt,
  sheetOf,
  type ReportResult,
  type Definition,
} from '@half-penny/core/reports';
import { roundingRules } from '@half-penny/core/money';
import { freshStudio, work } from '@half-penny/core/testing';
import FormulaParser from 'fast-formula-parser';
import { XMLParser } from 'fast-xml-parser';
import { strFromU8, unzipSync } from 'fflate';
import Papa from 'papaparse';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  amountFormula,
  plainLength,
  readReport,
  reportCsv,
  reportHtml,
  reportText,
  reportXlsx,
  writeReport,
  type ReportEntry,
} from '.';
import { columnName } from '../hours/table';
import { fault } from '@half-penny/core/testing';

const TODAY = '2026-11-12';
let keeper: FactStore;
let pricer: Pricer;
let entries: ReportEntry[];

const ask = (asked: Partial<Definition>): ReportResult => {
  const definition: Definition = { ...plainDefinition, when: { kind: 'moving', name: 'last month' }, ...asked };
  const report = new OpenReport(keeper.words, keeper.days, { definition, runOn: TODAY });
  for (const _ of report.run(keeper.table));
  return report.answer();
};

beforeAll(async () => {
  const { store, run, added, at } = await freshStudio();
  const clairval = await added('client.add', {
    name: 'Maison Clairval',
    address: '',
    email: '',
    taxNumber: '',
    currency: 'EUR',
    taxId: null,
    termsDays: null,
    archived: false,
  });
  const salon = await added('project.add', {
    name: 'Salon windows',
    clientId: clairval,
    jobNumber: '',
    colour: 'moss',
    finished: false,
  });
  await run('rate.add', {
    from: '2026-01-01',
    price: '86.4',
    unit: 'hour',
    currency: 'EUR',
    clientId: clairval,
  } as never);
  const jobs = [at.rig, at.gallery, salon, at.internal];
  for (let index = 0; index < 120; index++) {
    const day = `2026-10-${String(1 + (index % 28)).padStart(2, '0')}`;
    await run('entry.add', {
      ...work(jobs[index % 4]!, 60 + ((index * 7919) % 20_000)),
      day,
      note: `Sheet ${index % 9}`,
    });
  }
  keeper = await FactStore.read(store, TODAY);
  pricer = new Pricer(await readBook(store));
  const own = store.rows('entries');
  entries = worthOf(pricer, own).map(({ entry, billed, price }) => ({
    day: entry.day,
    member: pricer.member.get(entry.memberId)?.name ?? '',
    job: 'Job',
    service: '',
    note: entry.note,
    recorded: entry.seconds,
    billed,
    scaled: price?.scaled ?? null,
    perSeconds: price?.perSeconds ?? 3600,
    currency: price?.currency ?? 'GBP',
  }));
});

describe('a report as CSV', () => {
  it('is read back with the figures it had, a row for each innermost group and currency', () => {
    const answer = ask({ rows: ['client', 'project'], measures: ['recorded', 'worth', 'utilisation'] });
    const { data } = Papa.parse<Record<string, string>>(reportCsv(sheetOf(answer, 'October', '', 'h:mm'), 'decimal'), {
      header: true,
      skipEmptyLines: true,
    });
    const leaves = answer.rows.flatMap((row, index) => (row.depth === 2 ? [index] : []));
    expect(data).toHaveLength(leaves.length);
    leaves.forEach((index, at) => {
      const row = data[at]!;
      expect(row.Project).toBe(answer.rows[index]!.label);
      expect(Math.round(Number(row['Recorded (hours)']) * 3600)).toBeCloseTo(figureAt(answer, 'recorded', index)!, -1);
      const currency = answer.currencies.indexOf(row.Currency!);
      expect(Math.round(Number(row.Worth) * 100)).toBe(figureAt(answer, 'worth', index, 0, currency));
    });
    const pounds = data
      .filter((row) => row.Currency === 'GBP')
      .reduce((sum, row) => sum + Math.round(Number(row.Worth) * 100), 0);
    expect(pounds).toBe(figureAt(answer, 'worth', 0, 0, answer.currencies.indexOf('GBP')));
  });

  it('makes names harmless that a spreadsheet would compute', () => {
    const sheet = sheetOf(ask({ rows: ['client'], measures: ['recorded'] }), 'x', '', 'h:mm');
    for (const name of ['=1+1', '+44', '-2', '@home', 'a,"b"\n;c']) {
      const [own] = Papa.parse<string[]>(
        reportCsv({ ...sheet, lines: [{ ...sheet.lines[0]!, path: [name] }] }, 'h:mm'),
      ).data.slice(1);
      expect(own![0]).toBe(/^[=+\-@]/.test(name) ? `'${name}` : name);
    }
  });

  it('writes lengths as asked', () => {
    expect([5400, 1, -5400].map((seconds) => plainLength(seconds, 'decimal'))).toEqual(['1.5', '0.0003', '-1.5']);
    expect([5400, 5401, -60].map((seconds) => plainLength(seconds, 'h:mm'))).toEqual(['1:30', '1:30:01', '-0:01']);
    expect([5400, 90].map((seconds) => plainLength(seconds, 'minutes'))).toEqual(['90 min', '1.5 min']);
  });

  it('writes tenths a line an entry: billed as it is billed, recorded in the nearest tenths that come to the day’s', () => {
    const line = (day: string, note: string, recorded: number, billed: number, worth: number) => ({
      depth: 2,
      path: [day, note],
      cells: [
        { kind: 'length' as const, text: '', values: [{ currency: '', value: recorded }] },
        { kind: 'length' as const, text: '', values: [{ currency: '', value: billed }] },
        { kind: 'money' as const, text: '', values: [{ currency: 'GBP', value: worth }] },
      ],
    });
    const lines = [
      // 2, 9 and 13 minutes are 24 together: 0.4 h. The shares are 0.033, 0.15 and 0.217.
      line('2026-11-02', 'Post', 120, 360, 780),
      line('2026-11-02', 'Plans', 540, 720, 1560),
      line('2026-11-02', 'Call', 780, 1080, 2340),
      line('2026-11-03', 'Plans', 1800, 1800, 3900),
    ];
    const sheet: ReportSheet = {
      title: 'For another system',
      note: '',
      period: 'November',
      levels: ['Day', 'Single entry'],
      levelFields: ['day', 'entry'],
      heads: [
        { label: 'Recorded', kind: 'length', measure: 'recorded' },
        { label: 'Billed length', kind: 'length', measure: 'billed' },
        { label: 'Worth', kind: 'money', measure: 'worth' },
      ],
      lines,
      total: line('', 'All', 3240, 3960, 8580),
    };
    const { data } = Papa.parse<string[]>(reportCsv(sheet, 'tenths'), { skipEmptyLines: true });
    expect(data[0]).toEqual(['Day', 'Single entry', 'Recorded (hours)', 'Billed length (hours)', 'Worth', 'Currency']);
    expect(data.slice(1).map((row) => row.slice(2, 5))).toEqual([
      ['0', '0.1', '7.80'],
      ['0.2', '0.2', '15.60'],
      ['0.2', '0.3', '23.40'],
      ['0.5', '0.5', '39.00'],
    ]);
  });

  it('is a table on the clipboard, with its totals', () => {
    const sheet = sheetOf(ask({ rows: ['client'], measures: ['recorded'] }), 'October', '', 'h:mm');
    const lines = reportText(sheet).split('\n');
    expect(lines).toHaveLength(sheet.lines.length + 2);
    expect(lines.at(-1)).toBe(`All\t${sheet.total.cells[0]!.text}`);
    // Sums in three currencies stand in one cell, and still on one line.
    const cell = { ...sheet.total.cells[0]!, text: '£1.00\n€2.00\n$3.00' };
    const several = reportText({ ...sheet, total: { ...sheet.total, cells: [cell] } });
    expect(several.split('\n').at(-1)).toBe('All\t£1.00 €2.00 $3.00');
  });
});

describe('a report as a page', () => {
  it('needs nothing else, and shows markup in names as what it is', () => {
    const sheet = sheetOf(
      ask({ rows: ['client'], measures: ['recorded', 'worth'] }),
      '<b>October</b>',
      'Thank you & "all"',
      'h:mm',
    );
    const page = reportHtml(sheet, {
      studio: 'Saltmere Lighting',
      address: '14 Lantern Row\nSaltmere',
      email: '',
      logo: '',
    });
    expect(page).toContain('&lt;b&gt;October&lt;/b&gt;');
    expect(page).toContain('Thank you &amp; &quot;all&quot;');
    expect(page).not.toMatch(/<script|<link|https?:|@import|url\(/);
    for (const { path, cells } of sheet.lines) {
      expect(page).toContain(path.at(-1)!);
      expect(page).toContain(cells[0]!.text);
    }
  });
});

describe('a report to be given away', () => {
  it('comes back as it went, and holds no figures', () => {
    const definition: Definition = { ...plainDefinition, rows: ['member'], measures: ['owed'] };
    const text = writeReport('Owed hours', 'For Friday', definition);
    expect(readReport(text)).toEqual({ name: 'Owed hours', note: 'For Friday', definition, left: [] });
  });

  it('is refused where it is none, or from later', () => {
    expect(() => readReport('not json')).toThrow(fault('unreadable'));
    expect(() => readReport('null')).toThrow(fault('other-file'));
    expect(() => readReport('{"format":"half-penny report","version":9}')).toThrow(fault('newer-version'));
  });
});

type Cells = Map<string, { formula: string | null; value: number | string | null }>;

/** The cells of a sheet of a workbook, as they are written in the file (ECMA-376, part 1, 18.3). */
function cellsOf(files: Record<string, Uint8Array>, sheet: number): Cells {
  const parser = new XMLParser({
    ignoreAttributes: false,
    isArray: (name) => ['row', 'c', 'si', 'r'].includes(name),
    parseTagValue: false,
  });
  const strings = files['xl/sharedStrings.xml']
    ? ((
        parser.parse(strFromU8(files['xl/sharedStrings.xml'])) as { sst: { si: { t: string | { '#text': string } }[] } }
      ).sst.si.map((each) => each.t) as (string | { '#text': string })[])
    : [];
  const { worksheet } = parser.parse(strFromU8(files[`xl/worksheets/sheet${sheet}.xml`]!)) as {
    worksheet: { sheetData: { row: { c?: { '@_r': string; '@_t'?: string; f?: string; v?: string }[] }[] } };
  };
  const cells: Cells = new Map();
  for (const { c = [] } of worksheet.sheetData.row) {
    for (const cell of c) {
      const shared = cell['@_t'] === 's' ? strings[Number(cell.v)] : undefined;
      const text = typeof shared === 'object' ? shared['#text'] : shared;
      cells.set(cell['@_r'], {
        formula: cell.f ?? null,
        value: text ?? (cell.v === undefined ? null : Number(cell.v)),
      });
    }
  }
  return cells;
}

/** Computes a sheet's formulas by an engine that is none of ours (fast-formula-parser, MIT). */
class Computed {
  readonly #cells: Cells;
  readonly #known = new Map<string, unknown>();

  constructor(cells: Cells) {
    this.#cells = cells;
  }

  value(name: string): unknown {
    const cell = this.#cells.get(name);
    if (!cell) return null;
    if (cell.formula === null) return cell.value;
    // The engine cannot be asked while it computes: what a formula needs is computed first, then it once more.
    for (let missing = ['']; missing.length > 0 && !this.#known.has(name);) {
      missing = this.#compute(name, cell.formula);
      for (const each of missing) this.value(each);
    }
    return this.#known.get(name);
  }

  #compute(name: string, formula: string): string[] {
    const missing: string[] = [];
    const at = (row: number, col: number) => {
      const own = `${columnName(col - 1)}${row}`;
      const cell = this.#cells.get(own);
      if (cell && cell.formula !== null && !this.#known.has(own)) missing.push(own);
      return cell?.formula == null ? (cell?.value ?? null) : this.#known.get(own);
    };
    const count = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, index) => from + index);
    const engine = new FormulaParser({
      onCell: ({ row, col }: { row: number; col: number }) => at(row, col),
      onRange: ({ from, to }: Record<'from' | 'to', { row: number; col: number }>) =>
        count(from.row, to.row).map((row) => count(from.col, to.col).map((col) => at(row, col))),
    });
    const value = engine.parse(formula, { sheet: 'Sheet', row: 1, col: 1 });
    if (missing.length === 0) this.#known.set(name, value);
    return missing;
  }

  number = (name: string): number => this.value(name) as number;
}

describe('a report as a spreadsheet', () => {
  /** Title, and period with currencies, stand above. */
  const HEAD = 3;
  let files: Record<string, Uint8Array>;
  let answer: ReportResult;

  beforeAll(async () => {
    answer = ask({
      rows: ['client', 'project', 'member'],
      measures: ['recorded', 'worth'],
      filters: [{ field: 'what', keys: ['time'], without: false }],
    });
    const blob = await reportXlsx(
      sheetOf(answer, 'October', '', 'h:mm'),
      entries,
      pricer.book.workspace.amountRounding,
    );
    files = unzipSync(new Uint8Array(await blob.arrayBuffer()));
  });

  it('has totals that come to ours when computed again', () => {
    const cells = cellsOf(files, 1);
    const computed = new Computed(cells);
    const heads = [...'ABCDEFGHIJ'].map((letters) => cells.get(`${letters}${HEAD}`)?.value);
    expect(heads.slice(0, 5)).toEqual(['Client', 'Project', 'Member', 'Recorded', 'Recorded (hours)']);
    answer.rows.slice(1).forEach((_, index) => {
      expect(Math.round(computed.number(`D${HEAD + index + 1}`) * 86_400)).toBe(
        figureAt(answer, 'recorded', index + 1),
      );
    });
    const last = HEAD + answer.rows.length;
    expect(cells.get(`D${last}`)!.formula).toContain('SUM(');
    expect(Math.round(computed.number(`D${last}`) * 86_400)).toBe(figureAt(answer, 'recorded', 0));
    for (const [c, currency] of answer.currencies.entries()) {
      const letters = [...'FGHIJ'].find((each) => String(cells.get(`${each}${HEAD}`)?.value).endsWith(currency))!;
      expect(Math.round(computed.number(`${letters}${last}`) * 100)).toBe(figureAt(answer, 'worth', 0, 0, c));
    }
  });

  it('has amounts of entries as formulas that come to our amounts exactly', () => {
    const cells = cellsOf(files, 2);
    const computed = new Computed(cells);
    let formulas = 0;
    entries.forEach((entry, index) => {
      const cell = cells.get(`J${HEAD + index + 1}`);
      if (entry.scaled === null) return;
      formulas++;
      expect(cell!.formula).toContain('ROUND(');
      const price = pricer.priceFor(String(entry.scaled / 10_000), 'hour', entry.currency);
      expect(computed.number(`J${HEAD + index + 1}`) * 100).toBeCloseTo(
        pricer.amount(entry.billed, { ...price, perSeconds: entry.perSeconds }),
        6,
      );
    });
    expect(formulas).toBe(90);
    const pounds = entries.filter((entry) => entry.currency === 'GBP' && entry.scaled !== null);
    const ours = pounds.reduce(
      (sum, { billed, scaled, perSeconds }) => sum + Math.round((billed * scaled!) / perSeconds / 100),
      0,
    );
    const rows = [...cells]
      .filter(([name, { value }]) => name.startsWith('A') && value === 'All in GBP')
      .map(([name]) => name.slice(1));
    expect(Math.round(computed.number(`J${rows[0]}`) * 100)).toBe(ours);
  });

  it('rounds a half the way the workspace does, whatever the way', () => {
    // 0:00:18 at 5.00 is exactly two and a half pence.
    const amounts = roundingRules.map((rule) => {
      const formula = amountFormula({ perSeconds: 3600, currency: 'GBP' }, rule, 1);
      const cells: Cells = new Map([
        ['G1', { formula: null, value: 18 / 86_400 }],
        ['I1', { formula: null, value: 5 }],
        ['J1', { formula, value: null }],
      ]);
      return Math.round(new Computed(cells).number('J1') * 100);
    });
    expect(Object.fromEntries(roundingRules.map((rule, index) => [rule, amounts[index]]))).toEqual({
      'half away from zero': 3,
      'half to even': 2,
      'away from zero': 3,
      'towards zero': 2,
    });
  });

  it('says what it is, keeps its head in view and on every page, filters, and holds what its formulas come to', () => {
    const xml = strFromU8(files['xl/worksheets/sheet1.xml']!);
    const cells = cellsOf(files, 1);
    expect(cells.get('A1')?.value).toBe('October');
    expect(cells.get('A2')?.value).toMatch(/1 Oct 2026 – 31 Oct 2026 · amounts in .*GBP/);
    expect(xml).toContain('ySplit="3"');
    expect(xml).toMatch(/<pageSetup [^>]*fitToWidth="1"[^>]*orientation="landscape"/);
    const rows = answer.rows.length - 1;
    expect(xml).toMatch(new RegExp(`<autoFilter ref="A3:[A-Z]${HEAD + rows}"/>`));
    expect(strFromU8(files['xl/workbook.xml']!)).toContain(">'Report'!$1:$3</definedName>");
    const computed = new Computed(cells);
    const held = [...xml.matchAll(/<c r="([A-Z]+\d+)"[^>]*><f>[^<]*<\/f>(?:<v>([^<]*)<\/v>)?<\/c>/g)];
    expect(held.length).toBeGreaterThan(10);
    for (const [, cell, value] of held) expect(computed.number(cell!)).toBeCloseTo(Number(value), 8);
  });

  it('has rates and shares of sums as formulas, and no column for a currency that nothing stands in', async () => {
    const asked = ask({
      rows: ['client'],
      measures: ['billed', 'worth', 'rate'],
      filters: [{ field: 'what', keys: ['time'], without: false }],
    });
    const blob = await reportXlsx(sheetOf(asked, 'Rates', '', 'h:mm'), [], 'half away from zero', 'minutes');
    const cells = cellsOf(unzipSync(new Uint8Array(await blob.arrayBuffer())), 1);
    const last = HEAD + asked.rows.length;
    const heads = [...cells].filter(
      ([name, { value }]) => name.endsWith(String(HEAD)) && String(value).startsWith('Rate'),
    );
    expect(heads.length).toBeGreaterThan(0);
    const computed = new Computed(cells);
    for (const [name, { value }] of heads) {
      const letters = name.replace(/\d+/, '');
      const c = asked.currencies.findIndex((currency) => String(value).endsWith(currency));
      const own = `${letters}${last}`;
      expect(cells.get(own)!.formula).toContain('IF(');
      if (heads.length === 1)
        expect(Math.round(computed.number(own) * 100)).toBe(figureAt(asked, 'rate', 0, 0, Math.max(0, c)));
    }
  });

  it('names columns as spreadsheets do', () => {
    expect([0, 25, 26, 701, 702].map(columnName)).toEqual(['A', 'Z', 'AA', 'ZZ', 'AAA']);
  });
});
