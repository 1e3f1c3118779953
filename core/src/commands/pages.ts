import * as z from 'zod';
import * as fields from '../model/fields';
import { command, Plan } from '../engine/command';

/** What happened on pages of clients that the local server shows: the first time that each was opened. */
export const tellPages = command({
  name: 'page.told',
  title: 'Page opened by the client',
  outward: 'A page that was opened was opened.',
  byItself: true,
  input: z.strictObject({
    opened: z
      .array(z.strictObject({ id: fields.id, at: fields.instant }))
      .min(1)
      .max(500),
  }),
  async plan(reader, { opened }) {
    const plan = new Plan();
    const ids = opened.map((each) => each.id);
    const invoices = new Map((await reader.many('invoices', ids)).flatMap((row) => (row ? [[row.id, row]] : [])));
    const quotes = new Map((await reader.many('quotes', ids)).flatMap((row) => (row ? [[row.id, row]] : [])));
    for (const { id, at } of opened) {
      const invoice = invoices.get(id);
      if (invoice && invoice.opened === undefined) plan.put('invoices', { ...invoice, opened: at });
      const quote = quotes.get(id);
      const given = quote?.versions.at(-1);
      // A page that was opened before the last version was given was one before it.
      if (quote && given && given.opened === undefined && at >= given.at)
        plan.put('quotes', { ...quote, versions: [...quote.versions.slice(0, -1), { ...given, opened: at }] });
    }
    return plan;
  },
});
