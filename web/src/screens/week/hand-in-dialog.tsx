import { jobName, type Pricer } from '@half-penny/core/billing';
import { countMissing, missingInWords, type MemberPeriod } from '@half-penny/core/entries';
import type { Entry, Member } from '@half-penny/core/model';
import { showExactly, showLength, type Day } from '@half-penny/core/time';
import { type ReactNode } from 'react';
import { Link } from 'react-router';
import { useMemberPeriods } from '../../data/checking';
import { useDoubts } from '../../data/doubts';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortestDay } from '../../parts/days';
import { Dialog } from '../../parts/dialog';
import { Loading } from '../../parts/page';
import { useSubmit } from '../../parts/use-submit';

interface HandInDialogProps {
  pricer: Pricer;
  member: Member;
  day: Day;
  today: Day;
  onClose: () => void;
}

/** What is handed in, and before it what is missing or odd of it, each with the way there. */
export default function HandInDialog({ pricer, member, day, today, onClose }: HandInDialogProps) {
  const found = useMemberPeriods(pricer, [member], day, today)?.[0];
  const doubts = useDoubts(member);
  const { run } = useChanges();
  const { fault, submit } = useSubmit(async () => {
    await run('period.handIn', { memberId: member.id, day });
    onClose();
  });
  const checker = pricer.member.get(member.checkerId ?? '')?.name;
  const open = found && doubts.filter(({ start }) => isWithin(found, start));
  const count = found ? countMissing(found) + (open?.length ?? 0) : 0;
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`Hand in ${found?.period.name ?? ''}`}
      about={
        checker
          ? `It goes to ${checker}, who checks it. Until it comes back or is taken back, nothing on these days changes.`
          : 'Nobody is named to check it; anybody in the studio may.'
      }
    >
      {!found ? (
        <Loading />
      ) : (
        <form onSubmit={submit} className="mt-2 flex flex-col gap-4">
          <p>
            {found.entries.length} {found.entries.length === 1 ? 'entry' : 'entries'},{' '}
            <span className="font-mono text-time">{showLength(found.recorded)}</span> of{' '}
            <span className="font-mono">{showLength(found.owed)}</span> owed
            {found.costs.length > 0 && `, ${found.costs.length} ${found.costs.length === 1 ? 'expense' : 'expenses'}`}.
          </p>
          <div>
            <h3 className="text-sm font-semibold text-soft">
              {count === 0 ? 'Nothing is missing.' : 'Look at these first'}
            </h3>
            {count > 0 && (
              <ul className="border-t border-ink text-sm">
                <Lacks {...{ pricer, member, found }} />
                {open!.map(({ doubt, start, end }) => (
                  <Lack key={doubt.id} to={`/today`} words="Settle it">
                    {showExactly(Math.round((end - start) / 1000))} in doubt: nobody was there
                  </Lack>
                ))}
              </ul>
            )}
          </div>
          {fault && (
            <p role="alert" className="text-sm text-fault">
              {fault}
            </p>
          )}
          <div className="flex justify-end gap-2">
            <Button onClick={onClose}>Not yet</Button>
            <Button type="submit" kind="main">
              {count > 0 ? 'Hand in all the same' : 'Hand in'}
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}

/** Whether a moment lies on recorded time of the period. */
const isWithin = ({ entries }: MemberPeriod, at: number): boolean =>
  entries.some(({ spans }) => spans.some((span) => span.start <= at && at < span.end));

function Lacks({ pricer, member, found }: { pricer: Pricer; member: Member; found: MemberPeriod }) {
  const { missing, overlaps, longDays } = found;
  const on = (day: Day) => `/today?day=${day}&member=${member.id}`;
  const named = (entry: Entry) => (entry.note.trim() || jobName(pricer, entry.projectId, entry.unlisted)).slice(0, 60);
  return (
    <>
      {missing.incomplete.map(({ entry, lacks }) => (
        <Lack key={entry.id} to={`${on(entry.day)}&entry=${entry.id}`} words="Fill it in" needed>
          {showShortestDay(entry.day)} <span className="written">{named(entry)}</span> needs {missingInWords(lacks)}
        </Lack>
      ))}
      {missing.days.map((each) => (
        <Lack key={each.day} to={on(each.day)} words="Open the day">
          {showShortestDay(each.day)}: {showLength(each.missing)} missing of {showLength(each.owed)}
        </Lack>
      ))}
      {missing.undone.map((plan) => (
        <Lack key={plan.id} to={on(plan.day)} words="Open the day">
          {showShortestDay(plan.day)}:{' '}
          <span className="written">{plan.note.trim().slice(0, 60) || 'planned time'}</span> was planned, and nothing is
          recorded for it
        </Lack>
      ))}
      {missing.unlisted.map((job) => (
        <Lack key={job.words} to="/team/unlisted" words="File it">
          <span className="written">“{job.words.slice(0, 60)}”</span> is not set up: {showExactly(job.seconds)}
        </Lack>
      ))}
      {overlaps.length > 0 && (
        <Lack to={on(overlaps[0]!.day)} words="Open the day">
          {overlaps.length} entries overlap one another:{' '}
          <span className="written">{overlaps.slice(0, 3).map(named).join(', ')}</span>
        </Lack>
      )}
      {longDays.map((each) => (
        <Lack key={each.day} to={on(each.day)} words="Open the day">
          {showShortestDay(each.day)} has {showLength(each.seconds)} on it, more than a day has
        </Lack>
      ))}
    </>
  );
}

interface LackProps {
  to: string;
  words: string;
  /** It cannot be handed in with it. */
  needed?: boolean;
  children: ReactNode;
}

const Lack = ({ to, words, needed = false, children }: LackProps) => (
  <li className="flex items-baseline gap-3 border-b border-rule py-1.5">
    <span className={`min-w-0 flex-1 ${needed ? 'text-fault' : 'text-attention'}`}>{children}</span>
    <Link to={to} className="shrink-0 text-time underline">
      {words}
    </Link>
  </li>
);
