import { useAll, useRead } from '../../data/read';
import { figureAt, plainDefinition, type Definition } from '@half-penny/core/reports';
import { nameOf, projectsUnder, tallyCurrency } from '@half-penny/core/costing';
import { showAmount } from '@half-penny/core/money';
import { lastMonths, showLength, type Day } from '@half-penny/core/time';
import type { Member } from '@half-penny/core/model';
import { givenUp, sumGivenUp, type Pricer } from '@half-penny/core/billing';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useMember } from '../../data/queries';
import { useSession } from '../../data/session';
import { useStandings, useWorkRows } from '../../data/work';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Page } from '../../parts/page';
import { worthOfLoose } from '../../parts/till/loose-worth';
import { readOutsideMarks } from '../../data/outside-marks';
import { siftBookOf } from '../../parts/sift-book';
import { captureWork } from '../../workers/capture';
import { inAddress } from './address';
import type { StandingProps } from './standing-page';
import { TakeOutTable } from './table-out';
import { useReport } from './use-report';
import { useWorthSeen } from '../../data/worth-seen';

interface Loss {
  key: string;
  what: string;
  length: string;
  worth: string;
  to: string | null;
  remark: string;
}

const MONTHS = 3;

/**
 * Time never placed with its likely worth, write-downs by reason, discounts and credits for good, hours above caps, and rounding: the
 * last three months.
 */
export function LostReport({ pricer, today }: StandingProps) {
  const member = useMember(pricer);
  const { from } = lastMonths(today, MONTHS);
  const when = useMemo((): Definition['when'] => ({ kind: 'fixed', from, to: today }), [from, today]);
  const question = useMemo(
    (): Definition => ({
      ...plainDefinition,
      rows: ['reason'],
      measures: ['written down', 'written down length', 'written off', 'gain', 'gain worth'],
      when,
    }),
    [when],
  );
  const { answer, fault } = useReport(question, today, { pricer, member });
  const loose = useLoose(pricer, member, from, today);
  const caps = useAboveCaps(pricer);
  const papers = useGivenUp(from, today);
  if (fault) return <Page title="What was lost">{fault}</Page>;
  if (!answer || loose === undefined || !caps || !papers) return <Loading />;
  const money = (measure: 'written down' | 'written off' | 'gain worth', row: number) =>
    answer.currencies
      .map((currency, c) => ({ currency, value: figureAt(answer, measure, row, 0, c) ?? 0 }))
      .filter(({ value }) => value !== 0)
      .map(({ currency, value }) => showAmount(value, currency))
      .join(', ');
  const ask = (definition: Definition) => `/reports/ask/new?ask=${encodeURIComponent(inAddress(definition))}`;
  const losses: Loss[] = [
    ...(loose
      ? [
          {
            key: 'loose',
            what: 'Noticed and never placed',
            length: showLength(loose.seconds),
            worth: loose.worth && `about ${loose.worth}`,
            to: '/sift',
            remark: 'by this computer’s trail, if placed as offered',
          },
        ]
      : []),
    ...answer.rows.flatMap((row, index): Loss[] => {
      const worth = money('written down', index);
      if (row.depth !== 1 || !worth) return [];
      const filters = [{ field: 'reason' as const, keys: [row.key], without: false }];
      const to = ask({ ...question, rows: ['client', 'project', 'member'], measures: ['written down'], filters });
      const seconds = figureAt(answer, 'written down length', index) ?? 0;
      const length = seconds === 0 ? '' : showLength(seconds);
      return [{ key: `down ${row.key}`, what: `Written down: ${row.label}`, length, worth, to, remark: '' }];
    }),
    ...(money('written off', 0)
      ? [
          {
            key: 'off',
            what: 'Invoiced and given up',
            length: '',
            worth: money('written off', 0),
            to: ask({ ...question, rows: ['client'], measures: ['written off'] }),
            remark: 'before tax',
          },
        ]
      : []),
    ...papers,
    ...caps,
    {
      key: 'rounding',
      what: 'Rounding of lengths',
      length: showLength(figureAt(answer, 'gain', 0) ?? 0),
      worth: money('gain worth', 0) || showAmount(0, answer.currencies[0]!),
      to: ask({ ...question, rows: ['client', 'project'], measures: ['billable', 'billed', 'gain', 'gain worth'] }),
      remark: 'gained where it is above nothing, lost where below',
    },
  ];
  const cell = (of: (loss: Loss) => ReactNode) => of;
  const columns: Column<Loss>[] = [
    {
      key: 'what',
      head: 'What',
      width: 'minmax(0,1fr)',
      cell: cell((row) => (
        <>
          {row.to ? (
            <Link to={row.to} tabIndex={-1} className="written clamp-2 hover:underline">
              {row.what}
            </Link>
          ) : (
            <span className="written clamp-2">{row.what}</span>
          )}
          {row.remark && <span className="block text-xs text-soft">{row.remark}</span>}
        </>
      )),
    },
    {
      key: 'length',
      head: 'Length',
      width: '110px',
      wideOnly: true,
      align: 'end',
      cell: (row) => <span className="font-mono text-time">{row.length}</span>,
    },
    {
      key: 'worth',
      head: 'Worth',
      width: 'minmax(110px,190px)',
      align: 'end',
      cell: (row) => <span className="font-mono text-money">{row.worth}</span>,
    },
  ];
  const table = () => [
    ['What', 'Length', 'Worth', 'Remark'],
    ...losses.map((row) => [row.what, row.length, row.worth, row.remark]),
  ];
  return (
    <Page
      title="What was lost"
      aside={`the last ${MONTHS} months`}
      actions={<TakeOutTable name="What was lost" table={table} />}
    >
      <Ledger
        label="What was lost"
        rows={losses}
        rowId={(row) => row.key}
        rowName={(row) => row.what}
        columns={columns}
        empty="Nothing."
      />
    </Page>
  );
}

