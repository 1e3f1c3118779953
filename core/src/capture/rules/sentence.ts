import { Fault } from '../../faults/fault';
import { clockOf, WEEKDAY_NAMES } from '../../time';
import { activityKinds } from '../activity';
import { ruleFields, ruleVerbs, type Condition, type RuleField, type RuleVerb, type Test } from './rule';

// A rule's condition as a sentence, both ways:
//   where document is “Plot sheet 4” and title has none of “old”, “copy”
//   where title has “plot” and (folder begins with “/work/quayside” or people has “stage@”) unless weekday is Sat, Sun

const MOST_TESTS = 200;
const DEEPEST = 12;

/** Reads a sentence; "where" may be left out, words without spaces need no quotes, "and" binds before "or". */
export function readSentence(text: string): Condition {
  const reading = new Reading(text);
  reading.word('where');
  const condition = reading.any(0);
  const but = reading.word('unless') ? reading.any(0) : null;
  reading.end();
  return but ? { all: [...allOf(condition), { not: but }] } : condition;
}

const allOf = (condition: Condition): Condition[] => ('all' in condition ? condition.all : [condition]);

interface Token {
  text: string;
  quoted: boolean;
  at: number;
}

class Reading {
  readonly #tokens: Token[];
  readonly #text: string;
  #next = 0;
  #tests = 0;

