import type { Country, CountryTax } from './country';
import { euroCountries } from './euro';

export { percentOn, type Country, type CountryTax } from './country';

const standard = (name: string, percent: string, source: string): CountryTax => ({
  name,
  percent,
  category: 'S',
  note: '',
  reverseCharge: false,
  later: [],
  source,
});

const without = (name: string, category: 'Z' | 'O', note: string, source: string): CountryTax => ({
  ...standard(name, '0', source),
  category,
  note,
});

const PRACTICE = 'practice, no source';

const english = { numberStyle: '1,234.50', termsDays: 30, taxWords: '' } as const;

const others: readonly Country[] = [
  {
    ...english,
    code: 'GB',
    name: 'United Kingdom',
    currency: 'GBP',
    taxes: [
      standard('VAT', '20', 'Value Added Tax Act 1994, s. 2; 20 % since 4 January 2011, from memory'),
      without('Zero-rated VAT', 'Z', '', 'Value Added Tax Act 1994, s. 30'),
      without(
        'No VAT: customer abroad',
        'O',
        'Outside the scope of UK VAT',
        'Value Added Tax Act 1994, s. 7A: services to businesses abroad',
      ),
    ],
    paper: 'A4',
    termsSource: 'Late Payment of Commercial Debts (Interest) Act 1998, s. 4: 30 days where nothing is agreed',
    clockStyle: '14:05',
    datesIn: 'en-GB',
  },
  {
    ...english,
    code: 'US',
    name: 'United States',
    currency: 'USD',
    taxes: [],
    taxWords:
      'There is no tax of the whole country. Where your state taxes what you sell, add it in Setup → Invoicing.',
    paper: 'Letter',
    termsSource: PRACTICE,
    clockStyle: '2:05 pm',
    datesIn: 'en-US',
  },
  {
    ...english,
    code: 'CA',
    name: 'Canada',
    currency: 'CAD',
    taxes: [
      standard('GST', '5', 'Excise Tax Act, s. 165(1); 5 % since 1 January 2008, from memory'),
      standard('HST Ontario', '13', 'Excise Tax Act, s. 165(2), from memory'),
      {
        ...standard('HST Nova Scotia', '15', 'Excise Tax Act, s. 165(2), from memory'),
        later: [{ from: '2025-04-01', percent: '14' }],
      },
      standard('HST New Brunswick, Newfoundland, Prince Edward Island', '15', 'Excise Tax Act, s. 165(2), from memory'),
      without('No GST: customer abroad', 'Z', 'Zero-rated export', 'Excise Tax Act, Schedule VI, Part V, from memory'),
    ],
    paper: 'Letter',
    termsSource: PRACTICE,
    clockStyle: '2:05 pm',
    datesIn: 'en-CA',
  },
  {
    ...english,
    code: 'AU',
    name: 'Australia',
    currency: 'AUD',
    taxes: [
      standard('GST', '10', 'A New Tax System (Goods and Services Tax) Act 1999, s. 9-70'),
      without('No GST: customer abroad', 'Z', 'GST-free export', 'the same Act, Subdivision 38-E, from memory'),
    ],
    paper: 'A4',
    termsSource: PRACTICE,
    clockStyle: '2:05 pm',
    datesIn: 'en-AU',
  },
  {
    ...english,
    code: 'NZ',
    name: 'New Zealand',
    currency: 'NZD',
    taxes: [
      standard('GST', '15', 'Goods and Services Tax Act 1985, s. 8(1); 15 % since 1 October 2010, from memory'),
      without('No GST: customer abroad', 'Z', 'Zero-rated export', 'the same Act, s. 11A, from memory'),
    ],
    paper: 'A4',
    termsSource: PRACTICE,
    clockStyle: '2:05 pm',
    datesIn: 'en-NZ',
  },
];

/** Every country that a studio's first settings are known for, by name. */
export const countries: readonly Country[] = [...others, ...euroCountries].sort((a, b) => a.name.localeCompare(b.name));

const byCode = new Map(countries.map((country) => [country.code, country]));

/**
 * @param code two letters of ISO 3166-1
 * @returns undefined where nothing is known of it
 */
export const countryOf = (code: string): Country | undefined => byCode.get(code.toUpperCase());

/** Countries by time zones whose names do not tell, for a guess that a person sees and changes. */
const byZone: Readonly<Record<string, string>> = {
  'Europe/London': 'GB',
  'Europe/Dublin': 'IE',
  'Europe/Vienna': 'AT',
  'Europe/Brussels': 'BE',
  'Europe/Sofia': 'BG',
  'Europe/Zagreb': 'HR',
  'Asia/Nicosia': 'CY',
  'Europe/Tallinn': 'EE',
  'Europe/Helsinki': 'FI',
  'Europe/Paris': 'FR',
  'Europe/Berlin': 'DE',
  'Europe/Athens': 'GR',
  'Europe/Rome': 'IT',
  'Europe/Riga': 'LV',
  'Europe/Vilnius': 'LT',
  'Europe/Luxembourg': 'LU',
  'Europe/Malta': 'MT',
  'Europe/Amsterdam': 'NL',
  'Europe/Lisbon': 'PT',
  'Europe/Bratislava': 'SK',
  'Europe/Ljubljana': 'SI',
  'Europe/Madrid': 'ES',
  'Pacific/Auckland': 'NZ',
  'America/Toronto': 'CA',
  'America/Vancouver': 'CA',
};

/**
 * Where somebody probably is: by the clock on the wall, as that is set where one lives; else by the first language that names a country.
 *
 * @param zone an IANA time zone
 * @param languages BCP 47, most wanted first
 */
export function guessCountry(zone: string, languages: readonly string[]): Country | undefined {
  const code = zone.startsWith('Australia/') ? 'AU' : byZone[zone];
  const regions = languages.map((language) => /-([A-Z]{2})\b/.exec(language)?.[1] ?? '');
  return [code ?? '', ...regions].map(countryOf).find((country) => country !== undefined);
}
