import { describe, expect, it } from 'vitest';
import type { MatchRule } from '../model/records';
import { fits, placingOf, wordsOf, type Placed } from './match';

const rule = (order: number, words: string, projectId: string): MatchRule => ({
  id: words,
  order,
  words,
  projectId,
  costCodeId: null,
  forClient: true,
});
const placed = (text: string, projectId: string, day = '2026-10-01', more: Partial<Placed> = {}): Placed => ({
  supplier: '',
  text,
  projectId,
  costCodeId: null,
  forClient: true,
  day,
  ...more,
});
const line = (text: string, supplier = '') => ({ supplier, text });
const projectOf = (text: string, history: Placed[]) => placingOf(line(text), [], history)?.projectId ?? null;

describe('words by which lines are told apart', () => {
  it('are of two letters or more, in small letters, each once, without figures', () => {
    expect(wordsOf('LAMP hire 4021 x lamp à Öl')).toEqual(['lamp', 'hire', 'öl']);
    expect(wordsOf('4021 / 7')).toEqual([]);
  });
});

describe('a rule', () => {
  it('fits where all of its words stand in the supplier or the text, and none without words', () => {
    expect(fits({ words: 'Lamp Brightwater' }, line('Lamps and a lamp', 'Brightwater Supplies'))).toBe(true);
    expect(fits({ words: 'lamp gel' }, line('lamp hire'))).toBe(false);
    expect(fits({ words: '4021' }, line('lamp 4021'))).toBe(false);
  });

  it('goes before likeness, and the first in order before the others', () => {
    const rules = [rule(2, 'lamp', 'late'), rule(1, 'hire', 'early'), rule(3, 'lamp hire', 'last')];
    const history = [placed('lamp hire', 'like')];
    expect(placingOf(line('Lamp hire'), rules, history)).toEqual({
      projectId: 'early',
      costCodeId: null,
      forClient: true,
      why: 'rule: hire',
    });
    expect(placingOf(line('Lamp hire'), [rule(1, 'gel', 'gel')], history)?.projectId).toBe('like');
  });
});

describe('likeness to what was placed before', () => {
  it('takes half of the words of both, and no less', () => {
    // 2 of 4 words in either; then 2 of 5.
    expect(projectOf('lamp hire spring', [placed('lamp hire winter', 'rig')])).toBe('rig');
    expect(projectOf('lamp hire spring show', [placed('lamp hire winter', 'rig')])).toBeNull();
    expect(projectOf('4021', [placed('4021', 'rig')])).toBeNull();
    expect(projectOf('gel', [placed('lamp', 'rig')])).toBeNull();
    expect(projectOf('gel', [])).toBeNull();
  });

  it('goes by what like ones agree on most, weighed by how like they are, and says by how many', () => {
    // One that is the same counts 1, two that have half of the words count ½ each and a third tips it.
    const half = (day: string) => placed('lamp hire', 'halves', day);
    const same = placed('lamp', 'same', '2026-01-01');
    expect(projectOf('lamp', [half('2026-02-01'), same])).toBe('same');
    const tipped = placingOf(line('lamp'), [], [half('2026-02-01'), same, half('2026-02-02'), half('2026-02-03')]);
    expect(tipped).toMatchObject({ projectId: 'halves', why: 'like 3 earlier ones' });
    expect(placingOf(line('lamp'), [], [same])?.why).toBe('like 1 earlier one');
  });

  it('prefers the later of two that weigh alike, and tells nothing where both are of one day', () => {
    const two = (a: string, b: string) => [placed('lamp', 'first', a), placed('lamp', 'second', b)];
    expect(projectOf('lamp', two('2026-03-01', '2026-03-02'))).toBe('second');
    expect(projectOf('lamp', two('2026-03-02', '2026-03-01'))).toBe('first');
    expect(projectOf('lamp', two('2026-03-01', '2026-03-01'))).toBeNull();
    // Another weight on the same day tells.
    expect(projectOf('lamp', [placed('lamp', 'first'), placed('lamp hire', 'second')])).toBe('first');
    // The latest day of each counts, wherever it stands in the list.
    const mixed = [placed('lamp', 'first', '2026-03-09'), placed('lamp', 'first', '2026-03-01')];
    const others = [placed('lamp', 'second', '2026-03-02'), placed('lamp', 'second', '2026-03-05')];
    expect(projectOf('lamp', [...others, ...mixed])).toBe('first');
  });

  it('tells a project, a heading, and whether a client pays, apart', () => {
    const history = [
      placed('lamp', 'rig', '2026-03-01', { costCodeId: 'lamps' }),
      placed('lamp', 'rig', '2026-03-02', { costCodeId: 'hire', forClient: false }),
    ];
    expect(placingOf(line('lamp'), [], history)).toMatchObject({ costCodeId: 'hire', forClient: false });
  });
});
