import * as z from 'zod';
import { rateUnits } from '../../money/price';
import { currency, day, exchange, id, markup, name, price, text } from '../fields';
import { costTypes } from './work';

/** Where a rate line or markup holds; null everywhere = the whole workspace. */
const where = {
  clientId: id.nullable(),
  contractId: id.nullable(),
  projectId: id.nullable(),
};

const agreed = {
  /** What was agreed with the client, in a sentence. */
  sentence: text.max(1000, 'A sentence of at most 1,000 characters.'),
  /** Whether invoices on which it decides something print the sentence. */
  printed: z.boolean(),
};

const places = (row: Record<string, unknown>): number =>
  ['clientId', 'contractId', 'projectId', 'taskId'].filter((field) => (row[field] ?? null) !== null).length;

const onePlace = {
  check: (row: object) => places(row as Record<string, unknown>) <= 1,
  fault: { message: 'It holds for one place: a client, a contract, a project or a task.', path: ['projectId'] },
};

const onePerson = {
  check: (row: { memberId: string | null; role: string | null }) => row.memberId === null || row.role === null,
  fault: { message: 'A rate is for a member or for a role, not both.', path: ['role'] },
};

/**
 * One line of a rate card. Null in where, who or what means "any". It says what a unit of time sells for, or by what the cost of it is
 * marked up.
 */
export const rateLineSchema = z
  .strictObject({
    id,
    ...where,
    taskId: id.nullable(),
    memberId: id.nullable(),
    role: name.nullable(),
    serviceId: id.nullable(),
    /** The first day it holds for. */
    from: day,
    /** Null where the cost is marked up instead. */
    price: price.nullable(),
    unit: z.enum(rateUnits),
    currency: currency.nullable(),
    /** Percent added to what the member costs. */
    markup: markup.nullable(),
    ...agreed,
  })
  .refine(onePlace.check, onePlace.fault)
  .refine(onePerson.check, onePerson.fault)
  .refine((line) => (line.price === null) !== (line.markup === null), {
    message: 'A rate is a price or a markup over cost, one of the two.',
    path: ['price'],
  })
  .refine((line) => (line.price === null) === (line.currency === null), {
    message: 'A price is in a currency; a markup has none.',
    path: ['currency'],
  });

/** What a unit of a member's time costs the studio, from a day on. */
export const costRateSchema = z
  .strictObject({
    id,
    /** Both null = anybody. */
    memberId: id.nullable(),
    role: name.nullable(),
    from: day,
    price,
    unit: z.enum(rateUnits),
    currency,
  })
  .refine(onePerson.check, onePerson.fault);

/** What is added to costs of a type, from a day on. Labour is marked up on the rate card. */
export const markupSchema = z
  .strictObject({
    id,
    ...where,
    costType: z.enum(costTypes).exclude(['labour']),
    from: day,
    percent: markup,
    ...agreed,
  })
  .refine(onePlace.check, onePlace.fault);

/** What one euro, or one of another base, is in a currency from a day on. */
export const exchangeRateSchema = z
  .strictObject({
    id,
    from: day,
    base: currency,
    currency,
    rate: exchange,
    /** Where it was read: "by hand", or the name of a file. */
    source: text.max(200),
  })
  .refine((row) => row.base !== row.currency, { message: 'These are the same currency.', path: ['currency'] });

export type RateLine = z.infer<typeof rateLineSchema>;
export type CostRate = z.infer<typeof costRateSchema>;
export type Markup = z.infer<typeof markupSchema>;
export type ExchangeRate = z.infer<typeof exchangeRateSchema>;
