import { contactOf, proposeJob } from '../entries/proposal';
import type { Client, Contact, Project } from '../model/records';
import { overlapOf, type Interval } from '../time/interval';
import type { Zone } from '../time/day';
import { aroundFeature, featuresOf, sayFeature, type Feature } from './features';
import type { Guess, Lesson, Likeness } from './likeness';
import { noteFor, type Names, type SentenceSources } from './note';
import type { Placing } from './placing';
import type { Outcome, PlaceOutcome } from './rules/rule';
import type { Stretch } from './stretch';

/** What is likely of a stretch that nothing was said of. */
export interface Offer {
  outcome: Outcome;
  /** How often such offers come true, from 0 to 1; null where that was not measured. */
  confidence: number | null;
  /** In words, the strongest first. */
  reasons: string[];
}

/** A stretch as it is offered. */
export interface SiftRow {
  stretch: Stretch;
  offer: Offer | null;
  /** The sentence for the client: the person's, the rule's, or one made of the evidence. */
  note: string;
  /** What it looks like, kept with what is decided about it. */
  features: Feature[];
  /** Milliseconds of it that are recorded elsewhere, too. */
  overlap: number;
}

export interface SiftBook {
  workspaceId: string;
  clients: readonly Client[];
  projects: readonly Project[];
  contacts: readonly Contact[];
  names: Names;
}

/** The same text for the same job in the same workspace: what likeness learns. */
export function jobKeyOf(outcome: Outcome): string {
  if (outcome.act !== 'place') return outcome.act;
  const { workspaceId, projectId, taskId, unlisted, serviceId } = outcome;
  return JSON.stringify([workspaceId, projectId, taskId, unlisted, serviceId]);
}

export function outcomeOf(key: string): Outcome | null {
  if (key === 'private' || key === 'not work') return { act: key };
  if (!key.startsWith('[')) return null;
  const [workspaceId, projectId, taskId, unlisted, serviceId] = JSON.parse(key) as string[];
  return placeOn({
    workspaceId: workspaceId!,
    projectId: projectId!,
    taskId: taskId!,
    unlisted: unlisted!,
    serviceId: serviceId!,
  });
}

/** An outcome that places, with nothing else said. */
export const placeOn = (
  job: Pick<PlaceOutcome, 'workspaceId' | 'projectId' | 'taskId'> & Partial<PlaceOutcome>,
): PlaceOutcome => ({
  unlisted: '',
  serviceId: null,
  note: '',
  billable: 100,
  openedForId: null,
  ...job,
  act: 'place',
});

/** Only handed to a workspace, with no job said. */
const isWithoutJob = (outcome: Outcome): boolean =>
  outcome.act === 'place' && outcome.projectId === null && outcome.unlisted === '';

/** What was said by hand, in the order in which it was said. What was only handed to a workspace tells of no job. */
export const lessonsOf = (placings: readonly Placing[]): Lesson[] =>
  placings
    .filter((each) => each.outcome !== null && !isWithoutJob(each.outcome) && each.features.length > 0)
    .toSorted((a, b) => a.at - b.at)
    .map((each) => ({ job: jobKeyOf(each.outcome!), features: each.features }));

/** Offers what is likely of each stretch of a day, in the order of time, since what came before is a hint. */
export function offerDay(
  stretches: readonly Stretch[],
  likeness: Likeness,
  book: SiftBook,
  zone: Zone,
  taken: readonly Interval[] = [],
  sources?: SentenceSources,
): SiftRow[] {
  const open = new Set(
    book.projects
      .filter((each) => !each.finished && !book.clients.find((client) => client.id === each.clientId)?.archived)
      .map((each) => each.id),
  );
  const own = stretches.map((given) => (isOnlyGiven(given, book) ? { ...given, outcome: null } : given));
  // What each is likely of by itself: a hint for those around it.
  const likeliest = own.map((stretch): Guess | null =>
    stretch.outcome
      ? { job: jobKeyOf(stretch.outcome), confidence: 1, reasons: [] }
      : (likeness.guess(featuresOf(stretch, zone), 1)[0] ?? null),
  );
  return own.map((stretch, at) => {
    const features = featuresAmong(own, likeliest, at, zone);
    const offer = stretch.outcome
      ? null
      : (answeredBy(stretch, likeness, book, open) ?? likely(features, likeness, book, open) ?? named(stretch, book));
    const placed = stretch.outcome?.act === 'place' ? stretch.outcome.note : '';
    return {
      stretch,
      offer,
      features,
      note: stretch.placing?.note || placed || noteFor(stretch.evidence, book.names, sources),
      overlap: stretch.spans.reduce(
        (sum, span) => sum + taken.reduce((all, each) => all + overlapOf(span, each), 0),
        0,
      ),
    };
  });
}

