import { addExact, lessExact, percentOf, showAmount } from '@half-penny/core/money';
import type { FastifyInstance } from 'fastify';
import { randomUUID } from 'node:crypto';
import * as z from 'zod';
import type { ownPage } from './door';
import { escaped, formPages } from './forms';
import type { PayEvent } from './pay';
import { Told } from './told';

// A stand-in for a payment service: the page on which a client pays by card, and a page on which what else befalls payments can be tried. No
// money moves. It tells of everything twice and late things first, as services do on a bad day.

/** What is to be paid. */
export interface Link {
  /** The invoice. */
  id: string;
  workspace: string;
  number: string;
  payee: string;
  payer: string;
  amount: number;
  currency: string;
}

const paymentSchema = z.strictObject({
  id: z.uuid(),
  reference: z.uuid(),
  workspace: z.string(),
  number: z.string(),
  payer: z.string(),
  amount: z.int(),
  fee: z.int(),
  currency: z.string(),
});
type Payment = z.output<typeof paymentSchema>;
const happenedSchema = z.strictObject({
  kind: z.enum(['paid', 'refunded', 'charged back']),
  at: z.int(),
  payment: paymentSchema,
});

interface ServiceOptions {
  file: string;
  linkOf: (id: string) => Link | null;
  own: ReturnType<typeof ownPage>;
  address: string;
  now: () => number;
  deliver: (event: PayEvent) => Promise<void>;
}

const MOST = 2_000;
/** What the service keeps: 1.5 % and twenty of the smallest unit. */
const feeOf = (amount: number): number =>
  Math.min(lessExact(amount, 1), addExact(percentOf(amount, '1.5', 'half away from zero'), 20));

/** Adds the simulated payment service to a server that reads forms. */
export function addSimulatedService(server: FastifyInstance, options: ServiceOptions): void {
  const { file, linkOf, own, address, now, deliver } = options;
  const happened = new Told(file, happenedSchema, MOST);
  const { send, sameSite } = formPages(address);

  /** Notes what happened, and tells of all that happened to the payment, twice, the last first. */
  async function tell(kind: PayEvent['kind'], payment: Payment): Promise<void> {
    happened.add({ kind, at: now(), payment });
    const story = happened.all().filter((each) => each.payment.id === payment.id);
    const events = story.map((each): PayEvent => ({ ...each, id: eventId(each.kind, payment.id) }));
    for (const event of [...events.toReversed(), ...events]) await deliver(event);
  }

  const standingOf = (id: string): PayEvent['kind'] =>
    happened
      .all()
      .filter((each) => each.payment.id === id)
      .at(-1)?.kind ?? 'paid';
  const paymentOf = (id: string): Payment | undefined => happened.all().find((each) => each.payment.id === id)?.payment;

  server.get('/pay', async (_request, reply) => {
    const rows = happened
      .all()
      .filter((each) => each.kind === 'paid')
      .reverse()
      .map(({ payment }) => {
        const standing = standingOf(payment.id);
        const press = (what: string, says: string) =>
          `<form method="post" action="/pay/payments/${payment.id}/${what}"><button>${says}</button></form>`;
        const presses =
          standing === 'paid' ? press('refund', 'Pay back') + press('charge-back', 'The bank takes it back') : '';
        return `<li>${escaped(payment.number)}, ${escaped(payment.payer)}: ${showAmount(payment.amount, payment.currency)} <small>${standing}</small><br>${presses}</li>`;
      });
    const list = rows.length > 0 ? `<ol>${rows.join('')}</ol>` : '<p>Nothing was paid yet.</p>';
    return send(
      reply,
      'Simulated payments',
      `<h1>Simulated payments</h1><p><small>No money moves here.</small></p>${list}`,
    );
  });

  server.get<{ Params: { id: string }; Querystring: { said?: string } }>('/pay/:id', async (request, reply) => {
    const link = linkOf(request.params.id);
    if (!link) return reply.code(404).send({ message: 'There is nothing to pay here.' });
    const said = { paid: 'Paid. Thank you.', declined: 'The card was declined. Nothing was paid.' }[
      request.query.said ?? ''
    ];
    const again = said?.startsWith('Paid') ? 'Pay it once more, by mistake' : 'Pay with a good card';
    return send(
      reply,
      `Pay ${link.number}`,
      [
        said ? `<p class="said" role="status">${said}</p>` : '',
        `<h1>${escaped(link.payee)}</h1><p>Invoice ${escaped(link.number)}, for ${escaped(link.payer)}</p>`,
        `<p class="sum">${showAmount(link.amount, link.currency)}</p>`,
        `<form method="post" action="/pay/${link.id}"><button name="card" value="good">${again}</button>`,
        '<button name="card" value="bad">Pay with a card that is declined</button></form>',
        '<p><small>A simulated payment service on this machine: no money moves. Closing this page pays nothing.</small></p>',
      ].join(''),
    );
  });

  server.post<{ Params: { id: string }; Body: Record<string, string> }>(
    '/pay/:id',
    { onRequest: sameSite },
    async (request, reply) => {
      const link = linkOf(request.params.id);
      if (!link) return reply.code(404).send({ message: 'There is nothing to pay here.' });
      if (request.body.card !== 'good') return reply.redirect(`/pay/${link.id}?said=declined`, 303);
      const { id: reference, workspace, number, payer, amount, currency } = link;
      await tell('paid', {
        id: randomUUID(),
        reference,
        workspace,
        number,
        payer,
        amount,
        fee: feeOf(amount),
        currency,
      });
      return reply.redirect(`/pay/${link.id}?said=paid`, 303);
    },
  );

  server.post<{ Params: { id: string; what: string } }>(
    '/pay/payments/:id/:what',
    { onRequest: sameSite },
    async (request, reply) => {
      const kind = request.params.what === 'refund' ? 'refunded' : 'charged back';
      const payment = paymentOf(request.params.id);
      if (!payment) return reply.code(404).send({ message: 'There is no such payment.' });
      if (standingOf(payment.id) === 'paid') await tell(kind, payment);
      return reply.redirect('/pay', 303);
    },
  );

  // The studio pays back by the application.
  server.put<{ Params: { id: string } }>('/pay/payments/:id/refund', { onRequest: own }, async (request, reply) => {
    const payment = paymentOf(request.params.id);
    if (!payment) return reply.code(404).send({ message: 'The payment service knows no such payment.' });
    if (standingOf(payment.id) !== 'paid')
      return reply.code(409).send({ message: `This payment is ${standingOf(payment.id)} already.` });
    await tell('refunded', payment);
    return { refunded: payment.id };
  });
}

/** The same event has the same id however often it is told: a UUID that says what and of which payment. */
function eventId(kind: PayEvent['kind'], paymentId: string): string {
  const mark = { paid: '1', refunded: '2', 'charged back': '3' }[kind];
  return `${mark}${paymentId.slice(1)}`;
}
