import { describe, expect, it } from 'vitest';
import { featuresOf, featuresOfSubject, joinedFeatures, markOf, subjectOf, weightOf, wordsOf, type Stretch } from '.';

describe('words of titles', () => {
  it.each([
    ['Plot sheet rev-c final copy v3', ['plot', 'sheet']],
    ['Gallery 3: lux study 2026', ['gallery', 'lux', 'study', '2026']],
    ['OTC-22 public notice', ['otc', 'public', 'notice', 'otc-22']],
    ['écrin', ['écrin']],
    ['e\u0301crin', ['écrin']],
    ['Ausstellung über Licht', ['ausstellung', 'über', 'licht']],
    ['Μουσείο 7', ['μουσείο']],
    ['Освещение моста', ['освещение', 'моста']],
    ['a I 7 – ?', []],
  ])('of “%s”', (title, words) => expect(wordsOf(title)).toEqual(words));

  it('are found where a script has no spaces', () => {
    expect(wordsOf('照明計画の図面')).toEqual(expect.arrayContaining(['照明', '計画', '図面']));
  });

  it('are not those of the program', () => {
    const marks = featuresOfSubject(
      subjectOf({ kind: 'window', program: 'Writing pad', title: 'Orchid notes – Writing pad' }),
    );
    expect(marks).toEqual(['program writing pad', 'word orchid', 'word notes']);
  });
});

const stretchOf = (...seen: [title: string, minutes: number][]): Stretch => {
  const evidence = seen.map(([title, minutes]) => ({
    subject: subjectOf({ kind: 'window', title }),
    seen: minutes * 60_000,
    hands: -1,
    times: 1,
    first: 0,
  }));
  const whole = evidence.reduce((sum, each) => sum + each.seen, 0);
  return {
    id: 's',
    day: '2026-11-12',
    spans: [{ start: 0, end: whole }],
    seen: whole,
    evidence,
    placing: null,
    outcome: null,
    rule: null,
    second: null,
  };
};

describe('what a stretch looks like', () => {
  it('weighs by the time it took, and something of a moment still tells something', () => {
    const weights = new Map(
      featuresOf(
        stretchOf(['orchid', 43], ['leaflet', 1 / 3], ['orchid notes', 10], ['saved', 0]),
        'Europe/London',
      ).map((each) => [markOf(each), weightOf(each)]),
    );
    expect(weights.get('word orchid')).toBeGreaterThan(0.99);
    expect(weights.get('word leaflet')).toBeLessThan(0.2);
    expect(weights.get('word saved')).toBeGreaterThan(0.1);
    expect(weights.get('hour 0')).toBe(1);
  });

  it('joined, has each mark once, as strong as it was anywhere', () => {
    expect(
      joinedFeatures([[['word lux', 0.4], 'word rig'], ['word lux', ['word rig', 0.2]], ['word bridge']], 2),
    ).toEqual(['word lux', 'word rig']);
  });
});
