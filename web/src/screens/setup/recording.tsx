import type { Pricer } from '@half-penny/core/billing';
import { jobChoiceOf, jobChoices, noJob, projectJob, withJobChoice, type JobChoice } from '@half-penny/core/entries';
import { askable, Fault, formFields, type Askable, type FormField, type Member } from '@half-penny/core/model';
import { readLength, showLength } from '@half-penny/core/time';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { useState } from 'react';
import { askForIdleDetection, hasIdleDetection } from '../../app/presence';
import { useMember } from '../../data/queries';
import { useRights } from '../../data/rights';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Checks } from '../../parts/checks';
import { useAtOnce } from '../../parts/use-at-once';
import { SavedField } from '../../parts/field';
import { SavedSelect } from '../../parts/select';
import { PlaceList } from '../../parts/place-list';
import { JobPicker } from '../../parts/job-picker';
import { JobLine } from '../../parts/jobs';
import { Section } from '../../parts/page';
import { Absences } from './absences';
import { Breaks, Calendar } from './studio-time';
import { CheckBox } from '../../parts/check';

/** How time is recorded: by this member, and by the rules of the studio. */
export function Recording({ pricer }: { pricer: Pricer }) {
  const member = useMember(pricer);
  const { run } = useChanges();
  const setsUp = useRights().has('setup');
  return (
    <>
      {member && <Own pricer={pricer} member={member} />}
      {setsUp && (
        <>
          <Breaks pricer={pricer} />
          <Calendar pricer={pricer} />
          {(pricer.book.members.length > 1 || pricer.book.workspace.places?.length) && (
            <PlaceList
              title="Places to record from"
              about="For members who may record only from certain places, or of whom it is noted (Setup, People). A project can name places of its own. The browser is asked where it is only when somebody with such a rule records; what is kept is whether it was one of the places, and how far from them."
              places={pricer.book.workspace.places ?? []}
              save={(places) => run('workspace.edit', { places })}
            />
          )}
        </>
      )}
      <Absences pricer={pricer} />
    </>
  );
}

const fieldNames: Record<FormField, string> = {
  length: 'Length or from–to',
  note: 'What was done',
  job: 'Job',
  service: 'Service',
  billable: 'Billable part',
  times: 'From–to, apart',
  day: 'Day',
  tags: 'Tags',
  rate: 'Rate of this entry',
};
const JOB_CHOICES: Record<JobChoice, string> = {
  off: 'The form has no field for it; time goes to the job that the line names, or to none.',
  offered: 'The form has a field for it, which may stay empty.',
  required: 'A timer starts with a job only, and the form wants one.',
};
const askedNames: Record<Askable, string> = { job: 'a job', service: 'a service', note: 'a note' };

