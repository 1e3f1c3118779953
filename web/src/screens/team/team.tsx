import type { Pricer } from '@half-penny/core/billing';
import { handInPeriodOf } from '@half-penny/core/checking';
import { isDay, type Day } from '@half-penny/core/time';
import { Link, useParams, useSearchParams } from 'react-router';
import { usePricer } from '../../data/book';
import { useMemberPeriods } from '../../data/checking';
import { useMember, useToday } from '../../data/queries';
import { Loading, Page } from '../../parts/page';
import { PartsNav } from '../../parts/parts-nav';
import { Unlisted } from '../../parts/unlisted-jobs';
import { Capacity } from './capacity';
import { ClosedDays } from './closed-days';
import { Periods } from './periods';
import { ToCheckPart } from './to-check';
import { SealedPart } from './sealed-part';
import { Travel } from './travel';
import { useRights } from '../../data/rights';
import type { Right } from '@half-penny/core/model';

const parts = [
  { path: 'weeks', name: 'Who is how far' },
  { path: 'check', name: 'To check', right: 'approve' },
  { path: 'unlisted', name: 'Jobs not set up', right: 'work' },
  { path: 'ahead', name: 'Weeks ahead' },
  { path: 'closed', name: 'Closed days', right: 'close' },
  { path: 'sealed', name: 'Sealed files', right: 'approve' },
] as const satisfies readonly { path: string; name: string; right?: Right }[];

/** Everybody’s time on its way through checking: who handed in, what waits, what is closed, what comes. */
export default function Team() {
  const pricer = usePricer();
  const { part } = useParams();
  if (!pricer)
    return (
      <Page title="Team">
        <Loading />
      </Page>
    );
  if (part === undefined || part === 'weeks') return <WeeksPart pricer={pricer} />;
  return <OtherPart pricer={pricer} part={part} />;
}

function Parts({ current }: { current: string | undefined }) {
  const rights = useRights();
  const own = parts.filter((part) => !('right' in part) || rights.has(part.right));
  return <PartsNav label="Parts of Team" base="/team" parts={own} current={current} />;
}

function WeeksPart({ pricer }: { pricer: Pricer }) {
  const self = useMember(pricer);
  const today = useToday();
  const [params, setParams] = useSearchParams();
  const { part } = useParams();
  const { workspace, members } = pricer.book;
  const asked = params.get('day') ?? '';
  const period = handInPeriodOf(workspace, isDay(asked) ? asked : today);
  const found = useMemberPeriods(
    pricer,
    members.toSorted((a, b) => a.name.localeCompare(b.name)),
    period.from,
    today,
  );
  const go = (day: Day) => setParams({ day });
  return (
    <Page title="Team" aside={<Travel {...{ period, go }} />}>
      <Parts current={part} />
      {members.length < 2 && (
        <p className="mb-4 text-soft">
          You work alone here. Once there are others, under{' '}
          <Link to="/setup/people" className="text-time underline">
            Setup, People
          </Link>
          , their weeks come here to be checked.
        </p>
      )}
      <Periods {...{ pricer, self, found }} day={period.from} />
    </Page>
  );
}

function OtherPart({ pricer, part }: { pricer: Pricer; part: string }) {
  const self = useMember(pricer);
  const today = useToday();
  const rights = useRights();
  const needed = parts.find(({ path }) => path === part);
  if (needed && 'right' in needed && !rights.has(needed.right))
    return (
      <Page title="Team">
        <Parts current={part} />
        <p className="text-soft">Your rights leave this out.</p>
      </Page>
    );
  return (
    <Page title="Team">
      <Parts current={part} />
      {part === 'check' && <ToCheckPart {...{ pricer, self, today }} />}
      {part === 'unlisted' && (
        <Unlisted
          pricer={pricer}
          none={<p className="text-soft">Everything recorded and spent is on a job that is set up.</p>}
        />
      )}
      {part === 'ahead' && <Capacity {...{ pricer, today }} />}
      {part === 'sealed' && <SealedPart pricer={pricer} />}
      {part === 'closed' && <ClosedDays {...{ pricer, self, today }} />}
    </Page>
  );
}
