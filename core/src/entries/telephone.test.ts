import { describe, expect, it } from 'vitest';
import { countryOfZone, dialled, numberOf, waysToDial } from '.';

// Numbers that are kept free for fiction: 01632 960xxx (Ofcom), 555-01xx (North American Numbering Plan), 01 99 00 xx xx (Arcep).
describe('ways to dial a number', () => {
  it.each([
    ['01632 960 141', 'GB', ['+441632960141', '441632960141', '01632960141']],
    ['+44 (0)1632 960141', '', ['+441632960141', '441632960141', '01632960141', '+4401632960141']],
    ['0044 1632 960141', 'FR', ['+441632960141', '441632960141', '01632960141']],
    ['01 99 00 12 34', 'FR', ['+33199001234', '33199001234', '0199001234']],
    // Eight digits, and no trunk code: the ends of both forms differ in what stands before them.
    ['32 12 34 56', 'DK', ['+4532123456', '4532123456', '32123456']],
    ['(212) 555-0123', 'US', ['+12125550123', '12125550123', '2125550123']],
    // Of no country, only what was written; an extension is nobody's.
    ['01632 960 141', '', ['01632960141']],
    ['141', 'GB', []],
    ['Stage door', 'GB', []],
  ])('of “%s” in %s', (text, country, ways) => expect(waysToDial(text, country)).toEqual(ways));

  it.each([
    ['01632 960-141', 'GB', '+441632960141'],
    ['0044 1632 960141', '', '+441632960141'],
    ['01632 960-141', '', '01632960141'],
    ['141', 'GB', '141'],
    ['Stage 2026 10', 'GB', 'Stage 2026 10'],
  ])('are one as “%s” in %s', (text, country, number) => expect(numberOf(text, country)).toBe(number));

  it('takes 00 for a plus', () => expect(dialled('0044 1632-960.141')).toBe('+441632960141'));
});

describe('the country of a zone', () => {
  it.each([
    ['Europe/London', 'GB'],
    ['Europe/Paris', 'FR'],
    ['America/New_York', 'US'],
    ['UTC', ''],
  ])('of %s is %s', (zone, country) => expect(countryOfZone(zone)).toBe(country));
});
