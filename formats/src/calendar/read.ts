import {
  addDays,
  dayOf,
  daysFrom,
  instantAt,
  isDay,
  isZone,
  type Day,
  type Instant,
  type Zone,
} from '@half-penny/core/time';
import { Fault, messageOf } from '@half-penny/core/model';
import ICAL from 'ical.js';
import { componentsOf, faultIn, type CalendarFault, type Component } from './lines';

/** One occurrence of an event. */
export interface CalendarEvent {
  /** The same whenever this calendar is read: the event's UID and, of a series, which occurrence. */
  source: string;
  title: string;
  day: Day;
  /** Null for an event of whole days, one of which stands on each. */
  start: Instant | null;
  /** Null for an event of whole days. */
  seconds: number | null;
  guests: string[];
  place: string;
  /** It takes no time: TRANSP is TRANSPARENT (RFC 5545, 3.8.2.7). */
  free: boolean;
}

export interface CalendarReading {
  events: CalendarEvent[];
  faults: CalendarFault[];
  /** Events in the file, whether in the range or not. */
  found: number;
}

export interface CalendarOptions {
  /** Occurrences on these days, both included. */
  from: Day;
  to: Day;
  /** For times without a zone, and for the days that events lie on. */
  zone: Zone;
  /** Called with the share read, 0 to 1. */
  onProgress?: (share: number) => void;
}

const MOST_FAULTS = 100;
/** Seconds. */
const LONGEST_EVENT = 31 * 86_400;
/** No file is followed for more occurrences than this, whether in the range or before it. */
const MOST_STEPS = 200_000;
/** RFC 5545 asks for at most one rule of repetition; each is gone through at every step. */
const MOST_RULES = 20;

/**
 * Reads a calendar (RFC 5545): events with their time zones, whole days, series and their exceptions, as single occurrences in a range.
 * An event that cannot be read is named with its line and column; the others are read nevertheless.
 */
export async function readCalendar(text: string, options: CalendarOptions): Promise<CalendarReading> {
  const faults: CalendarFault[] = [];
  const fault = (each: CalendarFault) => void (faults.length < MOST_FAULTS && faults.push(each));
  if (!/^\s*BEGIN:VCALENDAR/i.test(text.replace(/^\ufeff/, ''))) {
    fault({ line: 1, column: 1, message: 'This is not a calendar: it does not begin with BEGIN:VCALENDAR.' });
    return { events: [], faults, found: 0 };
  }
  const byUid = new Map<string, Component[]>();
  let found = 0;
  let seen = 0;
  for (const { end, ...component } of componentsOf(text, fault)) {
    if (component.kind === 'VTIMEZONE') registerZone(component, fault);
    else {
      found++;
      const uid =
        /^UID(?:;[^:]*)?:(.*(?:\r?\n[ \t].*)*)/im
          .exec(component.text)?.[1]
          ?.replace(/\r?\n[ \t]/g, '')
          .trim() ?? `line ${component.line}`;
      const list = byUid.get(uid);
      if (list) list.push(component);
      else byUid.set(uid, [component]);
    }
    if (++seen % 500 === 0) await pause(options, (end / text.length) * 0.3);
  }
  const events: CalendarEvent[] = [];
  const steps = { taken: 0 };
  let read = 0;
  for (const [uid, components] of byUid) {
    readSeries(uid, components, { ...options, steps }, events, fault);
    if (++read % 200 === 0) await pause(options, 0.3 + (read / byUid.size) * 0.7);
  }
  events.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : (a.start ?? 0) - (b.start ?? 0)));
  return { events, faults, found };
}

/** Lets messages through: progress out, and the word to stop in. */
async function pause({ onProgress }: CalendarOptions, share: number): Promise<void> {
  onProgress?.(share);
  await new Promise((resolve) => setTimeout(resolve));
}

/** A length of millions of minutes, or a step of tens of thousands of weeks: the library counts them off one by one. */
const FAR_LENGTH = /[:/][+-]?P[^\r\n:;,/]*\d{7}/i;
const FAR_STEP = /INTERVAL=0*[1-9]\d{4}/i;

