import type { Id } from '../model/ids';
import type { MatchRule } from '../model/records';

/** Where a line of the bookkeeping belongs, and why. */
export interface Placing {
  projectId: Id | null;
  costCodeId: Id | null;
  forClient: boolean;
  /** "rule: lamp hire" or "like 3 earlier ones". */
  why: string;
}

/** A line that was placed before. */
export interface Placed {
  supplier: string;
  text: string;
  projectId: Id | null;
  costCodeId: Id | null;
  forClient: boolean;
  day: string;
}

/** Words by which lines are told apart: of two letters or more, without figures, which change from one to the next. */
export function wordsOf(text: string): string[] {
  const words = text.toLocaleLowerCase('en').match(/\p{L}{2,}/gu) ?? [];
  return [...new Set(words)];
}

/** Whether every word of a rule stands in a line. */
export function fits(rule: Pick<MatchRule, 'words'>, line: { supplier: string; text: string }): boolean {
  const words = wordsOf(rule.words);
  if (words.length === 0) return false;
  const said = new Set(wordsOf(`${line.supplier} ${line.text}`));
  return words.every((word) => said.has(word));
}

/** How alike two lines must be: the share of their words that both have. */
const LIKE_ENOUGH = 0.5;

/**
 * Places a line by the first rule that fits, else by likeness to what was placed before: the placing that like ones agree on most, weighed by
 * how like they are. Null where neither tells.
 */
export function placingOf(
  line: { supplier: string; text: string },
  rules: readonly MatchRule[],
  history: readonly Placed[],
): Placing | null {
  const rule = [...rules].sort((a, b) => a.order - b.order).find((each) => fits(each, line));
  if (rule) {
    const { projectId, costCodeId, forClient } = rule;
    return { projectId, costCodeId, forClient, why: `rule: ${rule.words}` };
  }
  return byLikeness(line, history);
}

function byLikeness(line: { supplier: string; text: string }, history: readonly Placed[]): Placing | null {
  const own = new Set(wordsOf(`${line.supplier} ${line.text}`));
  if (own.size === 0) return null;
  const votes = new Map<string, { weight: number; count: number; latest: Placed }>();
  for (const placed of history) {
    const likeness = likenessOf(own, wordsOf(`${placed.supplier} ${placed.text}`));
    if (likeness < LIKE_ENOUGH) continue;
    const key = `${placed.projectId} ${placed.costCodeId} ${placed.forClient}`;
    const vote = votes.get(key) ?? { weight: 0, count: 0, latest: placed };
    votes.set(key, {
      weight: vote.weight + likeness,
      count: vote.count + 1,
      latest: placed.day > vote.latest.day ? placed : vote.latest,
    });
  }
  const ranked = [...votes.values()].sort((a, b) => b.weight - a.weight || (a.latest.day < b.latest.day ? 1 : -1));
  const [best, second] = ranked;
  // Two placings that are as likely tell nothing.
  if (!best || (second && second.weight === best.weight && second.latest.day === best.latest.day)) return null;
  const { projectId, costCodeId, forClient } = best.latest;
  return { projectId, costCodeId, forClient, why: `like ${best.count} earlier ${best.count === 1 ? 'one' : 'ones'}` };
}

/** Words in common over words in either (Jaccard). */
function likenessOf(own: ReadonlySet<string>, other: readonly string[]): number {
  const common = other.filter((word) => own.has(word)).length;
  return common === 0 ? 0 : common / (own.size + other.length - common);
}
