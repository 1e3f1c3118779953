import { inputLook } from './field';
import { ChevronDown } from 'lucide-react';
import type { Pricer } from '@half-penny/core/billing';
import { jobKey, type Job } from '@half-penny/core/entries';
import { lazy, Suspense, useRef, useState, type ReactNode } from 'react';
import type { Early } from './job-list';
import { JobLine, jobSearchLook } from './jobs';
import { isKey } from './keys';
import { Opener } from './opener';

// A list to choose from is not needed to show a screen.
const JobList = lazy(() => import('./job-list'));

interface JobPickerProps {
  pricer: Pricer;
  value: Job;
  onPick: (job: Job) => void;
  /** What the field is for, for assistive technology. */
  label: string;
  /** What stands there while nothing is chosen. */
  none?: string;
  className?: string;
  /** Stands among fields and looks like one; otherwise it is the job's own line. */
  boxed?: boolean;
  /** What is picked gets the focus elsewhere, not this field. */
  focusElsewhere?: boolean;
  children?: ReactNode;
}

/** One field for client and project: press, type to find, Enter takes it. Says why a job is missing, and takes one that is not set up. */
export function JobPicker({
  pricer,
  value,
  onPick,
  label,
  none,
  className = '',
  boxed = false,
  focusElsewhere = false,
  children,
}: JobPickerProps) {
  const [open, setOpen] = useState(false);
  const picked = useRef(false);
  const early = useRef<Early>({ words: '', taken: false });
  const pick = (job: Job) => {
    picked.current = true;
    setOpen(false);
    if (jobKey(job) !== jobKey(value)) onPick(job);
  };
  const task = value.taskId === null ? undefined : pricer.task.get(value.taskId);
  const name = task?.name ?? pricer.project.get(value.projectId ?? '')?.name ?? (value.unlisted || 'no job yet');
  const line = children ?? <JobLine pricer={pricer} job={value} {...(none ? { none } : {})} />;
  return (
    <Opener
      label={label}
      open={open}
      onOpenChange={(next) => {
        early.current = { words: '', taken: false };
        setOpen(next);
      }}
      trigger={{
        'aria-label': `${label}: ${name.slice(0, 80)}. Change`,
        className: `text-left ${boxed ? `${inputLook} flex items-center gap-1` : 'rounded-sm decoration-dotted underline-offset-4 hover:underline'} ${className}`,
        children: boxed ? (
          <>
            <span className="min-w-0 flex-1">{line}</span>
            <ChevronDown size={14} aria-hidden className="flex-none text-soft" />
          </>
        ) : (
          line
        ),
      }}
      className="w-80"
      align="start"
      sideOffset={4}
      onCloseAutoFocus={(event) => {
        if (focusElsewhere && picked.current) event.preventDefault();
        picked.current = false;
      }}
    >
      <Suspense fallback={<EarlyWords early={early.current} />}>
        <JobList pricer={pricer} pick={pick} early={early.current} />
      </Suspense>
    </Opener>
  );
}

/** What is typed before the list is there goes into it. */
const EarlyWords = ({ early }: { early: Early }) => (
  <input
    autoFocus
    aria-label="Client or project"
    className={jobSearchLook}
    onChange={(event) => (early.words = event.target.value)}
    onKeyDown={(event) => isKey(event, 'choose.first') && (early.taken = early.words !== '')}
  />
);
