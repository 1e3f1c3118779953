import type { Subject } from '../subject';
import { isLike, Literals } from './literals';
import type { Condition, PlacingRule, RuleField, RuleVerb, Test } from './rule';

/** A test of words, numbered. */
interface Atom {
  field: RuleField;
  verb: RuleVerb;
  text: string;
  /** What must stand somewhere in the field for it to hold; empty where anything will do. */
  literal: string;
}

type TextField = Exclude<RuleField, 'weekday' | 'time' | 'kind'>;
const textFields: readonly TextField[] = ['program', 'title', 'address', 'site', 'folder', 'file', 'people'];

/** A moment as rules see it: minute of the day and weekday in the person's zone. */
export interface RuleTime {
  at: number;
  minute: number;
  /** 1 is Monday. */
  weekday: number;
}

/** What rules make of a subject, whatever the time. */
export interface Caught {
  /** Positions of rules in their order: those that catch it at any time, and those that may. */
  rules: readonly number[];
  /** Which tests of words hold; null where no rule asks for a time. */
  holds: ReadonlySet<number> | null;
}

const NONE: Caught = { rules: [], holds: null };

/** Rules made ready to look at many things: words are looked for all at once, and only rules that can hold are weighed. */
export class RuleBook {
  readonly rules: readonly PlacingRule[];
  readonly #atoms: Atom[] = [];
  readonly #numbers = new Map<string, number>();
  readonly #literals: Literals;
  /** By literal, the tests that need it. */
  readonly #needing: number[][] = [];
  /** By test, the rules that can hold only if it (or another of their tests) does. */
  readonly #ruled: number[][] = [];
  /** Rules that may hold whatever words there are. */
  readonly #always: number[] = [];
  readonly #timed: boolean[];
  readonly #seen: Int32Array;
  #turn = 0;

  constructor(rules: readonly PlacingRule[]) {
    this.rules = rules.filter((rule) => rule.on).toSorted((a, b) => a.order - b.order);
    this.#timed = this.rules.map((rule) => asksTime(rule.when) || rule.since > 0);
    this.rules.forEach((rule, index) => {
      this.#number(rule.when);
      const needed = this.#needed(rule.when);
      if (needed === null) this.#always.push(index);
      else for (const atom of needed) (this.#ruled[atom] ??= []).push(index);
    });
    const literals = new Map<string, number>();
    this.#atoms.forEach((atom, number) => {
      if (atom.literal === '') return;
      const known = literals.get(atom.literal) ?? literals.size;
      literals.set(atom.literal, known);
      (this.#needing[known] ??= []).push(number);
    });
    this.#literals = new Literals([...literals.keys()]);
    this.#seen = new Int32Array(this.#atoms.length);
  }

