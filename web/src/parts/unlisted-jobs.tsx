import type { Pricer } from '@half-penny/core/billing';
import { noJob, type Job } from '@half-penny/core/entries';
import { Fault, projectColours } from '@half-penny/core/model';
import { useState, type ReactNode } from 'react';
import { useUnlistedJobs, type UnlistedJob } from '../data/queries';
import { useChanges } from '../data/session';
import { Button } from './button';
import { showShortDay } from './days';
import { Dialog } from './dialog';
import { TextField } from './field';
import { SelectField } from './select';
import { Length } from './figures';
import { JobPicker } from './job-picker';
import { useSubmit } from './use-submit';
import { Ledger, type Column } from './ledger';
import { Section } from './page';

/** Jobs that hours and costs were recorded on before anybody set them up, and filing them where they belong. */
export function Unlisted({ pricer, none = null }: { pricer: Pricer; none?: ReactNode }) {
  const jobs = useUnlistedJobs();
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [filing, setFiling] = useState<readonly string[] | null>(null);
  if (!jobs) return null;
  if (jobs.length === 0) return none;
  const chosen = jobs.filter((job) => selected.has(job.words)).map((job) => job.words);
  const columns: Column<UnlistedJob>[] = [
    {
      key: 'words',
      head: 'Recorded as',
      width: 'minmax(0,1.2fr)',
      cell: (job) => <span className="written clamp-2">“{job.words}”</span>,
    },
    {
      key: 'people',
      head: 'By',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: (job) => (
        <span className="written clamp-2">{job.memberIds.map((id) => pricer.member.get(id)?.name).join(', ')}</span>
      ),
    },
    { key: 'latest', head: 'Last', width: '110px', wideOnly: true, cell: (job) => showShortDay(job.latest) },
    { key: 'entries', head: 'Entries', width: '70px', align: 'end', cell: (job) => job.entries || '–' },
    { key: 'costs', head: 'Costs', width: '70px', align: 'end', wideOnly: true, cell: (job) => job.costLines || '–' },
    { key: 'hours', head: 'Hours', width: '92px', align: 'end', cell: (job) => <Length seconds={job.seconds} /> },
    {
      key: 'file',
      head: 'File',
      quietHead: true,
      width: '80px',
      align: 'end',
      cell: (job) => (
        <Button kind="quiet" onClick={() => setFiling([job.words])}>
          File…
        </Button>
      ),
    },
  ];
  return (
    <Section
      id="unlisted"
      title="Jobs that are not set up yet"
      actions={
        chosen.length > 1 && <Button onClick={() => setFiling(chosen)}>File {chosen.length} jobs together…</Button>
      }
    >
      <Ledger
        label="Jobs that are not set up yet"
        rows={jobs}
        rowId={(job) => job.words}
        rowName={(job) => job.words}
        columns={columns}
        selection={{ selected, onChange: setSelected }}
        onOpen={(job) => setFiling([job.words])}
        empty=""
      />
      {filing && <FileDialog {...{ pricer }} words={filing} onClose={() => setFiling(null)} />}
    </Section>
  );
}

const NEW = 'new';

function FileDialog({ pricer, words, onClose }: { pricer: Pricer; words: readonly string[]; onClose: () => void }) {
  const { run } = useChanges();
  const [way, setWay] = useState<'there' | 'new'>('there');
  const [job, setJob] = useState<Job>(noJob);
  const [clientId, setClientId] = useState(NEW);
  const [client, setClient] = useState('');
  const [project, setProject] = useState(words.length === 1 ? words[0]!.slice(0, 100) : '');
  const [jobNumber, setJobNumber] = useState('');
  const { fault, submit } = useSubmit(async () => {
    if (way === 'there') {
      if (job.projectId === null) throw new Fault('lacking', 'Choose the project that it belongs to.', 'to');
      await run('job.file', { unlisted: [...words], to: { projectId: job.projectId } });
    } else {
      const to = clientId === NEW ? { name: client } : clientId === '' ? null : { id: clientId };
      const colour = projectColours[pricer.book.projects.length % projectColours.length]!;
      await run('job.file', {
        unlisted: [...words],
        to: { client: to, project: { name: project, jobNumber, colour } },
      });
    }
    onClose();
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title={words.length === 1 ? `File “${words[0]!.slice(0, 60)}”` : `File ${words.length} jobs together`}
      about="Everybody’s entries, costs, planned time and what runs on it move there; the history says so."
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <SelectField
          label="Onto"
          value={way}
          onPick={(picked) => setWay(picked as 'there' | 'new')}
          options={[
            ['there', 'A project that is there'],
            ['new', 'A new project'],
          ]}
        />
        {way === 'there' ? (
          <div>
            <div className="mb-1 text-xs font-semibold text-soft">Project</div>
            <JobPicker pricer={pricer} label="Project" boxed value={job} none="Choose a project…" onPick={setJob} />
          </div>
        ) : (
          <>
            <SelectField
              label="Client"
              value={clientId}
              onPick={(picked) => setClientId(picked)}
              options={[
                [NEW, 'A new client'],
                ['', 'None, internal work'],
                ...pricer.book.clients.filter((each) => !each.archived).map((each) => [each.id, each.name] as const),
              ]}
            />
            {clientId === NEW && (
              <TextField
                label="The new client’s name"
                value={client}
                onChange={(event) => setClient(event.target.value)}
              />
            )}
            <div className="grid grid-cols-[1fr_120px] gap-3">
              <TextField label="Project" value={project} onChange={(event) => setProject(event.target.value)} />
              <TextField label="Job number" value={jobNumber} onChange={(event) => setJobNumber(event.target.value)} />
            </div>
          </>
        )}
        {fault && (
          <p role="alert" className="text-sm text-fault">
            {fault}
          </p>
        )}
        <div className="flex gap-2">
          <Button type="submit" kind="main">
            File it
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
