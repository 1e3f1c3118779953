import type { Pricer } from '@half-penny/core/billing';
import { noJob, unlistedJob, type Job } from '@half-penny/core/entries';
import { Command } from 'cmdk';
import { useContext, useLayoutEffect, useMemo, useState } from 'react';
import { useLikelyJobs, useUnlistedJobs } from '../data/queries';
import { AddJob } from './add-job';
import { JobOrder } from './job-order';
import { itemLook, JobLine, jobSearchLook } from './jobs';
import { findJobs, whyMissing } from './known-jobs';

/** What was typed while the list was still coming, and whether Enter was pressed behind it. */
export interface Early {
  words: string;
  taken: boolean;
}

interface JobListProps {
  pricer: Pricer;
  pick: (job: Job) => void;
  early?: Early;
}

/** The list to choose a job from. */
export default function JobList({ pricer, pick, early }: JobListProps) {
  const order = useContext(JobOrder);
  const likely = useLikelyJobs(pricer);
  const known = useUnlistedJobs();
  const [typed, setTyped] = useState(early?.words ?? '');
  const { open, closed } = useMemo(() => findJobs(pricer, typed, likely, order), [pricer, typed, likely, order]);
  // The list may be made while one still types: what counts is what stood there when it came.
  useLayoutEffect(() => {
    if (!early) return;
    setTyped(early.words);
    const [first] = early.taken ? findJobs(pricer, early.words, likely, order).open : [];
    if (first) pick(first.job);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the list comes
  }, []);
  const words = typed.trim();
  const [adding, setAdding] = useState(false);
  const unlisted = (known ?? [])
    .map((each) => each.words)
    .filter((each) => words !== '' && each !== words && each.toLowerCase().includes(words.toLowerCase()))
    .slice(0, 5);
  if (adding) return <AddJob {...{ pricer, pick }} words={words.slice(0, 200)} onBack={() => setAdding(false)} />;
  return (
    <Command shouldFilter={false} label="Jobs">
      <Command.Input
        autoFocus
        value={typed}
        onValueChange={setTyped}
        placeholder="Client or project…"
        className={jobSearchLook}
      />
      <Command.List className="max-h-72 overflow-auto p-1">
        {open.map(({ id, job }) => (
          <Command.Item key={id} value={id} onSelect={() => pick(job)} className={itemLook}>
            <JobLine pricer={pricer} job={job} />
          </Command.Item>
        ))}
        {unlisted.map((each) => (
          <Command.Item
            key={each}
            value={`unlisted ${each}`}
            onSelect={() => pick(unlistedJob(each))}
            className={itemLook}
          >
            <JobLine pricer={pricer} job={unlistedJob(each)} />
          </Command.Item>
        ))}
        {!typed && (
          <Command.Item value="none" onSelect={() => pick(noJob)} className={`${itemLook} text-soft`}>
            No job yet
          </Command.Item>
        )}
        {words && (
          <Command.Item value="unlisted" onSelect={() => pick(unlistedJob(words.slice(0, 500)))} className={itemLook}>
            <span className="written clamp-2">
              On “{words.slice(0, 200)}” <span className="text-soft">not set up yet; file it later in Clients</span>
            </span>
          </Command.Item>
        )}
        <Command.Item value="add" onSelect={() => setAdding(true)} className={`${itemLook} text-time`}>
          <span className="written clamp-2">{words ? `Set up “${words.slice(0, 80)}”…` : 'Set up a new job…'}</span>
        </Command.Item>
        {closed.map((each) => (
          <Command.Item key={each.id} value={each.id} disabled className={`${itemLook} text-soft`}>
            <span>{whyMissing(pricer, each)}</span>
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  );
}
