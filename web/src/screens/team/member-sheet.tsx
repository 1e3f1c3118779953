import type { Pricer } from '@half-penny/core/billing';
import { mayCheck } from '@half-penny/core/checking';
import { weekOf } from '@half-penny/core/entries';
import type { CheckedEntry, Correction, CostLine, Entry, HandIn, Id, Member, Span } from '@half-penny/core/model';
import { showAmount, sumExact } from '@half-penny/core/money';
import { dayOf as dayOfInstant, daysFrom, isDay, type Day } from '@half-penny/core/time';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { usePricer } from '../../data/book';
import { useMemberPeriods, useSheetHistory, type CheckedMember, type ToCheck } from '../../data/checking';
import { useMember, useToday } from '../../data/queries';
import { useBy } from '../../data/read';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { showMoment, showShortestDay, showWeekday } from '../../parts/days';
import { Corrections } from '../../parts/differences';
import { Length } from '../../parts/figures';
import { HourPage, type HourPart } from '../../parts/hour-page';
import { nameOfJob } from '../../parts/known-jobs';
import { Ledger } from '../../parts/ledger';
import { NotThere, Page } from '../../parts/page';
import { SayWhy } from '../../parts/say-why';
import { StandingWay } from '../../parts/standing-way';
import { checkColumns, nameOfRow } from './check-columns';
import { SendBackDialog, type GoesBack } from './send-back-dialog';
import { idsOf } from './to-check';
import { Travel } from './travel';
import { useWorthSeen, type WorthSeen } from '../../data/worth-seen';

