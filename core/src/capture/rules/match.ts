import { documentName, type Subject } from '../subject';
import { isLike, AhoCorasick } from './aho-corasick';
import { ruleFields, type Condition, type PlacingRule, type RuleField, type RuleVerb } from './rule';

/** A test of words, numbered. */
interface Atom {
  field: RuleField;
  verb: RuleVerb;
  text: string;
  /** What must stand somewhere in the field for it to hold; empty where anything will do. */
  literal: string;
}

type TextField = Exclude<RuleField, 'weekday' | 'time' | 'kind'>;
const textFields = ruleFields.filter(
  (field): field is TextField => field !== 'weekday' && field !== 'time' && field !== 'kind',
);

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

/** The rule that decides, and the one that would otherwise. */
export type RuleDecision = readonly [PlacingRule | null, PlacingRule | null];

const NEITHER: RuleDecision = [null, null];
const FEW = 16;
const NONE: Caught = { rules: [], holds: null };

/** Rules made ready to look at many things: words are looked for all at once, and only rules that can hold are weighed. */
export class RuleBook {
  readonly rules: readonly PlacingRule[];
  readonly #atoms: Atom[] = [];
  readonly #numbers = new Map<string, number>();
  readonly #literals: AhoCorasick;
  /** What rules look at; nothing else has to be. */
  readonly #fields: readonly TextField[];
  /** By literal, the tests that need it. */
  readonly #needing: number[][] = [];
  /** By test, the rules that can hold only if it (or another of their tests) does. */
  readonly #ruled: number[][] = [];
  /** Rules that may hold whatever words there are. */
  readonly #always: number[] = [];
  readonly #nodes: Node[];
  readonly #timed: boolean[];
  readonly #seen: Int32Array;
  #turn = 0;

