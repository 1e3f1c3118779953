import { Fault, messageOf } from '@half-penny/core/model';
import type { ToldTask } from '@half-penny/core/outside';
import ICAL from 'ical.js';
import { componentsOf, faultIn, type CalendarFault, type Component } from '../calendar/lines';
import { oneLine } from '../ledger/lines';

/** Tasks of a file, and what of it could not be read. */
export interface TodoReading {
  tasks: ToldTask[];
  faults: CalendarFault[];
}

const MOST_FAULTS = 100;
/** "QP-31 Refocus the bridge", "[QP-31] Refocus the bridge". */
const NUMBERED = /^\[?([A-Z][A-Z0-9]{0,9}-\d{1,8})\]?[:\s]+(?=\S)/;

/**
 * Reads to-dos (VTODO of RFC 5545, 3.6.2) as tasks. A task is told apart by its UID; the first category is its project, or the name of the
 * calendar where it has none; who attends has it to do. It is closed where it was completed or cancelled. Of a task that repeats, all
 * repetitions are one.
 */
export function readTodos(text: string): TodoReading {
  const faults: CalendarFault[] = [];
  const fault = (each: CalendarFault) => void (faults.length < MOST_FAULTS && faults.push(each));
  const plain = text.replace(/^\ufeff/, '');
  if (!/^\s*BEGIN:VCALENDAR/i.test(plain)) {
    fault({ line: 1, column: 1, message: 'This is not a calendar: it does not begin with BEGIN:VCALENDAR.' });
    return { tasks: [], faults };
  }
  const calendar = oneLine(/^(?:X-WR-CALNAME|NAME)(?:;[^:]*)?:(.*)$/im.exec(plain)?.[1], 300);
  const tasks = new Map<string, { task: ToldTask; sequence: number }>();
  for (const component of componentsOf(plain, fault, ['VTODO'])) {
    try {
      const { task, sequence, repetition } = read(component, calendar);
      const known = tasks.get(task.source);
      if (known && (repetition || known.sequence > sequence)) continue;
      tasks.set(task.source, { task, sequence: repetition ? -1 : sequence });
    } catch (thrown) {
      fault(
        thrown instanceof Fault
          ? faultIn(component, thrown.message)
          : faultIn(component, 'it does not follow the form of a calendar (RFC 5545).', messageOf(thrown)),
      );
    }
  }
  if (tasks.size === 0 && faults.length === 0)
    fault({ line: 1, column: 1, message: 'There is no task in it: one begins with BEGIN:VTODO.' });
  return { tasks: [...tasks.values()].map(({ task }) => task), faults };
}

function read(component: Component, calendar: string) {
  const todo = new ICAL.Component(ICAL.parse(component.text) as never[]);
  const first = (name: string): string => String(todo.getFirstPropertyValue(name) ?? '').trim();
  const uid = first('uid');
  if (!uid) throw new Fault('incomplete', 'The task has no UID, so it could not be told from others.');
  const summary = oneLine(first('summary'), 500);
  if (!summary) throw new Fault('incomplete', 'The task has no SUMMARY, so nobody knows what it is.');
  const number = NUMBERED.exec(summary);
  const categories = todo.getFirstProperty('categories')?.getValues() as unknown[] | undefined;
  const project = oneLine(categories?.[0], 300) || calendar || 'To do';
  const status = first('status').toUpperCase();
  const task: ToldTask = {
    source: uid.slice(0, 300),
    project: { source: project, name: project },
    number: number?.[1] ?? '',
    title: number ? summary.slice(number[0].length) : summary,
    assignee: oneLine(whose(todo.getFirstProperty('attendee'))),
    state: states[status] ?? '',
    estimate: estimateOf(todo),
    closed: status === 'COMPLETED' || status === 'CANCELLED' || todo.getFirstProperty('completed') !== null,
    address: /^https?:\/\//i.test(first('url')) ? first('url').slice(0, 2000) : '',
  };
  const sequence = Number(first('sequence')) || 0;
  return { task, sequence, repetition: todo.getFirstProperty('recurrence-id') !== null };
}

/** STATUS of a to-do (RFC 5545, 3.8.1.11) in words. */
const states: Readonly<Record<string, string>> = {
  'NEEDS-ACTION': 'To do',
  'IN-PROCESS': 'In progress',
  COMPLETED: 'Completed',
  CANCELLED: 'Cancelled',
};

function whose(attendee: ICAL.Property | null): string {
  const name = attendee?.getParameter('cn');
  if (typeof name === 'string' && name) return name;
  return String(attendee?.getFirstValue() ?? '').replace(/^mailto:/i, '');
}

/** ESTIMATED-DURATION where a program writes that, else DURATION (RFC 5545, 3.8.2.5). */
function estimateOf(todo: ICAL.Component): number | null {
  for (const name of ['estimated-duration', 'duration']) {
    const value = todo.getFirstPropertyValue(name);
    if (value === null) continue;
    const duration = value instanceof ICAL.Duration ? value : ICAL.Duration.fromString(String(value));
    const seconds = duration.toSeconds();
    if (seconds > 100_000_000) throw new Fault('too-large', 'A task is not thought to take more than three years.');
    if (seconds > 0) return seconds;
  }
  return null;
}
