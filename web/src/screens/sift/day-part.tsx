import type { Pricer } from '@half-penny/core/billing';
import type { Member } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { addDays, showLength, type Day } from '@half-penny/core/time';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { tinykeys } from 'tinykeys';
import { useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { DayField } from '../../parts/day-field';
import { Dialog } from '../../parts/dialog';
import { showDay } from '../../parts/days';
import { TextField } from '../../parts/field';
import { HourPage, type HourPart } from '../../parts/hour-page';
import { JobPicker } from '../../parts/job-picker';
import { Ledger } from '../../parts/ledger';
import { Loading, Page } from '../../parts/page';
import { useSubmit } from '../../parts/use-submit';
import { noJob } from '@half-penny/core/entries';
import { useActs, type Acts, type StretchLine } from './acts';
import { siftColumns } from './columns';
import { GiveAway } from './give-away';
import { RuleDialog } from './rule-dialog';
import { ruleFromStretch, type NewRule } from './new-rule';
import { StretchSide } from './side';
import { useSift, type SiftLine, type Sifted } from './use-sift';

interface DayPartProps {
  pricer: Pricer;
  member: Member;
  today: Day;
  nav: ReactNode;
}

/** A day, or a week up to one, of stretches to place and post. */
export function DayPart({ pricer, member, today, nav }: DayPartProps) {
  const [params, setParams] = useSearchParams();
  const asked = params.get('day') ?? today;
  const day = /^\d{4}-\d{2}-\d{2}$/.test(asked) ? asked : today;
  const week = params.get('span') === 'week';
  const covered = params.get('recorded') === 'shown';
  const from = week ? addDays(day, -6) : day;
  const sifted = useSift(pricer, member, from, day, covered);
  const set = (change: Record<string, string | null>) =>
    setParams((now) => {
      for (const [key, value] of Object.entries(change)) {
        if (value === null) now.delete(key);
        else now.set(key, value);
      }
      return now;
    });
  const goTo = (next: Day) => set({ day: next === today ? null : next });
  const step = week ? 7 : 1;
  useEffect(() =>
    tinykeys(window, {
      '[': (event) => !isTyping(event) && goTo(addDays(day, -step)),
      ']': (event) => !isTyping(event) && goTo(addDays(day, step)),
    }),
  );
  const travel = (
    <nav aria-label="Days" className="flex flex-wrap items-center gap-1">
      <Button
        kind="quiet"
        aria-label="The day before"
        aria-keyshortcuts="["
        title="The day before  ["
        onClick={() => goTo(addDays(day, -step))}
      >
        <ChevronLeft size={16} />
      </Button>
      <DayField label="Day" bare value={day} today={today} onPick={goTo} className="w-28" />
      <Button
        kind="quiet"
        aria-label="The day after"
        aria-keyshortcuts="]"
        title="The day after  ]"
        onClick={() => goTo(addDays(day, step))}
      >
        <ChevronRight size={16} />
      </Button>
      <Button kind="quiet" aria-pressed={week} onClick={() => set({ span: week ? null : 'week' })}>
        {week ? 'One day' : 'Seven days'}
      </Button>
      {sifted && sifted.loose > 0 && (
        <span className="ml-2">
          <b className="text-attention">{showLength(sifted.loose)}</b> still to place
        </span>
      )}
    </nav>
  );
  const title = week ? `Seven days to ${showDay(day, today)}` : showDay(day, today);
  if (!sifted) {
    return (
      <Page title={title} aside={travel}>
        {nav}
        <Loading />
      </Page>
    );
  }
  return (
    <Sheet
      key={`${from} ${day}`}
      {...{ pricer, member, day, sifted, title, travel, nav, week, covered }}
      onCovered={(on) => set({ recorded: on ? 'shown' : null })}
    />
  );
}

interface SheetProps {
  pricer: Pricer;
  member: Member;
  day: Day;
  sifted: Sifted;
  title: string;
  travel: ReactNode;
  nav: ReactNode;
  week: boolean;
  covered: boolean;
  onCovered: (on: boolean) => void;
}

function Sheet({ pricer, member, day, sifted, title, travel, nav, week, covered, onCovered }: SheetProps) {
  const { entry: workspace } = useSession();
  const acts = useActs(member);
  const [active, setActive] = useState<string | null>(null);
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [splitting, setSplitting] = useState<StretchLine | null>(null);
  const [rule, setRule] = useState<NewRule | null>(null);
  const { lines } = sifted;
  const stretches = useMemo(() => lines.filter((line) => line.kind === 'stretch'), [lines]);
  const current = stretches.find((line) => line.id === active) ?? stretches[0];
  const chosen = (line?: SiftLine): StretchLine[] => {
    const several = stretches.filter((each) => selected.has(each.id));
    if (several.length > 0) return several;
    const one = line ?? current;
    return one?.kind === 'stretch' ? [one] : [];
  };
  const doing = (act: (chosen: StretchLine[]) => unknown) => (line?: SiftLine) => {
    const meant = chosen(line).filter((each) => !each.posted);
    if (meant.length > 0) void act(meant);
    setSelected(new Set());
  };
  const ready = stretches.filter((line) => line.placed && !line.posted);
  const sure = stretches.filter(({ row }) => !row.stretch.outcome && row.offer);
  const always = (line: StretchLine) => setRule(ruleFromStretch(line, workspace.id));
  const keys = {
    a: doing(acts.accept),
    v: doing(acts.keepPrivate),
    x: doing(acts.notWork),
    u: doing(acts.forget),
    j: doing(acts.join),
    s: (line: SiftLine) => line.kind === 'stretch' && !line.posted && setSplitting(line),
    r: (line: SiftLine) => line.kind === 'stretch' && always(line),
  };
  useEffect(() =>
    tinykeys(window, {
      p: (event) => !isTyping(event) && void acts.post(ready),
      'Shift+A': (event) => !isTyping(event) && void acts.accept(sure),
    }),
  );
  const hidden = sifted.days.reduce((sum, each) => sum + each.hidden, 0);
  return (
    <Page
      title={title}
      aside={travel}
      actions={
        <>
          <Button shortcut="Shift A" disabled={sure.length === 0} onClick={() => void acts.accept(sure)}>
            Accept {sure.length === 1 ? 'the offer' : `all ${sure.length} offers`}
          </Button>
          <Button kind="main" shortcut="P" disabled={ready.length === 0} onClick={() => void acts.post(ready)}>
            Post {ready.length === 1 ? '1 entry' : `${ready.length} entries`}
          </Button>
        </>
      }
      side={
        <div className="flex flex-col gap-6">
          {!week && (
            <HourPage
              day={day}
              zone={member.zone}
              parts={partsOf(lines)}
              selected={active}
              onSelect={setActive}
              onSelectMany={(ids) => setSelected(new Set(ids))}
            />
          )}
          {current && <StretchSide {...{ pricer, member }} line={current} onAlways={always} />}
        </div>
      }
    >
      {nav}
      {sifted.fault && (
        <p role="alert" className="mb-3 text-fault">
          The trail could not be read: {sifted.fault} Nothing of it is changed; open this screen again.
        </p>
      )}
      <Ledger
        label={`Stretches of ${title}`}
        rows={lines}
        rowId={(line) => line.id}
        rowName={(line) => (line.kind === 'away' ? 'Away' : line.row.note || 'A stretch')}
        columns={siftColumns({ pricer, member, acts, lines, workspaceId: workspace.id })}
        selection={{
          selected,
          onChange: setSelected,
          selectable: (line) => line.kind === 'stretch' && line.posted === null,
        }}
        keys={keys}
        onActive={(line) => setActive(line.id)}
        chosen={active}
        tone={(line) => (line.kind === 'away' || line.posted || isOut(line) ? 'bg-side' : '')}
        footLabel="Placed"
        empty={<EmptyDay />}
      />
      {hidden >= 60 && (
        <p className="mt-3 px-2 text-sm text-soft">
          {showLength(Math.round(hidden))} of what was seen lies in time that is recorded already and is not offered
          again.{' '}
          <Button kind="quiet" onClick={() => onCovered(true)}>
            Show it
          </Button>
        </p>
      )}
      {covered && (
        <p className="mt-3 px-2 text-sm text-soft">
          What lies in recorded time is shown as well; posted, those minutes are taken out of the entries that have
          them.{' '}
          <Button kind="quiet" onClick={() => onCovered(false)}>
            Leave it out
          </Button>
        </p>
      )}
      <LooseWorth lines={stretches} />
      {stretches.length > 0 && (
        <div
          role="group"
          aria-label="With what is selected"
          className="mt-4 flex flex-wrap items-center gap-x-3 gap-y-1 px-2"
        >
          <JobPicker
            pricer={pricer}
            value={noJob}
            label="Job of what is selected"
            onPick={(job) => doing((all) => acts.place(all, job))()}
            className="text-time"
          >
            Place on…
          </JobPicker>
          <Act label="Accept" letter="A" act={doing(acts.accept)} />
          <Act label="Join" letter="J" act={doing(acts.join)} />
          <Act label="Split…" letter="S" act={() => current && !current.posted && setSplitting(current)} />
          <Act label="Private" letter="V" act={doing(acts.keepPrivate)} />
          <Act label="Not work" letter="X" act={doing(acts.notWork)} />
          <Act label="Open again" letter="U" act={doing(acts.forget)} />
          <GiveAway onGive={(id, name) => doing((all) => acts.give(all, id, name))()} />
        </div>
      )}
      {splitting && <SplitDialog line={splitting} acts={acts} onClose={() => setSplitting(null)} />}
      {rule && <RuleDialog {...{ pricer, member }} rule={rule} onClose={() => setRule(null)} />}
    </Page>
  );
}

const isOut = (line: SiftLine): boolean =>
  line.kind === 'stretch' && line.row.stretch.outcome !== null && line.row.stretch.outcome.act !== 'place';

const Act = ({ label, letter, act }: { label: string; letter: string; act: () => void }) => (
  <Button kind="quiet" shortcut={letter} onClick={() => act()}>
    {label}
  </Button>
);

/** What is still loose, and what it may be worth by what is offered. */
function LooseWorth({ lines }: { lines: readonly StretchLine[] }) {
  const loose = lines.filter(({ row }) => !row.stretch.outcome);
  if (loose.length === 0) return null;
  const sums = new Map<string, number>();
  for (const { priced } of loose)
    if (priced.price) sums.set(priced.price.currency, (sums.get(priced.price.currency) ?? 0) + priced.amount);
  const worth = [...sums].map(([currency, amount]) => `about ${showAmount(amount, currency)}`).join(' and ');
  return (
    <p className="mt-2 px-2 text-soft">
      Still loose {showLength(Math.round(loose.reduce((sum, { row }) => sum + row.stretch.seen, 0) / 1000))}
      {worth && <span className="text-money italic"> · {worth}</span>}
    </p>
  );
}

function partsOf(lines: readonly SiftLine[]): HourPart[] {
  return lines.flatMap((line): HourPart[] => {
    if (line.kind === 'away') return [{ id: line.id, span: line.span, look: 'away', name: 'Away' }];
    const look = line.posted || line.row.stretch.outcome ? 'placed' : 'loose';
    return line.row.stretch.spans.map((span) => ({ id: line.id, span, look, name: line.row.note || 'A stretch' }));
  });
}

function SplitDialog({ line, acts, onClose }: { line: StretchLine; acts: Acts; onClose: () => void }) {
  const [typed, setTyped] = useState('');
  const { fault, submit } = useSubmit(async () => {
    await acts.split(line, typed);
    onClose();
  });
  return (
    <Dialog open onClose={onClose} title={`Split “${line.row.note.slice(0, 60) || 'the stretch'}”`}>
      <form onSubmit={submit} className="flex flex-col gap-4">
        <TextField
          label="At"
          autoFocus
          placeholder="10:30"
          value={typed}
          fault={fault}
          onChange={(event) => setTyped(event.target.value)}
        />
        <Button type="submit" kind="main" className="self-start">
          Split it
        </Button>
      </form>
    </Dialog>
  );
}

function EmptyDay() {
  return (
    <>
      <p className="mb-2">Nothing was noticed on this day that is not recorded already.</p>
      <p className="max-w-xl text-soft">
        Activity comes from the agent that runs beside you (npm run agent), or from files: calendars, mail boxes, call
        lists. It stays in this browser. Sources says how to begin.
      </p>
    </>
  );
}

const isTyping = (event: KeyboardEvent): boolean => {
  const typing =
    event.target instanceof HTMLElement &&
    event.target.closest('input:not([type=checkbox]), textarea, select, [role=dialog]') !== null;
  if (!typing) event.preventDefault();
  return typing;
};