function parsed(component: Component): ICAL.Component {
  const text = component.text.replace(/\r?\n[ \t]/g, '');
  if (FAR_LENGTH.test(text))
    throw new Fault('too-large', 'A length in it is far beyond the 31 days that an event may last.');
  if (FAR_STEP.test(text)) throw new Fault('too-large', 'It repeats at steps that are too far apart to be followed.');
  return new ICAL.Component(ICAL.parse(component.text) as never[]);
}

function registerZone(component: Component, fault: (fault: CalendarFault) => void): void {
  try {
    const zone = new ICAL.Timezone(parsed(component));
    if (!ICAL.TimezoneService.has(zone.tzid)) ICAL.TimezoneService.register(zone);
  } catch (thrown) {
    fault(faultOf(component, thrown));
  }
}

/** An event, or a series of them with the occurrences that were moved, changed or called off. */
function readSeries(
  uid: string,
  components: readonly Component[],
  options: CalendarOptions & { /** Occurrences that were gone through in the file so far. */ steps: { taken: number } },
  events: CalendarEvent[],
  fault: (fault: CalendarFault) => void,
): void {
  let master: ICAL.Event | null = null;
  const changed: ICAL.Event[] = [];
  for (const component of components) {
    try {
      const event = new ICAL.Event(parsed(component));
      if (!event.startDate) throw new Fault('incomplete', 'The event has no DTSTART, so nobody knows when it is.');
      instantOf(event.startDate, zoneOf(event, options));
      const unknown = unknownZoneOf(event);
      if (unknown)
        fault(
          faultIn(component, `There is no time zone “${unknown}”; its times are read as those of ${options.zone}.`),
        );
      if (event.isRecurrenceException()) changed.push(event);
      else master = event;
    } catch (thrown) {
      fault(faultOf(component, thrown));
    }
  }
  const add = (event: ICAL.Event, start: ICAL.Time, end: ICAL.Time, key: string) => {
    const status = event.component.getFirstPropertyValue('status');
    if (typeof status === 'string' && status.toUpperCase() === 'CANCELLED') return;
    events.push(...occurrence(event, start, end, `${uid} ${key}`.trim(), options));
  };
  const first = components[0]!;
  try {
    if (!master) {
      for (const event of changed) add(event, event.startDate, event.endDate, event.recurrenceId.toString());
      return;
    }
    for (const event of changed) master.relateException(event);
    if (master.component.getAllProperties('rrule').length > MOST_RULES)
      throw new Fault('too-large', `This series has more than ${MOST_RULES} rules; no calendar writes that.`);
    if (!master.isRecurring()) return add(master, master.startDate, master.endDate, '');
    const rule = unfollowed(master);
    if (rule) {
      fault(faultIn(first, `The series “${rule}” cannot be followed; its first occurrence is taken.`));
      return add(master, master.startDate, master.endDate, '');
    }
    const after = addDays(options.to, 2);
    const iterator = master.iterator();
    for (;;) {
      const next = iterator.next() as ICAL.Time | undefined;
      if (!next || plainDay(next) > after) break;
      if (++options.steps.taken > MOST_STEPS)
        throw new Fault('too-large', 'This series is longer than can be followed; export fewer years.');
      const details = master.getOccurrenceDetails(next);
      add(details.item, details.startDate, details.endDate, details.recurrenceId.toString());
    }
  } catch (thrown) {
    fault(faultOf(first, thrown));
  }
}

