import { serviceOptions, serviceOf } from './services';
import type { Pricer } from '@half-penny/core/billing';
import { noJob, spanOn, whyClosed, type Job } from '@half-penny/core/entries';
import { Fault, readTags, type Entry, type FormField, type Member } from '@half-penny/core/model';
import { wordsOf } from '../data/in-words';
import { readRate } from '@half-penny/core/money';
import { readLength, type Day, type Interval } from '@half-penny/core/time';
import { useEffect, useRef, useState, type FormEvent, type ReactNode } from 'react';
import { useChanges, useSession } from '../data/session';
import { Button } from './button';
import { DayField } from './day-field';
import { TextField } from './field';
import { SelectField } from './select';
import { JobPicker } from './job-picker';
import { isKey } from './keys';
import { showSpan } from './spans';
import { useKept } from '../state/kept';
import { useRights } from '../data/rights';

interface AddTimeProps {
  pricer: Pricer;
  member: Member;
  day: Day;
  /** A stretch that is to be filled. */
  span?: Interval | null;
  /** What it is for, where that is settled: on the page of a project or task. */
  on?: Job;
  onClose: () => void;
}

interface Written {
  length: string;
  times: string;
  note: string;
  job: Job;
  serviceId: string;
  billable: string;
  /** Null is the day that is shown. */
  day: Day | null;
  tags: string;
  rate: string;
}

type Faults = Partial<Record<FormField, string>>;

/** The one job there is to choose, where there is but one. */
function onlyJob(pricer: Pricer): Job | undefined {
  const open = pricer.book.projects.filter((project) => whyClosed(pricer, project) === null);
  return open.length === 1 && pricer.book.tasks.length === 0
    ? { projectId: open[0]!.id, taskId: null, unlisted: '' }
    : undefined;
}

/**
 * A line to write time down by hand, with the fields the member chose in their order. Stays open for the next one; what is half written is
 * still there when one comes back.
 */
