import { sellerDefaults } from '@half-penny/core/model';
import type { CommandInput } from '@half-penny/core/commands';
import type { Country } from '@half-penny/core/countries';
import { fromStyle, inStyle, readHourly } from '@half-penny/core/money';
import type { Day } from '@half-penny/core/time';

/** What somebody who starts is asked. */
export interface Answers {
  member: string;
  studio: string;
  country: string;
  /** The name of the tax that is charged as a rule; none where empty. */
  tax: string;
  hourly: string;
  client: string;
  project: string;
  currency: string;
  zone: string;
  paper: 'A4' | 'Letter';
  termsDays: string;
}

/** What the first client's work is called where nobody says it better. */
export const FIRST_PROJECT = 'Hourly work';

const DAY_SECONDS = 7.5 * 3600;

/** The answers that hang on the country. */
export const answersAt = (country: Country | undefined): Pick<Answers, 'tax' | 'currency' | 'paper' | 'termsDays'> => ({
  tax: country?.taxes[0]?.name ?? '',
  currency: country?.currency ?? 'USD',
  paper: country?.paper ?? 'A4',
  termsDays: String(country?.termsDays ?? 30),
});

/**
 * The answers as the command takes them: nothing is owed before today, and the tax that is charged comes first.
 *
 * @throws Fault where the rate cannot be read
 */
export function inputOf(answers: Answers, country: Country | undefined, today: Day): CommandInput<'workspace.create'> {
  const { member, studio, zone, currency, paper } = answers;
  const charged = country?.taxes.find((tax) => tax.name === answers.tax);
  const taxes = country && charged ? [charged, ...country.taxes.filter((tax) => tax !== charged)] : [];
  const hourly = answers.hourly.trim();
  const client = answers.client.trim();
  return {
    workspace: {
      name: studio.trim() || member,
      address: '',
      email: '',
      taxNumber: '',
      paymentDetails: '',
      currency,
      zone,
      daySeconds: DAY_SECONDS,
      amountRounding: 'half away from zero',
      taxMethod: 'invoice',
      rounding: { increment: 1, direction: 'nearest', minimum: 0, per: 'entry' },
      numberPrefix: '',
      numberDigits: 4,
      firstNumber: 1,
      termsDays: /^\d{1,4}$/.test(answers.termsDays.trim()) ? Number(answers.termsDays) : -1,
      paper,
      lengthStyle: 'h:mm',
      ...(country && {
        numberStyle: country.numberStyle,
        clockStyle: country.clockStyle,
        datesIn: country.datesIn,
        asSeller: { ...sellerDefaults, country: country.code },
      }),
    },
    member: {
      name: member,
      role: '',
      zone,
      owed: [1, 1, 1, 1, 1, 0, 0].map((days) => days * DAY_SECONDS),
      owesFrom: today,
    },
    taxes: taxes.map(({ source: _source, ...tax }) => ({ ...tax, place: country!.code })),
    // Typed as the country writes figures, whatever the workspace that is open now does.
    ...(hourly && { hourly: readHourly(inStyle(fromStyle(hourly, country?.numberStyle))) }),
    ...(client && { first: { client, project: answers.project.trim() || FIRST_PROJECT } }),
  };
}

/** The answer that a fault is about. */
export function fieldOf(path: string, { studio }: Pick<Answers, 'studio'>): keyof Answers {
  // A studio without a name of its own has its owner's.
  if (path.startsWith('member') || (path === 'workspace/name' && !studio.trim())) return 'member';
  if (path.startsWith('first/client')) return 'client';
  if (path.startsWith('first')) return 'project';
  if (path === 'workspace/termsDays') return 'termsDays';
  if (path.startsWith('workspace')) return 'studio';
  return 'hourly';
}
