import {
  clockLength,
  documentName,
  readSentence,
  RuleBook,
  subjectOf,
  type Outcome,
  type PlaceOutcome,
  type PlacingRule,
} from '@half-penny/core/capture';
import type { Pricer } from '@half-penny/core/billing';
import { noJob, type Job } from '@half-penny/core/entries';
import type { Member } from '@half-penny/core/model';
import { newId } from '../../data/registry';
import type { TrailChange } from '../../data/trail-changes';
import { Button } from '../../parts/button';
import { JobPicker } from '../../parts/job-picker';
import type { Column } from '../../parts/ledger';
import { Select } from '../../parts/select';
import { showTime } from '../../parts/spans';
import type { PlacedDocument } from '../../workers/capture';
import { OtherNames } from './document-names';
import { showOutcome } from './evidence';
import { Time } from './time';

/** Where documents belong, by rules and by where their time was placed, and what they were opened for. */
export interface DocumentJobs {
  placeOf: (document: PlacedDocument) => Outcome | null;
  /** All names of some documents, each told by the one it goes by. */
  filesOf: (ids: readonly string[]) => string[];
  openedForOf: (file: string) => string;
}

export function documentJobs(
  documents: readonly PlacedDocument[],
  rules: readonly PlacingRule[],
  openedFor: readonly { file: string; openedForId: string }[],
): DocumentJobs {
  const book = new RuleBook(rules);
  const said = new Map(openedFor.map((each) => [each.file, each.openedForId]));
  const ruleOf = (file: string): PlacingRule | null => {
    const subject = subjectOf({ kind: 'window', file });
    return book.decide(subject, book.caught(subject), () => ({ at: Date.now(), minute: 600, weekday: 3 }))[0];
  };
  return {
    // By a rule for what comes; else where most of its time was placed.
    placeOf: ({ file, placed }) => ruleOf(file)?.then ?? placed,
    filesOf: (ids) => documents.flatMap((each) => (ids.includes(each.file) ? each.files.map(({ file }) => file) : [])),
    openedForOf: (file) => {
      const then = ruleOf(file)?.then;
      return said.get(file) ?? (then?.act === 'place' ? (then.openedForId ?? '') : '');
    },
  };
}

/** A rule for each file, or for each of their folders, behind those there are. */
export function rulesFor(
  files: readonly string[],
  then: PlaceOutcome,
  byFolder: boolean,
  rules: readonly PlacingRule[],
): PlacingRule[] {
  const places = byFolder ? [...new Set(files.map((file) => file.slice(0, file.lastIndexOf('/'))))] : files;
  const order = Math.max(0, ...rules.map((each) => each.order));
  return places.map((place, index) => ({
    id: newId(),
    order: order + index + 1,
    when: readSentence(byFolder ? `folder begins with “${place}”` : `file is “${place}”`),
    then,
    since: 0,
    posts: false,
    on: true,
  }));
}

export const sum = <T,>(list: readonly T[], of: (each: T) => number): number =>
  list.reduce((total, each) => total + of(each), 0);

/** A clock that ran so lately runs still. */
const STILL = 120_000;

interface ColumnsOf {
  pricer: Pricer;
  member: Member;
  documents: readonly PlacedDocument[];
  jobs: DocumentJobs;
  now: number;
  change: (text: string, changes: TrailChange) => Promise<boolean>;
  give: (files: readonly string[], job: Job) => void;
}

/** The columns of the list of documents. */
export function documentColumns({
  pricer,
  member,
  documents,
  jobs,
  now,
  change,
  give,
}: ColumnsOf): Column<PlacedDocument>[] {
  const { placeOf, filesOf, openedForOf } = jobs;
  const { workspace: studio } = pricer.book;
  const isRunning = (each: PlacedDocument) => (each.clock.at(-1)?.end ?? 0) >= now - STILL;
  return [
    {
      key: 'name',
      head: 'Document',
      width: 'minmax(0,1.6fr)',
      cell: (each) => (
        <>
          <span className="written clamp-2 [overflow-wrap:anywhere]">{documentName(each.file)}</span>
          <span className="block truncate text-xs text-soft" title={each.file}>
            {each.file}
          </span>
          {each.files.length > 1 && <OtherNames document={each} zone={member.zone} />}
        </>
      ),
    },
    {
      key: 'job',
      head: 'Belongs to',
      width: 'minmax(0,1fr)',
      cell: (each) => {
        const place = placeOf(each);
        return (
          <JobPicker
            pricer={pricer}
            value={noJob}
            label={`Job of ${documentName(each.file)}`}
            onPick={(job) => give(filesOf([each.file]), job)}
          >
            {place ? showOutcome(pricer, place) : <span className="font-semibold text-attention">nowhere yet</span>}
          </JobPicker>
        );
      },
    },
    ...(studio.openedFor.length > 0
      ? [
          {
            key: 'opened for',
            head: 'Opened for',
            width: '120px',
            wideOnly: true,
            cell: (each: PlacedDocument) => (
              <Select
                name={`Opened for, ${documentName(each.file)}`}
                look="quiet"
                className="w-full text-sm"
                value={openedForOf(each.file)}
                onPick={(picked) =>
                  void change('Opened for set', {
                    openedFor: picked
                      ? { put: filesOf([each.file]).map((file) => ({ file, openedForId: picked })) }
                      : { remove: filesOf([each.file]) },
                  })
                }
                options={[['', 'not said'], ...studio.openedFor.map((entry) => [entry.id, entry.name] as const)]}
              />
            ),
          },
        ]
      : []),
    {
      key: 'view',
      head: 'In view',
      wideOnly: true,
      width: '80px',
      align: 'end',
      cell: (each) => <Time ms={each.inView} />,
      foot: <Time ms={sum(documents, (each) => each.inView)} />,
    },
    {
      key: 'hands',
      head: 'Hands on',
      wideOnly: true,
      width: '84px',
      align: 'end',
      cell: (each) => (each.hands < 0 ? <span className="text-soft">–</span> : <Time ms={each.hands} />),
      foot: <Time ms={sum(documents, (each) => Math.max(0, each.hands))} />,
    },
    {
      key: 'kept',
      head: 'Kept',
      wideOnly: true,
      width: '64px',
      align: 'end',
      cell: (each) => (
        <span
          className="font-mono"
          title={each.kept
            .slice(-12)
            .map((at) => showTime(at, member.zone))
            .join(', ')}
        >
          {each.kept.length || ''}
        </span>
      ),
    },
    {
      key: 'clock',
      head: 'Its clock',
      width: '130px',
      align: 'end',
      cell: (each) => (
        <span className="flex items-baseline justify-end gap-2">
          <Button
            kind="quiet"
            onClick={() =>
              void change(isRunning(each) ? 'Clock paused' : 'Clock running', {
                switches: { put: [{ file: each.file, at: Date.now(), on: !isRunning(each) }] },
              })
            }
          >
            {isRunning(each) ? 'Pause' : 'Run'}
          </Button>
          <Time ms={clockLength(each)} />
        </span>
      ),
      foot: <Time ms={sum(documents, clockLength)} />,
    },
  ];
}
