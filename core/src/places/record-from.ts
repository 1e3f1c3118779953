import type { CommandContext } from '../engine/command';
import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import { changeOf, changesIn, type Change } from '../model/change';
import type { Id } from '../model/ids';
import type { Entry, Place, RecordedFrom, Timer } from '../model/records';
import { nearest, showDistance } from './distance';
import { placesOf } from './places-of';

// From where time is recorded. The position is asked for only when a rule needs it; what is kept is whether it was one of the places, and
// how far from them.

/**
 * Notes at new time from where it is recorded, or refuses it: of whoever works here, where they have a rule and the job has places.
 *
 * @returns the changes with that in them
 * @throws Fault "position-needed" where somebody has to say first where they are; "too-far" where they may not record from there
 */
export async function recordFrom(
  reader: Reader,
  changes: readonly Change[],
  context: CommandContext,
): Promise<Change[]> {
  const fresh = new Map<string, RecordedFrom>();
  const stopped = new Map(changesIn(changes, 'timers').map(({ id, before }) => [id, before]));
  for (const table of ['entries', 'timers'] as const)
    for (const { id, before, after } of changesIn(changes, table)) {
      if (before || !after || after.memberId !== context.memberId || after.recordedFrom) continue;
      const timer = table === 'entries' ? stopped.get(id) : undefined;
      // What a timer becomes was recorded from where it was started.
      const from = timer ? timer.recordedFrom : await fromWhere(reader, after, context);
      if (from) fresh.set(`${table} ${id}`, from);
    }
  if (fresh.size === 0) return [...changes];
  return changes.map((change) => {
    const from = fresh.get(`${change.table} ${change.id}`);
    if (!from || !change.after) return change;
    return changeOf(change.table as 'entries', change.id, null, { ...(change.after as Entry), recordedFrom: from });
  });
}

async function fromWhere(
  reader: Reader,
  { memberId, projectId }: Entry | Timer,
  { position }: CommandContext,
): Promise<RecordedFrom | null> {
  const member = await reader.get('members', memberId);
  const rule = member?.placeRule ?? 'free';
  if (rule === 'free') return null;
  const places = await placesOf(reader, projectId);
  if (places.length === 0) return null;
  const what = await nameOf(reader, projectId);
  if (position === undefined)
    throw new Fault('position-needed', `${what} is recorded from ${listOf(places)}; where you are is not known yet.`);
  if (position === null) {
    if (rule === 'warned') return null;
    throw new Fault(
      'too-far',
      `${what} is recorded only from ${listOf(places)}, and where you are could not be told. Allow the browser to tell it, then try again. Nothing was recorded.`,
    );
  }
  const { place, metres } = nearest(places, position)!;
  if (metres > 0 && rule === 'bound')
    throw new Fault(
      'too-far',
      `You are ${showDistance(metres)} from ${place.name}, and ${what} is recorded only from ${listOf(places)}. Nothing was recorded.`,
      '',
      { metres: Math.round(metres) },
    );
  return { inside: metres === 0, metres: metres === 0 ? 0 : Math.max(10, Math.round(metres / 10) * 10) };
}

const listOf = (places: readonly Place[]): string =>
  places.length > 3 ? `${places.length} places` : places.map(({ name }) => name).join(' or ');

const nameOf = async (reader: Reader, projectId: Id | null): Promise<string> =>
  (projectId && (await reader.get('projects', projectId))?.name) || 'This time';

/** Says of new time that it was recorded from elsewhere. */
export const remarkFrom = (changes: readonly Change[]): string =>
  [...changesIn(changes, 'entries'), ...changesIn(changes, 'timers')].some(
    ({ before, after }) => !before && after?.recordedFrom?.inside === false,
  )
    ? ', from elsewhere'
    : '';
