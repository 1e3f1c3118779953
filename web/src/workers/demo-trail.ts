import {
  captureDefaults,
  featuresAmong,
  formStretches,
  jobKeyOf,
  placeOn,
  RuleBook,
  TrailArrays,
  type Activity,
  type Outcome,
  type PlacingRule,
  type Placing,
  type Stretch,
} from '@half-penny/core/capture';
import type { MemoryStore } from '@half-penny/core/engine';
import { dayOf, weekdayOf } from '@half-penny/core/time';
import { openedFor, privateSites, watchedDay, workingDaysBefore, type Watched } from '@half-penny/demo';
import { newId } from '../data/registry';
import { TrailDatabase, type DocumentOpenedFor } from '../data/trail-database';

const ZONE = 'Europe/London';
const PLACED_DAYS = 20;
const WATCHED_DAYS = 5;
/** The story of the documents begins so many days into the month. */
const STORY_BEFORE = 10;
const SAID_BEFORE = 24 * 3_600_000;

/**
 * Gives the demo its watched week, and the month before it as it was placed: to be looked back on, and to be learned from. A trail that holds anything already is a
 * person's own and is left alone.
 */
export async function fillDemoTrail(store: MemoryStore, workspaceId: string, now: number): Promise<void> {
  const trail = new TrailDatabase();
  try {
    if ((await trail.activities.count()) > 0 || (await trail.placings.count()) > 0) return;
    const today = dayOf(now, ZONE);
    const days = workingDaysBefore(today, PLACED_DAYS + WATCHED_DAYS);
    const outcomes = outcomesOf(store, workspaceId);
    const byDay = days.map((day, turn) => watchedDay(day, turn - STORY_BEFORE));
    const placings = byDay.slice(0, PLACED_DAYS).flatMap((watched) => placedDay(watched, outcomes));
    if (weekdayOf(today) < 6) byDay.push(watchedDay(today, days.length - STORY_BEFORE));
    const activities = byDay
      .flat()
      .map(({ activity }) => activity)
      .filter((each) => each.to <= now);
    await trail.activities.bulkPut(activities.map((each, index) => ({ ...each, device: 'demo', seq: index + 1 })));
    await trail.placings.bulkPut(placings);
    await trail.openedFor.bulkPut(openedForOf(activities));
    await trail.rules.bulkPut(privateRules());
    await trail.settings.put({ key: 'capture', value: { ...captureDefaults, keepingSaid: true } });
  } finally {
    trail.close();
  }
}

/** What the person said of documents before the last day that was watched; what was opened since is to be said. */
function openedForOf(activities: readonly Activity[]): DocumentOpenedFor[] {
  const since = (activities.at(-1)?.from ?? 0) - SAID_BEFORE;
  const files = new Set(activities.flatMap(({ file, from }) => (file && from < since ? [file] : [])));
  return [...files].flatMap((file) => {
    const why = openedFor.find(({ endings }) => endings.some((ending) => file.endsWith(ending)));
    return why ? [{ file, openedForId: why.id }] : [];
  });
}

/** What the person wants to be kept from all lists, by the pages it is seen on. */
function privateRules(): PlacingRule[] {
  return privateSites.map((text, order) => ({
    id: newId(),
    order,
    when: { field: 'site', verb: 'is', text },
    then: { act: 'private' },
    since: 0,
    posts: false,
    on: true,
  }));
}

/** What each label of the made-up week means in this workspace. */
function outcomesOf(store: MemoryStore, workspaceId: string): Map<string, Outcome> {
  const outcomes = new Map<string, Outcome>([['private', { act: 'private' }]]);
  for (const project of store.rows('projects'))
    outcomes.set(project.name, placeOn({ workspaceId, projectId: project.id, taskId: null }));
  return outcomes;
}

/** A day's stretches, placed as they truly were. */
function placedDay(watched: readonly Watched[], outcomes: ReadonlyMap<string, Outcome>): Placing[] {
  const columns = new TrailArrays();
  for (const { activity } of watched) columns.add(activity);
  const options = { settings: captureDefaults, zone: ZONE, rules: new RuleBook([]), placings: [] };
  return formStretches(columns, options).flatMap(({ day, stretches }) => {
    const said = stretches.map((stretch) => outcomes.get(truthOf(stretch, watched)) ?? null);
    const jobs = said.map((outcome) => outcome && { job: jobKeyOf(outcome), confidence: 1 });
    return stretches.flatMap(({ spans }, at): Placing[] => {
      const outcome = said[at];
      if (!outcome) return [];
      const shared = { note: '', billableSeconds: null, features: featuresAmong(stretches, jobs, at, ZONE) };
      return [{ id: newId(), day, spans, outcome, ...shared, at: spans[0]!.start }];
    });
  });
}

/** What most of a stretch's time truly was. */
function truthOf({ spans }: Stretch, watched: readonly Watched[]): string {
  const truth = new Map<string, number>();
  for (const { activity, truth: label } of watched) {
    for (const span of spans) {
      const time = Math.min(span.end, activity.to) - Math.max(span.start, activity.from);
      if (time > 0) truth.set(label, (truth.get(label) ?? 0) + time);
    }
  }
  return [...truth].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '';
}
