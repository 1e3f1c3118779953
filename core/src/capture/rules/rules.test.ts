import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documentName, subjectOf, type Subject } from '../subject';
import type { Activity } from '../activity';
import {
  catchesAll,
  isLike,
  AhoCorasick,
  readSentence,
  RuleBook,
  writeSentence,
  type Condition,
  type PlacingRule,
  type RuleTime,
  type Test,
} from '.';
import { runs } from '../../testing/runs';

const word = fc.constantFrom('plot', 'quay', 'lux', 'a', 'plot sheet', 'x”y');
const test: fc.Arbitrary<Test> = fc.oneof(
  fc.record({
    field: fc.constantFrom(
      'title' as const,
      'folder' as const,
      'people' as const,
      'program' as const,
      'document' as const,
    ),
    verb: fc.constantFrom(
      'has' as const,
      'is' as const,
      'begins with' as const,
      'ends with' as const,
      'is like' as const,
    ),
    text: fc.oneof(word, fc.constantFrom('*plot', 'p*t', '*', 'quay*x*')),
  }),
  fc.record({
    field: fc.constant('weekday' as const),
    days: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1 }),
  }),
  fc.record({
    field: fc.constant('time' as const),
    from: fc.integer({ min: 0, max: 1439 }),
    to: fc.integer({ min: 0, max: 1439 }),
  }),
);
const { condition } = fc.letrec<{ condition: Condition }>((tie) => ({
  condition: fc.oneof(
    { maxDepth: 3, withCrossShrink: true },
    test,
    fc.record({ all: fc.array(tie('condition'), { minLength: 2, maxLength: 3 }) }),
    fc.record({ any: fc.array(tie('condition'), { minLength: 2, maxLength: 3 }) }),
    fc.record({ not: tie('condition') }),
  ),
}));

const rule = (when: Condition, order: number, since = 0): PlacingRule => ({
  id: `r${order}`,
  order,
  when,
  then: { act: 'private' },
  since,
  posts: false,
  on: true,
});

/** A condition weighed the plain way, as a check on the fast one. */
function holds(each: Condition, activity: Activity, time: RuleTime): boolean {
  if ('all' in each) return each.all.every((part) => holds(part, activity, time));
  if ('any' in each) return each.any.some((part) => holds(part, activity, time));
  if ('not' in each) return !holds(each.not, activity, time);
  if (each.field === 'weekday') return each.days.includes(time.weekday);
  if (each.field === 'time')
    return each.from <= each.to
      ? time.minute >= each.from && time.minute < each.to
      : time.minute >= each.from || time.minute < each.to;
  const subject = subjectOf(activity);
  const texts = textsOf(subject, each.field).map((text) => text.toLowerCase());
  const text = each.text.toLowerCase();
  return texts.some((value) => {
    if (value === '') return false;
    switch (each.verb) {
      case 'has':
        return value.includes(text);
      case 'is':
        return value === text;
      case 'begins with':
        return value.startsWith(text);
      case 'ends with':
        return value.endsWith(text);
      case 'is like':
        return new RegExp(
          `^${text
            .split('*')
            .map((part) => part.replace(/[^a-z ]/g, '\\$&'))
            .join('.*')}$`,
        ).test(value);
    }
  });
}

function textsOf(subject: Subject, field: Exclude<Test['field'], 'weekday' | 'time'>): readonly string[] {
  if (field === 'people') return subject.people;
  if (field !== 'document') return [subject[field]];
  return subject.file ? [subject.file.split('/').at(-1)!, documentName(subject.file)] : [];
}

