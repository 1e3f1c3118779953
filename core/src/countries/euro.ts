import type { Country, CountryTax } from './country';
import type { NumberStyle } from '../money/written';
import type { Day } from '../time/day';

const DIRECTIVE = 'Directive 2006/112/EC';
const RATES = 'from memory; the European Commission lists all in “Taxes in Europe”';
const TERMS = 'Directive 2011/7/EU, Article 3(3)(b): 30 days where nothing is agreed';

/** The customer in another country of the Union accounts for it. Articles 44 and 196; the words of Article 226(11a). */
const reverseCharge = (name: string): CountryTax => ({
  name: `${name} reverse charge`,
  percent: '0',
  category: 'AE',
  note: 'Reverse charge',
  reverseCharge: true,
  later: [],
  source: `${DIRECTIVE}, Articles 44, 196 and 226(11a)`,
});

/** Work for customers outside the Union is outside its tax. Article 44. */
const outside = (name: string): CountryTax => ({
  name: `No ${name}: customer outside the EU`,
  percent: '0',
  category: 'O',
  note: 'Outside the scope of EU VAT',
  reverseCharge: false,
  later: [],
  source: `${DIRECTIVE}, Article 44`,
});

interface EuroCountry {
  code: string;
  name: string;
  /** What people call the tax. */
  tax: string;
  /** The standard rate of early 2020, and what it became. */
  standard: string;
  later?: readonly { from: Day; percent: string }[];
  numberStyle: NumberStyle;
  datesIn: string;
}

const euroCountry = ({ code, name, tax, standard, later = [], numberStyle, datesIn }: EuroCountry): Country => ({
  code,
  name,
  currency: 'EUR',
  taxes: [
    {
      name: tax,
      percent: standard,
      category: 'S',
      note: '',
      reverseCharge: false,
      later: [...later],
      source: `standard rate: ${RATES}`,
    },
    reverseCharge(tax),
    outside(tax),
  ],
  taxWords: '',
  paper: 'A4',
  termsDays: 30,
  termsSource: TERMS,
  numberStyle,
  clockStyle: '14:05',
  datesIn,
});

const POINT: NumberStyle = '1,234.50';
const COMMA: NumberStyle = '1.234,50';
const SPACE: NumberStyle = '1 234,50';

/**
 * The countries whose money is the euro, Bulgaria since 1 January 2026 among them. Names of taxes, percentages, their days and ways of
 * writing figures are from memory.
 */
export const euroCountries: readonly Country[] = (
  [
    { code: 'AT', name: 'Austria', tax: 'USt.', standard: '20', numberStyle: COMMA, datesIn: 'de-AT' },
    { code: 'BE', name: 'Belgium', tax: 'BTW/TVA', standard: '21', numberStyle: COMMA, datesIn: 'nl-BE' },
    { code: 'BG', name: 'Bulgaria', tax: 'ДДС', standard: '20', numberStyle: SPACE, datesIn: 'bg-BG' },
    { code: 'HR', name: 'Croatia', tax: 'PDV', standard: '25', numberStyle: COMMA, datesIn: 'hr-HR' },
    { code: 'CY', name: 'Cyprus', tax: 'ΦΠΑ', standard: '19', numberStyle: COMMA, datesIn: 'el-CY' },
    {
      code: 'EE',
      name: 'Estonia',
      tax: 'KM',
      standard: '20',
      later: [
        { from: '2024-01-01', percent: '22' },
        { from: '2025-07-01', percent: '24' },
      ],
      numberStyle: SPACE,
      datesIn: 'et-EE',
    },
    {
      code: 'FI',
      name: 'Finland',
      tax: 'ALV',
      standard: '24',
      later: [{ from: '2024-09-01', percent: '25.5' }],
      numberStyle: SPACE,
      datesIn: 'fi-FI',
    },
    { code: 'FR', name: 'France', tax: 'TVA', standard: '20', numberStyle: SPACE, datesIn: 'fr-FR' },
    {
      code: 'DE',
      name: 'Germany',
      tax: 'USt.',
      standard: '19',
      later: [
        { from: '2020-07-01', percent: '16' },
        { from: '2021-01-01', percent: '19' },
      ],
      numberStyle: COMMA,
      datesIn: 'de-DE',
    },
    { code: 'GR', name: 'Greece', tax: 'ΦΠΑ', standard: '24', numberStyle: COMMA, datesIn: 'el-GR' },
    {
      code: 'IE',
      name: 'Ireland',
      tax: 'VAT',
      standard: '23',
      later: [
        { from: '2020-09-01', percent: '21' },
        { from: '2021-03-01', percent: '23' },
      ],
      numberStyle: POINT,
      datesIn: 'en-IE',
    },
    { code: 'IT', name: 'Italy', tax: 'IVA', standard: '22', numberStyle: COMMA, datesIn: 'it-IT' },
    { code: 'LV', name: 'Latvia', tax: 'PVN', standard: '21', numberStyle: SPACE, datesIn: 'lv-LV' },
    { code: 'LT', name: 'Lithuania', tax: 'PVM', standard: '21', numberStyle: SPACE, datesIn: 'lt-LT' },
    {
      code: 'LU',
      name: 'Luxembourg',
      tax: 'TVA',
      standard: '17',
      later: [
        { from: '2023-01-01', percent: '16' },
        { from: '2024-01-01', percent: '17' },
      ],
      numberStyle: COMMA,
      datesIn: 'fr-LU',
    },
    { code: 'MT', name: 'Malta', tax: 'VAT', standard: '18', numberStyle: POINT, datesIn: 'en-MT' },
    { code: 'NL', name: 'Netherlands', tax: 'btw', standard: '21', numberStyle: COMMA, datesIn: 'nl-NL' },
    { code: 'PT', name: 'Portugal', tax: 'IVA', standard: '23', numberStyle: SPACE, datesIn: 'pt-PT' },
    {
      code: 'SK',
      name: 'Slovakia',
      tax: 'DPH',
      standard: '20',
      later: [{ from: '2025-01-01', percent: '23' }],
      numberStyle: SPACE,
      datesIn: 'sk-SK',
    },
    { code: 'SI', name: 'Slovenia', tax: 'DDV', standard: '22', numberStyle: COMMA, datesIn: 'sl-SI' },
    { code: 'ES', name: 'Spain', tax: 'IVA', standard: '21', numberStyle: COMMA, datesIn: 'es-ES' },
  ] satisfies EuroCountry[]
).map(euroCountry);
