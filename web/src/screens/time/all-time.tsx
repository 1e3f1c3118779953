import { explainPriced, jobName, whereabouts, type Pricer } from '@half-penny/core/billing';
import { tagsOf, type Entry } from '@half-penny/core/model';
import { showAmount, sumExact } from '@half-penny/core/money';
import { addDays, type Day } from '@half-penny/core/time';
import { useCallback, useMemo, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { useAllTime, type TimeRow } from '../../data/all-time';
import { usePricer } from '../../data/book';
import { useMember, useSeenMembers, useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { showShortDay } from '../../parts/days';
import { lengthForEditing, saveLength } from '../../parts/editing';
import { TextField } from '../../parts/field';
import { SelectField, type Option } from '../../parts/select';
import { useWorthSeen } from '../../data/worth-seen';
import { Length, Worth } from '../../parts/figures';
import { JobPicker } from '../../parts/job-picker';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Page } from '../../parts/page';
import { PeriodPicker } from '../../parts/period-picker';
import { Slip } from '../../parts/slip';
import { TagWords } from '../../parts/tag-words';
import { ActionBar, useActionKeys, useActions, type Action } from '../../parts/actions';

/** How far back the list begins: longer ago is asked for by the period. */
const LATELY = 90;
/** What was written down ahead, such as a day of next week, is on it as well. */
const AHEAD = 7;

/** What of the list is shown; it stands in the address, so that one can come back to it. */
interface Asked {
  words: string;
  where: string;
  client: string;
  project: string;
  task: string;
  member: string;
}

/** Everybody's time as one list: whether it is to bill, on a draft, invoiced or paid. */
export default function AllTime() {
  const pricer = usePricer();
  const today = useToday();
  const [params, setParams] = useSearchParams();
  const from = params.get('from') ?? addDays(today, -LATELY);
  const to = params.get('to') ?? addDays(today, AHEAD);
  const rows = useAllTime(pricer, from, to, today);
  const asked: Asked = {
    words: params.get('words') ?? '',
    where: params.get('where') ?? '',
    client: params.get('client') ?? '',
    project: params.get('project') ?? '',
    task: params.get('task') ?? '',
    member: params.get('member') ?? '',
  };
  const ask = (changes: Partial<Asked> & { from?: Day; to?: Day }) => {
    const next = new URLSearchParams(params);
    for (const [key, value] of Object.entries(changes)) {
      if (value) next.set(key, value);
      else next.delete(key);
    }
    setParams(next, { replace: true });
  };
  if (!pricer || !rows)
    return (
      <Page title="All time">
        <Loading />
      </Page>
    );
  return <Sheet {...{ pricer, today, rows, asked, ask, from, to }} />;
}

interface SheetProps {
  pricer: Pricer;
  today: Day;
  rows: TimeRow[];
  asked: Asked;
  ask: (changes: Partial<Asked> & { from?: Day; to?: Day }) => void;
  from: Day;
  to: Day;
}

function Sheet({ pricer, today, rows: all, asked, ask, from, to }: SheetProps) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const self = useMember(pricer);
  const worth = useWorthSeen(pricer);
  const [active, setActive] = useState<string | null>(null);
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const rows = useMemo(() => all.filter((row) => fits(pricer, row, asked)), [pricer, all, asked]);
  const current = rows.find((row) => row.entry.id === active) ?? rows[0];
  const owner = pricer.member.get(current?.entry.memberId ?? '') ?? self ?? pricer.book.members[0]!;
  const { act: begin, windows } = useActions(pricer, owner);
  const act = useCallback(
    (action: Action, entries: readonly Entry[]) => {
      begin(action, entries);
      setSelected(new Set());
    },
    [begin],
  );
  const ticked = rows.filter((row) => selected.has(row.entry.id)).map((row) => row.entry);
  const meant = (row: TimeRow | undefined): Entry[] =>
    ticked.length > 0 && (!row || selected.has(row.entry.id)) ? ticked : row ? [row.entry] : [];
  const keys = useActionKeys(act, meant);
  const several = pricer.book.members.length > 1;
  const columns: Column<TimeRow>[] = [
    {
      key: 'day',
      head: 'Day',
      width: '104px',
      cell: ({ entry }) => (
        <Link
          tabIndex={-1}
          to={`/today?day=${entry.day}&member=${entry.memberId}&entry=${entry.id}`}
          className="whitespace-nowrap underline-offset-4 hover:underline"
        >
          {showShortDay(entry.day)}
        </Link>
      ),
    },
    {
      key: 'note',
      head: 'What was done',
      width: 'minmax(0,1.3fr)',
      cell: ({ entry }) => (
        <>
          <span className="written clamp-2">{entry.note || <span className="text-soft">No note</span>}</span>
          <span className="written clamp-1 text-xs text-soft">
            {[
              several ? pricer.member.get(entry.memberId)?.name : '',
              entry.serviceId === null ? '' : pricer.service.get(entry.serviceId)?.name,
            ]
              .filter(Boolean)
              .join(' · ')}
          </span>
          <TagWords tags={tagsOf(entry)} />
        </>
      ),
      edit: {
        text: ({ entry }) => entry.note,
        save: ({ entry }, note) => run('entry.edit', { id: entry.id, note }),
      },
    },
    {
      key: 'job',
      head: 'Job',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: ({ entry }) => (
        <JobPicker
          pricer={pricer}
          label="Job"
          value={entry}
          onPick={(job) => void run('entry.edit', { id: entry.id, ...job }).catch(() => undefined)}
        />
      ),
    },
    {
      key: 'where',
      head: 'Standing',
      width: '96px',
      wideOnly: true,
      cell: ({ where, sentTo }) => (
        <>
          <span className={looks[where] ?? 'text-soft'}>{where}</span>
          {sentTo && <span className="written clamp-2 text-xs text-soft">sent to {sentTo}</span>}
        </>
      ),
    },
    {
      key: 'recorded',
      head: 'Recorded',
      width: '92px',
      align: 'end',
      cell: ({ entry }) => <Length seconds={entry.seconds} />,
      edit: {
        text: ({ entry }) => lengthForEditing(entry.seconds),
        save: ({ entry }, text) => saveLength(run, entry, pricer.member.get(entry.memberId) ?? owner, text),
      },
      foot: <Length seconds={rows.reduce((sum, row) => sum + row.entry.seconds, 0)} />,
    },
    ...(worth.any ? [worthColumn(pricer, rows)] : []),
  ];
  return (
    <Page
      title="All time"
      aside={
        <span className="flex flex-wrap gap-x-3">
          {rows.length} {rows.length === 1 ? 'entry' : 'entries'}
          <Length seconds={rows.reduce((sum, row) => sum + row.entry.seconds, 0)} />
          <span className="font-semibold text-money">
            <Sums rows={rows} />
          </span>
        </span>
      }
      side={current && worth.on(current.entry.projectId) && <Slip working={explainPriced(pricer, current.priced)} />}
    >
      <Filters {...{ pricer, today, asked, ask, from, to }} />
      <Ledger
        label="All time"
        rows={rows}
        rowId={(row) => row.entry.id}
        rowName={(row) => row.entry.note || jobName(pricer, row.entry.projectId, row.entry.unlisted)}
        columns={columns}
        selection={{ selected, onChange: setSelected }}
        keys={keys}
        onActive={(row) => setActive(row.entry.id)}
        onOpen={({ entry }) => void navigate(`/today?day=${entry.day}&member=${entry.memberId}&entry=${entry.id}`)}
        onDelete={(row) => act('delete', meant(row))}
        footLabel="Together"
        empty={
          all.length === 0
            ? 'Nothing is recorded in these days. Choose a longer period, or start the timer in the Till with the . key.'
            : 'Nothing of these days matches. Take a filter off.'
        }
      />
      <ActionBar entries={ticked.length > 0 ? ticked : meant(current)} ticked={ticked.length > 0} act={act} />
      {windows}
    </Page>
  );
}

