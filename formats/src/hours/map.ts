import { momentOn, spanOn } from '@half-penny/core/entries';
import { goesWith, WorkTree } from '@half-penny/core/rates';
import type { HoursRow } from '@half-penny/core/commands';
import {
  messageOf,
  readTags,
  serviceDefaults,
  type Client,
  type Id,
  type Member,
  type Project,
  type Service,
  type Task,
} from '@half-penny/core/model';
import {
  isDay,
  LONGEST,
  MONTH_NAMES,
  readClock,
  readLength,
  type Day,
  type Interval,
  type Seconds,
} from '@half-penny/core/time';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import type { DayOrder, HourField, LengthForm, Mapping } from './csv-headings';
import { columnName, type Cell, type Table, type TableFault } from './table';

/** What rows are matched against. */
export interface HoursBook {
  members: readonly Member[];
  clients: readonly Client[];
  projects: readonly Project[];
  tasks: readonly Task[];
  services: readonly Service[];
  /** Whose hours they are where the table does not say. */
  memberId: Id;
}

export interface MappedRow {
  /** As spreadsheets count. */
  row: number;
  hours: HoursRow;
  /** The row before it that says exactly the same. */
  same: number | null;
}

export interface HoursReading {
  rows: MappedRow[];
  faults: TableFault[];
  /** Services that are not there yet, with the ids that the rows use. */
  services: Service[];
  /** Plain figures that stand among lengths with colons, such as “1.5”, and the first of them. */
  plain: { count: number; first: string } | null;
}

/** A value that cannot be read, in words. */
class Unread extends Error {}

/**
 * Reads the rows of a table as hours. Nothing is guessed: what cannot be read is a fault with its row and column. A job that is not found
 * becomes a job in words, a service that is not found a new one.
 */
export function mapHours(table: Table, mapping: Mapping, book: HoursBook, newId: () => Id): HoursReading {
  const faults: TableFault[] = [];
  const rows: MappedRow[] = [];
  const services = new Map(book.services.map((service) => [key(service.name), service]));
  const fresh: Service[] = [];
  const members = new Map(book.members.map((member) => [key(member.name), member]));
  const jobs = new JobFinder(book);
  const copies = new Map<string, { count: number; first: number }>();
  const plain: string[] = [];
  for (const [index, cells] of table.rows.entries()) {
    const row = table.firstRow + index;
    if (cells.every((cell) => cell === null || cell === '')) continue;
    const cellOf = (field: HourField): Cell => {
      const at = mapping.columns[field];
      return at === undefined ? null : (cells[at] ?? null);
    };
    let sound = true;
    /** Reads one field, or notes the fault. */
    const read = <T>(field: HourField, reader: () => T, otherwise: T): T => {
      try {
        return reader();
      } catch (thrown) {
        sound = false;
        const at = mapping.columns[field];
        faults.push({ row, column: at === undefined ? '' : columnName(at), message: messageOf(thrown) });
        return otherwise;
      }
    };
    const textOf = (field: HourField): string => read(field, () => writtenOf(cellOf(field)), '');
    const member = read('member', () => memberOf(textOf('member'), members, book), book.members[0]!);
    const day = read('day', () => readDayCell(cellOf('day'), mapping.dayOrder), '1970-01-01');
    const from = read('from', () => readTimeCell(cellOf('from')), null);
    const to = read('to', () => readTimeCell(cellOf('to')), null);
    const typed = read('length', () => readLengthCell(cellOf('length'), mapping), null);
    const figure = plainFigure(cellOf('length'), mapping);
    if (figure !== null) plain.push(figure);
    const times = sound ? read('length', () => timesOf(day, from, to, typed, member), null) : null;
    const task = textOf('task').trim();
    const serviceName = textOf('service').trim();
    const billable = times ? read('billable', () => readBillable(cellOf('billable'), times.seconds), null) : null;
    const tags = read('tags', () => readTags(textOf('tags')), []);
    if (!sound || !times) continue;
    let service = serviceName === '' ? undefined : services.get(key(serviceName));
    if (serviceName !== '' && !service) {
      service = { ...serviceDefaults, id: newId(), name: serviceName };
      services.set(key(serviceName), service);
      fresh.push(service);
    }
    const job = jobs.find(textOf('client'), textOf('project') || textOf('unlisted'), textOf('jobNumber'));
    const taskId = jobs.taskOf(job.projectId, task);
    // A task that is not there is not lost: it stands before the note.
    const note = [taskId === null ? task : '', textOf('note')].filter(Boolean).join(': ');
    const content = [
      day,
      member.name,
      job.words,
      ...(taskId === null ? [] : [task]),
      serviceName,
      note,
      times.seconds,
      times.span?.start ?? '',
      billable ?? '',
      ...(tags.length > 0 ? [tags.join()] : []),
    ].join('\u0000');
    // Two rows may well say the same; only one that was there before counts as a duplicate.
    const before = copies.get(content);
    const copy = (before?.count ?? 0) + 1;
    copies.set(content, { count: copy, first: before?.first ?? row });
    rows.push({
      row,
      same: before?.first ?? null,
      hours: {
        memberId: member.id,
        day,
        projectId: job.projectId,
        unlisted: job.unlisted,
        taskId,
        serviceId: service?.id ?? null,
        note,
        seconds: times.seconds,
        span: times.span,
        billableSeconds: billable,
        ...(tags.length > 0 ? { tags } : {}),
        source: `hours:${bytesToHex(sha256(new TextEncoder().encode(`${content}\u0000${copy}`)))}`,
      },
    });
  }
  return { rows, faults, services: fresh, plain: plain.length > 0 ? { count: plain.length, first: plain[0]! } : null };
}