/** What the trail noticed and nobody placed; null where there is no trail. */
function useLoose(pricer: Pricer, member: Member | undefined, from: Day, to: Day) {
  const { entry, reader } = useSession();
  const seen = useWorthSeen(pricer);
  const [loose, setLoose] = useState<{ seconds: number; worth: string } | null>();
  useEffect(() => {
    if (!member) return setLoose(null);
    let left = false;
    const ask = async () => {
      const entries = await reader.by('entries', 'memberId', [member.id]);
      const taken = entries
        .filter((row) => row.day >= from && row.day <= to && row.stretchIds.length === 0)
        .flatMap((row) => row.spans);
      const book = siftBookOf(pricer, entry.id, await readOutsideMarks(reader, pricer));
      const days = await captureWork().sift({ from, to, zone: member.zone, taken, covered: false, book });
      const rows = days.flatMap((day) => day.rows).filter((row) => !row.stretch.outcome);
      const seconds = Math.floor(rows.reduce((sum, row) => sum + row.stretch.seen, 0) / 1000);
      return seconds === 0 ? null : { seconds, worth: worthOfLoose(pricer, seen, member, entry.id, rows) };
    };
    ask().then(
      (found) => !left && setLoose(found),
      () => !left && setLoose(null),
    );
    return () => void (left = true);
  }, [entry.id, reader, pricer, seen, member, from, to]);
  return loose;
}

const paperWords = {
  discount: ['Discounts on invoices', 'before tax, with the hours it stands for'],
  'credited for good': ['Credited for good', 'before tax; it never comes back to bill'],
} as const;

/** What issued papers gave up: discounts, and what was credited and is not to bill again. */
function useGivenUp(from: Day, to: Day): Loss[] | undefined {
  return useRead(
    async (reader) => {
      const invoices = await reader.all('invoices');
      const allocations = await reader.by(
        'allocations',
        'invoiceId',
        invoices.map((row) => row.id),
      );
      const found = givenUp(invoices, allocations, { from, to });
      return (['discount', 'credited for good'] as const).flatMap((what): Loss[] => {
        const own = found.filter((row) => row.what === what);
        if (own.length === 0) return [];
        const { seconds, amounts } = sumGivenUp(own);
        const [name, remark] = paperWords[what];
        const numbers = own.map((row) => row.invoice.frozen!.number);
        const which =
          numbers.length > 3 ? `${numbers.slice(0, 3).join(', ')} and ${numbers.length - 3} more` : numbers.join(', ');
        return [
          {
            key: what,
            what: name,
            length: seconds === 0 ? '' : showLength(seconds),
            worth: amounts.map(({ currency, amount }) => showAmount(amount, currency)).join(', '),
            to: own.length === 1 ? `/billing/invoice/${own[0]!.invoice.id}` : '/billing',
            remark: `${which}; ${remark}`,
          },
        ];
      });
    },
    [from, to],
  );
}

/** Worth beyond what may be invoiced, for each cap that was passed. */
function useAboveCaps(pricer: Pricer): Loss[] | undefined {
  const budgets = useAll('budgets');
  const projectIds = useMemo(
    () => [...new Set((budgets ?? []).filter((row) => row.cap).flatMap((row) => projectsUnder(pricer, row)))],
    [budgets, pricer],
  );
  const work = useWorkRows(projectIds);
  const standings = useStandings(pricer, work, isCap);
  if (!budgets || !work) return undefined;
  return standings
    .filter(({ money }) => money !== null && money.left < 0)
    .map(({ budget, money }) => ({
      key: `cap ${budget.id}`,
      what: `Above the cap of ${nameOf(pricer, budget)}`,
      length: '',
      worth: showAmount(-money!.left, tallyCurrency(pricer, projectsUnder(pricer, budget)[0] ?? null)),
      to: '/reports/standing/burn',
      remark: 'worth that may not be invoiced',
    }));
}

const isCap = ({ cap }: { cap: boolean }): boolean => cap;