  /** What of the rules can catch a subject; those without a time do. */
  caught(subject: Subject): Caught {
    if (this.rules.length === 0) return NONE;
    const turn = ++this.#turn;
    const holds: number[] = [];
    let candidates: number[] | null = null;
    for (const field of textFields) {
      const text = textOf(subject, field);
      if (text === '') continue;
      this.#literals.find(text, (literal, end) => {
        const atoms = this.#needing[literal]!;
        for (let each = 0; each < atoms.length; each++) {
          const number = atoms[each]!;
          const atom = this.#atoms[number]!;
          if (this.#seen[number] === turn || atom.field !== field || !holdsOf(atom, text, end)) continue;
          this.#seen[number] = turn;
          holds.push(number);
          const ruled = this.#ruled[number];
          if (ruled) (candidates ??= []).push(...ruled);
        }
      });
    }
    if (candidates === null && this.#always.length === 0) return NONE;
    const set = new Set(holds);
    const order = [...new Set([...(candidates ?? []), ...this.#always])].sort((a, b) => a - b);
    let timed = false;
    const rules = order.filter((index) => {
      const may = this.#weigh(this.rules[index]!.when, subject, set, null) !== false;
      if (may && this.#timed[index]) timed = true;
      return may;
    });
    return { rules, holds: timed ? set : null };
  }

  /** The first two rules that catch a subject at a moment: the one that decides, and the one that would otherwise. */
  decide(subject: Subject, caught: Caught, time: () => RuleTime): [PlacingRule | null, PlacingRule | null] {
    let first: PlacingRule | null = null;
    for (const index of caught.rules) {
      const rule = this.rules[index]!;
      if (this.#timed[index]) {
        const now = time();
        if (now.at < rule.since || this.#weigh(rule.when, subject, caught.holds!, now) !== true) continue;
      }
      if (first) return [first, rule];
      first = rule;
    }
    return [first, null];
  }

  /** Whether a condition holds; undefined where that depends on a time that is not given. */
  #weigh(
    condition: Condition,
    subject: Subject,
    holds: ReadonlySet<number>,
    time: RuleTime | null,
  ): boolean | undefined {
    if ('all' in condition) {
      let sure: boolean | undefined = true;
      for (const each of condition.all) {
        const held = this.#weigh(each, subject, holds, time);
        if (held === false) return false;
        if (held === undefined) sure = undefined;
      }
      return sure;
    }
    if ('any' in condition) {
      let sure: boolean | undefined = false;
      for (const each of condition.any) {
        const held = this.#weigh(each, subject, holds, time);
        if (held === true) return true;
        if (held === undefined) sure = undefined;
      }
      return sure;
    }
    if ('not' in condition) {
      const held = this.#weigh(condition.not, subject, holds, time);
      return held === undefined ? undefined : !held;
    }
    if (condition.field === 'weekday') return time === null ? undefined : condition.days.includes(time.weekday);
    if (condition.field === 'time') {
      if (time === null) return undefined;
      const { from, to } = condition;
      return from <= to ? time.minute >= from && time.minute < to : time.minute >= from || time.minute < to;
    }
    if (condition.field === 'kind') return subject.kind === condition.text.toLowerCase();
    const number = this.#numbers.get(keyOf(condition))!;
    // Nothing but stars: anything will do.
    if (this.#atoms[number]!.literal === '') return textOf(subject, condition.field as TextField) !== '';
    return holds.has(number);
  }

  #number(condition: Condition): void {
    if ('all' in condition) condition.all.forEach((each) => this.#number(each));
    else if ('any' in condition) condition.any.forEach((each) => this.#number(each));
    else if ('not' in condition) this.#number(condition.not);
    else if (isWords(condition)) {
      const key = keyOf(condition);
      if (this.#numbers.has(key)) return;
      this.#numbers.set(key, this.#atoms.length);
      const text = condition.text.toLowerCase();
      const literal = condition.verb === 'is like' ? longest(text.split('*')) : text;
      this.#atoms.push({ field: condition.field, verb: condition.verb, text, literal });
    }
  }

  /** Tests of which one must hold for the condition to hold; null where it may hold without any. */
  #needed(condition: Condition): number[] | null {
    if ('all' in condition) {
      const sets = condition.all.map((each) => this.#needed(each)).filter((each) => each !== null);
      return sets.length === 0 ? null : sets.reduce((a, b) => (b.length < a.length ? b : a));
    }
    if ('any' in condition) {
      const sets = condition.any.map((each) => this.#needed(each));
      return sets.some((each) => each === null) ? null : sets.flatMap((each) => each!);
    }
    if ('not' in condition || !isWords(condition)) return null;
    const number = this.#numbers.get(keyOf(condition))!;
    return this.#atoms[number]!.literal === '' ? null : [number];
  }
}

type WordTest = Extract<Test, { verb: RuleVerb }>;
const isWords = (test: Test): test is WordTest => 'verb' in test && test.field !== 'kind';
const keyOf = (test: WordTest): string => `${test.field} ${test.verb} ${test.text.toLowerCase()}`;
const longest = (parts: readonly string[]): string => parts.reduce((a, b) => (b.length > a.length ? b : a), '');

export function asksTime(condition: Condition): boolean {
  if ('all' in condition) return condition.all.some(asksTime);
  if ('any' in condition) return condition.any.some(asksTime);
  if ('not' in condition) return asksTime(condition.not);
  return condition.field === 'weekday' || condition.field === 'time';
}

/** Several people stand one a line, so that each can begin and end. */
function textOf(subject: Subject, field: TextField): string {
  return field === 'people' ? subject.people.join('\n') : subject[field].toLowerCase();
}

/** Whether a test holds, its literal having been found up to `end`. */
function holdsOf(atom: Atom, text: string, end: number): boolean {
  const many = atom.field === 'people';
  const start = end - atom.literal.length;
  const begins = start === 0 || (many && text[start - 1] === '\n');
  const ends = end === text.length || (many && text[end] === '\n');
  switch (atom.verb) {
    case 'has':
      return true;
    case 'is':
      return begins && ends;
    case 'begins with':
      return begins;
    case 'ends with':
      return ends;
    case 'is like':
      return many ? text.split('\n').some((each) => isLike(each, atom.text)) : isLike(text, atom.text);
  }
}
