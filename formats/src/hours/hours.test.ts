import { MemoryExecutor } from '@half-penny/core/commands';
import { MemoryStore } from '@half-penny/core/engine';
import { Pricer, readBook } from '@half-penny/core/billing';
import { setUp, TestContext, DAY, ZONE, type Studio } from '@half-penny/core/testing';
import { instantAt } from '@half-penny/core/time';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { beforeEach, describe, expect, it } from 'vitest';
import {
  guessMapping,
  hoursLines,
  mapHours,
  packMapping,
  readCsv,
  readTable,
  TableError,
  unpackMapping,
  writeCsv,
  writeXlsx,
  type HoursBook,
  type Table,
} from '.';
import { runs } from '@half-penny/core/testing';

let test: TestContext;
let store: MemoryStore;
let executor: MemoryExecutor;
let at: Studio;
let book: HoursBook;

beforeEach(async () => {
  test = new TestContext();
  store = new MemoryStore();
  executor = new MemoryExecutor(store, test.context);
  at = await setUp(executor, test);
  book = {
    members: store.rows('members'),
    clients: store.rows('clients'),
    projects: store.rows('projects'),
    tasks: store.rows('tasks'),
    services: store.rows('services'),
    memberId: at.member,
  };
});

const map = (table: Table, mapping = guessMapping(table)) => mapHours(table, mapping, book, test.newId);
const csv = (text: string) => map(readCsv(text));

describe('a table of hours', () => {
  it('is understood by its heads', () => {
    const { rows, faults } = csv(
      'Date;Client;Project;Duration;Description;Billable\n12.11.2026;Quayside Playhouse;Winter season rig;1:30;"Plot; sheet 4";no\n',
    );
    expect(faults).toEqual([]);
    expect(rows[0]!.hours).toMatchObject({
      day: DAY,
      projectId: at.rig,
      seconds: 5400,
      note: 'Plot; sheet 4',
      billableSeconds: 0,
      memberId: at.member,
    });
  });

  it.each([
    ['h:mm', 'Hours', '1:30', 5400],
    ['hours', 'Hours', '1.5', 5400],
    ['hours', 'Hours', '0,25', 900],
    ['hours', 'Hours', '0.0002777778', 1],
    ['minutes', 'Minutes', '90', 5400],
    ['seconds', 'Seconds', '5400', 5400],
    ['days', 'Hours', '0.0625', 5400],
  ] as const)('has lengths written as %s (%s: %s)', (lengthForm, head, value, seconds) => {
    const table = readCsv(`Date\t${head}\n2026-11-12\t${value}\n`);
    expect(map(table, { ...guessMapping(table), lengthForm }).rows[0]!.hours.seconds).toBe(seconds);
  });

  it('names each value that cannot be read by row and column, and takes none for another', () => {
    const { rows, faults } = csv(
      'Date,Start,End,Person\n2026-02-30,9:00,10:00,\n2026-11-12,9:00,25:99,\n2026-11-12,9:00,10:00,Nobody Known\n2026-11-12,,,\n2026-11-12,22:00,1:30,imogen vale\n',
    );
    expect(faults.map((fault) => `${fault.column}${fault.row}`)).toEqual(['A2', 'C3', 'D4', '5']);
    expect(rows).toHaveLength(1);
    expect(rows[0]!.hours).toMatchObject({ seconds: 3.5 * 3600, span: { start: instantAt(DAY, 22 * 60, ZONE) } });
  });

  it('names where quotes go wrong, and files that hold nothing', () => {
    expect(() => readCsv('Date,Note\n2026-11-12,"open\n')).toThrow(TableError);
    expect(() => readCsv('\n\n')).toThrow('nothing in this file');
    expect(() => readCsv('Date,Hours\n')).toThrow('no rows');
  });

  it('puts what is not known into words, and makes new services', () => {
    const { rows, services } = csv(
      'Date,Client,Project,Job no,Hours,Service\n2026-11-12,Hadley Hall,Foyer,HH-7,1,Plotting\n2026-11-12,,Museum gallery 3,,1,plotting\n',
    );
    expect(rows.map((row) => [row.hours.projectId, row.hours.unlisted])).toEqual([
      [null, 'HH-7 / Hadley Hall / Foyer'],
      [at.gallery, ''],
    ]);
    expect(services.map((service) => service.name)).toEqual(['Plotting']);
    expect(new Set(rows.map((row) => row.hours.serviceId)).size).toBe(1);
  });

  it('tells month first from day first where the dates do', () => {
    expect(csv('Date,Hours\n11/12/2026,1\n11/13/2026,1\n').rows.map((row) => row.hours.day)).toEqual([
      '2026-11-12',
      '2026-11-13',
    ]);
    expect(csv('Date,Hours\n11/12/2026,1\n').rows[0]!.hours.day).toBe('2026-12-11');
  });

  it('knows its rows again, two that say the same included', () => {
    const text = 'Date,Hours,Note\n2026-11-12,1,Call\n2026-11-12,1,Call\n';
    const [first, again] = [csv(text), csv(text)].map((reading) => reading.rows.map((row) => row.hours.source));
    expect(new Set(first).size).toBe(2);
    expect(again).toEqual(first);
  });

  it('is remembered by its heads, wherever the columns stand', () => {
    const table = readCsv('A,B,C\n2026-11-12,1,x\n');
    const packed = packMapping(table, {
      columns: { day: 0, length: 1, note: 2 },
      lengthForm: 'minutes',
      dayOrder: 'month first',
    });
    expect(unpackMapping(readCsv('C,A,B\nx,2026-11-12,1\n'), packed)).toEqual({
      columns: { day: 1, length: 2, note: 0 },
      lengthForm: 'minutes',
      dayOrder: 'month first',
    });
  });
});

