import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { readReferenceRates } from '.';
import { fault } from '@half-penny/core/testing';

const wanted = new Set(['GBP', 'USD', 'JPY']);
const read = (text: string) => readReferenceRates(strToU8(text), 'eurofxref.csv', wanted);

// The form is that of the European Central Bank's files eurofxref.csv and eurofxref-hist.csv, from memory; the figures are invented.
const DAY = 'Date, USD, JPY, BGN, GBP, \n25 November 2026, 1.0921, 163.06, 1.9558, 0.85440, \n';
const HISTORY = 'Date,USD,JPY,CYP,GBP,\n2026-11-25,1.0921,163.06,N/A,0.85440,\n2026-11-24,1.0917,N/A,N/A,0.85610,\n';

describe('euro reference rates', () => {
  it('are read of one day and of the history, zipped or not', () => {
    expect(read(DAY).map((row) => [row.from, row.currency, row.rate])).toEqual([
      ['2026-11-25', 'USD', '1.0921'],
      ['2026-11-25', 'JPY', '163.06'],
      ['2026-11-25', 'GBP', '0.8544'],
    ]);
    expect(read(HISTORY)).toHaveLength(5);
    const zip = zipSync({ 'eurofxref-hist.csv': strToU8(HISTORY) });
    expect(readReferenceRates(zip, 'eurofxref-hist.zip', wanted).map((row) => row.rate)).toEqual(
      read(HISTORY).map((row) => row.rate),
    );
  });

  it('take only currencies that are wanted', () => {
    expect(readReferenceRates(strToU8(DAY), 'x.csv', new Set(['GBP', 'EUR'])).map((row) => row.currency)).toEqual([
      'GBP',
    ]);
  });

  it('that cannot be read are named by line and column', () => {
    expect(() => read('Name,USD\nx,1')).toThrow(fault('other-file'));
    expect(() => read('Date,USD\n2026-13-25,1.1')).toThrow('line 2: “2026-13-25” is not a day');
    expect(() => read('Date,USD,GBP\n2026-11-25,1.1,0.8\n2026-11-24,1.1,zero')).toThrow(
      'line 3, GBP: “zero” is not a rate',
    );
    expect(() => read('Date,CHF\n2026-11-25,0.9')).toThrow(fault('incomplete'));
    expect(() => readReferenceRates(zipSync({ 'notes.txt': strToU8('x') }), 'x.zip', wanted)).toThrow(
      fault('other-file'),
    );
  });
});