  constructor(rules: readonly PlacingRule[]) {
    this.rules = rules.filter((rule) => rule.on).toSorted((a, b) => a.order - b.order);
    this.#timed = this.rules.map((rule) => asksTime(rule.when) || rule.since > 0);
    this.#nodes = this.rules.map((rule) => this.#compiled(rule.when));
    this.#nodes.forEach((node, index) => {
      const needed = this.#needed(node);
      if (needed === null) this.#always.push(index);
      else for (const atom of needed) (this.#ruled[atom] ??= []).push(index);
    });
    const literals = new Map<string, number>();
    this.#atoms.forEach((atom, number) => {
      const known = literals.get(atom.literal) ?? literals.size;
      literals.set(atom.literal, known);
      (this.#needing[known] ??= []).push(number);
    });
    this.#literals = new AhoCorasick([...literals.keys()]);
    this.#fields = textFields.filter((field) => this.#atoms.some((atom) => atom.field === field));
    this.#seen = new Int32Array(this.#atoms.length);
    this.#holds = new Int32Array(this.#atoms.length);
    this.#candidates = new Int32Array(this.rules.length);
    this.#named = new Int32Array(this.rules.length);
  }

  // What is being looked at, so that looking at many things makes no function for each.
  #field: TextField = 'title';
  #text = '';
  readonly #holds: Int32Array;
  #held = 0;
  readonly #candidates: Int32Array;
  #count = 0;
  /** By rule, when it was last a candidate. */
  readonly #named: Int32Array;

  readonly #found = (literal: number, end: number): void => {
    const atoms = this.#needing[literal]!;
    for (let each = 0; each < atoms.length; each++) {
      const number = atoms[each]!;
      const atom = this.#atoms[number]!;
      if (atom.field !== this.#field || this.#seen[number] === this.#turn || !holdsOf(atom, this.#text, end)) continue;
      this.#seen[number] = this.#turn;
      this.#holds[this.#held++] = number;
      const ruled = this.#ruled[number];
      if (ruled) for (let at = 0; at < ruled.length; at++) this.#name(ruled[at]!);
    }
  };

  /** What of the rules can catch a subject; those without a time do. */
  caught(subject: Subject): Caught {
    if (this.rules.length === 0) return NONE;
    this.#turn++;
    this.#held = 0;
    this.#count = 0;
    for (const field of this.#fields) {
      const text = textOf(subject, field);
      if (text === '') continue;
      this.#field = field;
      this.#text = text;
      if (this.#literals.find(text, this.#found)) continue;
      // Letters beyond those of ASCII: some change their length with their size.
      this.#text = text.toLowerCase();
      this.#literals.findSmall(this.#text, this.#found);
    }
    for (const index of this.#always) this.#name(index);
    if (this.#count === 0) return NONE;
    if (this.#count > 1) this.#sort();
    let timed = false;
    const rules: number[] = [];
    for (let at = 0; at < this.#count; at++) {
      const index = this.#candidates[at]!;
      if (this.#weigh(this.#nodes[index]!, subject, null, null) === false) continue;
      rules.push(index);
      timed ||= this.#timed[index]!;
    }
    if (rules.length === 0) return NONE;
    return { rules: rules.slice(), holds: timed ? new Set(this.#holds.subarray(0, this.#held)) : null };
  }

  /** Candidates in the order of rules; a few are put in their places one by one. */
  #sort(): void {
    const list = this.#candidates;
    if (this.#count > FEW) {
      list.subarray(0, this.#count).sort();
      return;
    }
    for (let next = 1; next < this.#count; next++) {
      const own = list[next]!;
      let at = next;
      for (; at > 0 && list[at - 1]! > own; at--) list[at] = list[at - 1]!;
      list[at] = own;
    }
  }

  #name(rule: number): void {
    if (this.#named[rule] === this.#turn) return;
    this.#named[rule] = this.#turn;
    this.#candidates[this.#count++] = rule;
  }

  /** The first two rules that catch a subject at a moment: the one that decides, and the one that would otherwise. */
  decide(subject: Subject, caught: Caught, time: () => RuleTime): RuleDecision {
    if (caught.rules.length === 0) return NEITHER;
    let first: PlacingRule | null = null;
    for (const index of caught.rules) {
      const rule = this.rules[index]!;
      if (this.#timed[index]) {
        const now = time();
        if (now.at < rule.since || this.#weigh(this.#nodes[index]!, subject, caught.holds!, now) !== true) continue;
      }
      if (first) return [first, rule];
      first = rule;
    }
    return [first, null];
  }

  /** Whether a condition holds; undefined where that depends on a time that is not given. */
  #weigh(node: Node, subject: Subject, holds: ReadonlySet<number> | null, time: RuleTime | null): boolean | undefined {
    switch (node.is) {
      case 'all':
      case 'any': {
        const decisive = node.is === 'any';
        let sure: boolean | undefined = !decisive;
        for (const part of node.parts) {
          const held = this.#weigh(part, subject, holds, time);
          if (held === decisive) return decisive;
          if (held === undefined) sure = undefined;
        }
        return sure;
      }
      case 'not': {
        const held = this.#weigh(node.part, subject, holds, time);
        return held === undefined ? undefined : !held;
      }
      case 'weekday':
        return time === null ? undefined : node.days.includes(time.weekday);
      case 'time': {
        if (time === null) return undefined;
        const { from, to } = node;
        return from <= to ? time.minute >= from && time.minute < to : time.minute >= from || time.minute < to;
      }
      case 'kind':
        return subject.kind === node.kind;
      case 'anything':
        return textOf(subject, node.field) !== '';
      case 'atom':
        return holds === null ? this.#seen[node.number] === this.#turn : holds.has(node.number);
    }
  }

  /** A condition with its tests of words numbered. */
  #compiled(condition: Condition): Node {
    if ('all' in condition) return { is: 'all', parts: condition.all.map((each) => this.#compiled(each)) };
    if ('any' in condition) return { is: 'any', parts: condition.any.map((each) => this.#compiled(each)) };
    if ('not' in condition) return { is: 'not', part: this.#compiled(condition.not) };
    if (condition.field === 'weekday') return { is: 'weekday', days: condition.days };
    if (condition.field === 'time') return { is: 'time', from: condition.from, to: condition.to };
    const text = condition.text.toLowerCase();
    if (condition.field === 'kind') return { is: 'kind', kind: text };
    const { field, verb } = condition;
    const literal = verb === 'is like' ? longest(text.split('*')) : text;
    // Nothing but stars: anything will do.
    if (literal === '') return { is: 'anything', field };
    const key = `${field} ${verb} ${text}`;
    let number = this.#numbers.get(key);
    if (number === undefined) {
      number = this.#atoms.length;
      this.#numbers.set(key, number);
      this.#atoms.push({ field, verb, text, literal });
    }
    return { is: 'atom', number };
  }

  /** Tests of which one must hold for the condition to hold; null where it may hold without any. */
  #needed(node: Node): number[] | null {
    if (node.is === 'atom') return [node.number];
    if (node.is === 'all') {
      const sets = node.parts.map((each) => this.#needed(each)).filter((each) => each !== null);
      return sets.length === 0 ? null : sets.reduce((a, b) => (this.#tells(b) > this.#tells(a) ? b : a));
    }
    if (node.is === 'any') {
      const sets = node.parts.map((each) => this.#needed(each));
      return sets.some((each) => each === null) ? null : sets.flatMap((each) => each!);
    }
    return null;
  }

  /** The longer its shortest words, the seldomer one of a set is found. */
  #tells(atoms: readonly number[]): number {
    return Math.min(...atoms.map((each) => this.#atoms[each]!.literal.length)) - atoms.length;
  }
}

type Node =
  | { is: 'all' | 'any'; parts: Node[] }
  | { is: 'not'; part: Node }
  | { is: 'weekday'; days: readonly number[] }
  | { is: 'time'; from: number; to: number }
  | { is: 'kind'; kind: string }
  | { is: 'anything'; field: TextField }
  | { is: 'atom'; number: number };

const longest = (parts: readonly string[]): string => parts.reduce((a, b) => (b.length > a.length ? b : a), '');

/** Whether a condition asks for the weekday or the time of day, at any depth. */
export function asksTime(condition: Condition): boolean {
  if ('all' in condition) return condition.all.some(asksTime);
  if ('any' in condition) return condition.any.some(asksTime);
  if ('not' in condition) return asksTime(condition.not);
  return condition.field === 'weekday' || condition.field === 'time';
}

/** Several texts of a field stand one a line, so that each can begin and end: people, and a document by its file and as it is called. */
const MANY: ReadonlySet<RuleField> = new Set(['people', 'document']);

function textOf(subject: Subject, field: TextField): string {
  if (field === 'people') return subject.people.join('\n');
  if (field !== 'document') return subject[field];
  const { file } = subject;
  return file === '' ? '' : `${file.slice(file.lastIndexOf('/') + 1)}\n${documentName(file)}`;
}

/** Whether a test holds, its literal having been found up to `end`; in a text of whatever capitals. */
function holdsOf(atom: Atom, text: string, end: number): boolean {
  const many = MANY.has(atom.field);
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
      return many
        ? text
            .toLowerCase()
            .split('\n')
            .some((each) => isLike(each, atom.text))
        : isLike(text.toLowerCase(), atom.text);
  }
}
