import type { CommandInput } from '../commands';
import { Pricer, readBook, toBill } from '../billing';
import type { HandLine, Invoice } from '../model/records';
import { freshStudio, work } from './studio';

const MINUTE = 60;

/** A studio with what tests of invoices ask for again and again: projects at a price, lines by hand, issuing, crediting, what is left. */
export async function ledger() {
  const made = await freshStudio();
  const { store, run, at } = made;
  const idOf = (row: { changes: { table: string; id: string }[] }, table: string) =>
    row.changes.find((change) => change.table === table)!.id;
  const low = await made.added('tax.add', { name: 'VAT reduced', percent: '5', note: '' });
  /** A project of its own at a price an hour. */
  const project = async (price: string, rounding: CommandInput<'project.add'>['rounding'] = null) => {
    const id = await made.added('project.add', {
      name: `At ${price} ${store.rows('projects').length}`,
      clientId: at.playhouse,
      rounding,
    });
    await run('rate.add', { projectId: id, from: '2026-01-01', price, currency: 'GBP' });
    return id;
  };
  const hand = (price: string, fields: Partial<HandLine> = {}): HandLine => ({
    key: made.test.newId(),
    text: `At ${price}`,
    quantity: '1',
    unitName: '',
    price,
    taxId: at.tax,
    account: '',
    projectId: null,
    ...fields,
  });
  /** An issued invoice over entries, or over lines written by hand, which need one entry to begin with. */
  const draftOf = async (input: Omit<CommandInput<'invoice.draft'>, 'clientId'>) =>
    idOf(await run('invoice.draft', { clientId: at.playhouse, ...input }), 'invoices');
  const byHand = async (lines: HandLine[], fields: Partial<CommandInput<'invoice.edit'>> = {}) => {
    const entry = await made.added('entry.add', work(at.rig, MINUTE));
    const id = await draftOf({ entryIds: [entry] });
    await run('invoice.takeOff', { id, sourceIds: [entry] });
    await run('invoice.edit', { id, byHand: lines, ...fields });
    await run('entry.remove', { ids: [entry] });
    return id;
  };
  const issue = async (id: string) => {
    await run('invoice.issue', { id });
    return frozen(id);
  };
  const invoice = (id: string) => store.rows('invoices').find((row) => row.id === id)!;
  const frozen = (id: string) => invoice(id).frozen!;
  const notes = (id: string) => store.rows('invoices').filter((row) => row.ofId === id);
  const credit = async (id: string, lines?: Record<string, number>, free = false): Promise<Invoice> => {
    const row = await run('invoice.credit', { id, reason: 'As agreed', free, ...(lines && { lines }) });
    return invoice(idOf(row, 'invoices'));
  };
  const owing = (id: string) => ({
    invoice: invoice(id),
    payments: store.rows('payments').filter((row) => row.invoiceId === id),
    credits: notes(id),
  });
  const open = async () => {
    const takings = [...store.rows('allocations'), ...store.rows('adjustments')];
    return toBill(new Pricer(await readBook(store)), store.rows('entries'), takings).flatMap((each) => each.items);
  };
  return { ...made, low, project, hand, draftOf, byHand, issue, invoice, frozen, notes, credit, owing, open };
}