describe('rules', () => {
  it('are weighed all at once as they would be one by one', () => {
    const activity = fc.record({
      kind: fc.constant('window' as const),
      from: fc.constant(1_800_000_000_000),
      to: fc.constant(1_800_000_060_000),
      title: fc.constantFrom('Plot sheet 4', 'lux', 'a plot', 'plot'),
      program: fc.constantFrom('plot', 'quay', ''),
      file: fc.constantFrom('/work/quay/plot/a.lgp', '/work/plot_sheet.lgp', ''),
      people: fc.constantFrom<string[]>([], ['quay'], ['plot', 'lux']),
    });
    fc.assert(
      fc.property(
        fc.array(condition, { maxLength: 8 }),
        activity,
        fc.integer({ min: 0, max: 1439 }),
        fc.integer({ min: 1, max: 7 }),
        (conditions, each, minute, weekday) => {
          const book = new RuleBook(conditions.map((when, order) => rule(when, order)));
          const subject = subjectOf(each);
          const time = { at: each.from, minute, weekday };
          const decided = book.decide(subject, book.caught(subject), () => time);
          const plain = conditions.flatMap((when, order) => (holds(when, each, time) ? [`r${order}`] : []));
          expect(decided.map((found) => found?.id ?? null)).toEqual([plain[0] ?? null, plain[1] ?? null]);
        },
      ),
      { numRuns: runs(400) },
    );
  });

  it('hold only from the day on that they were made for', () => {
    const book = new RuleBook([rule({ field: 'title', verb: 'has', text: 'plot' }, 1, 1000)]);
    const subject = subjectOf({ kind: 'window', title: 'Plot' });
    const at = (moment: number) =>
      book.decide(subject, book.caught(subject), () => ({ at: moment, minute: 0, weekday: 1 }))[0];
    expect([at(999), at(1000)?.id]).toEqual([null, 'r1']);
  });

  it('read as sentences, and back', () => {
    fc.assert(
      fc.property(condition, (each) => {
        const sentence = writeSentence(each);
        expect(writeSentence(readSentence(sentence))).toBe(sentence);
      }),
      { numRuns: runs(400) },
    );
    const sentence =
      'where title has “plot” and (folder begins with “/work/quayside” or people has “stage@”) unless weekday is Sat, Sun';
    expect(readSentence(sentence)).toEqual({
      all: [
        { field: 'title', verb: 'has', text: 'plot' },
        {
          any: [
            { field: 'folder', verb: 'begins with', text: '/work/quayside' },
            { field: 'people', verb: 'has', text: 'stage@' },
          ],
        },
        { not: { field: 'weekday', days: [6, 7] } },
      ],
    });
    expect(writeSentence(readSentence(sentence))).toBe(sentence);
    expect(readSentence('title has plot and time from 9 to 12:30')).toEqual({
      all: [
        { field: 'title', verb: 'has', text: 'plot' },
        { field: 'time', from: 540, to: 750 },
      ],
    });
  });

  it('ask for a document by its file or as it is called, and for none of several', () => {
    const catches = (sentence: string, file: string, title = '') => {
      const book = new RuleBook([rule(readSentence(sentence), 1)]);
      return book.caught(subjectOf({ kind: 'window', file, title })).rules.length > 0;
    };
    for (const name of ['plot-sheet_4.lgp', 'Plot sheet 4'])
      expect(catches(`where document is “${name}”`, '/work/quayside/plot-sheet_4.lgp')).toBe(true);
    expect(catches('where document is “plot”', '/work/quayside/plot-sheet_4.lgp')).toBe(false);
    expect(catches('where document begins with plot', '/plot/cue-list.csv')).toBe(false);
    const none = 'where title has plot and title has none of “old”, copy, “x”';
    expect(catches(none, '', 'Plot sheet')).toBe(true);
    expect(catches(none, '', 'Old plot sheet')).toBe(false);
    const same = 'where title has plot and none of (title has old, title has copy or title has x)';
    expect(readSentence(same)).toEqual({
      all: [
        { field: 'title', verb: 'has', text: 'plot' },
        {
          not: {
            any: [
              { field: 'title', verb: 'has', text: 'old' },
              {
                any: [
                  { field: 'title', verb: 'has', text: 'copy' },
                  { field: 'title', verb: 'has', text: 'x' },
                ],
              },
            ],
          },
        },
      ],
    });
    expect(writeSentence(readSentence(none))).toBe(
      'where title has “plot” unless title has “old” or title has “copy” or title has “x”',
    );
    expect(writeSentence(readSentence('where title has none of a, b and program is c'))).toBe(
      'where title has none of “a”, “b” and program is “c”',
    );
    // A title may hold the word itself.
    expect(readSentence('where title has none')).toEqual({ field: 'title', verb: 'has', text: 'none' });
    expect(readSentence('where title is any of a, b')).toEqual(readSentence('where title is a or title is b'));
  });

  it.each([
    ['where none of title has a', 'After “none of” conditions stand in brackets'],
    ['where none of (title has a', 'A bracket is not closed'],
    ['where kind is none of window, dream', '“dream” is no kind'],
    ['', 'What to look at is missing'],
    ['where title', 'How to look is missing'],
    ['where title has', 'The words to look for are missing'],
    ['where title has “”', 'The words to look for are empty'],
    ['where (title has a', 'A bracket is not closed; “)” is missing (at character 19)'],
    ['where title has "a', 'This quotation mark has no other (at character 17)'],
    ['where title has a b', '“b” is not expected (at character 19)'],
    ['where kind is dream', '“dream” is no kind'],
    ['where weekday is Someday', '“Someday” is no day of the week'],
    ['where time from 25:00 to 3', '“25:00” is no time of day'],
    [`where ${'('.repeat(20)}title has a`, 'Brackets go at most 12 deep'],
  ])('%s is answered: %s', (sentence, message) => {
    expect(() => readSentence(sentence)).toThrow(message);
  });

  it('say when they would catch everything', () => {
    expect(catchesAll(readSentence('where title is like *'))).toBe(true);
    expect(catchesAll(readSentence('where title has a or weekday is Mon, Tue, Wed, Thu, Fri, Sat, Sun'))).toBe(true);
    expect(catchesAll(readSentence('where title has a and program is like *'))).toBe(false);
  });
});

