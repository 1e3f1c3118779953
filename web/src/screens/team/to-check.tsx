import type { Pricer } from '@half-penny/core/billing';
import type { Id, Member } from '@half-penny/core/model';
import { weekPeriodOf, type Day } from '@half-penny/core/time';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { dayOfChecked, useToCheck, type ToCheck } from '../../data/checking';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Reading } from '../../parts/figures';
import { Ledger } from '../../parts/ledger';
import { Select, type Option } from '../../parts/select';
import { checkColumns, hoursOf, nameOfRow } from './check-columns';
import { SendBackDialog } from './send-back-dialog';
import { useWorthSeen } from '../../data/worth-seen';

type By = 'member' | 'client' | 'project' | 'week';

/** Everything that lies with whoever works here: by member, client, project or week, to approve at once or to send back. */
export function ToCheckPart({ pricer, self, today }: { pricer: Pricer; self: Member | undefined; today: Day }) {
  const changes = useChanges();
  const all = useToCheck(pricer, self?.id ?? null, today);
  const [params, setParams] = useSearchParams();
  const seen = useWorthSeen(pricer);
  // What was left out rather than what was chosen: what is handed in meanwhile is chosen like the rest.
  const [left, setLeft] = useState<ReadonlySet<Id>>(new Set());
  const [sending, setSending] = useState<readonly ToCheck[] | null>(null);
  const rows = useMemo(
    () =>
      all?.filter((row) =>
        (['member', 'client', 'project', 'week'] as const).every((by) => fits(pricer, row, by, params.get(by))),
      ),
    [all, pricer, params],
  );
  if (!all || !rows) return <Reading />;
  const set = (by: By, value: string) =>
    setParams(
      (now) => {
        if (value) now.set(by, value);
        else now.delete(by);
        return now;
      },
      { replace: true },
    );
  const chosen = rows.filter((row) => !left.has(row.id));
  const approve = () => void changes.attempt('period.approve', { ids: [], ...idsOf(chosen) });
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <Filters {...{ pricer, all, params, set }} />
        <span className="ml-auto flex gap-2">
          <Button disabled={chosen.length === 0} onClick={() => setSending(chosen)}>
            Send back…
          </Button>
          <Button kind="main" disabled={chosen.length === 0} onClick={approve}>
            {chosen.length === 0 ? 'Approve' : `Approve ${chosen.length}, ${hoursOf(chosen)}`}
          </Button>
        </span>
      </div>
      <Ledger
        label="To check"
        rows={rows}
        rowId={(row) => row.id}
        rowName={(row) => nameOfRow(row.member, row)}
        columns={checkColumns({ pricer, seen, rows, changes, canChange: true, named: true })}
        selection={{
          selected: new Set(chosen.map(({ id }) => id)),
          onChange: (next) => setLeft(new Set(rows.map(({ id }) => id).filter((id) => !next.has(id)))),
        }}
        footLabel="Total"
        dense
        empty={
          all.length > 0
            ? 'Nothing matches.'
            : 'Nothing waits for you. What members hand in comes here until it is approved or sent back.'
        }
      />
      {sending && (
        <SendBackDialog
          what={{ ids: [], ...idsOf(sending) }}
          about={`${sending.length} ${sending.length === 1 ? 'line goes' : 'lines go'} back to ${peopleIn(sending)}, open to be changed.`}
          onClose={() => setSending(null)}
        />
      )}
    </>
  );
}

const peopleIn = (rows: readonly ToCheck[]): string => [...new Set(rows.map(({ member }) => member.name))].join(', ');

export const idsOf = (rows: readonly ToCheck[]): { entryIds: Id[]; costIds: Id[] } => ({
  entryIds: rows.flatMap((row) => (row.kind === 'entry' ? [row.id] : [])),
  costIds: rows.flatMap((row) => (row.kind === 'cost' ? [row.id] : [])),
});

const projectsOf = (row: ToCheck): (Id | null)[] =>
  row.kind === 'entry' ? [row.entry.projectId] : row.lines.map(({ projectId }) => projectId);

/** What a row is found by: its member, the clients and projects that it is for, the first day of its week. */
function keysOf(pricer: Pricer, row: ToCheck, by: By): string[] {
  if (by === 'member') return [row.member.id];
  if (by === 'week') return [weekPeriodOf(dayOfChecked(row), pricer.book.workspace.cutOff).from];
  const projectIds = projectsOf(row).filter((id) => id !== null);
  return by === 'project' ? projectIds : projectIds.flatMap((id) => pricer.clientOf(id)?.id ?? []);
}

const fits = (pricer: Pricer, row: ToCheck, by: By, wanted: string | null): boolean =>
  !wanted || keysOf(pricer, row, by).includes(wanted);

interface FiltersProps {
  pricer: Pricer;
  all: readonly ToCheck[];
  params: URLSearchParams;
  set: (by: By, value: string) => void;
}

function Filters({ pricer, all, params, set }: FiltersProps) {
  const named: Record<By, (key: string) => string> = {
    member: (key) => pricer.member.get(key)?.name ?? '',
    client: (key) => pricer.client.get(key)?.name ?? '',
    project: (key) => pricer.tree.pathOf(key),
    week: (key) => weekPeriodOf(key, pricer.book.workspace.cutOff).name,
  };
  const labels: Record<By, string> = {
    member: 'Everybody',
    client: 'Every client',
    project: 'Every project',
    week: 'Every week',
  };
  const names: Record<By, string> = { member: 'Whose', client: 'Client', project: 'Project', week: 'Week' };
  return (Object.keys(labels) as By[]).map((by) => {
    const keys = [...new Set(all.flatMap((row) => keysOf(pricer, row, by)))];
    const options: Option[] = keys.map((key) => [key, named[by](key)] as const);
    const sorted = by === 'week' ? options.sort() : options.sort((a, b) => a[1].localeCompare(b[1]));
    return (
      <Select
        key={by}
        name={names[by]}
        value={params.get(by) ?? ''}
        onPick={(value) => set(by, value)}
        className="w-auto!"
        options={[['', labels[by]], ...sorted]}
      />
    );
  });
}