const key = (text: string): string => text.trim().toLowerCase().replace(/\s+/g, ' ');

function writtenOf(cell: Cell): string {
  if (cell === null) return '';
  return cell instanceof Date ? cell.toISOString().slice(0, 10) : String(cell);
}

function memberOf(name: string, members: ReadonlyMap<string, Member>, book: HoursBook): Member {
  if (name.trim() === '') return book.members.find((member) => member.id === book.memberId)!;
  const found = members.get(key(name));
  if (!found)
    throw new Unread(
      `There is no member called “${name.slice(0, 60)}”. Add them in Setup → People, or leave the column out.`,
    );
  return found;
}

/** Projects by name, client and job number. */
class JobFinder {
  readonly #byNumber = new Map<string, Project>();
  readonly #byNames = new Map<string, Project | null>();
  readonly #tasks = new Map<string, Id>();
  readonly #free = new Map<string, Task>();
  readonly #projects: ReadonlyMap<Id, Project>;

  constructor({ clients, projects, tasks }: HoursBook) {
    for (const task of tasks) {
      if (task.projectId === null) this.#free.set(key(task.name), task);
      else this.#tasks.set(`${task.projectId} ${key(task.name)}`, task.id);
    }
    this.#projects = new Map(projects.map((project) => [project.id, project]));
    const tree = new WorkTree(projects, tasks);
    const clientOf = new Map(clients.map((client) => [client.id, client]));
    for (const project of projects) {
      if (project.jobNumber.trim()) this.#byNumber.set(key(project.jobNumber), project);
      const client = project.clientId === null ? undefined : clientOf.get(project.clientId);
      const path = tree.pathOf(project.id);
      const known = [...new Set([project.name, path])].flatMap((name) => [
        `${key(client?.name ?? '')}\u0000${key(name)}`,
        `\u0000${key(name)}`,
      ]);
      for (const names of new Set(known)) {
        // A name that two clients' projects share tells neither.
        this.#byNames.set(names, this.#byNames.has(names) && client ? null : project);
      }
    }
  }