describe('finding words', () => {
  it('finds every one wherever it stands', () => {
    const text = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 40 });
    const words = fc.uniqueArray(fc.string({ unit: fc.constantFrom('a', 'b', 'c'), minLength: 1, maxLength: 4 }), {
      maxLength: 12,
    });
    fc.assert(
      fc.property(text, words, (text, words) => {
        const found: string[] = [];
        new AhoCorasick(words).find(text, (number, end) => found.push(`${words[number]} ${end}`));
        const plain = words.flatMap((each) =>
          [...text].flatMap((_, at) => (text.startsWith(each, at) ? [`${each} ${at + each.length}`] : [])),
        );
        expect(found.sort()).toEqual(plain.sort());
      }),
    );
  });

  it('takes capitals for the small letters they are, in whatever alphabet', () => {
    const catches = (words: string, title: string) => {
      const when = { field: 'title' as const, verb: 'has' as const, text: words };
      const subject = subjectOf({ kind: 'window', title });
      return new RuleBook([rule(when, 0)]).caught(subject).rules.length === 1;
    };
    expect(catches('Plot SHEET', 'the plot sheet 4')).toBe(true);
    expect(catches('plot sheet', 'The PLOT Sheet 4')).toBe(true);
    expect(catches('ärger', 'Nur ÄRGER damit')).toBe(true);
    expect(catches('привет', 'Привет, Plot')).toBe(true);
    // In small letters this is longer by one.
    expect(catches('stanbul', 'İSTANBUL ışık')).toBe(true);
    expect(catches('plot', 'plan')).toBe(false);
  });

  it('weighs many rules that one thing falls under in their order', () => {
    const rules = Array.from({ length: 60 }, (_, at) => ({
      ...rule({ field: 'title', verb: 'has', text: at % 2 ? 'plot' : 'sheet' }, 100 - at),
      id: `r${at}`,
    }));
    const book = new RuleBook(rules);
    const subject = subjectOf({ kind: 'window', title: 'Plot sheet 4' });
    const caught = book.caught(subject);
    expect(caught.rules).toEqual(Array.from({ length: 60 }, (_, at) => at));
    const time = () => ({ at: 0, minute: 0, weekday: 1 });
    expect(book.decide(subject, caught, time).map((each) => each?.id)).toEqual(['r59', 'r58']);
  });

  it('takes no pattern that could go on for ever', () => {
    // Such a pattern takes a matcher that goes back and back 2^25 steps and more; this one a few thousand.
    expect(isLike('a'.repeat(5000), `${'*a'.repeat(25)}*b`)).toBe(false);
    expect(isLike('plot-4-final.lgp', 'plot*final*')).toBe(true);
  });
});
