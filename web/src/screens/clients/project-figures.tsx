import type { Pricer } from '@half-penny/core/billing';
import {
  bandOf,
  nameOf,
  noTally,
  shareOfBand,
  tallyCurrency,
  type BudgetStanding,
  type HeadingSum,
  type ProjectBand,
  type TalliedWork,
} from '@half-penny/core/costing';
import type { Project, Task } from '@half-penny/core/model';
import { lessExact, showAmount } from '@half-penny/core/money';
import { sumWorking } from '@half-penny/core/rates';
import { showLength } from '@half-penny/core/time';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { ProjectMoneyRead } from '../../data/project-money';
import { useStandings, type WorkRows } from '../../data/work';
import { BudgetFill } from '../../parts/budget-fill';
import { Awaited, Worth } from '../../parts/figures';
import { usualRate } from './usual-rate';

interface ProjectFiguresProps {
  pricer: Pricer;
  project: Project;
  tasks: readonly Task[];
  work: WorkRows | undefined;
  tallies: TalliedWork | undefined;
  /** Undefined while it is read; null of work that is never invoiced. */
  money: ProjectMoneyRead | undefined | null;
  /** Whether what an hour sells for is for whoever looks. */
  rates: boolean;
}

/** Where a project stands, before anything else: its money as a drawn band, its hours, its rate, its budgets. */
export function ProjectFigures({ pricer, project, tasks, work, tallies, money, rates }: ProjectFiguresProps) {
  const below = new Set(pricer.tree.downFrom(project.id).map((each) => each.id));
  const standings = useStandings(
    pricer,
    work,
    (budget) => budget.projectId !== null && below.has(budget.projectId) && budget.taskId === null,
  );
  const currency = tallyCurrency(pricer, project.id);
  const seconds = (tallies?.rolled.get(project.id) ?? noTally).seconds;
  const estimate = tasks.reduce((sum, task) => sum + (task.estimate ?? 0), 0);
  return (
    <section aria-label="Where it stands" className="mb-6 border-y border-ink border-b-rule">
      {money !== null && (
        <div className="px-2 py-3">
          {money && bandOf(money.headings).widest === 0 ? (
            <p className="text-sm text-soft">
              Nothing was agreed, worked or billed yet: bars of what was agreed, what it costs and what was billed will
              stand here.
            </p>
          ) : money ? (
            <Bars {...{ pricer, project, currency }} band={bandOf(money.headings)} />
          ) : (
            <div className="flex h-[104px] items-center text-soft">
              <Awaited />
            </div>
          )}
        </div>
      )}
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2 border-t border-rule px-2 py-2 md:grid-cols-3">
        <Fact name="Hours">
          {tallies ? (
            <Link
              to={`/time?project=${project.id}&from=2000-01-01`}
              className="font-mono font-semibold text-time hover:underline"
            >
              {showLength(seconds)} h
            </Link>
          ) : (
            <Awaited />
          )}
          {estimate > 0 && (
            <span className="block text-xs text-soft">its tasks were estimated at {showLength(estimate)} h</span>
          )}
        </Fact>
        {rates && project.kind !== 'internal' && (
          <Fact name="An hour of it">
            <span className="font-mono font-semibold text-money">{usualRate(pricer, project.id) || 'by person'}</span>
            {project.kind !== 'hourly' && <span className="block text-xs text-soft">{project.kind}</span>}
          </Fact>
        )}
        {rates && <BudgetFacts {...{ pricer, standings, currency }} />}
      </dl>
    </section>
  );
}

const Fact = ({ name, children }: { name: string; children: ReactNode }) => (
  <div className="min-w-0">
    <dt className="written clamp-2 text-xs text-soft">{name}</dt>
    <dd>{children}</dd>
  </div>
);

/** As many budgets as stand in a line; the others are in the list below. */
const BUDGETS_SHOWN = 2;

function BudgetFacts(props: { pricer: Pricer; standings: readonly BudgetStanding[]; currency: string }) {
  const { pricer, standings, currency } = props;
  const nearest = standings.toSorted((a, b) => percentOf(b) - percentOf(a)).slice(0, BUDGETS_SHOWN);
  return nearest.map((standing) => (
    <Fact key={standing.budget.id} name={`Budget of ${nameOf(pricer, standing.budget)}`}>
      <BudgetFill standing={standing} currency={currency} />
    </Fact>
  ));
}

const percentOf = ({ hours, money }: BudgetStanding): number => Math.max(hours?.percent ?? 0, money?.percent ?? 0);

interface BarsProps {
  pricer: Pricer;
  project: Project;
  currency: string;
  band: ProjectBand;
}

