import type { Member } from '@half-penny/core/model';
import { boundsOfDay, type Day } from '@half-penny/core/time';
import { usePlanned } from '../../data/feeds';
import { showSpan } from '../../parts/spans';

/** What calendars that are followed have planned for a day and what is not over yet. */
export function Planned({ member, day }: { member: Member; day: Day }) {
  const { start, end } = boundsOfDay(day, member.zone);
  const planned = usePlanned(start, end);
  if (planned.length === 0) return null;
  return (
    <section aria-label="Planned" className="mb-3 flex flex-wrap gap-x-5 gap-y-1 text-sm">
      <h2 className="font-semibold text-soft">Planned</h2>
      {planned.map((each) => (
        <span key={`${each.start} ${each.title}`}>
          <span className="font-mono">{showSpan(each, member.zone)}</span> <span className="written">{each.title}</span>
        </span>
      ))}
    </section>
  );
}
