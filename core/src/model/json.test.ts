import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readJson } from './json';
import { fault } from '../testing/fault';

const nested = (levels: number) => `${'['.repeat(levels)}"${'x'.repeat(3000)}"${']'.repeat(levels)}`;

describe('JSON from outside', () => {
  it('is read as it is, whatever it holds', () => {
    fc.assert(
      fc.property(fc.json({ maxDepth: 20 }), (text) => {
        expect(readJson(text)).toEqual(JSON.parse(text));
      }),
    );
  });

  it('is refused where it is nested deeper than 64 levels, at once and in words', () => {
    expect(readJson(nested(64))).toBeInstanceOf(Array);
    expect(() => readJson(nested(65), 'Line 3')).toThrow('Line 3 is nested deeper than 64 levels');
    expect(() => readJson('['.repeat(3_000_000))).toThrow(fault('too-deep'));
    expect(() => readJson(`{"a":${'{"a":'.repeat(1_000_000)}`)).toThrow(fault('too-deep'));
  });

  it('is not deep by brackets that stand in a text', () => {
    const text = JSON.stringify({ note: '[{"'.repeat(2000) + '\\"' });
    expect(readJson(text)).toEqual(JSON.parse(text));
  });

  it('that is none is said to be none, without the words of whoever tried', () => {
    expect(() => readJson('{"a":', 'This line')).toThrow(fault('unreadable'));
  });
});