/**
 * What a stretch looks like among those of its day, in the order of time.
 *
 * @param likeliest the job that each of them is, or is likely, of
 */
export function featuresAmong(
  stretches: readonly Stretch[],
  likeliest: readonly (Pick<Guess, 'job' | 'confidence'> | null)[],
  at: number,
  zone: Zone,
): Feature[] {
  const { spans } = stretches[at]!;
  const [before, after] = [likeliest[at - 1], likeliest[at + 1]];
  const around: Feature[] = [];
  if (before) {
    const apart = spans[0]!.start - stretches[at - 1]!.spans.at(-1)!.end;
    around.push(aroundFeature('before', before.job, apart, before.confidence));
  }
  if (after) {
    const apart = stretches[at + 1]!.spans[0]!.start - spans.at(-1)!.end;
    around.push(aroundFeature('after', after.job, apart, after.confidence));
  }
  return featuresOf(stretches[at]!, zone, around);
}

/** Given to this workspace from another, with no job said: open to be placed here. */
const isOnlyGiven = ({ outcome }: Stretch, { workspaceId }: SiftBook): boolean =>
  outcome?.act === 'place' && outcome.workspaceId === workspaceId && isWithoutJob(outcome);

/** Offers below this say less than silence. */
const LEAST = 0.25;

function likely(
  features: readonly Feature[],
  likeness: Likeness,
  { workspaceId }: SiftBook,
  open: ReadonlySet<string>,
): Offer | null {
  for (const guess of likeness.guess(features, 5)) {
    const outcome = outcomeOf(guess.job);
    if (!outcome || guess.confidence < LEAST) continue;
    const here =
      outcome.act !== 'place' ||
      (outcome.workspaceId === workspaceId && (outcome.projectId === null || open.has(outcome.projectId)));
    if (!here) continue;
    return { outcome, confidence: guess.confidence, reasons: guess.reasons.map(sayFeature) };
  }
  return null;
}

/** Of what began with somebody who was never placed before: the one project that this contact answers for. */
function answeredBy(stretch: Stretch, likeness: Likeness, book: SiftBook, open: ReadonlySet<string>): Offer | null {
  const [first] = stretch.evidence;
  for (const person of first?.subject.people ?? []) {
    if (likeness.isKnown(`person ${person}`)) continue;
    const contact = contactOf(person, book.contacts);
    const own = contact?.projectIds?.filter((id) => open.has(id)) ?? [];
    if (!contact || own.length !== 1) continue;
    const project = book.projects.find((each) => each.id === own[0])!;
    return {
      outcome: placeOn({ workspaceId: book.workspaceId, projectId: project.id, taskId: null }),
      confidence: null,
      reasons: [`${contact.name} answers for ${project.name}`],
    };
  }
  return null;
}

/** Before anything was learned: a job that its words or people name. */
function named(stretch: Stretch, book: SiftBook): Offer | null {
  for (const { subject } of stretch.evidence.slice(0, 12)) {
    const title = [subject.thread || subject.title, subject.file].join(' ');
    const found = proposeJob({ title, guests: subject.people }, book);
    if (found) {
      return {
        outcome: placeOn({ workspaceId: book.workspaceId, projectId: found.projectId, taskId: null }),
        confidence: null,
        reasons: [found.why],
      };
    }
  }
  return null;
}
