import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documentFamilies, familyName, type DocumentTime } from '.';

describe('what a document is called without its versions', () => {
  it.each([
    ['/work/quayside/plot-sheet.lgp', 'plot sheet.lgp'],
    ['/work/quayside/Plot sheet (2).lgp', 'plot sheet.lgp'],
    ['/work/quayside/plot-sheet rev-c final.lgp', 'plot sheet.lgp'],
    ['/work/quayside/plot_sheet_v12.lgp', 'plot sheet.lgp'],
    ['/home/a/Downloads/Copy of plot-sheet 2026-11-12.lgp', 'plot sheet.lgp'],
    ['/work/quayside/plot-sheet-4.lgp', 'plot sheet 4.lgp'],
    ['/work/quayside/plot-sheet.pdf', 'plot sheet.pdf'],
    ['/work/final.txt', 'final.txt'],
    ['/work/(2)', '(2)'],
    ['/work/.profile', '.profile'],
    ['/texte/écrin copie.txt', 'écrin.txt'],
    ['/texte/e\u0301crin.txt', 'écrin.txt'],
  ])('of %s', (file, name) => expect(familyName(file)).toBe(name));

  it('is there whatever the file is called, and is its own', () => {
    fc.assert(
      fc.property(fc.string(), (name) => {
        const once = familyName(`/work/${name.replaceAll('/', '')}`);
        expect(familyName(`/work/${once}`)).toBe(once);
      }),
    );
  });
});

const time = (file: string, start: number, minutes: number, more: Partial<DocumentTime> = {}): DocumentTime => ({
  file,
  inView: minutes,
  hands: -1,
  kept: [],
  clock: [{ start, end: start + minutes }],
  first: start,
  last: start + minutes,
  ...more,
});

describe('documents under all their names', () => {
  it('are one where they lie together, and go by the last', () => {
    const [family, ...others] = documentFamilies([
      time('/work/quayside/plot-sheet.lgp', 0, 30, { hands: 10, kept: [5] }),
      time('/work/quayside/plot-sheet v2.lgp', 100, 20, { kept: [110] }),
      time('/home/a/Downloads/plot-sheet (1).lgp', 60, 10),
    ]);
    expect(others).toEqual([]);
    expect(family).toMatchObject({ file: '/work/quayside/plot-sheet v2.lgp', inView: 60, hands: 10, kept: [5, 110] });
    expect(family!.files.map(({ file }) => file)).toEqual([
      '/work/quayside/plot-sheet.lgp',
      '/home/a/Downloads/plot-sheet (1).lgp',
      '/work/quayside/plot-sheet v2.lgp',
    ]);
  });

  it('are several in folders of their own, and what was downloaded is of none of these', () => {
    const files = ['/work/quayside/plot.lgp', '/work/museum/plot.lgp', '/home/a/Downloads/plot.lgp'];
    expect(documentFamilies(files.map((file, at) => time(file, at, 1)))).toHaveLength(3);
  });

  it('lose no time and no clock', () => {
    const files = fc.constantFrom('/w/a/plot.lgp', '/w/a/plot v2.lgp', '/home/x/Downloads/plot.lgp', '/w/b/cue.txt');
    fc.assert(
      fc.property(fc.uniqueArray(files), (list) => {
        const times = list.map((file, at) => time(file, at * 100, at + 1));
        const families = documentFamilies(times);
        const sum = (all: readonly { inView: number }[]) => all.reduce((total, each) => total + each.inView, 0);
        expect(sum(families)).toBe(sum(times));
        expect(families.flatMap((each) => each.files.map(({ file }) => file)).sort()).toEqual([...list].sort());
      }),
    );
  });
});
