import { isHandedIn } from '../checking/standing';
import { need } from '../engine/command';
import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { Making, TimesheetFile } from './content';
import { costForStudio, entryForStudio, lineForOther } from './narrowed';
import { handInsOf, recordedOn } from './sheets';

/**
 * A week or billing period as a member handed it in, for the studio. Nothing of the trail, of calendars or of other days is in it.
 *
 * @throws Fault when it is not handed in
 */
export async function timesheetFor(reader: Reader, timesheetId: Id, making: Making): Promise<TimesheetFile> {
  const sheet = await need(reader, 'timesheets', timesheetId, 'timesheet');
  const handIns = await handInsOf(reader, sheet);
  const handIn = handIns.at(-1);
  if (!handIn || !isHandedIn(sheet))
    throw new Fault('not-handed-in', 'Hand these days in first; the file is made of what was handed in.', 'id');
  const { entries, costs, costLines, receipts } = await recordedOn(reader, sheet.memberId, sheet);
  const projectIds = [...entries, ...costLines].flatMap(({ projectId }) => projectId ?? []);
  const projects = await reader.many('projects', [...new Set(projectIds)]);
  return {
    kind: 'timesheet',
    ...making,
    memberId: sheet.memberId,
    previousId: handIns.at(-2)?.id ?? null,
    rows: {
      timesheets: [sheet],
      handIns: [handIn],
      entries: entries.map(entryForStudio),
      costs: costs.map(costForStudio),
      costLines: costLines.map(lineForOther),
      receipts,
    },
    absences: (await reader.by('absences', 'memberId', [sheet.memberId])).filter(
      ({ from, to }) => from <= sheet.to && sheet.from <= to,
    ),
    names: Object.fromEntries(projects.flatMap((row) => (row ? [[row.id, row.name]] : []))),
  };
}
