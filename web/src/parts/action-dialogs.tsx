import { inStyle, rateUnits, type RateUnit } from '@half-penny/core/money';
import { rateTyped } from './read-price';
import { serviceOptions, serviceOf } from './services';
import type { Pricer } from '@half-penny/core/billing';
import { jobOf, noJob, type Job } from '@half-penny/core/entries';
import { sameData, type Entry, type Member } from '@half-penny/core/model';
import { minuteOf, showLength, showMinute } from '@half-penny/core/time';
import { useState } from 'react';
import { useChanges } from '../data/session';
import { Button } from './button';
import { DayField } from './day-field';
import { Dialog } from './dialog';
import { TextField } from './field';
import { SelectField } from './select';
import { JobPicker } from './job-picker';
import { splitAfter } from './editing';
import { useSubmit } from './use-submit';
import { useRights } from '../data/rights';

export function SplitDialog({ entry, member, onClose }: { entry: Entry; member: Member; onClose: () => void }) {
  const { run } = useChanges();
  const [text, setText] = useState(() => middleOf(entry, member));
  const { fault, submit } = useSubmit(async () => {
    await run('entry.split', { id: entry.id, after: splitAfter(entry, member, text) });
    onClose();
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Split ${showLength(entry.seconds)}${entry.note ? ` of “${entry.note.slice(0, 80)}”` : ''}`}
      about="Both parts keep the job and the note; what is billable is shared in proportion."
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <TextField
          label={entry.spans.length > 0 ? 'At a time of day, or after a length' : 'After a length'}
          value={text}
          fault={fault}
          autoFocus
          onFocus={(event) => event.target.select()}
          onChange={(event) => setText(event.target.value)}
        />
        <div className="flex gap-2">
          <Button type="submit" kind="main" shortcut="Enter">
            Split
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}

function middleOf(entry: Entry, member: Member): string {
  const [span] = entry.spans;
  if (!span || entry.spans.length > 1) return `${Math.floor(entry.seconds / 120)}m`;
  return showMinute(minuteOf(span.start + (span.end - span.start) / 2, member.zone));
}

interface MoveDialogProps {
  pricer: Pricer;
  entries: readonly Entry[];
  onClose: () => void;
}

export function MoveDialog({ pricer, entries, onClose }: MoveDialogProps) {
  const { run } = useChanges();
  const rights = useRights();
  const [first] = entries;
  const [day, setDay] = useState(first!.day);
  const [job, setJob] = useState<Job>(entries.length === 1 ? first! : noJob);
  const [billable, setBillable] = useState('keep');
  const [serviceId, setServiceId] = useState('keep');
  const [moved, setMoved] = useState({ day: false, job: false });
  const before = entries.length === 1 ? first!.rate : null;
  const [rate, setRate] = useState(inStyle(before?.price ?? ''));
  const [unit, setUnit] = useState<RateUnit>(before?.unit ?? 'hour');
  const agreed =
    rate.trim() === '' ? null : { price: rate === inStyle(before?.price ?? '') ? before!.price : rate, unit };
  const { fault, submit } = useSubmit(async () => {
    await run('entry.editAll', {
      ids: entries.map((entry) => entry.id),
      ...(sameData(agreed, before) ? {} : { rate: agreed && rateTyped(rate, unit) }),
      ...(moved.day ? { day } : {}),
      ...(moved.job ? jobOf(job) : {}),
      ...(serviceId === 'keep' ? {} : serviceOf(serviceId)),
      ...(billable === 'keep' ? {} : { billableSeconds: billable === 'all' ? null : 0 }),
    });
    onClose();
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title={entries.length === 1 ? 'Move the entry' : `Move ${entries.length} entries`}
      about="Fields left alone stay unchanged. On another day they keep their times of day."
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <DayField
          label="To the day"
          value={day}
          onPick={(next) => {
            setDay(next);
            setMoved((now) => ({ ...now, day: true }));
          }}
        />
        <div>
          <div className="mb-1 text-xs font-semibold text-soft">To the job</div>
          <JobPicker
            pricer={pricer}
            label="To the job"
            boxed
            value={job}
            none={entries.length > 1 && !moved.job ? 'Unchanged' : 'Choose a job…'}
            onPick={(next) => {
              setJob(next);
              setMoved((now) => ({ ...now, job: true }));
            }}
          />
        </div>
        <SelectField
          label="Service"
          value={serviceId}
          onPick={(picked) => setServiceId(picked)}
          options={[['keep', 'Unchanged'], ...serviceOptions(pricer, undefined, moved.job ? job.projectId : null)]}
        />
        {rights.has('billable part') && (
          <SelectField
            label="Billable"
            value={billable}
            onPick={(picked) => setBillable(picked)}
            options={[
              ['keep', 'Unchanged'],
              ['all', 'All'],
              ['none', 'None'],
            ]}
          />
        )}
        {rights.has('rates') && (
          <div className="grid grid-cols-[minmax(0,1fr)_96px] gap-2">
            <TextField
              label="A rate for this time only"
              hint="Empty: the rate cards decide."
              placeholder="as the cards say"
              inputMode="decimal"
              value={rate}
              onChange={(event) => setRate(event.target.value)}
            />
            <SelectField
              label="Per"
              value={unit}
              onPick={(picked) => setUnit(picked as RateUnit)}
              options={rateUnits.map((each) => [each, each] as const)}
            />
          </div>
        )}
        {fault && (
          <p role="alert" className="text-sm text-fault">
            {fault}
          </p>
        )}
        <div className="flex gap-2">
          <Button type="submit" kind="main" shortcut="Enter">
            Move
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
