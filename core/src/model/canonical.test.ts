import fc from 'fast-check';
import { expect, it } from 'vitest';
import { canonical, sameData } from './canonical';

const json = fc.jsonValue();

/** Builds objects again with their keys the other way round, at every depth. */
const reversed = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(reversed);
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value)
      .reverse()
      .map(([key, field]) => [key, reversed(field)]),
  );
};

it('says the same as JSON, whatever order the keys were written in', () => {
  fc.assert(
    fc.property(json, (value) => {
      expect(JSON.parse(canonical(value))).toEqual(JSON.parse(JSON.stringify(value)));
      expect(canonical(reversed(value))).toBe(canonical(value));
      expect(sameData(reversed(value), value)).toBe(true);
    }),
  );
});

it('orders keys by code unit and leaves out what is undefined', () => {
  expect(canonical({ b: 1, a: { d: undefined, c: [] }, Z: '\u0000"', é: null })).toBe(
    '{"Z":"\\u0000\\"","a":{"c":[]},"b":1,"é":null}',
  );
  expect([{ a: 1, b: 1 }, { 'a,b': 1 }, { 'a,b': 1, c: 1 }, { a: 1, 'b,c': 1 }].map(canonical)).toEqual([
    '{"a":1,"b":1}',
    '{"a,b":1}',
    '{"a,b":1,"c":1}',
    '{"a":1,"b,c":1}',
  ]);
  expect(sameData(null, {})).toBe(false);
});
