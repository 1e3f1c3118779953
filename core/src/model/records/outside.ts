import * as z from 'zod';
import { day, id, instant, seconds, text } from '../fields';

// Lists that others keep and the studio follows: tasks of a tracker, clients of an address book. What stands here is what was last told of
// them; the studio's own tasks and clients are records of their own, which follow.

/** A short text of somebody else's program. */
const told = (most: number) => z.string().max(most, `This has at most ${most} characters.`);

/** What an outside list tells of. */
export const outsideKinds = ['tasks', 'clients'] as const;

/** Where a list comes from: a service that tells what changed, or files, each of which tells everything. */
export const outsideSources = ['service', 'file'] as const;

/** When recorded hours go back to whoever keeps the tasks. */
export const hoursBack = ['never', 'when asked', 'as made'] as const;

/** A list from elsewhere that is followed. How far it was read, and when, is told by the feed that is named by its id. */
export const outsideListSchema = z
  .strictObject({
    id,
    name: told(200).refine((value) => value.trim() !== '', 'This cannot be empty.'),
    kind: z.enum(outsideKinds),
    /** Whether a service tells what changed, or files tell everything. */
    via: z.enum(outsideSources),
    /** When recorded hours go back. */
    hours: z.enum(hoursBack),
    /** Hours of this day and later go back. */
    hoursSince: day,
  })
  .refine(({ kind, hours }) => kind === 'tasks' || hours === 'never', {
    message: 'Hours go back to a list of tasks, not to one of clients.',
    path: ['hours'],
  });

/** What the keeper of a list sorts tasks by, and the project of the studio that it was said to be. */
export const outsideProjectSchema = z.strictObject({
  id,
  /** The list that it is of. */
  listId: id,
  /** Tells it apart from others of its list. */
  source: told(300),
  name: told(500),
  /** Where its tasks go; null before somebody said. */
  projectId: id.nullable(),
});

/** A task as it was last told from elsewhere. */
export const outsideTaskSchema = z.strictObject({
  id,
  /** The list that it is of. */
  listId: id,
  /** Tells it apart from others of its list. */
  source: told(300),
  /** What its keeper sorts it by. */
  outsideProjectId: id,
  /** What people call it by: "QP-31"; empty where tasks have no numbers. */
  number: told(60),
  title: told(500),
  /** Whose it is, as it is written there. */
  assignee: told(300),
  /** How far it is, in its keeper's words. */
  state: told(100),
  /** Seconds that it is thought to take. */
  estimate: z.int().min(1).max(100_000_000).nullable(),
  /** Nothing is left to do there. */
  closed: z.boolean(),
  /** Its page; empty where it has none. */
  address: told(2000),
  /** When it was told last that it is different. */
  changedAt: instant,
  /** The studio's task that follows it; null where its project was not said, or was closed before. It may have been deleted since. */
  taskId: id.nullable(),
});

/** A client as it was last told from elsewhere. */
export const outsideClientSchema = z.strictObject({
  id,
  /** The list that it is of. */
  listId: id,
  /** Tells it apart from others of its list. */
  source: told(300),
  name: told(500),
  address: text,
  email: told(500),
  taxNumber: told(100),
  /** Not on the list any more. */
  gone: z.boolean(),
  /** The studio's client that follows it. It may have been deleted since. */
  clientId: id,
});

/** What was last sent back of an entry, so that nothing is sent twice. The entry may be gone: that is then told as well. */
export const sentHoursSchema = z.strictObject({
  id,
  /** The list that it is of. */
  listId: id,
  entryId: id,
  /** The task that it was told of, by what its list calls it. */
  source: told(300),
  /** Counts up: of two tellings of one entry the higher counts. */
  revision: z.int().min(1),
  day,
  /** None where the entry was deleted or moved elsewhere. */
  seconds,
  /** Whose hours they were told to be. */
  member: told(300),
  note: text,
  at: instant,
});

export type OutsideKind = (typeof outsideKinds)[number];
export type OutsideSource = (typeof outsideSources)[number];
export type HoursBack = (typeof hoursBack)[number];
export type OutsideList = z.infer<typeof outsideListSchema>;
export type OutsideProject = z.infer<typeof outsideProjectSchema>;
export type OutsideTask = z.infer<typeof outsideTaskSchema>;
export type OutsideClient = z.infer<typeof outsideClientSchema>;
export type SentHours = z.infer<typeof sentHoursSchema>;
