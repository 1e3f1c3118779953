import type { Id } from '../../model/ids';
import type { Day } from '../../time/day';
import type { Seconds } from '../../time/length';
import type { Typed } from '../../time/read-length';

/** A project or task that a line can name. */
export interface LineJob {
  /** The task's, or the project's where it is the project itself. */
  id: Id;
  projectId: Id;
  taskId: Id | null;
  /** The task's or project's own name. */
  own: string;
  /** What is around it: enclosing projects, for a task its project, and the client. */
  around: readonly string[];
  /** The project and the projects around it, its own first. */
  within: readonly Id[];
  jobNumber: string;
  /** As it is shown when understood. */
  name: string;
  /** Why time can no longer go to it; null where it can. */
  closed: string | null;
}

export interface LineContext {
  /** The likeliest first; that orders only what fits equally well. */
  jobs: readonly LineJob[];
  services: readonly { id: Id; name: string }[];
  today: Day;
}

export type TokenKind = 'length' | 'span' | 'day' | 'job' | 'unlisted' | 'service' | 'billable' | 'start' | 'note';

/** A piece of the line and what it was understood as, in the order it was typed. */
export interface Token {
  kind: TokenKind;
  from: number;
  to: number;
  says: string;
}

/** Something that could mean several things. Nothing is done with the line until it is answered. */
export interface LineQuestion {
  from: number;
  to: number;
  /** "45 what?" */
  asks: string;
  /** What it could mean, and the line written so that it means it. */
  answers: { says: string; text: string }[];
}

/** Words that may name jobs, but not surely enough to choose one. */
export interface LineOffer {
  from: number;
  to: number;
  /** Likeliest first. */
  jobs: Id[];
  /** The note that is left where one of them is taken. */
  note: string;
  serviceId: Id | null;
}

export interface UnderstoodLine {
  tokens: Token[];
  questions: LineQuestion[];
  /** What was worked; null when the line starts a timer. */
  length: Typed | null;
  day: Day | null;
  projectId: Id | null;
  taskId: Id | null;
  unlisted: string;
  serviceId: Id | null;
  note: string;
  /** Seconds; null follows the worked length. */
  billableSeconds: Seconds | null;
  /** Where a timer is to start: so many minutes ago, or at a minute of the day. */
  start: { minutesAgo: number } | { atMinute: number } | null;
  /** Other jobs that the same words fit. */
  alternatives: Id[];
  offer: LineOffer | null;
  /** A job that the words name, but which takes no more time, and why. */
  closed: { name: string; why: string } | null;
}