function Own({ pricer, member }: { pricer: Pricer; member: Member }) {
  const { run, attempt } = useChanges();
  const set = !useRights().has('setup') && member.locked === true;
  const save = (fields: Partial<Member>) => run('member.edit', { id: member.id, ...fields });
  const [form, setForm] = useAtOnce(member.form, (next) => attempt('member.edit', { id: member.id, form: next }));
  const toggleForm = (field: FormField) =>
    setForm(form.includes(field) ? form.filter((each) => each !== field) : [...form, field]);
  const chooseJob = (choice: JobChoice) =>
    void attempt('member.edit', { id: member.id, ...withJobChoice(member, choice) });
  const move = (field: FormField, by: number) => {
    const others = form.filter((each) => each !== field);
    setForm(others.toSpliced(Math.max(0, form.indexOf(field) + by), 0, field));
  };
  return (
    <Section title={`How ${member.name.slice(0, 60)} records`}>
      <div className="grid gap-x-10 gap-y-6 border-t border-ink px-2 pt-3 md:grid-cols-2">
        {set ? (
          <p className="text-soft md:col-span-2">
            The studio has set what you are asked and what your entry form offers.
          </p>
        ) : (
          <>
            <fieldset>
              <legend className="mb-2 text-xs font-semibold text-soft">Needed before a timer starts</legend>
              <Checks
                className="flex flex-col gap-1"
                options={askable
                  .filter((field) => field !== 'job')
                  .map((field) => ({ id: field, name: askedNames[field] }))}
                chosen={member.asked.filter((field) => field !== 'job')}
                save={(asked) =>
                  attempt('member.edit', {
                    id: member.id,
                    asked: askable.filter((field) => (field === 'job' ? member.asked : asked).includes(field)),
                  })
                }
              />
              <p className="mt-1 mb-4 text-xs text-soft">
                The rest is offered. Entries without it are shown as missing in the week.
              </p>
              <SavedSelect
                label="Choosing a job"
                hint={JOB_CHOICES[jobChoiceOf(member)]}
                value={jobChoiceOf(member)}
                options={jobChoices.map((choice) => [choice, choice[0]!.toUpperCase() + choice.slice(1)] as const)}
                save={(choice) => save(withJobChoice(member, choice as JobChoice))}
              />
            </fieldset>
            <fieldset>
              <legend className="mb-2 text-xs font-semibold text-soft">Fields of the entry form, in their order</legend>
              {[...form, ...formFields.filter((field) => !form.includes(field))].map((field) => {
                const shown = form.includes(field);
                return (
                  <div key={field} className="flex items-center gap-1 py-0.5">
                    <label className="flex min-w-44 items-center gap-2">
                      <CheckBox
                        checked={shown}
                        disabled={shown && form.length === 1}
                        onChange={() => (field === 'job' ? chooseJob(shown ? 'off' : 'offered') : toggleForm(field))}
                      />
                      {fieldNames[field]}
                    </label>
                    {shown && (
                      <>
                        <Button
                          kind="quiet"
                          aria-label={`${fieldNames[field]} earlier`}
                          onClick={() => move(field, -1)}
                        >
                          <ChevronUp size={14} />
                        </Button>
                        <Button kind="quiet" aria-label={`${fieldNames[field]} later`} onClick={() => move(field, 1)}>
                          <ChevronDown size={14} />
                        </Button>
                      </>
                    )}
                  </div>
                );
              })}
            </fieldset>
          </>
        )}
        <SavedSelect
          label="Jobs are shown and sorted by"
          value={member.jobOrder}
          save={(value) => save({ jobOrder: value as Member['jobOrder'] })}
          options={[
            ['project first', 'Project first, then its client'],
            ['client first', 'Client first, then the project'],
          ]}
        />
        <Away member={member} save={save} />
        <div>
          <div className="mb-1 text-xs font-semibold text-soft">Pinned jobs, offered before all others</div>
          <ul>
            {member.pinned.map((id) => (
              <li key={id} className="flex items-center gap-3 py-0.5">
                <JobLine pricer={pricer} job={projectJob(id)} />
                <Button kind="quiet" onClick={() => void save({ pinned: member.pinned.filter((each) => each !== id) })}>
                  Unpin
                </Button>
              </li>
            ))}
          </ul>
          <JobPicker
            pricer={pricer}
            boxed
            label="Pin a job"
            value={noJob}
            onPick={({ projectId }) => {
              if (projectId)
                void attempt('member.edit', { id: member.id, pinned: [...new Set([...member.pinned, projectId])] });
            }}
          >
            <span className="text-time">Pin a job…</span>
          </JobPicker>
        </div>
      </div>
    </Section>
  );
}

function Away({ member, save }: { member: Member; save: (fields: Partial<Member>) => Promise<unknown> }) {
  const [told, setTold] = useState('');
  return (
    <div>
      <SavedField
        label="Running time is in doubt after no sign of you for"
        value={member.awayAfter === null ? '' : showLength(member.awayAfter)}
        placeholder="never"
        save={async (text) => save({ awayAfter: readAway(text) })}
        hint="For example 0:30; empty for never. Nothing is cut: you are asked what the time was."
      />
      {hasIdleDetection() && (
        <p className="mt-1 text-xs text-soft">
          By itself Half Penny sees only what is done in its own window.{' '}
          <Button
            kind="quiet"
            className="min-h-0! p-0! text-xs!"
            onClick={() =>
              void askForIdleDetection().then((granted) =>
                setTold(
                  granted
                    ? 'The browser will tell when you are away, whatever you work in.'
                    : 'The browser does not allow it.',
                ),
              )
            }
          >
            Let the browser notice when you are away
          </Button>{' '}
          <span role="status">{told}</span>
        </p>
      )}
    </div>
  );
}

function readAway(text: string): number | null {
  if (text.trim() === '') return null;
  const { seconds } = readLength(text);
  if (seconds < 60 || seconds > 86_400)
    throw new Fault('not-a-length', 'Write a length between one minute and a day.', 'awayAfter');
  return seconds;
}