describe('a table with slips', () => {
  const tableOf = (...rows: string[][]): Table => ({
    head: ['Day', 'Length', 'Description', 'Billable'],
    rows,
    firstRow: 2,
  });
  it('asks what a plain figure among times is, and takes the answer', () => {
    const table = tableOf(
      ['2026-11-12', '1:30', 'Plot', ''],
      ['2026-11-12', '1.5', 'Focus', ''],
      ['2026-11-12', '45', 'Call', ''],
    );
    const asked = map(table);
    expect(asked.plain).toEqual({ count: 2, first: '1.5' });
    expect(asked.faults.map((each) => [each.row, each.message])).toEqual([
      [3, '“1.5” stands among times. Say above whether plain figures are hours or minutes.'],
      [4, '“45” stands among times. Say above whether plain figures are hours or minutes.'],
    ]);
    expect(asked.rows.map((each) => each.row)).toEqual([2]);
    const answered = map(table, { ...guessMapping(table), plain: 'minutes' });
    expect(answered.faults).toEqual([]);
    expect(answered.rows.map((each) => each.hours.seconds)).toEqual([5400, 90, 2700]);
  });

  it('marks a row that says the same as one before it, and takes both', () => {
    const row = ['2026-11-12', '1:30', 'Plot', ''];
    const { rows } = map(tableOf(row, ['2026-11-12', '0:15', 'Call', ''], row));
    expect(rows.map((each) => each.same)).toEqual([null, null, 2]);
    expect(new Set(rows.map((each) => each.hours.source)).size).toBe(3);
  });
});

