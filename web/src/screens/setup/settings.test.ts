import { describe, expect, it } from 'vitest';
import { findSettings, partNames, settings, setupGroups, type SetupPart } from './settings';

const found = (text: string) => findSettings(text).map(({ part, name }) => `${part}: ${name}`);

describe('findSettings', () => {
  it('finds by what it is called, by the part it is in and by other words for it', () => {
    expect(found('paper')[0]).toBe('invoicing: Paper');
    expect(found('vat')).toEqual(['studio: Tax number', 'invoicing: Tax is worked out', 'invoicing: Taxes']);
    expect(found('dark')).toEqual(['looks: Theme']);
    expect(found('rounding')).toContain('rounding: What each policy would have made of the last three months');
  });

  it('names that begin with it come first, then names that hold it', () => {
    expect(found('tax')).toEqual(['studio: Tax number', 'invoicing: Tax is worked out', 'invoicing: Taxes']);
    expect(found('number').slice(0, 3)).toEqual([
      'invoicing: Number: prefix',
      'invoicing: Number: digits',
      'invoicing: Number: first',
    ]);
    expect(found('number')).toContain('studio: Company number');
  });

  it('wants every word; capitals and accents do not matter; nothing finds nothing', () => {
    expect(found('TÍME zone')[0]).toBe('studio: Time zone');
    expect(found('time zone')).toContain('people: Time zone, checker, required fields, services');
    expect(found('paper dark')).toEqual([]);
    expect(found('  ')).toEqual([]);
  });

  it('offers so many that they stand on a screen', () => {
    expect(found('e')).toHaveLength(12);
  });
});

it('every part stands in one group, and has something to be found', () => {
  const all = Object.keys(partNames) as SetupPart[];
  expect(setupGroups.flatMap(({ parts }) => parts).toSorted()).toEqual(all.toSorted());
  for (const part of all) expect(settings.some((setting) => setting.part === part)).toBe(true);
});