/** An occurrence, or of one of whole days each of its days, as far as it lies in the range. */
function occurrence(
  event: ICAL.Event,
  start: ICAL.Time,
  end: ICAL.Time,
  source: string,
  options: CalendarOptions,
): CalendarEvent[] {
  const { zone, from, to } = options;
  const written = zoneOf(event, options);
  const common = {
    title: event.summary ?? '',
    place: event.location ?? '',
    guests: event.attendees.map(guestOf),
    free: /^transparent$/i.test(String(event.component.getFirstPropertyValue('transp') ?? '')),
  };
  if (start.isDate) {
    const first = plainDay(start);
    // The end of whole days is the day after the last; one that is missing or the same means a single day.
    const last = plainDay(end) > first ? addDays(plainDay(end), -1) : first;
    return daysFrom(first < from ? from : first, last > to ? to : last).map((day) => ({
      ...common,
      source: last > first ? `${source} ${day}` : source,
      day,
      start: null,
      seconds: null,
    }));
  }
  const begin = instantOf(start, written);
  const seconds = Math.round((instantOf(end, zoneOf(event, options, 'dtend')) - begin) / 1000);
  if (seconds > LONGEST_EVENT)
    throw new Fault('too-large', `“${(event.summary ?? '').slice(0, 60)}” lasts longer than 31 days.`);
  const day = dayOf(begin, zone);
  if (day < from || day > to || seconds <= 0) return [];
  return [{ ...common, source, day, start: begin, seconds }];
}

function guestOf(attendee: ICAL.Property): string {
  const address = String(attendee.getFirstValue() ?? '').replace(/^mailto:/i, '');
  const name = attendee.getParameter('cn');
  return typeof name === 'string' && name && name !== address ? `${name} <${address}>` : address;
}

/** The name of the zone that a time is written in; null where it has none of its own. */
function zoneName(event: ICAL.Event, of: 'dtstart' | 'dtend'): string | null {
  const name = event.component.getFirstProperty(of)?.getParameter('tzid');
  return typeof name === 'string' ? name : null;
}

/** The IANA zone that a time without one of the file's own zones is read in. */
function zoneOf(event: ICAL.Event, options: CalendarOptions, of: 'dtstart' | 'dtend' = 'dtstart'): Zone {
  const name = zoneName(event, of) ?? zoneName(event, 'dtstart');
  return name && isZone(name) ? name : options.zone;
}

function unknownZoneOf(event: ICAL.Event): string | null {
  const name = zoneName(event, 'dtstart');
  return name && !isZone(name) && !ICAL.TimezoneService.has(name) ? name : null;
}

/** A rule that the library takes for another: the n-th weekday of a year without a month. Better not followed than followed wrongly. */
function unfollowed(event: ICAL.Event): string | null {
  for (const property of event.component.getAllProperties('rrule')) {
    const rule = property.getFirstValue() as ICAL.Recur;
    // Nobody's day has an event every minute: a file that says so would be followed for ever.
    if (/^(?:SECONDLY|MINUTELY)$/i.test(rule.freq)) return rule.toString();
    const numbered = rule.freq === 'YEARLY' && /BYDAY=[^;]*\d/i.test(rule.toString());
    if (numbered && !/BYMONTH=|BYWEEKNO=/i.test(rule.toString())) return rule.toString();
  }
  return null;
}

const two = (value: number): string => String(value).padStart(2, '0');
const plainDay = (time: ICAL.Time): Day => `${String(time.year).padStart(4, '0')}-${two(time.month)}-${two(time.day)}`;

/** The moment of a time: by the IANA zone of its name, by what the file says of its zone, or in the reader's where it has none. */
function instantOf(time: ICAL.Time, zone: Zone): Instant {
  const day = plainDay(time);
  if (!isDay(day))
    throw new Fault(
      'not-a-day',
      Number.isInteger(time.year) ? `${day} is not a day.` : 'The time of this event cannot be read.',
    );
  const name = time.zone?.tzid;
  if (name === 'UTC' || name === 'Z') return time.toUnixTime() * 1000;
  const known = name && name !== 'floating' && isZone(name) ? name : null;
  if (!known && name && name !== 'floating' && ICAL.TimezoneService.has(name)) return time.toUnixTime() * 1000;
  return instantAt(day, time.hour * 60 + time.minute, known ?? zone) + time.second * 1000;
}

/** What is wrong, at the line that it is wrong in; what a library says of it only helps to find that line. */
function faultOf(component: Component, thrown: unknown): CalendarFault {
  if (thrown instanceof Fault) return faultIn(component, thrown.message);
  return faultIn(component, 'it does not follow the form of a calendar (RFC 5545).', messageOf(thrown));
}
