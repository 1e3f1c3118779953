import { jobName, type Pricer } from '@half-penny/core/billing';
import type { Member } from '@half-penny/core/model';
import type { EndedTimer } from '../../data/database';
import { useAll, useRead } from '../../data/read';
import { useSession } from '../../data/session';
import { editBook } from '../../data/sharing/book';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { showTime } from '../../parts/spans';

interface EndedTimersProps {
  ended: readonly EndedTimer[];
  pricer: Pricer;
  member: Member;
}

/** Timers that ended because another was started later, elsewhere: one runs over all devices. */
export default function EndedTimers({ ended, pricer, member }: EndedTimersProps) {
  const { entry: workspace } = useSession();
  const devices = useAll('devices');
  const entries = useRead(
    async (reader) => {
      const found = await Promise.all(ended.map(({ entryId }) => reader.get('entries', entryId)));
      return found.filter((entry) => entry !== undefined);
    },
    [ended],
  );
  if (!devices || !entries || entries.length === 0) return null;
  const seen = () =>
    void editBook(workspace.id, (row) => {
      delete row.ended;
    });
  const nameOf = new Map(devices.map(({ id, name }) => [id, name]));
  return (
    <section
      aria-label="Timers that ended"
      className="mb-5 flex flex-wrap items-center gap-x-4 gap-y-2 border-y border-time px-3 py-2.5"
    >
      <ul className="min-w-56 flex-1 text-sm">
        {entries.map((entry) => {
          const end = entry.spans.at(-1)?.end;
          const by = ended.find(({ entryId }) => entryId === entry.id)!.device;
          return (
            <li key={entry.id}>
              <span className="written">{entry.note.trim() || jobName(pricer, entry.projectId, entry.unlisted)}</span>{' '}
              ended on {showShortDay(entry.day)}
              {end !== undefined && (
                <>
                  {' '}
                  at <b className="font-mono">{showTime(end, member.zone)}</b>
                </>
              )}
              , when a timer was started on {nameOf.get(by) ?? 'another device'}.
            </li>
          );
        })}
      </ul>
      <Button onClick={seen}>All right</Button>
    </section>
  );
}
