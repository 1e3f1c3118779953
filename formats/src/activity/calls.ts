import { whyUnsound, type Activity } from '@half-penny/core/capture';
import { instantAt, isDay, readLength, type Zone } from '@half-penny/core/time';
import type { Cell, DayOrder, Table } from '../hours';

/** What a column of a list of calls can mean. */
export const callFields = ['day', 'time', 'length', 'number', 'name', 'type'] as const;
export type CallField = (typeof callFields)[number];

export interface CallMapping {
  columns: Partial<Record<CallField, number>>;
  dayOrder: DayOrder;
  /** What a length that is a plain number counts. */
  lengthIn: 'seconds' | 'minutes';
}

/** Heads of lists in the languages that days are read in: English, German, French, Spanish, Italian, Dutch. */
const TELLING: readonly (readonly [CallField, RegExp])[] = [
  [
    'day',
    /^(?:date|day|call date|date.?time|start|started|when|datum|tag|datum\/uhrzeit|beginn|jour|date et heure|début|fecha|fecha y hora|día|inicio|data|giorno|data e ora|inizio|dag|datum en tijd)$/i,
  ],
  ['time', /^(?:time|call time|start time|at|zeit|uhrzeit|heure|hora|ora|orario|tijd|tijdstip)$/i],
  [
    'length',
    /^(?:duration|length|call duration|talk time|seconds|minutes|dauer|gesprächsdauer|sekunden|minuten|durée|secondes|duración|segundos|minutos|durata|secondi|minuti|duur|gespreksduur|seconden)(?: .*)?$/i,
  ],
  [
    'number',
    /^(?:number|phone|telephone|caller|called|to|from|other party|destination|phone number|nummer|rufnummer|telefonnummer|gewählte nummer|zielrufnummer|numéro|numéro appelé|téléphone|número|teléfono|número marcado|numero|numero chiamato|telefono|telefoonnummer|gebeld nummer)$/i,
  ],
  [
    'name',
    /^(?:name|contact|caller name|kontakt|nom|contact name|nombre|contacto|nome|contatto|naam|contactpersoon)$/i,
  ],
  ['type', /^(?:type|call type|direction|status|typ|art|richtung|sens|tipo|dirección|direzione|soort|richting)$/i],
];

/** What a list says of a call that nobody took: by word, or by the numbers that Android's CallLog.Calls.TYPE has for it. */
const MISSED =
  /^(?:missed|rejected|blocked|unanswered|no answer|verpasst|entgangen|abgelehnt|manqué|manqués|refusé|perdida|perdido|rechazada|perso|persa|rifiutata|gemist|geweigerd|3|5|6)(?![\p{L}\d])/iu;

/** A mapping as the heads suggest it. */
export function guessCallMapping(table: Table): CallMapping {
  const columns: CallMapping['columns'] = {};
  for (const [field, pattern] of TELLING) {
    const at = table.head.findIndex(
      (head, index) => !Object.values(columns).includes(index) && pattern.test(head.trim()),
    );
    if (at >= 0) columns[field] = at;
  }
  const head = columns.length === undefined ? '' : (table.head[columns.length] ?? '');
  return { columns, dayOrder: 'day first', lengthIn: /min/i.test(head) ? 'minutes' : 'seconds' };
}

/** Seconds; no line stands for longer, and a telephone number read as a length does. */
const LONGEST_CALL = 2 * 86_400;

export interface CallsRead {
  activities: Activity[];
  faults: { row: number; message: string }[];
  /** Calls that nobody took: nothing was spent on them, and they are not among the activities. */
  missed: number;
}

