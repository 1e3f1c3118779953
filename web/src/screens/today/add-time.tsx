import { serviceOptions, serviceOf } from '../../parts/services';
import type { Pricer } from '@half-penny/core/billing';
import { noJob, spanOn, type Job } from '@half-penny/core/entries';
import { messageOf, type FormField, type Member } from '@half-penny/core/model';
import { readLength, type Day, type Interval } from '@half-penny/core/time';
import { useEffect, useRef, useState, type FormEvent, type ReactNode } from 'react';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { SelectField, TextField } from '../../parts/field';
import { JobPicker } from '../../parts/job-picker';
import { isKey } from '../../parts/keys';
import { showSpan } from '../../parts/spans';

interface AddTimeProps {
  pricer: Pricer;
  member: Member;
  day: Day;
  /** A stretch that is to be filled. */
  span?: Interval | null;
  onClose: () => void;
}

/** A line to write time down by hand, with the fields the member chose in their order. Stays open for the next one. */
export default function AddTime({ pricer, member, day, span = null, onClose }: AddTimeProps) {
  const { run } = useChanges();
  const [length, setLength] = useState(span ? showSpan(span, member.zone) : '');
  const [note, setNote] = useState('');
  const [job, setJob] = useState<Job>(noJob);
  const [serviceId, setServiceId] = useState('');
  const [billable, setBillable] = useState('');
  const [fault, setFault] = useState<{ at: 'length' | 'billable'; message: string } | null>(null);
  const form = useRef<HTMLFormElement>(null);
  const focusFirst = () => form.current?.querySelector<HTMLElement>('input, select, button')?.focus();
  useEffect(() => {
    // It comes a moment late the first time: what was opened meanwhile keeps the focus.
    if (!document.querySelector('[role=dialog]')) focusFirst();
  }, []);

  const add = async (event: FormEvent) => {
    event.preventDefault();
    let at: 'length' | 'billable' = 'length';
    try {
      const typed = readLength(length);
      const times = typed.kind === 'span' ? spanOn(typed, day, member.zone) : { seconds: typed.seconds };
      at = 'billable';
      const billableSeconds = readBillable(billable);
      await run('entry.add', {
        memberId: member.id,
        day,
        ...job,
        ...serviceOf(serviceId),
        note,
        billableSeconds,
        ...times,
      });
      setLength('');
      setNote('');
      setBillable('');
      setFault(null);
      focusFirst();
    } catch (thrown) {
      setFault({ at, message: messageOf(thrown) });
    }
  };
  const faultAt = (at: 'length' | 'billable') => (fault?.at === at ? fault.message : undefined);
  const fields: Record<FormField, ReactNode> = {
    length: (
      <TextField
        key="length"
        label="Length or from–to"
        value={length}
        fault={faultAt('length')}
        placeholder="1:30 or 9–10:30"
        onChange={(event) => setLength(event.target.value)}
        className="w-40"
      />
    ),
    note: (
      <TextField
        key="note"
        label="What was done"
        value={note}
        onChange={(event) => setNote(event.target.value)}
        className="min-w-56 flex-1"
      />
    ),
    job: (
      <div key="job" className="min-w-52">
        <div className="mb-1 text-xs font-semibold text-soft">Job</div>
        <JobPicker pricer={pricer} label="Job" value={job} onPick={setJob} className="min-h-8" />
      </div>
    ),
    service: (
      <SelectField
        key="service"
        className="w-44"
        label="Service"
        value={serviceId}
        onChange={(event) => setServiceId(event.target.value)}
        options={serviceOptions(pricer, member, job.projectId, serviceOf(serviceId))}
      />
    ),
    billable: (
      <TextField
        key="billable"
        className="w-28"
        label="Billable part"
        value={billable}
        fault={faultAt('billable')}
        placeholder="all"
        onChange={(event) => setBillable(event.target.value)}
      />
    ),
  };
  // A length is needed whatever the member chose to see.
  const shown: FormField[] = member.form.includes('length') ? member.form : ['length', ...member.form];
  return (
    <form
      ref={form}
      aria-label="Add time"
      onSubmit={(event) => void add(event)}
      onKeyDown={(event) => isKey(event, 'today.closeAdd') && onClose()}
      className="mb-5 flex flex-wrap items-start gap-3 border-y border-strong bg-side px-3 py-3"
    >
      {shown.map((field) => fields[field])}
      <div className="ml-auto flex gap-2 self-end">
        <Button type="submit" kind="main" shortcut="Enter">
          Add
        </Button>
        <Button onClick={onClose}>Close</Button>
      </div>
    </form>
  );
}

/** Nothing or "all" follows the worked length; "none" is none of it. */
function readBillable(text: string): number | null {
  const plain = text.trim().toLowerCase();
  if (plain === '' || plain === 'all') return null;
  if (plain === 'none' || /^0+(?:[:.]0+)?$/.test(plain)) return 0;
  return readLength(plain).seconds;
}
