import { lookingAt, nameOf as nameOfPerson, namesOf, type LookingAt, type Share } from '@half-penny/core/capture';
import { countryOfZone, noJob, projectJob, type Job } from '@half-penny/core/entries';
import {
  DndContext,
  MeasuringStrategy,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { GripVertical } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useLikelyJobs } from '../../../data/queries';
import { useRules } from '../../../data/trail';
import { useLookBack } from '../../../data/use-look-back';
import { Button } from '../../../parts/button';
import { dragSpeech } from '../../../parts/drag-speech';
import { JobPicker } from '../../../parts/job-picker';
import { Ledger, type Column } from '../../../parts/ledger';
import { Loading, Section } from '../../../parts/page';
import { useRange } from '../../../parts/range';
import { useSiftBook } from '../../../parts/sift-book';
import { SelectField } from '../../../parts/select';
import { minutesOf } from '../evidence';
import { ruleFor, type NewRule } from '../new-rule';
import { RuleDialog } from '../rule-dialog';
import type { PartProps } from '../sift';
import { Against } from './against';
import { BehindRow } from './behind-row';
import { BestTimes } from './best-times';
import { conditionOf } from './condition-of';
import { HoursByWeekday } from './hours-by-weekday';
import { JobTargets } from './job-targets';
import { nameOfKey, nameOfNarrow } from './outcome-look';
import { useGiving } from './use-giving';
import { WeekPages } from './week-pages';
import { WeightGroups } from './weight-groups';

const names: Record<LookingAt, string> = {
  job: 'Job',
  program: 'Program',
  site: 'Site',
  document: 'Document',
  folder: 'Folder',
  person: 'Person',
  word: 'Word in titles',
};

/** So many jobs are offered to drop on: those with time in what is shown, and the likely ones. */
const MOST_TARGETS = 9;

/** What is dragged: a row of a list, or a stretch of a small hour page. */
type Dragged = { kind: 'row'; key: string; name: string } | { kind: 'stretch'; id: string; day: string; name: string };