describe('hours that go out', () => {
  const record = async (fields: {
    note?: string;
    seconds?: number;
    from?: number;
    billableSeconds?: number | null;
    unlisted?: string;
    tags?: string[];
  }) => {
    const { note = '', seconds = 3600, from, billableSeconds = null, unlisted = '', tags } = fields;
    const start = from === undefined ? null : instantAt(DAY, from, ZONE);
    const spans = start === null ? [] : [{ start, end: start + seconds * 1000 }];
    await executor.run('entry.add', {
      day: DAY,
      projectId: unlisted ? null : at.rig,
      unlisted,
      serviceId: at.design,
      note,
      seconds,
      spans,
      billableSeconds,
      ...(tags ? { tags } : {}),
    });
  };
  const out = async () => hoursLines(new Pricer(await readBook(store)), store.rows('entries'));
  const said = (table: Table) =>
    map(table).rows.map(({ hours }) => ({
      day: hours.day,
      projectId: hours.projectId,
      unlisted: hours.unlisted,
      serviceId: hours.serviceId,
      note: hours.note,
      seconds: hours.seconds,
      start: hours.span?.start ?? null,
      billableSeconds: hours.billableSeconds,
      tags: hours.tags,
    }));
  const recorded = () =>
    store.rows('entries').map((entry) => ({
      day: entry.day,
      projectId: entry.projectId,
      unlisted: entry.unlisted,
      serviceId: entry.serviceId,
      note: entry.note,
      seconds: entry.seconds,
      start: entry.spans[0]?.start ?? null,
      billableSeconds: entry.billableSeconds,
      tags: entry.tags,
    }));

  it('come back as they went, from CSV and from a spreadsheet', async () => {
    await record({ note: '=1+1', seconds: 5025 });
    await record({ note: 'Plot "bar 6", left\nright', seconds: 5400, from: 22 * 60 + 30 });
    await record({ note: '', unlisted: 'HH-7', seconds: 61, billableSeconds: 0 });
    await record({
      note: 'Part',
      seconds: 3 * 3600,
      from: 540,
      billableSeconds: 2 * 3600,
      tags: ['=urgent', 'site visit'],
    });
    const lines = await out();
    const text = writeCsv(lines);
    expect(text).toContain("'=1+1");
    expect(said(readCsv(text))).toEqual(recorded());
    const table = await readTable(await writeXlsx(lines));
    expect(table.head.slice(0, 4)).toEqual(['Day', 'From', 'To', 'Length']);
    expect(said(table)).toEqual(recorded());
  });

  it('have lengths that a spreadsheet sums: 15 min is 1/96 of a day', async () => {
    await record({ seconds: 900 });
    const table = await readTable(await writeXlsx(await out()));
    const length = table.rows[0]![3] as Date;
    // ECMA-376 serial dates count days from 1899-12-30.
    expect((length.getTime() - Date.UTC(1899, 11, 30)) / 86_400_000).toBe(1 / 96);
    // Six-minute steps up: 15 min are billed as 18, at 85.00 an hour.
    expect(table.rows[0]![15]).toBe(25.5);
  });

  it('come back whatever the note and however long', async () => {
    const rows = fc.array(
      fc.record({ note: fc.string({ maxLength: 40 }), seconds: fc.integer({ min: 1, max: 80_000 }) }),
      { minLength: 1, maxLength: 5 },
    );
    await fc.assert(
      fc.asyncProperty(rows, async (list) => {
        const lines = list.map((row, index) => ({
          ...row,
          id: String(index),
          day: DAY,
          from: '',
          to: '',
          length: `${Math.floor(row.seconds / 3600)}:${String(Math.floor((row.seconds % 3600) / 60)).padStart(2, '0')}:${String(row.seconds % 60).padStart(2, '0')}`,
          billableSeconds: row.seconds,
          member: '',
          client: '',
          project: '',
          jobNumber: '',
          unlisted: '',
          task: '',
          service: '',
          tags: '',
          amount: null,
          minorPerMajor: 1,
          currency: '',
          spans: [],
        }));
        const { rows: back, faults } = csv(writeCsv(lines));
        expect(faults).toEqual([]);
        expect(back.map(({ hours }) => [hours.note, hours.seconds])).toEqual(
          list.map((row) => [row.note, row.seconds]),
        );
      }),
      { numRuns: runs(60) },
    );
  });
});

describe('a spreadsheet that is made to fill the machine', () => {
  const NAMESPACE = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
  const OFFICE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
  const spreadsheet = (rows: string, more: Record<string, Uint8Array> = {}) =>
    new Blob([
      zipSync({
        '[Content_Types].xml': strToU8('<Types/>'),
        'xl/workbook.xml': strToU8(
          `<workbook xmlns="${NAMESPACE}" xmlns:r="${OFFICE}"><sheets><sheet name="a" sheetId="1" r:id="rId1"/></sheets></workbook>`,
        ),
        'xl/_rels/workbook.xml.rels': strToU8(
          `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${OFFICE}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
        ),
        'xl/worksheets/sheet1.xml': strToU8(
          `<worksheet xmlns="${NAMESPACE}"><sheetData>${rows}</sheetData></worksheet>`,
        ),
        ...more,
      }) as Uint8Array<ArrayBuffer>,
    ]);
  const two = '<row r="1"><c r="A1"><v>1</v></c></row><row r="2"><c r="A2"><v>2</v></c></row>';

  it('is read where it is none', async () => {
    expect((await readTable(spreadsheet(two))).rows).toEqual([[2]]);
  });

  it('is refused by how far its cells are and by what it unpacks to', async () => {
    const far = `${two}<row r="3"><c r="XFD3"><v>1</v></c></row>`;
    await expect(readTable(spreadsheet(far))).rejects.toThrow('has a cell beyond column ALL');
    const wide = `${two}<row r="900000"><c r="AZ900000"><v>1</v></c></row>`;
    await expect(readTable(spreadsheet(wide))).rejects.toThrow('laid out over more than 20,000,000 cells');
    // What the list at the end of a zip says of the last file: 600 MB once it is unpacked (APPNOTE.TXT 4.3.12, PKWARE).
    const bytes = new Uint8Array(await spreadsheet(two, { 'xl/media/image1.png': new Uint8Array(10) }).arrayBuffer());
    const list = Buffer.from(bytes).lastIndexOf('PK\u0001\u0002', undefined, 'latin1');
    new DataView(bytes.buffer).setUint32(list + 24, 600 << 20, true);
    await expect(readTable(new Blob([bytes]))).rejects.toThrow('unpacks to more than 512 MB');
  });
});
