import type { Closing } from '@half-penny/core/model';
import { useMember } from '../../data/queries';
import { useAll } from '../../data/read';
import { showMoment, showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Page } from '../../parts/page';
import type { StandingProps } from './standing-page';
import { TakeOutTable } from './table-out';

/** Days that were closed and opened again: whose, by whom, when, and why. */
export function ClosedReport({ pricer }: StandingProps) {
  const closings = useAll('closings');
  const self = useMember(pricer);
  if (!closings) return <Loading />;
  const zone = self?.zone ?? pricer.book.workspace.zone;
  const nameOf = (id: string) => pricer.member.get(id)?.name ?? 'Somebody who left';
  // What was opened again comes first: that is what one looks for.
  const rows = closings.toSorted(
    (a, b) => Number(b.reopened !== null) - Number(a.reopened !== null) || (a.from < b.from ? 1 : -1),
  );
  const days = ({ from, to }: Closing) => `${showShortDay(from)} – ${showShortDay(to)}`;
  const whose = ({ memberId }: Closing) => (memberId === null ? 'Everybody, and costs' : nameOf(memberId));
  const columns: Column<Closing>[] = [
    { key: 'days', head: 'Days', width: '210px', cell: days },
    {
      key: 'whose',
      head: 'Whose',
      width: 'minmax(0,0.8fr)',
      cell: (row) => <span className="written clamp-2">{whose(row)}</span>,
    },
    {
      key: 'closed',
      head: 'Closed',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: ({ byId, at }) => <By name={nameOf(byId)} at={showMoment(at, zone)} />,
    },
    {
      key: 'reopened',
      head: 'Opened again',
      width: 'minmax(0,1fr)',
      cell: ({ reopened }) =>
        reopened ? (
          <By name={nameOf(reopened.byId)} at={showMoment(reopened.at, zone)} />
        ) : (
          <span className="text-soft">–</span>
        ),
    },
    {
      key: 'why',
      head: 'Why',
      width: 'minmax(0,1.2fr)',
      ownLine: true,
      cell: ({ reopened }) => reopened && <span className="written clamp-2">“{reopened.reason}”</span>,
    },
  ];
  const table = () => [
    ['Days', 'Whose', 'Closed by', 'Closed', 'Opened again by', 'Opened again', 'Why'],
    ...rows.map((row) => [
      days(row),
      whose(row),
      nameOf(row.byId),
      showMoment(row.at, zone),
      row.reopened ? nameOf(row.reopened.byId) : '',
      row.reopened ? showMoment(row.reopened.at, zone) : '',
      row.reopened?.reason ?? '',
    ]),
  ];
  return (
    <Page title="Closed and opened again" actions={<TakeOutTable name="Closed and opened again" table={table} />}>
      <Ledger
        label="Closed and opened again"
        rows={rows}
        rowId={(row) => row.id}
        rowName={days}
        columns={columns}
        marked={({ reopened }) => reopened !== null}
        empty="Nothing was closed yet. Days are closed under Team."
      />
    </Page>
  );
}

const By = ({ name, at }: { name: string; at: string }) => (
  <>
    <span className="written">{name}</span>
    <span className="block text-xs text-soft">{at}</span>
  </>
);