const looks: Partial<Record<TimeRow['where'], string>> = {
  'to bill': 'font-semibold text-money',
  'on a draft': 'text-money',
  invoiced: 'text-ink',
  paid: 'text-time',
};

function Filters({ pricer, today, asked, ask, from, to }: Omit<SheetProps, 'rows'>) {
  const seen = useSeenMembers(pricer);
  const { book } = pricer;
  const task = pricer.task.get(asked.task);
  const project = pricer.project.get(task?.projectId ?? asked.project);
  const named = (rows: readonly { id: string; name: string }[], every: string): Option[] => [
    ['', every],
    ...[...rows].sort((a, b) => a.name.localeCompare(b.name)).map((row) => [row.id, row.name] as const),
  ];
  return (
    <div className="mb-4 flex flex-wrap items-end gap-3 print:hidden">
      <TextField
        label="Words in note, job or tag"
        type="search"
        value={asked.words}
        onChange={(event) => ask({ words: event.target.value })}
        className="w-52"
      />
      <SelectField
        label="Standing"
        value={asked.where}
        options={[['', 'All'], ...whereabouts.map((each) => [each, each] as const)]}
        onPick={(picked) => ask({ where: picked })}
        className="w-32"
      />
      <SelectField
        label="Client"
        value={asked.client}
        options={named(book.clients, 'All clients')}
        onPick={(picked) => ask({ client: picked, project: '', task: '' })}
        className="w-48"
      />
      {seen.length > 1 && (
        <SelectField
          label="Who"
          value={asked.member}
          options={named(seen, 'Everybody')}
          onPick={(picked) => ask({ member: picked })}
          className="w-36"
        />
      )}
      <PeriodPicker
        workspace={book.workspace}
        today={today}
        {...{ from, to }}
        onPick={(next, until) => ask({ from: next, to: until })}
      />
      {project && (
        <span className="flex items-center gap-2 rounded-md border border-strong px-2 py-1 text-sm">
          <span className="written clamp-1">
            {task ? `${task.name}, ${project.name}` : pricer.tree.pathOf(project.id)}
          </span>
          <button type="button" className="text-time underline" onClick={() => ask({ project: '', task: '' })}>
            All jobs
          </button>
        </span>
      )}
    </div>
  );
}

