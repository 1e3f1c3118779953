import * as z from 'zod';
import { buyerDefaults, clientDefaults, serviceDefaults } from '../model/defaults';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import * as R from '../model/records';
import { command, defined, need, Plan, needAll } from '../engine/command';
import { plainCommands } from '../engine/crud';

// Who is invoiced and what for: clients, their people, what was agreed with them, services and the headings they fall under.

const plainClients = plainCommands('clients', 'client', 'Client', R.clientSchema, clientDefaults);

/** The commands of clients. */
export const clients = {
  ...plainClients,
  edit: command({
    name: 'client.edit',
    title: 'Client changed',
    // What e-invoices need is written field by field: each joins what is there, so that two in a row do not undo one another.
    input: R.clientSchema.partial().extend({ id: fields.id, asBuyer: R.buyerSchema.partial().optional() }),
    async plan(reader, input) {
      const before = await need(reader, 'clients', input.id, 'client');
      if (input.currency && input.currency !== before.currency) {
        const invoices = await reader.by('invoices', 'clientId', [input.id]);
        if (invoices.some((invoice) => !invoice.voided)) {
          throw new Fault(
            'currency-fixed',
            `${before.name} has invoices in ${before.currency}; the currency can no longer change.`,
            'currency',
          );
        }
      }
      const { asBuyer, ...rest } = defined(input);
      const buyer = asBuyer && { asBuyer: { ...buyerDefaults, ...before.asBuyer, ...defined(asBuyer) } };
      return new Plan().put('clients', { ...before, ...rest, ...buyer });
    },
  }),
};

/** Clients out of the pickers, or back; their work stays in reports. */
export const archiveClients = command({
  name: 'client.archive',
  title: ({ ids, archived }: { ids: string[]; archived: boolean }) =>
    `${ids.length === 1 ? 'Client' : `${ids.length} clients`} ${archived ? 'archived' : 'brought back'}`,
  input: z.strictObject({ ids: z.array(fields.id).min(1).max(20_000), archived: z.boolean() }),
  async plan(reader, { ids, archived }) {
    const plan = new Plan();
    for (const client of await needAll(reader, 'clients', ids, 'client')) {
      plan.put('clients', { ...client, archived });
    }
    return plan;
  },
});

/** People at a client, whom letters go to. */
export const contacts = plainCommands('contacts', 'contact', 'Contact', R.contactSchema, {
  role: '',
  email: '',
  telephone: '',
  note: '',
});

/** People of a client from a file of cards, all of them or none; who is there already by name and address is left out. */
export const takeContacts = command({
  name: 'contact.take',
  title: ({ contacts: rows }: { contacts: unknown[] }) =>
    rows.length === 1 ? 'Contact imported' : `${rows.length} contacts imported`,
  input: z.strictObject({
    clientId: fields.id,
    contacts: z
      .array(R.contactSchema.omit({ id: true, clientId: true }))
      .min(1)
      .max(5000),
  }),
  async plan(reader, { clientId, contacts: rows }, { newId }) {
    await need(reader, 'clients', clientId, 'client');
    const keyOf = ({ name, email }: { name: string; email: string }) => `${name} ${email}`.toLowerCase();
    const known = new Set((await reader.by('contacts', 'clientId', [clientId])).map(keyOf));
    const plan = new Plan();
    for (const row of rows) {
      if (known.has(keyOf(row))) continue;
      known.add(keyOf(row));
      plan.put('contacts', { ...row, id: newId(), clientId });
    }
    if (plan.rows.size === 0) throw new Fault('already', 'All of these contacts are here already.', 'contacts');
    return plan;
  },
});

/** What was agreed with a client across projects: terms, a cap, days until invoices are due. */
export const contracts = plainCommands('contracts', 'contract', 'Contract', R.contractSchema, {
  terms: '',
  cap: null,
  termsDays: null,
});

/** What the client sees that work was. */
export const services = plainCommands('services', 'service', 'Service', R.serviceSchema, serviceDefaults);
/** What the studio tells apart inside a service that the client sees as one. */
export const kindsOfWork = plainCommands('kindsOfWork', 'kindOfWork', 'Kind of work', R.kindOfWorkSchema, { code: '' });
/** Codes by which costs and budgets are sorted. */
export const costCodes = plainCommands('costCodes', 'costCode', 'Cost code', R.costCodeSchema);
/** Stages that projects go through, in their order. */
export const stages = plainCommands('stages', 'stage', 'Stage', R.stageSchema, { finished: false, order: 0 });
/** Stages in a new order, the first one first. */
export const orderStages = command({
  name: 'stage.order',
  title: 'Stages put in order',
  input: z.strictObject({ ids: z.array(fields.id).min(1).max(1000) }),
  async plan(reader, { ids }) {
    const plan = new Plan();
    for (const [order, stage] of (await needAll(reader, 'stages', ids, 'stage')).entries()) {
      plan.put('stages', { ...stage, order });
    }
    return plan;
  },
});

/** Budgets of a project, a task or a contract, in seconds or minor units. */
export const budgets = plainCommands('budgets', 'budget', 'Budget', z.strictObject(R.budgetSchema.shape), {
  projectId: null,
  taskId: null,
  contractId: null,
  costCodeId: null,
  seconds: null,
  money: null,
  cap: false,
  noticeAt: 80,
});
