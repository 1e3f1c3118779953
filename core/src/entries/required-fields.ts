import type { Id } from '../model/ids';
import type { Askable, Member } from '../model/records';

/** What can be known of a piece of time. */
export interface FilledFields {
  projectId: Id | null;
  unlisted: string;
  serviceId: Id | null;
  note: string;
}

/** What a member has to say of a piece of time and has not. */
export const missingFields = (member: Pick<Member, 'asked'>, work: FilledFields): Askable[] =>
  member.asked.filter((field) =>
    field === 'job'
      ? work.projectId === null && work.unlisted === ''
      : field === 'service'
        ? work.serviceId === null
        : work.note.trim() === '',
  );

const ASKED_IN_WORDS: Record<Askable, string> = { job: 'a job', service: 'a service', note: 'a note' };

/** "a job and a note". */
export const missingInWords = (lacking: readonly Askable[]): string =>
  lacking.map((field) => ASKED_IN_WORDS[field]).join(' and ');

/** Whether a member chooses a job as time is recorded: the form has no such field, has one, or wants it filled in. */
export const jobChoices = ['off', 'offered', 'required'] as const;
export type JobChoice = (typeof jobChoices)[number];

/** Whether a member has to say the job, may, or is not asked. */
export const jobChoiceOf = ({ asked, form }: Pick<Member, 'asked' | 'form'>): JobChoice =>
  asked.includes('job') ? 'required' : form.includes('job') ? 'offered' : 'off';

/** What a member is asked and shown once the choice of a job is another. The form keeps its order, and is never empty. */
export function withJobChoice({ asked, form }: Pick<Member, 'asked' | 'form'>, choice: JobChoice) {
  const others = form.filter((field) => field !== 'job');
  const shown: Member['form'] = form.includes('job') ? form : [...form, 'job'];
  return {
    asked: [
      ...(choice === 'required' ? (['job'] satisfies Askable[]) : []),
      ...asked.filter((field) => field !== 'job'),
    ],
    form: choice === 'off' ? (others.length > 0 ? others : (['length'] satisfies Member['form'])) : shown,
  };
}