/** Calls out of a carrier's list; rows that cannot be read are named, and the others are taken. */
export function mapCalls(table: Table, mapping: CallMapping, zone: Zone): CallsRead {
  const read: CallsRead = { activities: [], faults: [], missed: 0 };
  const { columns } = mapping;
  if (columns.day === undefined || columns.length === undefined) {
    read.faults.push({ row: 1, message: 'Say which columns are the day and the length of a call.' });
    return read;
  }
  table.rows.forEach((row, index) => {
    const number = table.firstRow + index;
    const cell = (field: CallField): Cell => (columns[field] === undefined ? null : (row[columns[field]] ?? null));
    const from = startOf(cell('day'), cell('time'), mapping.dayOrder, zone);
    if (typeof from === 'string') return void read.faults.push({ row: number, message: `Row ${number}: ${from}` });
    const seconds = secondsOf(cell('length'), mapping.lengthIn);
    if (seconds === null)
      return void read.faults.push({
        row: number,
        message: `Row ${number}: “${String(cell('length')).slice(0, 40)}” is no length of a call.`,
      });
    if (seconds === 0 || MISSED.test(String(cell('type') ?? '').trim())) return void read.missed++;
    const people = [cell('name'), cell('number')].map((each) => String(each ?? '').trim()).filter(Boolean);
    const call: Activity = {
      kind: 'call',
      from,
      to: from + seconds * 1000,
      program: 'Telephone',
      // The number says who it was; a name only where there is no number.
      ...(people.length > 0 ? { people: [people.at(-1)!] } : {}),
    };
    const why = seconds > LONGEST_CALL ? `A call of ${Math.round(seconds / 3600)} hours is none.` : whyUnsound(call);
    if (why !== null) {
      const said = String(cell('length')).slice(0, 40);
      return void read.faults.push({ row: number, message: `Row ${number}: ${why} Its length says “${said}”.` });
    }
    read.activities.push(call);
  });
  return read;
}

function startOf(day: Cell, time: Cell, order: DayOrder, zone: Zone): number | string {
  // Spreadsheets tell moments as dates, their clock meant where the person is.
  if (day instanceof Date) {
    const own = time instanceof Date ? time : day;
    return instantAt(day.toISOString().slice(0, 10), own.getUTCHours() * 60 + own.getUTCMinutes(), zone);
  }
  const text = `${String(day ?? '').trim()} ${String(time ?? '').trim()}`.trim();
  const exact = /T\d{2}:\d{2}.*(?:Z|[+-]\d{2}:?\d{2})$/.test(text) ? Date.parse(text) : NaN;
  if (Number.isFinite(exact)) return exact;
  const found = /^(\d{1,4})[-/.](\d{1,2})[-/.](\d{1,4})[T ,]+(\d{1,2}):(\d{2})(?::(\d{2}))?\s*([ap]m)?$/i.exec(text);
  if (!found) return `“${text.slice(0, 40)}” is no day with a time.`;
  const [, a, b, c, hour, minute, second = '0', half] = found;
  const [year, month, date] = a!.length === 4 ? [a!, b!, c!] : order === 'month first' ? [c!, a!, b!] : [c!, b!, a!];
  const on = `${year!.length === 2 ? `20${year}` : year}-${month!.padStart(2, '0')}-${date!.padStart(2, '0')}`;
  const hours = half ? (Number(hour) % 12) + (/p/i.test(half) ? 12 : 0) : Number(hour);
  if (!isDay(on) || hours > 23 || Number(minute) > 59 || Number(second) > 59)
    return `“${text.slice(0, 40)}” is no day with a time.`;
  return instantAt(on, hours * 60 + Number(minute), zone) + Number(second) * 1000;
}

function secondsOf(value: Cell, unit: CallMapping['lengthIn']): number | null {
  if (value instanceof Date) return value.getUTCHours() * 3600 + value.getUTCMinutes() * 60 + value.getUTCSeconds();
  const text = String(value ?? '').trim();
  const clock = /^(?:(\d{1,3}):)?(\d{1,2}):(\d{2})$/.exec(text);
  if (clock) return Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + Number(clock[3]);
  if (/^\d+(?:\.\d+)?$/.test(text)) return Math.round(Number(text) * (unit === 'minutes' ? 60 : 1));
  try {
    return readLength(text).seconds;
  } catch {
    return null;
  }
}
