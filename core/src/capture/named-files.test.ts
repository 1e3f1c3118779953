import { expect, it } from 'vitest';
import fc from 'fast-check';
import { fileNamed, filesNamed, NamedFiles } from '.';

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

it('all that fit alike are told, for the person to choose from', () => {
  const other = '/work/museum/plot.lgp';
  expect(filesNamed('plot – Plotting desk', [], [plot, other, plot4])).toEqual([plot, other]);
  expect(filesNamed('plot-4 – Plotting desk', [], [plot, other, plot4])).toEqual([plot4]);
  expect(filesNamed('Inbox', [], [plot])).toEqual([]);
});

it('are found among many as if each were looked at', () => {
  const word = fc.constantFrom('plot', 'plot-4', 'sheet', 'chapter', '3', 'ü-plan', 'cue list');
  const file = fc.tuple(word, word, fc.constantFrom('.lgp', '.txt', '')).map(([a, b, end]) => `/w/${a} ${b}${end}`);
  const title = fc.array(fc.oneof(word, file), { maxLength: 4 }).map((parts) => parts.join(' – '));
  fc.assert(
    fc.property(fc.array(file), title, (files, asked) => {
      expect(new Set(new NamedFiles(files).of(asked))).toEqual(new Set(filesNamed(asked, [], files)));
    }),
  );
});
