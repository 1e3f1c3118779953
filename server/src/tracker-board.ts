import { trackerClients, trackerTasks, type TrackerClient, type TrackerTask } from '@half-penny/demo';
import { existsSync, readFileSync } from 'node:fs';
import * as z from 'zod';
import { writeSafely } from './files';

const taskSchema = z.strictObject({
  id: z.string(),
  project: z.strictObject({ id: z.string(), name: z.string() }),
  number: z.string(),
  title: z.string(),
  assignee: z.string().nullable(),
  state: z.string(),
  estimate: z.number().nullable(),
  closed: z.boolean(),
  address: z.string(),
});
const clientSchema = z.strictObject({
  id: z.string(),
  name: z.string(),
  address: z.string(),
  email: z.string(),
  taxNumber: z.string(),
  gone: z.boolean(),
});
const hoursSchema = z.strictObject({
  id: z.string(),
  revision: z.number(),
  task: z.string(),
  day: z.string(),
  seconds: z.number(),
  member: z.string(),
  note: z.string(),
});
/** Each with the number of its last change. */
const heldSchema = z.strictObject({
  last: z.number(),
  tasks: z.array(z.strictObject({ at: z.number(), row: taskSchema })),
  clients: z.array(z.strictObject({ at: z.number(), row: clientSchema })),
  hours: z.array(hoursSchema),
});
type Held = z.output<typeof heldSchema>;
/** Hours of one entry as they were told. */
export type HoursTold = z.output<typeof hoursSchema>;

/** What the simulated tracker holds, in a file. Every change has a number; a reader asks for what changed after the last it saw. */
export class Board {
  readonly #path: string;
  #held: Held;

  constructor(path: string) {
    this.#path = path;
    this.#held = read(path) ?? begun();
  }

  get tasks(): TrackerTask[] {
    return this.#held.tasks.map(({ row }) => row);
  }

  get clients(): TrackerClient[] {
    return this.#held.clients.map(({ row }) => row);
  }

  get hours(): readonly HoursTold[] {
    return this.#held.hours;
  }

  /** What changed after a number, the oldest change first. */
  changed(what: 'tasks' | 'clients', after: number, limit: number) {
    const all: readonly { at: number; row: TrackerTask | TrackerClient }[] = this.#held[what];
    const due = all.filter((each) => each.at > after).sort((a, b) => a.at - b.at);
    const page = due.slice(0, limit);
    return {
      rows: page.map(({ row }) => row),
      cursor: page.at(-1)?.at ?? after,
      more: due.length > page.length,
    };
  }

  /** @returns whether there is such a task */
  edit(id: string, edits: Partial<TrackerTask>): boolean {
    const task = this.#held.tasks.find(({ row }) => row.id === id);
    if (!task) return false;
    task.row = { ...task.row, ...edits };
    task.at = ++this.#held.last;
    this.#keep();
    return true;
  }

  /** A task of a project that is there. @returns whether it was added */
  add(projectId: string, title: string): boolean {
    const beside = this.#held.tasks.filter(({ row }) => row.project.id === projectId).map(({ row }) => row);
    const last = beside.at(-1);
    if (!last) return false;
    const [key = ''] = last.number.split('-');
    const count = Math.max(...beside.map((row) => Number(row.number.split('-')[1]))) + 1;
    const address = last.address.replace(/\d+$/, String(count));
    const number = `${key}-${count}`;
    this.#held.tasks.push({
      at: ++this.#held.last,
      row: {
        ...{ id: `board-${number.toLowerCase()}`, project: last.project, number, title, address },
        ...{ assignee: null, state: 'To do', estimate: null, closed: false },
      },
    });
    this.#keep();
    return true;
  }

  /** A client that goes from the list, or comes back. @returns whether there is such a client */
  setGone(id: string, gone: boolean): boolean {
    const client = this.#held.clients.find(({ row }) => row.id === id);
    if (!client) return false;
    client.row = { ...client.row, gone };
    client.at = ++this.#held.last;
    this.#keep();
    return true;
  }

  /** Of one id the highest revision counts; none at all takes back what was told. What comes again is taken as often as it comes. */
  takeHours(told: readonly HoursTold[]): { taken: string[]; refused: { id: string; why: string }[] } {
    const known = new Set(this.#held.tasks.map(({ row }) => row.id));
    const taken: string[] = [];
    const refused: { id: string; why: string }[] = [];
    for (const each of told) {
      if (!known.has(each.task)) {
        refused.push({ id: each.id, why: `There is no task ${each.task}.` });
        continue;
      }
      taken.push(each.id);
      const before = this.#held.hours.find(({ id }) => id === each.id);
      if (before && before.revision >= each.revision) continue;
      this.#held.hours = this.#held.hours.filter((row) => row !== before);
      // One that was taken back stays known, so that an older telling does not bring it again.
      this.#held.hours.push({ ...each });
    }
    this.#keep();
    return { taken, refused };
  }

  /** Everything as it was at first. */
  begin(): void {
    this.#held = begun();
    this.#keep();
  }

  #keep(): void {
    writeSafely(this.#path, JSON.stringify(this.#held));
  }
}

function read(path: string): Held | null {
  if (!existsSync(path)) return null;
  try {
    return heldSchema.parse(JSON.parse(readFileSync(path, 'utf8')));
  } catch {
    // A file that somebody changed by hand is begun again.
    return null;
  }
}

function begun(): Held {
  let last = 0;
  const tasks = trackerTasks().map((row) => ({ at: ++last, row }));
  const clients = trackerClients().map((row) => ({ at: ++last, row }));
  return { last, tasks, clients, hours: [] };
}