/** What was agreed, what it costs and what was asked for, over one scale. */
function Bars({ pricer, project, currency, band }: BarsProps) {
  const slip = (title: string, sum: HeadingSum) => () =>
    sumWorking(
      `${project.name}: ${title}`,
      sum.by.map(({ costCodeId, amount }) => ({
        label: costCodeId === null ? 'No cost code' : (pricer.costCode.get(costCodeId)?.name ?? ''),
        minor: amount,
      })),
      currency,
    );
  const figure = (name: string, sum: HeadingSum, mark: Mark) => (
    <span className="flex items-baseline gap-1.5 whitespace-nowrap">
      <Key mark={mark} /> {name}{' '}
      <Worth amount={sum.amount} currency={currency} of={`${name}, ${project.name}`} working={slip(name, sum)} />
    </span>
  );
  const owed = lessExact(band.invoiced.amount, band.paid);
  const share = (amount: number) => shareOfBand(amount, band);
  return (
    <div className="flex flex-col gap-2.5 text-sm">
      <Bar name="Agreed" parts={[['agreed', share(band.agreed.amount)]]}>
        {band.agreed.by.length === 0 ? (
          <span className="text-soft">nothing agreed</span>
        ) : (
          <Worth
            amount={band.agreed.amount}
            currency={currency}
            of={`agreed, ${project.name}`}
            working={slip('agreed', band.agreed)}
          />
        )}
      </Bar>
      <Bar
        name="Costs"
        parts={[
          ['worked', share(band.worked.amount)],
          ['bought', share(band.bought.amount)],
          ['ordered', share(band.ordered.amount)],
        ]}
        {...(band.expected.amount > 0 && { tick: share(band.expected.amount) })}
      >
        {figure('worked', band.worked, 'worked')}
        {band.bought.amount !== 0 && figure('bought', band.bought, 'bought')}
        {band.ordered.amount !== 0 && figure('ordered', band.ordered, 'ordered')}
        {figure('expected final cost', band.expected, 'expected')}
      </Bar>
      <Bar
        name="Billed"
        parts={[
          ['paid', share(band.paid)],
          ['owed', share(owed)],
          ['to bill', share(band.toBill.amount)],
        ]}
      >
        {figure('invoiced', band.invoiced, 'owed')}
        {band.invoiced.amount !== 0 && (
          <span className="flex items-baseline gap-1.5 whitespace-nowrap">
            <Key mark="paid" /> of it paid{' '}
            <span className="font-semibold text-money">{showAmount(band.paid, currency)}</span>
          </span>
        )}
        {figure('to bill', band.toBill, 'to bill')}
      </Bar>
    </div>
  );
}

type Mark = 'agreed' | 'worked' | 'bought' | 'ordered' | 'expected' | 'paid' | 'owed' | 'to bill';

/** Money is copper: full where it has come, lighter where it is only asked for, drawn round where it is not yet. */
const LOOKS: Record<Mark, string> = {
  agreed: 'border border-money',
  worked: 'bg-money/35',
  bought: 'bg-money/60',
  ordered: 'hatched text-money/60',
  expected: 'w-0! border-l-2 border-ink',
  paid: 'bg-money',
  owed: 'bg-money/55',
  'to bill': 'hatched text-money/60',
};

const Key = ({ mark }: { mark: Mark }) => <span aria-hidden className={`inline-block h-2.5 w-2.5 ${LOOKS[mark]}`} />;

interface BarProps {
  name: string;
  parts: readonly (readonly [Mark, number])[];
  /** A mark on the scale: where it will have come to. */
  tick?: number;
  children: ReactNode;
}

function Bar({ name, parts, tick, children }: BarProps) {
  return (
    <div role="group" aria-label={name} className="grid grid-cols-[64px_minmax(0,1fr)] gap-x-3">
      <span className="text-xs leading-5 font-semibold text-soft">{name}</span>
      <span aria-hidden className="relative flex h-4 self-center bg-paper">
        {parts
          .filter(([, share]) => share > 0)
          .map(([mark, share]) => (
            <span key={mark} className={`h-full ${LOOKS[mark]}`} style={{ width: `${share * 100}%` }} />
          ))}
        {tick !== undefined && (
          <span
            className="absolute -inset-y-1 w-0 border-l-2 border-ink"
            style={{ left: `calc(${tick * 100}% - ${tick}px)` }}
          />
        )}
      </span>
      <span className="col-start-2 flex flex-wrap gap-x-5 gap-y-0.5">{children}</span>
    </div>
  );
}