/** A member's week or billing period as whoever checks it sees it: as a grid, line by line, and a day as an hour page. */
export default function MemberSheet() {
  const { memberId = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const pricer = usePricer();
  const today = useToday();
  const self = useMember(pricer);
  const asked = params.get('day') ?? '';
  const day = isDay(asked) ? asked : today;
  const member = pricer?.member.get(memberId);
  const found = useMemberPeriods(pricer, member ? [member] : [], day, today)?.[0];
  const go = (to: Day) => setParams({ day: to });
  if (!pricer || !member || !found) return <NotThere one="member" all="/team" reading={!pricer || Boolean(member)} />;
  return <Sheet key={`${member.id} ${found.period.from}`} {...{ pricer, member, self, found, go }} />;
}

interface SheetProps {
  pricer: Pricer;
  member: Member;
  self: Member | undefined;
  found: CheckedMember;
  go: (day: Day) => void;
}

function Sheet({ pricer, member, self, found, go }: SheetProps) {
  const { period, standing, sheet, entries, costs } = found;
  const changes = useChanges();
  const seen = useWorthSeen(pricer);
  const history = useSheetHistory(sheet);
  const lines = useBy(
    'costLines',
    'costId',
    costs.map(({ id }) => id),
  );
  const [selected, setSelected] = useState<ReadonlySet<Id>>(new Set());
  const [sending, setSending] = useState<GoesBack | null>(null);
  const [shownDay, setShownDay] = useState<Day | null>(null);
  const rows = rowsOf(found, lines ?? []);
  const isMine = mayCheck(member, self?.id ?? null);
  const lies = standing === 'handed in' || standing === 'approved';
  const canCheck = lies && isMine && sheet !== undefined;
  const chosen = rows.filter((row) => selected.has(row.id));
  const latest = history?.handIns[0];
  const all = { ids: sheet ? [sheet.id] : [], entryIds: [], costIds: [] };
  const back = (): GoesBack => (chosen.length > 0 ? { ids: [], ...idsOf(chosen) } : all);
  const approve = () => {
    void changes.attempt('period.approve', chosen.length > 0 ? { ids: [], ...idsOf(chosen) } : all);
    setSelected(new Set());
  };
  const last = sheet?.steps.at(-1);
  return (
    <Page
      title={member.name}
      aside={<Travel {...{ period, go }} />}
      actions={
        canCheck && (
          <>
            <Button onClick={() => setSending(back())}>
              {chosen.length > 0 ? `Send ${chosen.length} back…` : 'Send back…'}
            </Button>
            {standing === 'handed in' && (
              <Button kind="main" onClick={approve}>
                {chosen.length > 0 ? `Approve ${chosen.length}` : 'Approve all of it'}
              </Button>
            )}
          </>
        )
      }
      side={<About {...{ pricer, member, found, latest }} corrections={history?.corrections ?? []} day={shownDay} />}
    >
      <div className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-1">
        <StandingWay standing={standing} />
        {last && (
          <span className="written text-sm text-soft">
            {last.kind} by {pricer.member.get(last.byId)?.name ?? 'somebody who left'},{' '}
            {showMoment(last.at, member.zone)}
            {last.reason && `: “${last.reason}”`}
          </span>
        )}
        {!isMine && (
          <span className="text-sm text-soft">
            {pricer.member.get(member.checkerId ?? '')?.name ?? 'Somebody else'} checks {member.name}.
          </span>
        )}
      </div>
      <Grid {...{ pricer, member, found }} day={shownDay} onDay={(day) => setShownDay(shownDay === day ? null : day)} />
      <Ledger
        label={`${member.name}, ${period.name}`}
        rows={shownDay ? rows.filter((row) => dayOf(row) === shownDay) : rows}
        rowId={(row) => row.id}
        rowName={(row) => nameOfRow(member, row)}
        columns={checkColumns({
          pricer,
          seen,
          rows,
          changes,
          canChange: canCheck,
          named: false,
          handIn: lies ? latest : undefined,
        })}
        {...(canCheck && { selection: { selected, onChange: setSelected } })}
        footLabel="Total"
        dense
        empty={`Nothing is recorded from ${showShortestDay(period.from)} to ${showShortestDay(period.to)}.`}
      />
      {standing === 'open' && entries.length > 0 && (
        <p className="mt-3 text-sm text-soft">
          Not handed in yet. {member.name} does that on{' '}
          <Link to={`/week?member=${member.id}&day=${period.from}`} className="text-time underline">
            their week
          </Link>
          .
        </p>
      )}
      {sending && (
        <SendBackDialog
          what={sending}
          about={`${member.name} finds the reason on their week, changes what it is about, and hands in once more.`}
          onClose={(done) => {
            setSending(null);
            if (done) setSelected(new Set());
          }}
        />
      )}
    </Page>
  );
}

const dayOf = (row: ToCheck): Day => (row.kind === 'entry' ? row.entry.day : row.cost.day);

function rowsOf({ member, entries, costs, sheet }: CheckedMember, lines: readonly CostLine[]): ToCheck[] {
  // Where nothing is handed in, nothing asks for the sheet.
  const of = { member, sheet: sheet! };
  return [
    ...entries.map((entry): ToCheck => ({ kind: 'entry', id: entry.id, ...of, entry })),
    ...costs.map((cost): ToCheck => ({
      kind: 'cost',
      id: cost.id,
      ...of,
      cost,
      lines: lines.filter((line) => line.costId === cost.id),
    })),
  ].sort((a, b) => (dayOf(a) < dayOf(b) ? -1 : dayOf(a) > dayOf(b) ? 1 : startOf(a) - startOf(b)));
}

const startOf = (row: ToCheck): number => (row.kind === 'entry' ? (row.entry.spans[0]?.start ?? Infinity) : Infinity);

interface GridProps {
  pricer: Pricer;
  member: Member;
  found: CheckedMember;
  day: Day | null;
  onDay: (day: Day) => void;
}

/** Longer periods are read line by line. */
const WIDEST = 7;

/** The week by job and day; a press on a day shows that day alone. */
function Grid({ pricer, member, found, day, onDay }: GridProps) {
  const { period, entries } = found;
  const days = daysFrom(period.from, period.to);
  if (days.length > WIDEST || entries.length === 0) return null;
  const week = weekOf({ member, days, entries, plans: [], absences: [], breakRule: null });
  return (
    <div className="mb-5 overflow-x-auto">
      <table className="w-full min-w-[640px] text-sm" aria-label="By job and day">
        <thead>
          <tr className="border-b border-ink text-left">
            <th className="py-1 pr-3 font-semibold text-soft">Job</th>
            {days.map((each) => (
              <th key={each} className="px-1 text-right font-normal">
                <button
                  type="button"
                  aria-pressed={day === each}
                  onClick={() => onDay(each)}
                  className={`rounded-sm px-1 whitespace-nowrap hover:bg-time-ground ${day === each ? 'bg-time-ground font-bold text-time' : 'text-soft'}`}
                >
                  {showWeekday(each)} {Number(each.slice(8))}
                </button>
              </th>
            ))}
            <th className="pl-2 text-right font-semibold text-soft">Total</th>
          </tr>
        </thead>
        <tbody>
          {week.rows.map((row) => (
            <tr key={row.key} className="border-b border-rule">
              <td className="written max-w-0 w-full truncate py-1 pr-3">
                {row.projectId
                  ? nameOfJob(pricer, row, member.jobOrder)
                  : row.unlisted
                    ? `“${row.unlisted}”`
                    : 'No job'}
              </td>
              {row.cells.map((cell, index) => (
                <td key={days[index]} className="px-1 text-right">
                  {cell.seconds > 0 && <Length seconds={cell.seconds} whole />}
                </td>
              ))}
              <td className="pl-2 text-right">
                <Length seconds={row.seconds} whole />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface AboutProps {
  pricer: Pricer;
  member: Member;
  found: CheckedMember;
  latest: HandIn | undefined;
  corrections: readonly Correction[];
  day: Day | null;
}

/** Beside the lines: what was handed in and what it is now, in hours and money; the chosen day as an hour page; what was changed. */
function About({ pricer, member, found, latest, corrections, day }: AboutProps) {
  const { entries } = found;
  const { run } = useChanges();
  const { memberId: whoId } = useSession();
  const [explaining, setExplaining] = useState<Correction | null>(null);
  // What was handed in, where it was; the page itself leaves out what is of other days.
  const lines: readonly (CheckedEntry | Entry)[] = latest?.entries ?? entries;
  const parts = lines.flatMap((line) =>
    (line.spans ?? [])
      .filter((span) => day !== null && isOnDay(span, day, member.zone))
      .map((span): HourPart => ({ id: line.id, span, look: 'recorded', name: line.note || 'No note' })),
  );
  return (
    <div className="flex flex-col gap-5">
      {latest && <Compared {...{ pricer, member, entries, latest }} />}
      {day && (
        <section aria-label="The day">
          <p className="mb-2 text-soft">
            {showWeekday(day)} {showShortestDay(day)}
          </p>
          {parts.length > 0 ? (
            <HourPage day={day} zone={member.zone} parts={parts} selected={null} onSelect={() => undefined} />
          ) : (
            <p className="text-sm text-soft">No times are known of this day, only lengths.</p>
          )}
        </section>
      )}
      {corrections.length > 0 && (
        <section aria-label="Changed while it was checked">
          <h2 className="mb-1 font-semibold">Changed while it was checked</h2>
          <Corrections {...{ pricer, whoId }} rows={corrections} explain={setExplaining} />
        </section>
      )}
      {explaining && (
        <SayWhy
          title="Why it was changed"
          about={`${member.name} reads it beside what was changed.`}
          button="Save the reason"
          save={(reason) => run('correction.explain', { ids: [explaining.id], reason }).then(() => setExplaining(null))}
          onClose={() => setExplaining(null)}
        />
      )}
    </div>
  );
}

const isOnDay = ({ start, end }: Span, day: Day, zone: string): boolean =>
  dayOfInstant(start, zone) <= day && day <= dayOfInstant(end - 1, zone);

interface ComparedProps {
  pricer: Pricer;
  member: Member;
  entries: readonly Entry[];
  latest: HandIn;
}

/** Hours and money as they were handed in, and as they are. */
function Compared({ pricer, member, entries, latest }: ComparedProps) {
  const seen = useWorthSeen(pricer);
  const template = new Map(entries.map((entry) => [entry.id, entry]));
  const was = latest.entries.map((line): Entry => ({
    ...(template.get(line.id) ?? blank(member.id)),
    ...line,
    spans: line.spans ?? [],
  }));
  const sums = [was, entries].map((rows) => ({
    seconds: sumExact(rows.map((row) => row.seconds)),
    worth: worthIn(pricer, seen, rows),
  }));
  const [before, now] = sums as [(typeof sums)[0], (typeof sums)[0]];
  return (
    <section aria-label="Handed in and now">
      <h2 className="mb-1 font-semibold">Handed in, and now</h2>
      <table className="w-full text-sm">
        <thead>
          <tr className="border-b border-ink text-right text-soft">
            <th>
              <span className="sr-only">What</span>
            </th>
            <th className="py-1 font-normal">handed in</th>
            <th className="font-normal">now</th>
          </tr>
        </thead>
        <tbody>
          <tr className="border-b border-rule text-right">
            <th scope="row" className="py-1 text-left font-normal">
              Hours
            </th>
            <td>
              <Length seconds={before.seconds} whole />
            </td>
            <td>
              <Length seconds={now.seconds} whole />
            </td>
          </tr>
          {[...new Set([...before.worth.keys(), ...now.worth.keys()])].map((currency) => (
            <tr key={currency} className="border-b border-rule text-right">
              <th scope="row" className="py-1 text-left font-normal">
                Worth
              </th>
              <td className="font-semibold text-money">{showAmount(before.worth.get(currency) ?? 0, currency)}</td>
              <td className="font-semibold text-money">{showAmount(now.worth.get(currency) ?? 0, currency)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** What is not known of an entry that is no more. */
const blank = (memberId: Id) => ({
  memberId,
  laterDays: [],
  spans: [],
  rate: null,
  planId: null,
  source: '',
  stretchIds: [],
});

/** What entries are worth, by currency. */
function worthIn(pricer: Pricer, seen: WorthSeen, entries: readonly Entry[]): Map<string, number> {
  const sums = new Map<string, number[]>();
  for (const { price, amount } of seen.of(pricer, entries))
    if (price) sums.set(price.currency, [...(sums.get(price.currency) ?? []), amount]);
  return new Map([...sums].map(([currency, amounts]) => [currency, sumExact(amounts)]));
}
