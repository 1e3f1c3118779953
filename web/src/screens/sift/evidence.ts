import type { Evidence, Outcome, SiftRow } from '@half-penny/core/capture';
import type { Pricer } from '@half-penny/core/billing';
import { showLength } from '@half-penny/core/time';

export const minutesOf = (ms: number): string => showLength(Math.round(ms / 60_000) * 60);

/** What a thing is called in a list: a document by its file, a page or mail by its title. */
export function nameOfEvidence({ subject }: Pick<Evidence, 'subject'>): string {
  if (subject.file) return subject.file.slice(subject.file.lastIndexOf('/') + 1);
  if (subject.kind === 'call') return `Call, ${subject.people.join(', ') || 'nobody named'}`;
  const title = subject.title.replace(/ [-–—] [^-–—]+$/, '');
  return title || subject.people.join(', ') || subject.site || subject.program || 'something without a name';
}

/** A line of what was seen, and whether the sentence for the client says something of it. */
export type SeenLine = Evidence & { told: boolean };

/** Evidence of the same thing, such as a file's opening, its windows and its saves, as one line. */
export function gathered({ stretch: { evidence }, told }: Pick<SiftRow, 'stretch' | 'told'>): SeenLine[] {
  const lines = new Map<string, SeenLine>();
  evidence.forEach((each, at) => {
    const key = `${nameOfEvidence(each)} ${each.subject.file ? '' : each.subject.program}`;
    const line = lines.get(key) ?? { ...each, seen: 0, times: 0, told: false };
    const sum = { seen: line.seen + each.seen, times: line.times + each.times, told: line.told || told[at]! };
    lines.set(key, { ...line, ...sum });
  });
  return [...lines.values()];
}

const KINDS = [
  ['document', 'documents', (each: Evidence) => each.subject.file !== ''],
  ['page', 'pages', (each: Evidence) => each.subject.address !== ''],
  ['e-mail', 'e-mails', (each: Evidence) => each.subject.kind === 'mail'],
  ['message', 'messages', (each: Evidence) => each.subject.kind === 'message'],
  ['call', 'calls', (each: Evidence) => each.subject.kind === 'call'],
  ['meeting', 'meetings', (each: Evidence) => each.subject.kind === 'meeting'],
] as const;

/** "3 documents, 2 e-mails with stage@quayside-playhouse.example". */
export function sumOfEvidence(evidence: readonly Evidence[]): string {
  const counts = KINDS.map(([one, many, is]) => {
    const things = new Set(
      evidence.filter(is).map((each) => each.subject.file || each.subject.title || each.subject.address),
    );
    return things.size === 0 ? '' : things.size === 1 ? `1 ${one}` : `${things.size} ${many}`;
  }).filter(Boolean);
  const people = [...new Set(evidence.flatMap((each) => each.subject.people))];
  const who = people.length === 0 ? '' : ` · ${people[0]}${people.length > 1 ? ` and ${people.length - 1} more` : ''}`;
  return `${counts.join(', ') || nameOfEvidence(evidence[0]!)}${who}`;
}

/** What something is placed on, in words. */
export function showOutcome(pricer: Pricer, outcome: Outcome): string {
  if (outcome.act !== 'place')
    return outcome.act === 'private' ? 'Private' : outcome.act === 'not work' ? 'Not work' : 'Never recorded';
  const task = outcome.taskId ? pricer.task.get(outcome.taskId)?.name : undefined;
  const project = outcome.projectId ? pricer.project.get(outcome.projectId)?.name : undefined;
  return [project ?? outcome.unlisted, task].filter(Boolean).join(' › ') || 'another studio';
}

/** Why it is offered or placed there, in words. */
export function reasonOf(pricer: Pricer, { stretch, offer }: SiftRow): string {
  if (stretch.outcome) {
    if (stretch.placing) return stretch.placing.outcome ? 'Placed by hand' : '';
    return stretch.rule ? 'Placed by a rule' : '';
  }
  if (!offer) return 'Nothing like it yet';
  const sure = offer.confidence === null ? '' : ` · ${percentOf(offer.confidence)} %`;
  return `Likely ${showOutcome(pricer, offer.outcome)}${sure}: ${offer.reasons.join(', ')}`;
}

/** A confidence in percent. What was guessed is never said to be certain. */
export const percentOf = (confidence: number): number => Math.min(99, Math.round(confidence * 100));
