import { documentClocks, documentName, placeOn, type DocumentClock } from '@half-penny/core/capture';
import { noJob, type Job } from '@half-penny/core/entries';
import { boundsOfDay, showLength } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import { wordsOf } from '../../data/in-words';
import { useChanges, useSession } from '../../data/session';
import { saveSettings, useCaptureSettings, useTrailVersion, useRules, useOpenedFor } from '../../data/trail';
import { useTrailChanges } from '../../data/trail-changes';
import { JobPicker } from '../../parts/job-picker';
import { Ledger } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { useRange } from '../../parts/range';
import { SelectField } from '../../parts/select';
import { useSiftBook } from '../../parts/sift-book';
import { useAppSelector } from '../../state/store';
import { captureWork, type PlacedDocument, type UnclearTitle } from '../../workers/capture';
import { documentColumns, documentJobs, rulesFor, sum } from './document-columns';
import { UnclearTitles } from './document-names';
import { OpenedForList } from './opened-for-list';
import type { PartProps } from './sift';
import { Time } from './time';

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
  const [found, setFound] = useState<{ documents: PlacedDocument[]; unclear: UnclearTitle[] }>();
  const [fault, setFault] = useState<string | null>(null);
  const book = useSiftBook(pricer);
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const now = useAppSelector((state) => state.clock.now);
  useEffect(() => {
    if (version === undefined) return;
    let left = false;
    void captureWork()
      .documentsOf({ from, to, zone: member.zone, book })
      .then(
        (read) => !left && (setFound(read), setFault(null)),
        (thrown: unknown) => !left && setFault(wordsOf(thrown)),
      );
    return () => void (left = true);
  }, [version, from, to, member.zone, book]);
  if (fault !== null) return <p role="alert">{fault}</p>;
  if (!found || !rules || !openedFor || !settings) return <Loading />;
  const { documents, unclear } = found;
  const jobs = documentJobs(documents, rules, openedFor);
  const { placeOf, filesOf } = jobs;
  const giveRule = (files: readonly string[], job: Job, folder: boolean) => {
    const put = rulesFor(files, placeOn({ ...job, workspaceId: workspace.id }), folder, rules);
    void change(put.length === 1 ? 'Rule made' : `${put.length} rules made`, { rules: { put } });
    setSelected(new Set());
  };
  const { workspace: studio } = pricer.book;
  const columns = documentColumns({
    pricer,
    member,
    documents,
    jobs,
    now,
    change,
    give: (files, job) => giveRule(files, job, false),
  });
  const lost = documents.filter((each) => !placeOf(each));
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
                onPick={(job) => giveRule(filesOf([...selected]), job, false)}
                className="text-time"
              >
                Give {selected.size} to a job…
              </JobPicker>
              <JobPicker
                pricer={pricer}
                value={noJob}
                label="Job of their folders"
                onPick={(job) => giveRule(filesOf([...selected]), job, true)}
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
      {unclear.length > 0 && <UnclearTitles {...{ unclear }} />}
      <Section title="Opened for">
        <p className="mb-2 text-sm text-soft">
          Why a document was open, in your own words. Set it in the list above or by a rule.
        </p>
        <ul className="mb-3 text-sm">
          {studio.openedFor.map((entry) => (
            <li key={entry.id} className="flex max-w-md justify-between border-b border-rule py-1">
              <span>{entry.name}</span>
              <Time ms={sum(documents, (each) => (jobs.openedForOf(each.file) === entry.id ? each.inView : 0))} />
            </li>
          ))}
        </ul>
        <OpenedForList names={studio.openedFor} save={(names) => attempt('workspace.edit', { openedFor: names })} />
      </Section>
    </>
  );
}
