import { describe, expect, test } from 'vitest';
import { taxSchema, workspaceSchema } from '../model/records';
import { currencyCodes } from '../money';
import { countries, countryOf, guessCountry, percentOn } from '.';

test('every country that a studio is promised is there once', () => {
  const codes = countries.map((country) => country.code);
  const euro = 'AT BE BG CY DE EE ES FI FR GR HR IE IT LT LU LV MT NL PT SI SK'.split(' ');
  for (const code of ['GB', 'US', 'CA', 'AU', 'NZ', ...euro]) expect(codes).toContain(code);
  expect(new Set(codes).size).toBe(codes.length);
  expect(
    countries
      .filter(({ currency }) => currency === 'EUR')
      .map(({ code }) => code)
      .sort(),
  ).toEqual(euro);
});

describe.each(countries)('$name', (country) => {
  const { shape } = workspaceSchema;

  test('is what a workspace takes', () => {
    expect(currencyCodes).toContain(country.currency);
    for (const field of ['paper', 'termsDays', 'numberStyle', 'clockStyle', 'datesIn'] as const)
      expect(shape[field].safeParse(country[field]).success, field).toBe(true);
    // A language nobody has words for would be written in another, without a word.
    expect(Intl.DateTimeFormat.supportedLocalesOf(country.datesIn)).toEqual([country.datesIn]);
  });

  test('has taxes that can be charged, each with where it comes from', () => {
    for (const { source, ...tax } of country.taxes) {
      expect(taxSchema.omit({ id: true, place: true, code: true }).safeParse(tax).success, tax.name).toBe(true);
      expect(source).not.toBe('');
      const days = tax.later.map(({ from }) => from);
      expect(days).toEqual([...days].sort());
      // Directive 2006/112/EC, Article 226(11a), and EN 16931-1, BR-AE-10: what is not taxed says why.
      if (tax.category === 'AE' || tax.category === 'O') expect(tax.note).not.toBe('');
    }
    expect(country.taxes.length > 0 || country.taxWords !== '').toBe(true);
    expect(country.termsSource).not.toBe('');
  });
});

test('a percentage is that of the day', () => {
  // From memory, as it was announced: Estonia 20, 22 from 2024, 24 from July 2025.
  const [tax] = countryOf('EE')!.taxes;
  expect(['2023-12-31', '2024-01-01', '2025-06-30', '2025-07-01'].map((day) => percentOn(tax!, day))).toEqual([
    '20',
    '22',
    '22',
    '24',
  ]);
});

test('standard rates of Member States are at least 15 %', () => {
  // Directive 2006/112/EC, Article 97.
  for (const country of countries.filter(({ currency }) => currency === 'EUR'))
    expect(Number(percentOn(country.taxes[0]!, '2026-11-01')), country.name).toBeGreaterThanOrEqual(15);
});

test('where somebody is, is guessed by clock and then by language', () => {
  expect(guessCountry('Europe/Dublin', ['en-GB'])?.code).toBe('IE');
  expect(guessCountry('Australia/Perth', ['en-US'])?.code).toBe('AU');
  expect(guessCountry('America/Chicago', ['en-US', 'de-DE'])?.code).toBe('US');
  expect(guessCountry('Etc/UTC', ['en', 'fr-FR'])?.code).toBe('FR');
  expect(guessCountry('Asia/Tokyo', ['ja'])).toBeUndefined();
});
