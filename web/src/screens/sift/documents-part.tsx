import {
  clockLength,
  documentClocks,
  documentName,
  placeOn,
  type DocumentClock,
  type DocumentTime,
  type PlacingRule,
} from '@half-penny/core/capture';
import { noJob, type Job } from '@half-penny/core/entries';
import { boundsOfDay, showLength } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import { newId } from '../../data/registry';
import { useChanges, useSession } from '../../data/session';
import { saveSettings, useCaptureSettings, useTrailVersion, useRules, useOpenedFor } from '../../data/trail';
import { useTrailChanges } from '../../data/trail-changes';
import { Button } from '../../parts/button';
import { TextField } from '../../parts/field';
import { Select, SelectField } from '../../parts/select';
import { JobPicker } from '../../parts/job-picker';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { showTime } from '../../parts/spans';
import { useAppSelector } from '../../state/store';
import { captureWork } from '../../workers/capture';
import { minutesOf, showOutcome } from './evidence';
import { useRange } from '../../parts/range';
import { readSentence, RuleBook, subjectOf } from '@half-penny/core/capture';
import type { PartProps } from './sift';

/** Time of each document: in view, hands on, how often it was kept, and its own clock; with the job it belongs to. */
export default function DocumentsPart({ pricer, member, today }: PartProps) {
  const { from, to, field } = useRange(today);
  const { entry: workspace } = useSession();
  const { attempt } = useChanges();
  const change = useTrailChanges();
  const settings = useCaptureSettings();
  const bounds = { start: boundsOfDay(from, member.zone).start, end: boundsOfDay(to, member.zone).end };
  const version = useTrailVersion(bounds.start, bounds.end);
  const rules = useRules();
  const openedFor = useOpenedFor();
  const [documents, setDocuments] = useState<DocumentTime[]>();
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const now = useAppSelector((state) => state.clock.now);
  useEffect(() => {
    if (version === undefined) return;
    let left = false;
    void captureWork()
      .documents({ from, to, zone: member.zone })
      .then((found) => !left && setDocuments(found));
    return () => void (left = true);
  }, [version, from, to, member.zone]);
  if (!documents || !rules || !openedFor || !settings) return <Loading />;
  const book = new RuleBook(rules);
  const jobOf = (file: string): PlacingRule | null => {
    const subject = subjectOf({ kind: 'window', file });
    return book.decide(subject, book.caught(subject), () => ({ at: Date.now(), minute: 600, weekday: 3 }))[0];
  };
  const giveRule = (files: readonly string[], job: Job, folder: boolean) => {
    const places = folder ? [...new Set(files.map((file) => file.slice(0, file.lastIndexOf('/'))))] : files;
    const order = Math.max(0, ...rules.map((each) => each.order));
    const put = places.map((place, index): PlacingRule => ({
      id: newId(),
      order: order + index + 1,
      when: readSentence(folder ? `folder begins with “${place}”` : `file is “${place}”`),
      then: placeOn({ ...job, workspaceId: workspace.id }),
      since: 0,
      posts: false,
      on: true,
    }));
    void change(put.length === 1 ? 'Rule made' : `${put.length} rules made`, { rules: { put } });
    setSelected(new Set());
  };
  const openedForOf = (file: string) =>
    openedFor.find((each) => each.file === file)?.openedForId ??
    (() => {
      const then = jobOf(file)?.then;
      return then?.act === 'place' ? (then.openedForId ?? '') : '';
    })();
  const isRunning = (each: DocumentTime) => (each.clock.at(-1)?.end ?? 0) >= now - 120_000;
  const { workspace: studio } = pricer.book;
  const columns: Column<DocumentTime>[] = [
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
        </>
      ),
    },
    {
      key: 'job',
      head: 'Belongs to',
      width: 'minmax(0,1fr)',
      cell: (each) => {
        const rule = jobOf(each.file);
        return (
          <JobPicker
            pricer={pricer}
            value={noJob}
            label={`Job of ${documentName(each.file)}`}
            onPick={(job) => giveRule([each.file], job, false)}
          >
            {rule ? showOutcome(pricer, rule.then) : <span className="font-semibold text-attention">nowhere yet</span>}
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
            cell: (each: DocumentTime) => (
              <Select
                name={`Opened for, ${documentName(each.file)}`}
                look="quiet"
                className="w-full text-sm"
                value={openedForOf(each.file)}
                onPick={(picked) =>
                  void change('Opened for set', {
                    openedFor: picked ? { put: [{ file: each.file, openedForId: picked }] } : { remove: [each.file] },
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
  const lost = documents.filter((each) => !jobOf(each.file));
  return (
    <>
      <div className="mb-5 flex flex-wrap items-end gap-4">
        {field}
        <SelectField
          label="A document’s clock counts"
          hint="Time away never counts."
          value={settings.documentClock}
          options={documentClocks.map((each) => [each, each] as const)}
          onPick={(picked) => void saveSettings({ documentClock: picked as DocumentClock })}
        />
      </div>
      <Section
        title="Documents"
        actions={
          selected.size > 0 && (
            <>
              <JobPicker
                pricer={pricer}
                value={noJob}
                label="Job of these documents"
                onPick={(job) => giveRule([...selected], job, false)}
                className="text-time"
              >
                Give {selected.size} to a job…
              </JobPicker>
              <JobPicker
                pricer={pricer}
                value={noJob}
                label="Job of their folders"
                onPick={(job) => giveRule([...selected], job, true)}
                className="text-time"
              >
                Give their folders…
              </JobPicker>
            </>
          )
        }
      >
        {lost.length > 0 && (
          <p className="mb-2 text-sm text-attention">
            {lost.length} {lost.length === 1 ? 'document belongs' : 'documents belong'} nowhere yet:{' '}
            {showLength(Math.round(sum(lost, (each) => each.inView) / 1000))} in view.
          </p>
        )}
        <Ledger
          label="Documents"
          rows={documents}
          rowId={(each) => each.file}
          rowName={(each) => documentName(each.file)}
          columns={columns}
          selection={{ selected, onChange: setSelected }}
          footLabel="Total"
          empty="No document was seen in this period."
        />
      </Section>
      <Section title="Opened for">
        <p className="mb-2 text-sm text-soft">
          Why a document was open, in your own words. Set it in the list above or by a rule.
        </p>
        <ul className="mb-3 text-sm">
          {studio.openedFor.map((entry) => (
            <li key={entry.id} className="flex max-w-md justify-between border-b border-rule py-1">
              <span>{entry.name}</span>
              <Time ms={sum(documents, (each) => (openedForOf(each.file) === entry.id ? each.inView : 0))} />
            </li>
          ))}
        </ul>
        <OpenedForList names={studio.openedFor} save={(names) => attempt('workspace.edit', { openedFor: names })} />
      </Section>
    </>
  );
}

const sum = <T,>(list: readonly T[], of: (each: T) => number): number =>
  list.reduce((total, each) => total + of(each), 0);
const Time = ({ ms }: { ms: number }) => <span className="font-mono font-semibold text-time">{minutesOf(ms)}</span>;

interface OpenedForEntry {
  id: string;
  name: string;
}

function OpenedForList({
  names,
  save,
}: {
  names: readonly OpenedForEntry[];
  save: (names: OpenedForEntry[]) => Promise<unknown>;
}) {
  const [text, setText] = useState('');
  return (
    <div className="flex flex-col gap-2">
      <ul className="flex flex-wrap gap-x-5 gap-y-1">
        {names.map((each) => (
          <li key={each.id} className="flex items-center gap-2">
            {each.name}
            <Button
              kind="quiet"
              aria-label={`Remove ${each.name}`}
              onClick={() => void save(names.filter((other) => other.id !== each.id))}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim() === '') return;
          void save([...names, { id: newId(), name: text.trim() }]);
          setText('');
        }}
      >
        <TextField label="New entry of the list" value={text} onChange={(event) => setText(event.target.value)} />
        <Button type="submit">Add it to the list</Button>
      </form>
    </div>
  );
}
