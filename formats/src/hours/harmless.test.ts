import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { runs } from '@half-penny/core/testing';
import { harmless, readCsv, unharmed } from '.';

const hostile = fc
  .array(
    fc.constantFrom(
      '=',
      '+',
      '-',
      '@',
      '＝',
      '＋',
      '－',
      '＠',
      "'",
      ';',
      '|',
      '\t',
      '\r',
      '\n',
      ' ',
      '"',
      ',',
      'a',
      '1',
    ),
    {
      maxLength: 14,
    },
  )
  .map((signs) => signs.join(''));

describe('text that a spreadsheet would compute', () => {
  it.each([
    ['=1+1', "'=1+1"],
    ['-5', "'-5"],
    [' =1', "' =1"],
    ['\n=1', "'\n'=1"],
    ['＝1', "'＝1"],
    ['a;=1', "a;'=1"],
    ['a; @sum', "a; '@sum"],
    ["'=1", "''=1"],
    ['Rig - front', 'Rig - front'],
    ['a+b', 'a+b'],
  ])('%j is written as %j', (text, written) => {
    expect(harmless(text)).toBe(written);
  });

  it('has no formula at the beginning of any cell, whatever a program takes for the sign between columns', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(hostile, { minLength: 2, maxLength: 3 }), { minLength: 1, maxLength: 3 }),
        (rows) => {
          const csv = Papa.unparse(
            rows.map((row) => row.map(harmless)),
            { newline: '\r\n' },
          );
          for (const sign of [',', ';', '\t', '|'])
            for (const row of Papa.parse<string[]>(csv, { delimiter: sign }).data)
              for (const cell of row) expect(cell.replace(/^"+/, '')).not.toMatch(/^\s*[=+\-@＝＋－＠]/);
        },
      ),
      { numRuns: runs(300) },
    );
  });

  it('is read back as it was', () => {
    fc.assert(
      fc.property(hostile, (text) => {
        expect(unharmed(harmless(text))).toBe(text);
      }),
      { numRuns: runs(500) },
    );
    const text = "'; =1\nRig";
    const csv = Papa.unparse([
      ['Note', 'More'],
      [harmless(text), 'x'],
    ]);
    expect(readCsv(csv).rows[0]![0]).toBe(text);
  });
});