function fits(pricer: Pricer, { entry, where }: TimeRow, asked: Asked): boolean {
  if (asked.where && where !== asked.where) return false;
  if (asked.member && entry.memberId !== asked.member) return false;
  if (asked.task && entry.taskId !== asked.task) return false;
  if (asked.project && !pricer.tree.upFrom(entry.projectId ?? '').some((each) => each.id === asked.project))
    return false;
  if (asked.client && pricer.clientOf(entry.projectId)?.id !== asked.client) return false;
  const words = asked.words.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return true;
  const task = entry.taskId === null ? '' : (pricer.task.get(entry.taskId)?.name ?? '');
  const said = [
    entry.note,
    jobName(pricer, entry.projectId, entry.unlisted),
    pricer.clientOf(entry.projectId)?.name,
    task,
    ...tagsOf(entry),
  ]
    .join(' ')
    .toLowerCase();
  return words.every((word) => said.includes(word));
}

/** What rows are worth together, by currency. */
function Sums({ rows }: { rows: readonly TimeRow[] }) {
  const amounts = new Map<string, number[]>();
  for (const { priced } of rows) {
    if (!priced.price) continue;
    const list = amounts.get(priced.price.currency);
    if (list) list.push(priced.amount);
    else amounts.set(priced.price.currency, [priced.amount]);
  }
  return [...amounts].map(([currency, list]) => (
    <span key={currency} className="block whitespace-nowrap not-first:in-[header]:ml-2 in-[header]:inline">
      {showAmount(sumExact(list), currency)}
    </span>
  ));
}

function worthColumn(pricer: Pricer, rows: readonly TimeRow[]): Column<TimeRow> {
  return {
    key: 'worth',
    head: 'Worth',
    width: '112px',
    align: 'end',
    cell: ({ priced, entry }) =>
      priced.price ? (
        <Worth
          amount={priced.amount}
          currency={priced.price.currency}
          of={entry.note || 'an entry'}
          working={() => explainPriced(pricer, priced)}
        />
      ) : (
        <span className="text-soft">–</span>
      ),
    foot: <Sums rows={rows} />,
  };
}
