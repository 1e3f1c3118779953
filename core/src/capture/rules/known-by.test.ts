import { expect, it } from 'vitest';
import { conditionOfKnown, knownOfCondition, readSentence, RuleBook, subjectOf, writeSentence, placeOn } from '..';
import type { Activity } from '..';

const known = { words: ['orchid', 'OTC-22'], sites: ['hire-stock.example'] };
const when = conditionOfKnown(known)!;

it('catches words wherever they stand, and whole sites', () => {
  const book = new RuleBook([
    {
      id: 'k',
      order: 1,
      when,
      then: placeOn({ workspaceId: 'w', projectId: 'p', taskId: null }),
      since: 0,
      posts: false,
      on: true,
    },
  ]);
  const catches = (activity: Partial<Activity>) => {
    const subject = subjectOf({ kind: 'window', ...activity });
    return book.decide(subject, book.caught(subject), () => ({ at: 1, minute: 600, weekday: 3 }))[0] !== null;
  };
  expect(catches({ title: 'Orchid, chapter 3' })).toBe(true);
  expect(catches({ file: '/texts/orchid/notes.txt' })).toBe(true);
  expect(catches({ title: 'Re: otc-22' })).toBe(true);
  expect(catches({ people: ['editor@orchid-press.example'] })).toBe(true);
  expect(catches({ address: 'https://www.hire-stock.example/lamps' })).toBe(true);
  expect(catches({ address: 'https://other.example/hire-stock.example' })).toBe(false);
  expect(catches({ title: 'Notes' })).toBe(false);
});

it('is read back from its rule, also when that was written as a sentence', () => {
  expect(knownOfCondition(when)).toEqual(known);
  expect(knownOfCondition(readSentence(writeSentence(when)))).toEqual(known);
  expect(conditionOfKnown({ words: [], sites: [] })).toBeNull();
});

it('is not read from a rule that says more', () => {
  expect(knownOfCondition(readSentence('where title has “orchid”'))).toBeNull();
  expect(knownOfCondition(readSentence('where title has “orchid” or site is “a.example”'))).toBeNull();
  expect(knownOfCondition({ any: [{ field: 'weekday', days: [1] }] })).toBeNull();
});