  taskOf(projectId: Id | null, name: string): Id | null {
    const own = this.#tasks.get(`${projectId} ${key(name)}`);
    if (own) return own;
    // One that stands by itself goes with projects of its kind.
    const free = this.#free.get(key(name));
    return free && goesWith(free, this.#projects.get(projectId ?? '')) ? free.id : null;
  }

  find(client: string, project: string, number: string): { projectId: Id | null; unlisted: string; words: string } {
    const words = [number, client, project]
      .map((each) => each.trim())
      .filter(Boolean)
      .join(' / ')
      .slice(0, 500);
    const found =
      (number.trim() ? this.#byNumber.get(key(number)) : undefined) ??
      this.#byNames.get(`${key(client)}\u0000${key(project)}`) ??
      (client.trim() === '' ? this.#byNumber.get(key(project)) : undefined);
    return found ? { projectId: found.id, unlisted: '', words } : { projectId: null, unlisted: words, words };
  }
}

const DAY_MS = 86_400_000;
/** Day 0 of spreadsheets' serial dates (ECMA-376, 1900 date system). */
const SERIAL_START = Date.UTC(1899, 11, 30);

function readDayCell(cell: Cell, order: DayOrder): Day {
  if (cell instanceof Date) return cell.toISOString().slice(0, 10);
  if (typeof cell === 'number') return new Date(SERIAL_START + Math.floor(cell) * DAY_MS).toISOString().slice(0, 10);
  const text = writtenOf(cell).trim();
  if (text === '') throw new Unread('The day is missing.');
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[T ].*)?$/.exec(text);
  const plain = /^(\d{1,2})[./ -](\d{1,2})[./ -](\d{2}|\d{4})$/.exec(text);
  const named =
    /^(\d{1,2})\.? ([A-Za-z]{3,9})\.? (\d{4})$/.exec(text) ?? /^([A-Za-z]{3,9}) (\d{1,2}),? (\d{4})$/.exec(text);
  let parts: [string, string, string] | null = null;
  if (iso) parts = [iso[1]!, iso[2]!, iso[3]!];
  else if (plain) {
    const [a, b, year] = [plain[1]!, plain[2]!, plain[3]!];
    const full = year.length === 2 ? `20${year}` : year;
    parts = order === 'day first' ? [full, b, a] : [full, a, b];
  } else if (named) {
    const [first, second] = /^\d/.test(named[1]!) ? [named[1]!, named[2]!] : [named[2]!, named[1]!];
    const month =
      MONTH_NAMES.findIndex((name) => name.slice(0, 3).toLowerCase() === second.slice(0, 3).toLowerCase()) + 1;
    parts = [named[3]!, String(month), first];
  }
  const day = parts && `${parts[0]}-${parts[1].padStart(2, '0')}-${parts[2].padStart(2, '0')}`;
  if (!day || !isDay(day)) throw new Unread(`“${text.slice(0, 40)}” cannot be read as a day.`);
  return day;
}

/** Minutes after midnight; null where nothing stands there. */
function readTimeCell(cell: Cell): number | null {
  if (cell instanceof Date) return (Math.round((cell.getTime() - SERIAL_START) / 60_000) % 1440) + 0;
  if (typeof cell === 'number') return Math.round((cell % 1) * 1440);
  const text = writtenOf(cell).trim();
  if (text === '') return null;
  const clock = /(\d{1,2}:\d{2})(?::\d{2})?( ?[ap]m)?$/i.exec(text);
  const minute = readClock(clock ? `${clock[1]}${clock[2] ?? ''}` : text);
  if (minute === null) throw new Unread(`“${text.slice(0, 40)}” cannot be read as a time of day.`);
  return minute;
}

const UNIT: Record<LengthForm, number> = { 'h:mm': 3600, hours: 3600, minutes: 60, seconds: 1, days: 86_400 };

/** A figure without a colon in a column of lengths that have one; null where there is none. */
function plainFigure(cell: Cell, { lengthForm }: Pick<Mapping, 'lengthForm'>): string | null {
  if (lengthForm !== 'h:mm' || cell === null || cell instanceof Date) return null;
  const text = typeof cell === 'number' ? String(cell) : writtenOf(cell).trim();
  return /^\d*(?:[.,]\d+)?$/.test(text) && /\d/.test(text) ? text : null;
}

/** Seconds; null where nothing stands there. */
function readLengthCell(cell: Cell, { lengthForm, plain }: Pick<Mapping, 'lengthForm' | 'plain'>): Seconds | null {
  if (cell === null || cell === '') return null;
  const figure = plainFigure(cell, { lengthForm });
  if (figure !== null && plain === undefined) {
    throw new Unread(`“${figure}” stands among times. Say above whether plain figures are hours or minutes.`);
  }
  const form = figure === null ? lengthForm : plain!;
  if (cell instanceof Date) return inRange(Math.round((cell.getTime() - SERIAL_START) / 1000), cell.toISOString());
  if (typeof cell === 'number') return inRange(Math.round(cell * UNIT[form]), String(cell));
  const text = writtenOf(cell).trim();
  const clock = /^(\d{1,4}):([0-5]\d)(?::([0-5]\d))?$/.exec(text);
  if (clock) return inRange(Number(clock[1]) * 3600 + Number(clock[2]) * 60 + Number(clock[3] ?? 0), text);
  const number = /^(\d*)(?:[.,](\d{1,12}))?$/.exec(text);
  if (number && (number[1] || number[2])) {
    // As a fraction of whole numbers: no length is off by a second for the sake of floating point.
    const ten = 10n ** BigInt(number[2]?.length ?? 0);
    const scaled = (BigInt(number[1] || 0) * ten + BigInt(number[2] ?? 0)) * BigInt(UNIT[form]);
    return inRange(Number((2n * scaled + ten) / (2n * ten)), text);
  }
  return inRange(readLength(text).seconds, text);
}

function inRange(seconds: Seconds, written: string): Seconds {
  if (seconds <= 0) throw new Unread(`“${written.slice(0, 40)}” is no length: it comes to nothing or less.`);
  if (seconds > LONGEST)
    throw new Unread(`“${written.slice(0, 40)}” is longer than a week. Are lengths written another way?`);
  return seconds;
}

function timesOf(
  day: Day,
  from: number | null,
  to: number | null,
  typed: Seconds | null,
  { zone }: Member,
): { seconds: Seconds; span: Interval | null } {
  if (typed === null && (from === null || to === null)) throw new Unread('There is neither a length nor a from–to.');
  if (from === null) return { seconds: typed!, span: null };
  if (to !== null) {
    // An end before its start is past midnight.
    const toMinute = to < from ? to + 1440 : to;
    const { spans, seconds } = spanOn({ kind: 'span', fromMinute: from, toMinute, seconds: 0 }, day, zone);
    if (typed === null || typed === seconds) return { seconds, span: spans[0]! };
    // A break lies in between: the length is right, and from when to when is not known.
    return { seconds: typed, span: null };
  }
  const start = momentOn(day, from, zone);
  return { seconds: typed!, span: { start, end: start + typed! * 1000 } };
}

/** The billable part: yes, no, or hours of it. */
function readBillable(cell: Cell, worked: Seconds): Seconds | null {
  if (cell === null || cell === '' || cell === true) return null;
  if (cell === false) return 0;
  const text = writtenOf(cell).trim().toLowerCase();
  if (['yes', 'y', 'true', 'ja', 'oui', '1', 'billable', 'all'].includes(text) && typeof cell === 'string') return null;
  if (['no', 'n', 'false', 'nein', 'non', 'none', 'not billable'].includes(text) || /^0+(?:[.,:]0+)*$/.test(text))
    return 0;
  if (cell instanceof Date && cell.getTime() === SERIAL_START) return 0;
  const seconds = readLengthCell(cell, { lengthForm: cell instanceof Date ? 'days' : 'hours' });
  if (seconds === null) return null;
  // Decimal hours are rounded where they were written, so a few seconds more are none.
  if (seconds > worked + 20) throw new Unread('More is billable than was worked.');
  return seconds >= worked - 1 ? null : seconds;
}
