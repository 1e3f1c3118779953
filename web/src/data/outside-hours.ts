import { readHoursToSend } from '@half-penny/core/commands';
import type { Id } from '@half-penny/core/model';
import type { HoursBack } from '@half-penny/core/outside';
import { useRead } from './read';

/** What of a list's hours is to go back, and what went. */
export interface HoursOfList {
  due: HoursBack[];
  sent: { count: number; seconds: number };
}

/** The same, followed; undefined while it is read. */
export const useHoursDue = (listId: Id): HoursOfList | undefined =>
  useRead(
    async (reader) => {
      // The list may be left while this is on the screen.
      if (!(await reader.get('outsideLists', listId))) return { due: [], sent: { count: 0, seconds: 0 } };
      const due = await readHoursToSend(reader, listId, Date.now());
      const sent = (await reader.by('sentHours', 'listId', [listId])).filter((row) => row.seconds > 0);
      return { due, sent: { count: sent.length, seconds: sent.reduce((sum, row) => sum + row.seconds, 0) } };
    },
    [listId],
  );
