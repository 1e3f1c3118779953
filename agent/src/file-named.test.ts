import { expect, it } from 'vitest';
import { fileNamed } from './screen';

const chapter = '/texts/orchid/chapter-3.txt';
const backup = '/texts/orchid/chapter-3.txt.bak';
const plot = '/work/quayside/plot.lgp';
const plot4 = '/work/quayside/plot-4.lgp';

it.each([
  ['its whole name', 'chapter-3.txt - Writing pad', [chapter, backup], chapter],
  ['the longer name, not a part of it', 'chapter-3.txt.bak - Writing pad', [chapter, backup], backup],
  ['nothing where another file is named', 'chapter-3.txt.bak - Writing pad', [chapter], null],
  ['the name without its ending', 'Orchid: chapter-3 – Writing pad', [chapter], chapter],
  ['no part of a longer word', 'plot-42 - Plotting desk', [plot, plot4], null],
  ['the name beside a mark that it was changed', '*plot-4.lgp (changed)', [plot, plot4], plot4],
  ['a whole path', '/work/quayside/plot.lgp', [plot, plot4], plot],
  ['nothing where two fit as well', 'plot.lgp - Plotting desk', [plot, '/work/museum/plot.lgp'], null],
  ['no name of three letters without its ending', 'fox and hound', ['/work/fox.txt'], null],
])('a title tells of a file by %s', (_, title, known, file) => expect(fileNamed(title, [], known)).toBe(file));

it('of two that fit the one that its program holds open is meant', () => {
  const other = '/work/museum/plot.lgp';
  expect(fileNamed('plot.lgp - Plotting desk', [other], [plot, other])).toBe(other);
});
