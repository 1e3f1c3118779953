import type { Id } from '../model/ids';
import type { Askable, Member } from '../model/records';

/** What can be known of a piece of time. */
export interface Known {
  projectId: Id | null;
  unlisted: string;
  serviceId: Id | null;
  note: string;
}

/** What a member has to say of a piece of time and has not. */
export const lackingOf = (member: Pick<Member, 'asked'>, work: Known): Askable[] =>
  member.asked.filter((field) =>
    field === 'job'
      ? work.projectId === null && work.unlisted === ''
      : field === 'service'
        ? work.serviceId === null
        : work.note.trim() === '',
  );

const ASKED_IN_WORDS: Record<Askable, string> = { job: 'a job', service: 'a service', note: 'a note' };

/** "a job and a note". */
export const inWords = (lacking: readonly Askable[]): string =>
  lacking.map((field) => ASKED_IN_WORDS[field]).join(' and ');
