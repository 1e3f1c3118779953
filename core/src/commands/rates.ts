import * as z from 'zod';
import { markupDefaults, rateDefaults } from '../model/defaults';
import { Fault } from '../faults/fault';
import * as R from '../model/records';
import { command, need, Plan } from '../engine/command';
import { plainCommands } from '../engine/crud';

// Two lines for the same work from the same day would leave it to chance which holds: the invariants refuse them.

const fieldsOf = <T extends z.ZodRawShape>(schema: { shape: T }) => z.strictObject(schema.shape);

/** Lines of the rate cards: what an hour sells for, from which day, for whom and for what. */
export const rates = plainCommands('rateLines', 'rate', 'Rate', fieldsOf(R.rateLineSchema), rateDefaults);
/** What an hour of a member costs the studio, from which day. */
export const costRates = plainCommands('costRates', 'costRate', 'Cost rate', fieldsOf(R.costRateSchema), {
  memberId: null,
  role: null,
});
/** What is put on costs for clients, from which day. */
export const markups = plainCommands('markups', 'markup', 'Markup', fieldsOf(R.markupSchema), markupDefaults);
/** A markup agreed for several projects and cost types at once, from one day; what was agreed from that very day is changed. */
export const agreeMarkups = command({
  name: 'markup.agree',
  title: ({ projectIds }: { projectIds: unknown[] }) =>
    `Markup agreed for ${projectIds.length === 1 ? '1 project' : `${projectIds.length} projects`}`,
  input: z.strictObject({
    projectIds: z.array(R.markupSchema.shape.id).min(1).max(1000),
    costTypes: z.array(R.markupSchema.shape.costType).min(1),
    from: R.markupSchema.shape.from,
    percent: R.markupSchema.shape.percent,
  }),
  async plan(reader, { projectIds, costTypes, from, percent }, { newId }) {
    const there = await reader.all('markups');
    const plan = new Plan();
    for (const projectId of projectIds) {
      for (const costType of costTypes) {
        const same = there.find((row) => row.projectId === projectId && row.costType === costType && row.from === from);
        plan.put(
          'markups',
          same ? { ...same, percent } : { ...markupDefaults, id: newId(), projectId, costType, from, percent },
        );
      }
    }
    return plan;
  },
});

/** What a unit of another currency was worth in the studio's, by day. */
export const exchangeRates = plainCommands(
  'exchangeRates',
  'exchange',
  'Exchange rate',
  fieldsOf(R.exchangeRateSchema),
  { source: 'by hand' },
);

/** Exchange rates of a file, all of them or none; those of a day and currency that are there already are replaced. */
export const takeExchangeRates = command({
  name: 'exchange.take',
  title: ({ rows }: { rows: unknown[] }) => `${rows.length} exchange ${rows.length === 1 ? 'rate' : 'rates'} imported`,
  input: z.strictObject({
    rows: z
      .array(fieldsOf(R.exchangeRateSchema).omit({ id: true }))
      .min(1)
      .max(400_000),
  }),
  async plan(reader, { rows }, { newId }) {
    const keyOf = (row: Pick<R.ExchangeRate, 'base' | 'currency' | 'from'>) =>
      `${row.base} ${row.currency} ${row.from}`;
    const there = new Map((await reader.all('exchangeRates')).map((row) => [keyOf(row), row]));
    const plan = new Plan();
    const seen = new Set<string>();
    for (const row of rows) {
      const key = keyOf(row);
      if (seen.has(key))
        throw new Fault('twice', `The file gives ${row.currency} on ${row.from} twice.`, 'rows', { key });
      seen.add(key);
      const before = there.get(key);
      if (before?.rate !== row.rate || before.source !== row.source) {
        plan.put('exchangeRates', { ...row, id: before?.id ?? newId() });
      }
    }
    if (plan.rows.size === 0) throw new Fault('already', 'All of these exchange rates are here already.', 'rows');
    return plan;
  },
});

/**
 * A new price or markup for what a line decides, from a later day on: the line itself stays as it was for work before that day. From
 * the line's own day, the line is changed.
 */
export const changeRate = command({
  name: 'rate.change',
  title: 'Rate changed',
  input: z.strictObject({
    id: R.rateLineSchema.shape.id,
    from: R.rateLineSchema.shape.from,
    price: R.rateLineSchema.shape.price,
    markup: R.rateLineSchema.shape.markup,
    unit: R.rateLineSchema.shape.unit,
    currency: R.rateLineSchema.shape.currency,
    sentence: R.rateLineSchema.shape.sentence,
    printed: R.rateLineSchema.shape.printed,
  }),
  async plan(reader, input, { newId }) {
    const line = await need(reader, 'rateLines', input.id, 'rate');
    if (input.from === line.from) return new Plan().put('rateLines', { ...line, ...input });
    return new Plan().put('rateLines', { ...line, ...input, id: newId() });
  },
});
