import type { CostType } from '@half-penny/core/model';
import type { RateUnit } from '@half-penny/core/money';
import type { MemberKey, ServiceKey } from './basics';

export interface DemoRate {
  client?: string;
  /** By the client whose contract it is. */
  contract?: string;
  project?: string;
  task?: string;
  role?: string;
  member?: MemberKey;
  service?: ServiceKey;
  /** Days before the demo's day. */
  daysAgo: number;
  /** What a unit sells for, or what is added to the cost in percent. */
  price?: { amount: string; unit: RateUnit; currency: string };
  markup?: string;
  sentence?: string;
}

const hourly = (amount: string, currency = 'GBP') => ({ amount, unit: 'hour' as const, currency });

export const rates: DemoRate[] = [
  { daysAgo: 400, price: hourly('78') },
  { role: 'principal', daysAgo: 400, price: hourly('96') },
  { role: 'programmer', daysAgo: 400, price: hourly('72.5') },
  { service: 'meeting', daysAgo: 400, price: hourly('64') },
  { client: 'quayside', daysAgo: 300, price: hourly('81') },
  { client: 'quayside', daysAgo: 40, price: hourly('84') },
  { project: 'Studio theatre', daysAgo: 90, price: hourly('76') },
  { task: 'Call-outs', daysAgo: 300, price: hourly('110') },
  { contract: 'otterbourne', daysAgo: 230, price: hourly('88') },
  {
    project: 'Museum gallery 3',
    role: 'principal',
    daysAgo: 300,
    markup: '62.5',
    sentence: 'Labour at cost plus the markups agreed on 4 March.',
  },
  { project: 'Museum gallery 3', daysAgo: 300, markup: '60' },
  {
    project: 'Spring double bill',
    role: 'programmer',
    daysAgo: 120,
    price: { amount: '1.25', unit: 'minute', currency: 'GBP' },
  },
  { client: 'clairval', daysAgo: 200, price: hourly('92', 'EUR') },
  { client: 'pinecrest', daysAgo: 200, price: { amount: '810', unit: 'day', currency: 'USD' } },
];

/** What an hour of each role costs the studio. */
export const costRates: readonly { role: string; daysAgo: number; price: string }[] = [
  { role: 'principal', daysAgo: 700, price: '45.5' },
  { role: 'principal', daysAgo: 150, price: '48' },
  { role: 'designer', daysAgo: 700, price: '38' },
  { role: 'programmer', daysAgo: 700, price: '36.5' },
];

/** What is added to costs, and what was agreed about it. */
export const markups: readonly {
  project?: string;
  costType: Exclude<CostType, 'labour'>;
  daysAgo: number;
  percent: string;
  sentence: string;
}[] = [
  { costType: 'material', daysAgo: 400, percent: '15', sentence: '' },
  { costType: 'expense', daysAgo: 400, percent: '8', sentence: '' },
  {
    project: 'Museum gallery 3',
    costType: 'material',
    daysAgo: 300,
    percent: '28',
    sentence: 'Materials at cost plus 28 %, with receipts.',
  },
  {
    project: 'Museum gallery 3',
    costType: 'subcontract',
    daysAgo: 300,
    percent: '15',
    sentence: 'Riggers at cost plus 15 %.',
  },
];

/** Euro reference rates as somebody typed them in, days ago; invented, like everything else. */
export const exchangeRates: readonly { currency: string; daysAgo: number; rate: string }[] = [
  { currency: 'GBP', daysAgo: 700, rate: '0.8612' },
  { currency: 'USD', daysAgo: 700, rate: '1.0834' },
  { currency: 'GBP', daysAgo: 28, rate: '0.8544' },
  { currency: 'USD', daysAgo: 28, rate: '1.0921' },
];
