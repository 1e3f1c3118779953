import type { Activity } from '@half-penny/core/capture';
import { addDays, dayOf, type Zone } from '@half-penny/core/time';
import { useLiveQuery } from 'dexie-react-hooks';
import * as z from 'zod';
import { askServer } from './server';
import { keepActivities, trail } from './trail';
import type { PlannedEvent, ReadFeed } from './trail-database';

export type { ReadFeed };

// Calendars by address: the server fetches them, this browser reads them. What is over stands in the trail as a meeting; what is to come is
// planned. Each reading takes the place of the one before it, so that what was moved or called off is followed.

const feedSchema = z.object({
  id: z.uuid(),
  address: z.string(),
  version: z.int(),
  fetched: z.int().nullable(),
  fault: z.string().nullable(),
});
export type Feed = z.output<typeof feedSchema>;
const answerSchema = z.object({ calendars: z.array(feedSchema) });

/** What is over of so many days is taken in, and what is to come of so many. */
const DAYS_BEFORE = 30;
const DAYS_AFTER = 14;
/** What was planned becomes over by and by, without the calendar changing. */
const READ_EVERY = 60_000;
const MOST_FAULTS = 5;

const json = { 'content-type': 'application/json' };
const ask = async (path: string, body?: object): Promise<Feed[]> => {
  const init = body === undefined ? {} : { method: 'POST', headers: json, body: JSON.stringify(body) };
  return answerSchema.parse(await (await askServer(path, init)).json()).calendars;
};

/** Calendars that are followed. */
export const readFeeds = (): Promise<Feed[]> => ask('/calendars');

/** Follows another one. @throws Error in words where that cannot be */
export const addFeed = (address: string): Promise<Feed[]> => ask('/calendars', { address });

/** Fetches all of them now. */
export const fetchFeeds = (): Promise<Feed[]> => ask('/calendars/fetch', {});

/** Follows one no more; what it brought goes from the trail. */
export async function forgetFeed(id: string): Promise<Feed[]> {
  const left = await ask('/calendars/forget', { id });
  await withoutEvents(id);
  await trail.own.delete(rowOf(id));
  return left;
}

const rowOf = (id: string): string => `feed ${id}`;
const deviceOf = (id: string): string => `feed-${id}`;
const withoutEvents = (id: string) =>
  trail.activities
    .where('[device+seq]')
    .between([deviceOf(id), 0], [deviceOf(id), Infinity])
    .delete();

/** Reads what changed of the calendars that are followed, and what is over since. */
export async function collectFeeds(zone: Zone, now: number): Promise<void> {
  for (const feed of await readFeeds()) {
    const before = await readFeed(feed.id);
    if (feed.version === 0 || (before?.version === feed.version && now - before.read < READ_EVERY)) continue;
    const text = await (await askServer(`/calendars/${feed.id}`)).text();
    const today = dayOf(now, zone);
    const { readCalendar } = await import('@half-penny/formats/calendar');
    const range = { from: addDays(today, -DAYS_BEFORE), to: addDays(today, DAYS_AFTER), zone };
    const { events, faults } = await readCalendar(text, range);
    const over: Activity[] = [];
    const planned: PlannedEvent[] = [];
    for (const { title, start, seconds, guests, free } of events) {
      if (start === null || seconds === null || seconds === 0 || free) continue;
      const end = start + seconds * 1000;
      if (end > now) planned.push({ title, start, end });
      else {
        const people = guests.map(addressOf);
        over.push({ kind: 'meeting', from: start, to: end, title, ...(people.length > 0 ? { people } : {}) });
      }
    }
    await withoutEvents(feed.id);
    if (over.length > 0) await keepActivities(deviceOf(feed.id), 1, over);
    const read: ReadFeed = {
      version: feed.version,
      read: now,
      planned: planned.sort((a, b) => a.start - b.start),
      faults: faults.slice(0, MOST_FAULTS).map((each) => `Line ${each.line}: ${each.message}`),
    };
    await trail.own.put({ key: rowOf(feed.id), feed: read });
  }
}

async function readFeed(id: string): Promise<ReadFeed | null> {
  const row = await trail.own.get(rowOf(id));
  return row && 'feed' in row ? row.feed : null;
}

const addressOf = (guest: string): string => (/[^\s<>"']+@[^\s<>"']+/.exec(guest)?.[0] ?? guest).toLowerCase();

/** What was read of calendars that are followed, by their ids; undefined while it is being read. */
export const useFeedReadings = (): ReadonlyMap<string, ReadFeed> | undefined =>
  useLiveQuery(async () => {
    const rows = await trail.own.toArray();
    return new Map(rows.flatMap((row) => ('feed' in row ? [[row.key.slice('feed '.length), row.feed] as const] : [])));
  }, []);

/** What calendars have planned between two moments, in the order of time. */
export function usePlanned(start: number, end: number): PlannedEvent[] {
  const feeds = useFeedReadings();
  return [...(feeds?.values() ?? [])]
    .flatMap((each) => each.planned)
    .filter((each) => each.start < end && each.end > start)
    .sort((a, b) => a.start - b.start);
}