export default function AddTime({ pricer, member, day, span = null, on, onClose }: AddTimeProps) {
  const { run } = useChanges();
  const rights = useRights();
  const { entry: workspace } = useSession();
  const [written, change, forget] = useKept<Written>(`add time ${workspace.id} ${on ? JSON.stringify(on) : ''}`, {
    length: span ? showSpan(span, member.zone) : '',
    times: '',
    note: '',
    job: on ?? onlyJob(pricer) ?? noJob,
    serviceId: '',
    billable: '',
    day: null,
    tags: '',
    rate: '',
  });
  const [faults, setFaults] = useState<Faults>({});
  const form = useRef<HTMLFormElement>(null);
  const focusFirst = () => form.current?.querySelector<HTMLElement>('input, button')?.focus();
  useEffect(() => {
    // It comes a moment late the first time: what was opened meanwhile keeps the focus.
    if (!document.querySelector('[role=dialog]')) focusFirst();
  }, []);
  const set = <K extends keyof Written>(field: K, value: Written[K]) => {
    change((now) => ({ ...now, [field]: value }));
    setFaults(({ [field as FormField]: _mended, ...others }) => others);
  };
  const onDay = written.day ?? day;
  const add = async (event: FormEvent) => {
    event.preventDefault();
    const { values, faults: found } = readAll(written, onDay, member);
    setFaults(found);
    if (Object.keys(found).length > 0) return focusFault(form.current);
    // Empty at once: what is typed before the entry is there belongs to the next one, and Enter twice adds one.
    const from = document.activeElement;
    forget();
    focusFirst();
    try {
      await run('entry.add', {
        memberId: member.id,
        day: onDay,
        ...written.job,
        ...serviceOf(written.serviceId),
        note: written.note,
        ...values,
      });
    } catch (thrown) {
      change((now) => (now.length || now.times || now.note ? now : written));
      if (from instanceof HTMLElement && form.current?.contains(from)) from.focus();
      const at = (thrown as Partial<Fault>).path as FormField;
      setFaults({ [at in fieldNames ? at : 'length']: wordsOf(thrown) });
    }
  };
  const text = (field: 'length' | 'times' | 'note' | 'billable' | 'tags' | 'rate', more: Partial<TextProps> = {}) => (
    <TextField
      key={field}
      label={fieldNames[field]}
      value={written[field]}
      fault={faults[field]}
      onChange={(event) => set(field, event.target.value)}
      {...more}
    />
  );
  const fields: Record<FormField, ReactNode> = {
    length: text('length', { placeholder: '1:30 or 9–10:30', className: 'w-40' }),
    times: text('times', { placeholder: '9–10:30', className: 'w-32' }),
    note: text('note', { className: 'min-w-56 flex-1' }),
    job: (
      <div key="job" className="min-w-52">
        <div className="mb-1 text-xs font-semibold text-soft">Job</div>
        <JobPicker pricer={pricer} label="Job" value={written.job} onPick={(job) => set('job', job)} boxed />
      </div>
    ),
    service: (
      <SelectField
        key="service"
        className="w-44"
        label="Service"
        value={written.serviceId}
        fault={faults.service}
        onPick={(picked) => set('serviceId', picked)}
        options={serviceOptions(pricer, member, written.job.projectId, serviceOf(written.serviceId))}
      />
    ),
    billable: text('billable', { placeholder: 'all', className: 'w-28' }),
    day: <DayField key="day" label="Day" value={onDay} onPick={(next) => set('day', next)} className="w-36" />,
    tags: text('tags', { placeholder: 'with commas between', className: 'w-44' }),
    rate: text('rate', { placeholder: 'as agreed', className: 'w-28' }),
  };
  // A length is needed whatever the member chose to see.
  const wanted =
    member.form.includes('length') || member.form.includes('times') ? member.form : ['length' as const, ...member.form];
  const shown = wanted.filter(
    (field) =>
      !(on && field === 'job') &&
      (field !== 'billable' || rights.has('billable part')) &&
      (field !== 'rate' || rights.has('rates')),
  );
  return (
    <form
      ref={form}
      aria-label="Add time"
      onSubmit={(event) => void add(event)}
      onKeyDown={(event) => isKey(event, 'today.closeAdd') && onClose()}
      className="mb-5 flex flex-wrap items-start gap-3 border-y border-strong bg-side px-3 py-3 print:hidden"
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

type TextProps = { placeholder: string; className: string };

const fieldNames: Record<FormField, string> = {
  length: 'Length or from–to',
  times: 'From–to',
  note: 'What was done',
  job: 'Job',
  service: 'Service',
  billable: 'Billable part',
  day: 'Day',
  tags: 'Tags',
  rate: 'Rate',
};

const focusFault = (form: HTMLElement | null) =>
  requestAnimationFrame(() => form?.querySelector<HTMLElement>('[aria-invalid=true]')?.focus());

/** Reads every field; what cannot be read is said at each, all at once. */
function readAll(written: Written, day: Day, member: Member) {
  const faults: Faults = {};
  const read = <T,>(field: FormField, reader: () => T): T | undefined => {
    try {
      return reader();
    } catch (thrown) {
      faults[field] = wordsOf(thrown);
      return undefined;
    }
  };
  const times = read(written.length.trim() === '' && written.times.trim() !== '' ? 'times' : 'length', () =>
    readTimes(written, day, member),
  );
  const billableSeconds = read('billable', () => readBillable(written.billable));
  const tags = read('tags', () => readTags(written.tags));
  const rate = read('rate', () => readAgreed(written.rate));
  const lacks = member.asked.includes('job') && written.job.projectId === null && written.job.unlisted === '';
  // A job that the member must choose is not asked for where the form does not offer it.
  if (lacks && member.form.includes('job')) faults.length ??= 'Choose a job as well: Setup → Recording asks for one.';
  return {
    faults,
    values: {
      ...times!,
      billableSeconds: billableSeconds ?? null,
      ...(tags && tags.length > 0 ? { tags } : {}),
      ...(rate ? { rate } : {}),
    },
  };
}

function readTimes({ length, times }: Written, day: Day, member: Member): Pick<Entry, 'seconds'> & Partial<Entry> {
  const at = times.trim() === '' ? null : readLength(times);
  if (at && at.kind !== 'span')
    throw new Fault('not-a-span', 'Write when it was as from–to, for example 9:15–10:30.', 'times');
  const span = at && spanOn(at, day, member.zone);
  if (length.trim() === '' && span) return span;
  const typed = readLength(length);
  if (!span) return typed.kind === 'span' ? spanOn(typed, day, member.zone) : { seconds: typed.seconds };
  if (typed.seconds === span.seconds) return span;
  throw new Fault('lengths-differ', 'The length is not that of the from–to. Leave one of them empty.', 'length');
}

/** Nothing or "all" follows the worked length; "none" is none of it. */
function readBillable(text: string): number | null {
  const plain = text.trim().toLowerCase();
  if (plain === '' || plain === 'all') return null;
  if (plain === 'none' || /^0+(?:[:.]0+)?$/.test(plain)) return 0;
  return readLength(plain).seconds;
}

function readAgreed(text: string): Entry['rate'] {
  if (text.trim() === '') return null;
  const { price, unit } = readRate(text);
  return { price, unit: unit ?? 'hour' };
}
