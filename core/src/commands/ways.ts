import type { CommandContext } from '../engine/command';
import type { Reader } from '../engine/store';
import { recordsBy, recordsKind, wayWords } from '../entries/ways';
import { Fault } from '../faults/fault';
import { changesIn, type Change } from '../model/change';
import type { RecordingWay } from '../model/records';
import type { CommandName } from './catalogue';

/** By which way a command records what was not there before. */
const WAY_OF: Readonly<Partial<Record<CommandName, RecordingWay>>> = {
  'timer.start': 'timer',
  'timer.resume': 'timer',
  'entry.add': 'by hand',
  'entry.duplicate': 'by hand',
  'week.fill': 'by hand',
  'hours.import': 'by hand',
  'stretch.post': 'trail',
  'plan.take': 'plan',
};

/**
 * Refuses what members record of their own in a way, or of a kind of work, that the studio does not have them record.
 *
 * @throws Fault that says which ways there are
 */
export async function guardWays(
  reader: Reader,
  changes: readonly Change[],
  { memberId }: CommandContext,
  command: string,
): Promise<void> {
  const own = [...changesIn(changes, 'entries'), ...changesIn(changes, 'timers')].filter(
    ({ after }) => after?.memberId === memberId,
  );
  if (memberId === null || own.length === 0) return;
  const member = await reader.get('members', memberId);
  if (!member) return;
  const way = Object.hasOwn(WAY_OF, command) ? WAY_OF[command as CommandName] : undefined;
  if (way && !recordsBy(member, way) && own.some(({ before }) => before === null)) {
    const ways = member.ways!.map((each) => wayWords[each]).join(' or ');
    throw new Fault('no-right', `${member.name} records ${ways}, as the studio has it under Setup → People.`, '', {
      way,
    });
  }
  for (const { before, after } of own) {
    const kind = after!.kindOfWorkId;
    if (kind === null || kind === before?.kindOfWorkId || recordsKind(member, kind)) continue;
    const name = (await reader.get('kindsOfWork', kind))?.name ?? 'This kind of work';
    throw new Fault('no-right', `${name} is not a kind of work that ${member.name} records.`, 'kindOfWorkId', { kind });
  }
}
