import { overlapOf, type Interval } from '../time/interval';
import type { Zone } from '../time/day';
import { aroundFeature, featuresOf, sayFeature, type Feature } from './features';
import type { Guess, Lesson, Likeness } from './likeness';
import { jobKeyOf, outcomeOf, placeOn } from './job-key';
import { projectOfMark, type Leads, type SiftBook } from './leads';
import { isToldIn, noteFor, type SentenceSources } from './note';
import type { Placing } from './placing';
import type { Outcome } from './rules/rule';
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
  /** Of its evidence, in order, what the sentence says something of: that goes out with the entry, and nothing else. */
  told: boolean[];
  /** What it looks like, kept with what is decided about it. */
  features: Feature[];
  /** Milliseconds of it that are recorded elsewhere, too. */
  overlap: number;
}

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
  zone: Zone,
  taken: readonly Interval[] = [],
  sources?: SentenceSources,
): SiftRow[] {
  const { leads } = likeness;
  const { book } = leads;
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
      : (likeness.guess(featuresOf(stretch, zone, leads), 1)[0] ?? null),
  );
  return own.map((stretch, at) => {
    const features = featuresAmong(own, likeliest, at, zone, leads);
    const offer = stretch.outcome
      ? null
      : (touched(stretch, features, likeness, open) ??
        answeredBy(stretch, likeness, open) ??
        likely(stretch, features, likeness, open) ??
        named(stretch, leads));
    const placed = stretch.outcome?.act === 'place' ? stretch.outcome.note : '';
    const note = stretch.placing?.note || placed || noteFor(stretch.evidence, leads.names, sources);
    return {
      stretch,
      offer,
      features,
      note,
      told: stretch.evidence.map(({ subject }) => isToldIn(note, subject, leads.names)),
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
  leads: Leads | null = null,
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
  return featuresOf(stretches[at]!, zone, leads, around);
}

/** Given to this workspace from another, with no job said: open to be placed here. */
const isOnlyGiven = ({ outcome }: Stretch, { workspaceId }: SiftBook): boolean =>
  outcome?.act === 'place' && outcome.workspaceId === workspaceId && isWithoutJob(outcome);

/** Offers below this say less than silence. */
const LEAST = 0.25;

function likely(
  stretch: Stretch,
  features: readonly Feature[],
  likeness: Likeness,
  open: ReadonlySet<string>,
): Offer | null {
  // How sure a guess is was not measured before anything was learned.
  if (likeness.lessons === 0) return null;
  const { workspaceId } = likeness.leads.book;
  for (const guess of likeness.guess(features, 5)) {
    const outcome = outcomeOf(guess.job);
    if (!outcome || guess.confidence < LEAST) continue;
    const here =
      outcome.act !== 'place' ||
      (outcome.workspaceId === workspaceId && (outcome.projectId === null || open.has(outcome.projectId)));
    if (!here) continue;
    const reasons = guess.reasons.map((mark) => whyNamed(mark, stretch, likeness.leads) ?? sayFeature(mark));
    return { outcome, confidence: guess.confidence, reasons };
  }
  return null;
}

/** The task from elsewhere that had the most attention in it, as it is usually placed where that was learned. */
function touched(
  stretch: Stretch,
  features: readonly Feature[],
  likeness: Likeness,
  open: ReadonlySet<string>,
): Offer | null {
  const { leads } = likeness;
  for (const { subject } of stretch.evidence) {
    const found = leads.touched(subject);
    if (!found || !open.has(found.mark.projectId)) continue;
    const { projectId, taskId } = found.mark;
    const learned = likely(stretch, features, likeness, open);
    if (learned?.outcome.act === 'place' && learned.outcome.taskId === taskId)
      return { ...learned, reasons: [found.why, ...learned.reasons] };
    return {
      outcome: placeOn({ workspaceId: leads.book.workspaceId, projectId, taskId }),
      confidence: null,
      reasons: [found.why],
    };
  }
  return null;
}

/** What in a stretch names the project of a mark, in words; null where it is another kind of mark. */
function whyNamed(mark: string, { evidence }: Stretch, leads: Leads): string | null {
  const project = projectOfMark(mark);
  if (!project) return null;
  const found = evidence.map(({ subject }) => leads.of(subject));
  return found.find((lead) => lead?.projectIds.includes(project.projectId))?.why ?? 'it is named there';
}

/** Of what began with somebody who was never placed before: the one project that this contact answers for. */
function answeredBy(stretch: Stretch, likeness: Likeness, open: ReadonlySet<string>): Offer | null {
  const [first] = stretch.evidence;
  const { book, finder } = likeness.leads;
  for (const person of first?.subject.people ?? []) {
    if (likeness.isKnown(`person ${likeness.leads.personOf(person)}`)) continue;
    const contact = finder.contactOf(person);
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
function named(stretch: Stretch, leads: Leads): Offer | null {
  for (const { subject } of stretch.evidence.slice(0, 12)) {
    const lead = leads.of(subject);
    if (lead) {
      return {
        outcome: placeOn({ workspaceId: leads.book.workspaceId, projectId: lead.projectIds[0]!, taskId: null }),
        confidence: null,
        reasons: [lead.why],
      };
    }
  }
  return null;
}
