import type { Pricer } from '@half-penny/core/billing';
import type { Member } from '@half-penny/core/model';
import { showAmount, addExact } from '@half-penny/core/money';
import { addDays, showLength, type Day } from '@half-penny/core/time';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { DayField } from '../../parts/day-field';
import { showDay } from '../../parts/days';
import { HourPage, type HourPart } from '../../parts/hour-page';
import { Ledger } from '../../parts/ledger';
import { Loading, Page } from '../../parts/page';
import { useActs, type Acts, type StretchLine } from './acts';
import { siftColumns } from './columns';
import { DayShare } from './day-share';
import { KeepingQuestion } from './keeping-question';
import { MinutesList } from './minutes-list';
import { Planned } from './planned';
import { RowMenu } from './row-menu';
import { RuleDialog } from './rule-dialog';
import { ruleFromStretch, type NewRule } from './new-rule';
import { SelectionBar } from './selection-bar';
import { StretchSide } from './side';
import { DeleteDialog, SentenceDialog, SplitDialog } from './sift-dialogs';
import { useSift, type SiftLine, type Sifted } from './use-sift';
import { ariaKey, showKey, useKeys } from '../../parts/keys';
import { useWorthSeen } from '../../data/worth-seen';

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
  useKeys({ before: () => goTo(addDays(day, -step)), after: () => goTo(addDays(day, step)) });
  const travel = (
    <nav aria-label="Days" className="flex flex-wrap items-center gap-1">
      <Button
        kind="quiet"
        aria-label="The day before"
        aria-keyshortcuts={ariaKey('before')}
        title={`The day before  ${showKey('before')}`}
        onClick={() => goTo(addDays(day, -step))}
      >
        <ChevronLeft size={16} />
      </Button>
      <DayField label="Day" bare value={day} onPick={goTo} className="w-36" />
      <Button
        kind="quiet"
        aria-label="The day after"
        aria-keyshortcuts={ariaKey('after')}
        title={`The day after  ${showKey('after')}`}
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
      <Page title={title} aside={nav} actions={travel}>
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

/** Posts what is placed; what is being placed at that moment is waited for, and posted as well. */
function usePost(acts: Acts, sifted: Sifted, ready: readonly StretchLine[]): () => void {
  // What was shown when posting was asked for: it is done once something else is, and nothing is being written.
  const asked = useRef<Sifted | null>(null);
  const shownSince = useRef(0);
  useEffect(() => {
    shownSince.current = performance.now();
  }, [sifted]);
  useEffect(() => {
    if (asked.current === null || asked.current === sifted || acts.isUnderWay(Infinity)) return;
    asked.current = null;
    void acts.post(ready);
  }, [acts, sifted, ready]);
  return () => {
    if (acts.isUnderWay(shownSince.current)) asked.current = sifted;
    else void acts.post(ready);
  };
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
  const seen = useWorthSeen(pricer);
  const { entry: workspace } = useSession();
  const acts = useActs(member);
  const [active, setActive] = useState<string | null>(null);
  // Pressed in the picture a row gets the focus; walked over by keys, the picture keeps it.
  const [pressed, setPressed] = useState<string | null>(null);
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [splitting, setSplitting] = useState<StretchLine | null>(null);
  const [rule, setRule] = useState<NewRule | null>(null);
  const [wording, setWording] = useState<StretchLine[] | null>(null);
  const [deleting, setDeleting] = useState<StretchLine[] | null>(null);
  const [lastTicked, setLastTicked] = useState<string | null>(null);
  const [listed, setListed] = useState(false);
  const { lines } = sifted;
  const stretches = useMemo(() => lines.filter((line) => line.kind === 'stretch'), [lines]);
  const current = stretches.find((line) => line.id === active) ?? stretches[0];
  const chosen = (line?: SiftLine): StretchLine[] => {
    const several = stretches.filter((each) => selected.has(each.id));
    // What is ticked is meant while the focus is on a ticked row, or on none.
    if (several.length > 0 && (line === undefined || selected.has(line.id))) return several;
    const one = line ?? current;
    return one?.kind === 'stretch' ? [one] : [];
  };
  const select = (next: ReadonlySet<string>) => {
    const added = [...next].filter((id) => !selected.has(id)).at(-1);
    // Where one was unticked, the bar goes to one that still is.
    setLastTicked((before) => added ?? (before !== null && next.has(before) ? before : ([...next].at(-1) ?? null)));
    setSelected(next);
  };
  const open = (line?: SiftLine) => chosen(line).filter((each) => !each.posted);
  const doing = (act: (chosen: StretchLine[]) => unknown) => (line?: SiftLine) => {
    const meant = open(line);
    if (meant.length > 0) void act(meant);
    setSelected(new Set());
  };
  const ready = stretches.filter((line) => line.placed && !line.posted);
  const sure = stretches.filter(({ row }) => !row.stretch.outcome && row.offer);
  const always = (line: StretchLine) => setRule(ruleFromStretch(line, workspace.id));
  const keys = {
    'sift.place': doing(acts.accept),
    'sift.private': doing(acts.keepPrivate),
    'sift.notWork': doing(acts.notWork),
    'sift.reopen': doing(acts.forget),
    'sift.join': doing(acts.join),
    'sift.split': (line: SiftLine) => line.kind === 'stretch' && !line.posted && setSplitting(line),
    'sift.rule': (line: SiftLine) => line.kind === 'stretch' && always(line),
    'sift.delete': (line: SiftLine) => open(line).length > 0 && setDeleting(open(line)),
  };
  const menu = (line: StretchLine) => (
    <RowMenu
      of={line.row.note.slice(0, 60) || 'the stretch'}
      acts={[
        { label: 'Place as offered', keyName: 'sift.place', act: () => keys['sift.place'](line) },
        { label: 'Split…', keyName: 'sift.split', act: () => setSplitting(line) },
        { label: 'Private', keyName: 'sift.private', act: () => keys['sift.private'](line) },
        { label: 'Not work', keyName: 'sift.notWork', act: () => keys['sift.notWork'](line) },
        { label: 'Open again', keyName: 'sift.reopen', act: () => keys['sift.reopen'](line) },
        { label: 'Always here…', keyName: 'sift.rule', act: () => always(line) },
        { label: 'Delete…', keyName: 'sift.delete', act: () => keys['sift.delete'](line) },
      ]}
    />
  );
  const post = usePost(acts, sifted, ready);
  useKeys({ 'sift.post': post, 'sift.placeAll': () => void acts.accept(sure) });
  const hidden = sifted.days.reduce((sum, each) => sum + each.hidden, 0);
  return (
    <Page
      title={title}
      aside={nav}
      actions={
        <>
          {travel}
          <Button
            shortcut={showKey('sift.placeAll')}
            disabled={sure.length === 0}
            onClick={() => void acts.accept(sure)}
          >
            Place {sure.length === 1 ? '1' : sure.length} as offered
          </Button>
          <Button kind="main" shortcut={showKey('sift.post')} disabled={ready.length === 0} onClick={post}>
            Post {ready.length === 1 ? '1 entry' : `${ready.length} entries`}
          </Button>
        </>
      }
      side={
        <div className="flex flex-col gap-6">
          {!week && (
            <div className="-mb-4 flex gap-4 text-sm" role="group" aria-label="How the day is shown">
              <Button
                kind="quiet"
                aria-pressed={!listed}
                className="aria-pressed:font-bold aria-[pressed=false]:text-soft"
                onClick={() => setListed(false)}
              >
                Drawn
              </Button>
              <Button
                kind="quiet"
                aria-pressed={listed}
                className="aria-pressed:font-bold aria-[pressed=false]:text-soft"
                onClick={() => setListed(true)}
              >
                Minute by minute
              </Button>
            </div>
          )}
          {!week && listed && (
            <MinutesList {...{ member, day, selected }} lines={stretches} onSelect={select} onActive={setActive} />
          )}
          {!week && !listed && (
            <HourPage
              large
              day={day}
              zone={member.zone}
              parts={partsOf(lines)}
              selected={active}
              onSelect={(id) => {
                setActive(id);
                setPressed(id);
              }}
              onWalk={setActive}
              onSelectMany={(ids) => select(new Set(ids))}
            />
          )}
          {current && <StretchSide {...{ pricer, member }} line={current} onAlways={always} />}
        </div>
      }
    >
      {sifted.fault && (
        <p role="alert" className="mb-3 text-fault">
          The trail could not be read: {sifted.fault} Nothing in it was changed; open this screen again.
        </p>
      )}
      {stretches.length > 0 && <KeepingQuestion />}
      {!week && <Planned {...{ member, day }} />}
      <DayShare pricer={pricer} lines={stretches} />
      <div className="relative">
        <Ledger
          label={`Stretches of ${title}`}
          rows={lines}
          rowId={(line) => line.id}
          rowName={(line) => (line.kind === 'away' ? 'Away' : line.row.note || 'A stretch')}
          dense
          columns={siftColumns({ pricer, seen, member, acts, lines, workspaceId: workspace.id, menu })}
          selection={{
            selected,
            onChange: select,
            selectable: (line) => line.kind === 'stretch' && line.posted === null,
          }}
          keys={keys}
          onActive={(line) => setActive(line.id)}
          chosen={pressed}
          tone={(line) => (line.kind === 'away' || line.posted || isOut(line) ? 'bg-side' : '')}
          footLabel="Placed"
          empty={<EmptyDay />}
        />
        {selected.size > 0 && (
          <SelectionBar
            {...{ pricer, acts, doing }}
            count={selected.size}
            at={lines.findIndex((line) => line.id === lastTicked)}
            onSplit={() => current && !current.posted && setSplitting(current)}
            onSentence={() => setWording(open())}
            onDelete={() => setDeleting(open())}
          />
        )}
      </div>
      {hidden >= 60 && (
        <p className="mt-3 px-2 text-sm text-soft">
          {showLength(Math.round(hidden))} of what was seen is inside recorded entries and is not offered again.{' '}
          <Button kind="quiet" onClick={() => onCovered(true)}>
            Show it
          </Button>
        </p>
      )}
      {covered && (
        <p className="mt-3 px-2 text-sm text-soft">
          Time inside recorded entries is shown too; posting it takes those minutes out of those entries.{' '}
          <Button kind="quiet" onClick={() => onCovered(false)}>
            Hide it
          </Button>
        </p>
      )}
      <LooseWorth lines={stretches} seconds={sifted.loose} />
      {splitting && <SplitDialog line={splitting} acts={acts} onClose={() => setSplitting(null)} />}
      {wording && (
        <SentenceDialog lines={wording} acts={acts} onClose={() => (setWording(null), setSelected(new Set()))} />
      )}
      {deleting && (
        <DeleteDialog lines={deleting} acts={acts} onClose={() => (setDeleting(null), setSelected(new Set()))} />
      )}
      {rule && <RuleDialog {...{ pricer, member }} rule={rule} onClose={() => setRule(null)} />}
    </Page>
  );
}

const isOut = (line: SiftLine): boolean =>
  line.kind === 'stretch' && line.row.stretch.outcome !== null && line.row.stretch.outcome.act !== 'place';

/** What is still loose, what it may be worth by what is offered, and how much of it has no worth yet as nothing is offered. */
function LooseWorth({ lines, seconds }: { lines: readonly StretchLine[]; seconds: number }) {
  const loose = lines.filter(({ row }) => !row.stretch.outcome);
  if (loose.length === 0) return null;
  const sums = new Map<string, number>();
  for (const { priced } of loose)
    if (priced.price) sums.set(priced.price.currency, addExact(sums.get(priced.price.currency) ?? 0, priced.amount));
  const worth = [...sums].map(([currency, amount]) => `about ${showAmount(amount, currency)}`).join(' and ');
  const unlike = loose.filter(({ row }) => !row.offer).reduce((sum, { row }) => sum + row.stretch.seen, 0);
  return (
    <p className="mt-2 px-2 text-soft">
      Still loose {showLength(seconds)}
      {worth && <span className="text-money italic"> · {worth}</span>}
      {unlike >= 1000 && ` · ${showLength(Math.floor(unlike / 1000))} of it has no worth yet, as it is like nothing`}
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

function EmptyDay() {
  return (
    <>
      <p className="mb-2">Nothing was noticed on this day that is not recorded already.</p>
      <p className="max-w-xl text-soft">
        Activity comes from the agent that runs beside you (npm run agent), or from files: calendars, mailboxes, call
        lists. It stays in this browser. Sift → Sources says how to begin.
      </p>
    </>
  );
}
