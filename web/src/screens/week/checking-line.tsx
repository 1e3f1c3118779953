import type { Pricer } from '@half-penny/core/billing';
import { isHandedIn, mayCheck } from '@half-penny/core/checking';
import type { MemberPeriod } from '@half-penny/core/entries';
import type { Member, Step } from '@half-penny/core/model';
import type { Day } from '@half-penny/core/time';
import { lazy, Suspense, useState } from 'react';
import { Link } from 'react-router';
import { useMemberPeriods, useSheetHistory } from '../../data/checking';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { showMoment, showShortestDay } from '../../parts/days';
import { Corrections } from '../../parts/differences';
import { StandingWay } from '../../parts/standing-way';

const HandInDialog = lazy(() => import('./hand-in-dialog'));

interface CheckingLineProps {
  pricer: Pricer;
  member: Member;
  /** A day of the week that is shown. */
  day: Day;
  today: Day;
}

/** How far the member's week or billing period is, what was said of it, and what comes next. */
export function CheckingLine({ pricer, member, day, today }: CheckingLineProps) {
  const found = useMemberPeriods(pricer, [member], day, today)?.[0];
  const history = useSheetHistory(found?.sheet);
  const { attempt } = useChanges();
  const { memberId } = useSession();
  const [handing, setHanding] = useState(false);
  if (!found) return null;
  const { sheet, standing, period } = found;
  const last = sheet?.steps.at(-1);
  const isOpen = !isHandedIn(sheet) && standing !== 'closed';
  const hasBegun = period.from <= today;
  // Whose it is hands in, or whoever checks them.
  const isTheirs = memberId === member.id || mayCheck(member, memberId);
  return (
    <section aria-label="Checking" className="mb-4 border-y border-rule bg-side px-3 py-2 print:hidden">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <StandingWay standing={standing} />
        <span className="text-sm text-soft">
          {period.name}
          {last && <span className="ml-3">{stepInWords(pricer, member, last)}</span>}
        </span>
        <span className="ml-auto flex gap-2">
          {isTheirs && isHandedIn(sheet) && standing === 'handed in' && (
            <Button kind="quiet" onClick={() => void attempt('period.takeBack', { id: sheet!.id })}>
              Take back
            </Button>
          )}
          {isTheirs && isOpen && hasBegun && <Button onClick={() => setHanding(true)}>Hand in…</Button>}
        </span>
      </div>
      {standing === 'sent back' && <SentBack {...{ pricer, member, found }} reason={last?.reason ?? ''} />}
      {history && history.corrections.length > 0 && (
        <details className="mt-2 text-sm">
          <summary className="cursor-pointer text-time">
            {history.corrections.length === 1
              ? '1 entry was changed while it was checked'
              : `${history.corrections.length} changes were made while it was checked`}
          </summary>
          <Corrections pricer={pricer} rows={history.corrections} />
        </details>
      )}
      {handing && (
        <Suspense>
          <HandInDialog {...{ pricer, member, today }} day={period.from} onClose={() => setHanding(false)} />
        </Suspense>
      )}
    </section>
  );
}

/** "handed in by Wren Okafor, 13 Nov 2026, 17:02". */
function stepInWords(pricer: Pricer, member: Member, step: Step): string {
  const who = pricer.member.get(step.byId)?.name ?? 'somebody who left';
  return `${step.kind} by ${who}, ${showMoment(step.at, member.zone)}`;
}

/** Why it came back, and the entries that it is about, each with the way to it. */
function SentBack({
  pricer,
  member,
  found,
  reason,
}: Omit<CheckingLineProps, 'day' | 'today'> & { found: MemberPeriod; reason: string }) {
  const given = found.entries.filter(({ sentBack }) => sentBack);
  return (
    <div className="mt-2 text-sm">
      <p className="written border-l-[3px] border-attention bg-attention-ground px-3 py-1.5">“{reason}”</p>
      {given.length > 0 && (
        <ul className="mt-1 flex flex-wrap gap-x-5 gap-y-1 px-3">
          {given.map((entry) => (
            <li key={entry.id}>
              <Link
                to={`/today?day=${entry.day}&member=${member.id}&entry=${entry.id}`}
                className="rounded-sm underline-offset-4 hover:underline"
              >
                {showShortestDay(entry.day)}{' '}
                <span className="written">
                  {entry.note.trim().slice(0, 60) || pricer.project.get(entry.projectId ?? '')?.name || 'no note'}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