/** Where the time went: day by day in small, by job and whatever else, against the time before, and when it counts most. */
export default function LookingBackPart({ pricer, member, today }: PartProps) {
  const { from, to, field } = useRange(today);
  const book = useSiftBook(pricer);
  const giving = useGiving(book);
  const rules = useRules();
  const likely = useLikelyJobs(pricer);
  const [by, setBy] = useState<LookingAt>('job');
  const [only, setOnly] = useState<string | null>(null);
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [rule, setRule] = useState<NewRule | null>(null);
  const [opened, setOpened] = useState<{ key: string; name: string } | null>(null);
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const { contacts, workspace: studio } = pricer.book;
  const { weights } = studio;
  const { zone } = member;
  const looked = useLookBack(from, to, zone, weights, book, only);
  // A press is no drag: a few pixels tell them apart.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const people = useMemo(() => namesOf(contacts, [], countryOfZone(zone)), [contacts, zone]);
  if (!looked || !rules) return <Loading />;
  const show = (key: string): string => {
    if (by === 'person') return `${nameOfPerson(key, people)} · ${key}`;
    return by === 'job' ? nameOfKey(pricer, key) : key;
  };
  const rows = looked.by[by];
  const most = rows[0]?.seen ?? 1;
  const give = (job: Job) => {
    void giving.always(by, [...selected], job, rules);
    setSelected(new Set());
  };
  const giveOnce = async (keys: readonly string[], job: Job) => {
    await giving.once({ from, to, zone }, by, keys, job);
    setSelected(new Set());
  };
  const drop = async ({ active, over }: DragEndEvent) => {
    setDragged(null);
    const what = active.data.current as Dragged | undefined;
    const projectId = (over?.data.current as { projectId?: string } | undefined)?.projectId;
    if (!what || !projectId) return;
    if (what.kind === 'row') await giveOnce([what.key], projectJob(projectId));
    else await giving.stretch(what.day, zone, what.id, projectJob(projectId));
  };
  const columns: Column<Share>[] = [
    {
      key: 'name',
      head: names[by],
      width: 'minmax(0,1.4fr)',
      cell: (row) => (
        <span className="flex min-w-0 items-baseline gap-1">
          {by !== 'job' && <Handle dragKey={row.key} name={show(row.key)} />}
          <button
            type="button"
            tabIndex={-1}
            className="written clamp-2 text-left [overflow-wrap:anywhere] hover:underline"
            onClick={() => setOpened({ key: row.key, name: show(row.key) })}
          >
            {show(row.key)}
          </button>
        </span>
      ),
    },
    {
      key: 'share',
      head: 'Share',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <span className="flex items-center gap-2">
          <span aria-hidden className="h-2.5 bg-time" style={{ width: `${(row.seen / most) * 70}%` }} />
          <span className="text-sm text-soft">{row.percent < 1 ? 'under 1' : Math.round(row.percent)} %</span>
        </span>
      ),
    },
    ...(by === 'job' && looked.against.days > 0
      ? [
          {
            key: 'before',
            head: from === to ? 'Usual' : 'Before',
            width: '84px',
            align: 'end',
            wideOnly: true,
            cell: (row) => {
              const before = looked.against.jobs.get(row.key) ?? 0;
              return <span className="font-mono text-sm text-soft">{before > 0 ? minutesOf(before) : '–'}</span>;
            },
          } satisfies Column<Share>,
        ]
      : []),
    {
      key: 'seen',
      head: 'Seen',
      width: '90px',
      align: 'end',
      cell: (row) => <span className="font-mono font-semibold text-time">{minutesOf(row.seen)}</span>,
    },
  ];
  const seenOf = new Map(looked.narrow.map(({ key, seen }) => [key, seen]));
  const targets = [...new Set([...looked.narrow.map(({ key }) => key), ...likely])].filter((id) =>
    pricer.project.has(id),
  );
  return (
    <DndContext
      sensors={sensors}
      // What is under the pointer takes it: a piece of an hour is larger than a row of the list and lies over several.
      collisionDetection={pointerWithin}
      // Rows of the list may come while something is held above it.
      measuring={{ droppable: { strategy: MeasuringStrategy.Always } }}
      accessibility={{ announcements: dragSpeech((id) => nameOfDragged(id, (job) => pricer.project.get(job)?.name)) }}
      onDragStart={({ active }) => setDragged((active.data.current as Dragged | undefined) ?? null)}
      onDragEnd={(event) => void drop(event)}
      onDragCancel={() => setDragged(null)}
    >
      <div className="mb-4 flex flex-wrap items-end gap-4">
        {field}
        <SelectField
          label="Only"
          value={only ?? ''}
          options={[
            ['', 'Everything'],
            ...(only !== null && !seenOf.has(only) ? [[only, nameOfNarrow(pricer, only)] as const] : []),
            ...looked.narrow.map(({ key }) => [key, nameOfNarrow(pricer, key)] as const),
          ]}
          onPick={(picked) => {
            setOnly(picked || null);
            setSelected(new Set());
          }}
        />
        <SelectField
          label="Time by"
          value={by}
          options={lookingAt.map((each) => [each, names[each]] as const)}
          onPick={(picked) => {
            setBy(picked as LookingAt);
            setSelected(new Set());
          }}
        />
        <Against {...{ looked, from, to }} />
      </div>
      <WeekPages {...{ pricer, zone }} pages={looked.pages} />
      <div className="gap-8 lg:grid lg:grid-cols-[minmax(0,1fr)_248px]">
        <Section
          title={`Time by ${names[by].toLowerCase()}`}
          actions={
            selected.size > 0 &&
            by !== 'job' && (
              <>
                <JobPicker
                  pricer={pricer}
                  value={noJob}
                  label="Job of what is selected"
                  onPick={give}
                  className="text-time"
                >
                  Always give {selected.size} to a job…
                </JobPicker>
                <JobPicker
                  pricer={pricer}
                  value={noJob}
                  label="Job of what is selected, this once"
                  onPick={(job) => void giveOnce([...selected], job)}
                  className="text-time"
                >
                  This once…
                </JobPicker>
                {selected.size === 1 && (
                  <Button kind="quiet" onClick={() => setRule(ruleFor(conditionOf(by, [...selected][0]!)!, null))}>
                    Write a rule…
                  </Button>
                )}
              </>
            )
          }
        >
          <Ledger
            label={`Time by ${names[by].toLowerCase()}`}
            rows={rows}
            rowId={(row) => row.key}
            rowName={(row) => show(row.key)}
            columns={columns}
            onOpen={(row) => setOpened({ key: row.key, name: show(row.key) })}
            {...(by === 'job' ? {} : { selection: { selected, onChange: setSelected } })}
            empty="Nothing was seen in this period. Sift → Sources says where activity comes from."
          />
        </Section>
        <JobTargets
          pricer={pricer}
          projectIds={targets.slice(0, MOST_TARGETS)}
          seen={seenOf}
          dragging={dragged !== null}
        />
      </div>
      <BestTimes habits={looked.habits} takers={looked.takers} weighted={weights.length > 0} />
      <HoursByWeekday heat={looked.heat} />
      <WeightGroups {...{ pricer, looked, weights }} />
      {opened && (
        <BehindRow
          {...{ pricer, by }}
          query={{ from, to, zone, book, only }}
          row={opened}
          onClose={() => setOpened(null)}
        />
      )}
      {rule && <RuleDialog {...{ pricer, member }} rule={rule} onClose={() => setRule(null)} />}
    </DndContext>
  );
}

/** What is spoken of something dragged, or of what it is dropped on. */
function nameOfDragged(id: string, jobName: (projectId: string) => string | undefined): string {
  if (id.startsWith('job ')) return jobName(id.slice(4)) ?? 'a job';
  return id.startsWith('row ') ? id.slice(4) : 'a stretch';
}

/** The handle of a row that is dragged onto a job. By keys the row is selected, and given to a job with what stands above the list. */
function Handle({ dragKey, name }: { dragKey: string; name: string }) {
  const { setNodeRef, listeners } = useDraggable({
    id: `row ${dragKey}`,
    data: { kind: 'row', key: dragKey, name } satisfies Dragged,
  });
  return (
    <span
      ref={setNodeRef}
      {...listeners}
      aria-hidden
      title="Drag onto a job"
      className="shrink-0 cursor-grab touch-none self-center text-soft max-lg:hidden"
    >
      <GripVertical size={14} />
    </span>
  );
}