  constructor(text: string) {
    this.#text = text;
    this.#tokens = [...text.matchAll(/“([^”]*)”|"([^"]*)"|([(),])|([^\s(),“”"]+)|(["“”])/g)].map((found) => {
      if (found[5] !== undefined) throw this.#fault('This quotation mark has no other', found.index);
      const quoted = found[1] ?? found[2];
      return { text: quoted ?? found[0], quoted: quoted !== undefined, at: found.index };
    });
  }

  /** Takes a word of the sentence's own if it stands here. */
  word(text: string): boolean {
    const token = this.#tokens[this.#next];
    if (!token || token.quoted || token.text.toLowerCase() !== text) return false;
    this.#next++;
    return true;
  }

  any(depth: number): Condition {
    const parts = [this.#all(depth)];
    while (this.word('or')) parts.push(this.#all(depth));
    return parts.length === 1 ? parts[0]! : { any: parts };
  }

  #all(depth: number): Condition {
    const parts = [this.#one(depth)];
    while (this.word('and')) parts.push(this.#one(depth));
    return parts.length === 1 ? parts[0]! : { all: parts };
  }

  #one(depth: number): Condition {
    if (depth > DEEPEST) throw this.#fault(`Brackets go at most ${DEEPEST} deep; this goes deeper`);
    if (this.word('not')) return { not: this.#one(depth + 1) };
    // "none of (…, …)": each may be a condition of its own.
    if (this.#words('none', 'of')) return { not: this.#several(depth + 1) };
    if (this.word('(')) {
      const inner = this.any(depth + 1);
      if (!this.word(')')) throw this.#fault('A bracket is not closed; “)” is missing');
      return inner;
    }
    return this.#test();
  }

  /** Conditions in brackets, parted by commas or "or". */
  #several(depth: number): Condition {
    if (!this.word('(')) throw this.#fault('After “none of” conditions stand in brackets; “(” is missing');
    const parts = [this.any(depth)];
    while (this.word(',')) parts.push(this.any(depth));
    if (!this.word(')')) throw this.#fault('A bracket is not closed; “)” is missing');
    return parts.length === 1 ? parts[0]! : { any: parts };
  }

  /** Takes two words if both stand here. */
  #words(first: string, second: string): boolean {
    const next = this.#tokens[this.#next + 1];
    if (next?.quoted !== false || next.text.toLowerCase() !== second || !this.word(first)) return false;
    return this.word(second);
  }

  #test(): Condition {
    if (++this.#tests > MOST_TESTS) throw this.#fault(`A rule asks at most ${MOST_TESTS} things; this is one more`);
    const field = ruleFields.find((each) => this.word(each));
    if (!field) throw this.#fault(`What to look at is missing: ${ruleFields.join(', ')}`);
    if (field === 'weekday') {
      this.word('is');
      return { field, days: this.#list().map((name) => this.#weekday(name)) };
    }
    if (field === 'time') {
      if (!this.word('from')) throw this.#fault('A time is written “time from 9:00 to 12:30”; “from” is missing');
      const from = this.#clock();
      if (!this.word('to')) throw this.#fault('“to” is missing');
      return { field, from, to: this.#clock() };
    }
    const verb = this.#verb();
    const none = this.#words('none', 'of');
    const one = (): Test => ({ field, verb, text: this.#valueOf(field) });
    if (!none && !this.#words('any', 'of')) return one();
    const tests: Test[] = [one()];
    while (this.word(',')) {
      if (++this.#tests > MOST_TESTS) throw this.#fault(`A rule asks at most ${MOST_TESTS} things; this is one more`);
      tests.push(one());
    }
    const any: Condition = tests.length === 1 ? tests[0]! : { any: tests };
    return none ? { not: any } : any;
  }

  #valueOf(field: RuleField): string {
    const value = this.#value();
    if (field !== 'kind' || (activityKinds as readonly string[]).includes(value.toLowerCase())) return value;
    this.#next--;
    throw this.#fault(`“${value}” is no kind; there are ${activityKinds.join(', ')}`);
  }

  #verb(): RuleVerb {
    if (this.word('has')) return 'has';
    if (this.word('is')) return this.word('like') ? 'is like' : 'is';
    if (this.word('begins') && this.word('with')) return 'begins with';
    if (this.word('ends') && this.word('with')) return 'ends with';
    throw this.#fault(`How to look is missing: ${ruleVerbs.join(', ')}`);
  }

  #value(): string {
    const token = this.#tokens[this.#next];
    if (!token || (!token.quoted && /^[(),]$/.test(token.text))) throw this.#fault('The words to look for are missing');
    if (token.text.trim() === '') throw this.#fault('The words to look for are empty');
    this.#next++;
    return token.text;
  }

  #list(): string[] {
    const values = [this.#value()];
    while (this.word(',')) values.push(this.#value());
    return values;
  }

  #weekday(name: string): number {
    const short = name.toLowerCase();
    const found = short.length < 2 ? -1 : WEEKDAY_NAMES.findIndex((each) => each.toLowerCase().startsWith(short));
    if (found < 0) throw this.#fault(`“${name}” is no day of the week`);
    return found + 1;
  }

  #clock(): number {
    const value = this.#value();
    const [, hour, minute = '0'] = /^(\d{1,2})(?::(\d\d))?$/.exec(value) ?? [];
    const minutes = Number(hour) * 60 + Number(minute);
    if (hour === undefined || Number(minute) > 59 || minutes > 1440)
      throw this.#fault(`“${value}” is no time of day, such as 9:00`);
    return minutes;
  }

  end(): void {
    if (this.#next < this.#tokens.length) throw this.#fault(`“${this.#tokens[this.#next]!.text}” is not expected`);
  }

  #fault(what: string, at = this.#tokens[this.#next]?.at ?? this.#text.length): Fault {
    return new Fault('not-a-sentence', `${what} (at character ${at + 1}).`, 'sentence', { at });
  }
}

/** A condition as a sentence that is read as the same again. */
export function writeSentence(condition: Condition): string {
  // What must not hold stands last, as "unless".
  if ('all' in condition && condition.all.length > 1) {
    const last = condition.all.at(-1)!;
    const rest = condition.all.slice(0, -1);
    if ('not' in last) {
      const when = rest.length === 1 ? rest[0]! : { all: rest };
      // Read again, the parts of another "and" would run into these.
      if (!('not' in when) && !(rest.length === 1 && 'all' in when))
        return `where ${write(when, 0)} unless ${write(last.not, 0)}`;
    }
  }
  return `where ${write(condition, 0)}`;
}

/** Level 0 stands free, 1 between "or", 2 between "and" or after "not". */
function write(condition: Condition, level: number): string {
  if ('any' in condition) return group(condition.any, 'or', level > 0 || condition.any.length < 2, 1);
  if ('all' in condition) return group(condition.all, 'and', level > 1 || condition.all.length < 2, 2);
  if ('not' in condition) return noneOf(condition.not) ?? `not ${write(condition.not, 2)}`;
  if (condition.field === 'weekday')
    return `weekday is ${condition.days.map((day) => WEEKDAY_NAMES[day - 1]!.slice(0, 3)).join(', ')}`;
  if (condition.field === 'time') return `time from ${clockOf(condition.from)} to ${clockOf(condition.to)}`;
  return `${condition.field} ${condition.verb} ${quoted(condition.text)}`;
}

/** "title has none of “old”, “copy”", where that is what is meant. */
function noneOf(condition: Condition): string | null {
  if (!('any' in condition) || condition.any.length < 2) return null;
  const tests = condition.any.filter((each) => 'text' in each);
  const [first] = tests;
  if (!first || tests.length < condition.any.length) return null;
  if (tests.some((each) => each.field !== first.field || each.verb !== first.verb)) return null;
  return `${first.field} ${first.verb} none of ${tests.map((each) => quoted(each.text)).join(', ')}`;
}

const group = (parts: readonly Condition[], word: string, bracketed: boolean, level: number): string => {
  const text = parts.map((each) => write(each, level)).join(` ${word} `);
  return bracketed ? `(${text})` : text;
};

const quoted = (text: string): string => (text.includes('”') ? `"${text}"` : `“${text}”`);

/** Whether a condition asks so little that it catches everything. */
export function catchesAll(condition: Condition): boolean {
  if ('all' in condition) return condition.all.every(catchesAll);
  if ('any' in condition) return condition.any.some(catchesAll);
  if ('not' in condition) return false;
  if (condition.field === 'weekday') return new Set(condition.days).size === 7;
  if (condition.field === 'time') return condition.from === 0 && condition.to >= 1440;
  return condition.verb === 'is like' && /^\*+$/.test(condition.text);
}

export type { RuleField };
