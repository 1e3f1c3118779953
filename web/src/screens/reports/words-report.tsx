import type { Share } from '@half-penny/core/capture';
import { showLength } from '@half-penny/core/time';
import { useMember } from '../../data/queries';
import { useLookBack } from '../../data/use-look-back';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Page } from '../../parts/page';
import { useRange } from '../../parts/range';
import { useSiftBook } from '../../parts/sift-book';
import type { StandingProps } from './standing-page';
import { TakeOutTable } from './table-out';

const secondsOf = (row: Share): number => Math.floor(row.seen / 1000);
const percentOf = (row: Share): string => (row.percent < 1 ? 'under 1 %' : `${Math.round(row.percent)} %`);

/** For how long words stood in the titles of what was in front. A title of several words counts for each of them. */
export function WordsReport({ pricer, today }: StandingProps) {
  const member = useMember(pricer);
  const { from, to, field } = useRange(today);
  const zone = member?.zone ?? pricer.book.workspace.zone;
  const looked = useLookBack(from, to, zone, pricer.book.workspace.weights, useSiftBook(pricer));
  if (!looked) return <Loading />;
  const rows = looked.by.word;
  const most = rows[0]?.seen ?? 1;
  const columns: Column<Share>[] = [
    {
      key: 'word',
      head: 'Word',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2 [overflow-wrap:anywhere]">{row.key}</span>,
    },
    {
      key: 'share',
      head: 'Share of all in front',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: (row) => (
        <span className="flex items-center gap-2">
          <span aria-hidden className="h-2.5 bg-time" style={{ width: `${(row.seen / most) * 70}%` }} />
          <span className="text-sm text-soft">{percentOf(row)}</span>
        </span>
      ),
    },
    {
      key: 'seen',
      head: 'Noticed',
      width: '100px',
      align: 'end',
      cell: (row) => <span className="font-mono font-semibold text-time">{showLength(secondsOf(row))}</span>,
    },
  ];
  const table = () => [
    ['Word', 'Noticed', 'Share'],
    ...rows.map((row) => [row.key, showLength(secondsOf(row)), percentOf(row)]),
  ];
  return (
    <Page
      title="Attention by words in titles"
      actions={<TakeOutTable name="Attention by words in titles" table={table} />}
    >
      <div className="mb-5 flex flex-wrap items-end gap-4">
        {field}
        <p className="pb-1 text-soft">
          A title of several words counts for each of them, so words come to more than the whole.
        </p>
      </div>
      <Ledger
        label="Words in titles"
        rows={rows}
        rowId={(row) => row.key}
        rowName={(row) => row.key}
        columns={columns}
        empty="This computer’s trail has nothing for these days. Start the agent, or import files, in Sift → Sources."
      />
    </Page>
  );
}
