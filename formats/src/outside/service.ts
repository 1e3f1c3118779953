import { Fault } from '@half-penny/core/model';
import type { HoursBack, ToldClient, ToldTask } from '@half-penny/core/outside';
import * as z from 'zod';
import { oneLine } from '../ledger/lines';

// What a tracker answers, and what hours are told it. docs/work.md says the same in words.

const page = { cursor: z.string().max(500), more: z.boolean() };
const mark = z.string().min(1).max(300);

const tasksSchema = z.object({
  tasks: z.array(
    z.object({
      id: mark,
      project: z.object({ id: mark, name: z.string() }),
      number: z.string().max(60),
      title: z.string(),
      assignee: z.string().nullable(),
      state: z.string(),
      /** Seconds. */
      estimate: z.int().min(0).max(100_000_000).nullable(),
      closed: z.boolean(),
      address: z.string().max(2000),
    }),
  ),
  ...page,
});

const clientsSchema = z.object({
  clients: z.array(
    z.object({
      id: mark,
      name: z.string().refine((value) => value.trim() !== '', 'A client has a name.'),
      address: z.string().max(10_000),
      email: z.string(),
      taxNumber: z.string(),
      gone: z.boolean(),
    }),
  ),
  ...page,
});

const takenSchema = z.object({
  taken: z.array(z.string()),
  refused: z.array(z.object({ id: z.string(), why: z.string() })),
});

/** One answer of a tracker: what changed, and where to go on. */
export interface OutsidePage<Told> {
  told: Told[];
  cursor: string;
  more: boolean;
}

/** @throws Fault that says where the answer is not what it should be; none of it is to be taken then */
function parsed<T>(schema: z.ZodType<T>, answer: unknown): T {
  const result = schema.safeParse(answer);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  throw new Fault(
    'unreadable',
    `The tracker answered something that cannot be read, at ${issue.path.join('/') || 'its head'}: ${issue.message}`,
    'answer',
  );
}

/**
 * Reads an answer that tells tasks.
 *
 * @throws Fault that says where the answer is not what it should be
 */
export function readTaskPage(answer: unknown): OutsidePage<ToldTask> {
  const { tasks, cursor, more } = parsed(tasksSchema, answer);
  const told = tasks.map((each): ToldTask => ({
    source: each.id,
    project: { source: each.project.id, name: oneLine(each.project.name, 500) },
    number: oneLine(each.number, 60),
    title: oneLine(each.title, 500),
    assignee: oneLine(each.assignee, 300),
    state: oneLine(each.state, 100),
    estimate: each.estimate || null,
    closed: each.closed,
    address: /^https?:\/\//i.test(each.address) ? each.address : '',
  }));
  return { told, cursor, more };
}

/**
 * Reads an answer that tells clients.
 *
 * @throws Fault that says where the answer is not what it should be
 */
export function readClientPage(answer: unknown): OutsidePage<ToldClient> {
  const { clients, cursor, more } = parsed(clientsSchema, answer);
  const told = clients.map((each): ToldClient => ({
    source: each.id,
    name: oneLine(each.name, 500),
    address: each.address.trim(),
    email: oneLine(each.email, 500),
    taxNumber: oneLine(each.taxNumber, 100),
    gone: each.gone,
  }));
  return { told, cursor, more };
}

/** Hours as a tracker is told them: the body of the message, and what stands in a file of them. */
export const hoursMessage = (hours: readonly HoursBack[]) => ({
  hours: hours.map(({ entryId, revision, source, day, seconds, member, note }) => ({
    id: entryId,
    revision,
    task: source,
    day,
    seconds,
    member,
    note,
  })),
});

/** What became of hours that were told: by the ids of entries. */
export interface HoursTaken {
  taken: ReadonlySet<string>;
  refused: { id: string; why: string }[];
}

/**
 * Reads the answer to hours.
 *
 * @throws Fault that says where the answer is not what it should be; nothing is known to have been taken then
 */
export function readHoursTaken(answer: unknown): HoursTaken {
  const { taken, refused } = parsed(takenSchema, answer);
  return { taken: new Set(taken), refused: refused.map(({ id, why }) => ({ id, why: oneLine(why) })) };
}
