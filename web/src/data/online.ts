import type { InvoiceBalance, Pricer } from '@half-penny/core/billing';
import { onlineSource, type OnlineEvent } from '@half-penny/core/commands';
import { plainAmount, type Minor } from '@half-penny/core/money';
import { useCallback, useEffect, useState } from 'react';
import { wordsOf } from './in-words';
import { useSession, type Session } from './session';
import { askServer, NotConnected } from './server';

// Paying online, and clients' pages: what the local server heard of them.

/** How payments stand with the local server. */
export interface Paying {
  simulated: boolean;
  told: (OnlineEvent & { payment: { workspace: string } })[];
  refused: { at: number; why: string }[];
}

const json = (method: string, body: object): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
});

const readPaying = async (): Promise<Paying> => (await (await askServer('/pay/told')).json()) as Paying;

/** Turns the simulated payment service on or off. */
export const simulatePaying = async (simulated: boolean): Promise<Paying> =>
  (await (await askServer('/pay/settings', json('PUT', { simulated }))).json()) as Paying;

/** Has a payment go back through the payment service, which tells of it afterwards. */
export const payBackOnline = (paymentId: string): Promise<Response> =>
  askServer(`/pay/payments/${paymentId}/refund`, { method: 'PUT' });

/** How payments stand; undefined while that is asked, or where the local server is not to be had. */
export function usePaying() {
  const [paying, setPaying] = useState<Paying>();
  const [fault, setFault] = useState<string>();
  const read = useCallback(() => {
    readPaying().then(
      (told) => {
        setPaying(told);
        setFault(undefined);
      },
      (thrown: unknown) => setFault(wordsOf(thrown)),
    );
  }, []);
  useEffect(read, [read]);
  return { paying, fault, read, setPaying };
}

/**
 * Where an invoice is paid online: the simulated service where that is on, else the studio's own address with what is to be paid filled in.
 *
 * @returns an address; empty where it is paid by the bank alone
 */
export async function payingAt(
  { entry }: Session,
  pricer: Pricer,
  { invoice }: InvoiceBalance,
  owed: Minor,
): Promise<string> {
  const frozen = invoice.frozen!;
  const { number, currency } = frozen;
  try {
    if ((await readPaying()).simulated) {
      const link = {
        workspace: entry.id,
        number,
        payee: frozen.studio.name,
        payer: frozen.client.name,
        amount: owed,
        currency,
      };
      const made = await askServer(`/pay/links/${invoice.id}`, json('PUT', link));
      return ((await made.json()) as { address: string }).address;
    }
  } catch (thrown) {
    if (!(thrown instanceof NotConnected)) throw thrown;
  }
  const values: Record<string, string> = { number, amount: plainAmount(owed, currency), currency };
  return (pricer.book.workspace.payAddress ?? '').replace(/\{(\w+)\}/g, (whole, word: string) =>
    encodeURIComponent(values[word] ?? whole),
  );
}

/** An answer to a quote that came by a page of the local server. */
export interface CameAnswer {
  page: string;
  workspace: string;
  at: number;
  signed: string;
}

type PageTold = { kind: 'opened'; page: string; workspace: string; at: number } | ({ kind: 'answered' } & CameAnswer);

/** More at once would keep a transaction of the browser open for too long. */
const AT_ONCE = 20;

/**
 * Takes in what the local server heard since: payments online, and pages that were opened.
 *
 * @param taken what was taken in already, so that the same is not planned again and again
 * @returns the answers to quotes that came, which a person looks at first
 */
async function takeTold({ executor, reader, entry }: Session, taken: Set<string>): Promise<CameAnswer[]> {
  // Another workspace may have the same invoices, as demos do: what is its own is told it when it is opened.
  const told = (await readPaying()).told.filter(({ payment }) => payment.workspace === entry.id);
  const known = new Set(
    (await reader.by('moneyIn', 'source', [...new Set(told.map(({ payment }) => onlineSource(payment.id)))])).map(
      (row) => row.source,
    ),
  );
  const fresh = told.filter(
    ({ id, kind, payment }) => !taken.has(id) && !(kind === 'paid' && known.has(onlineSource(payment.id))),
  );
  const events = fresh.map(({ payment: { workspace: _, ...payment }, ...event }) => ({ ...event, payment }));
  for (let from = 0; from < events.length; from += AT_ONCE)
    await executor.run('online.take', { events: events.slice(from, from + AT_ONCE) });
  for (const { id } of events) taken.add(id);
  const pages = ((await (await askServer('/pages/told')).json()) as { told: PageTold[] }).told.filter(
    ({ workspace }) => workspace === entry.id,
  );
  const opened = pages.flatMap((each) =>
    each.kind === 'opened' && !taken.has(`opened ${each.page} ${each.at}`) ? [{ id: each.page, at: each.at }] : [],
  );
  if (opened.length > 0) await executor.run('page.told', { opened });
  for (const { id, at } of opened) taken.add(`opened ${id} ${at}`);
  return pages.flatMap((each) => (each.kind === 'answered' ? [each] : []));
}

const OFTEN = 5_000;

/** Takes in what the local server heard as long as a screen of billing is open; the answers to quotes that came. */
export function useTold(): CameAnswer[] {
  const session = useSession();
  const [answers, setAnswers] = useState<CameAnswer[]>([]);
  useEffect(() => {
    const taken = new Set<string>();
    let ended = false;
    let later = 0;
    const look = () => {
      takeTold(session, taken)
        .then((came) => {
          if (!ended) setAnswers((now) => (now.length === came.length ? now : came));
        })
        // Without the server, what it heard is told once it is there again.
        .catch(() => undefined)
        .finally(() => {
          if (!ended) later = window.setTimeout(look, OFTEN);
        });
    };
    look();
    return () => {
      ended = true;
      window.clearTimeout(later);
    };
  }, [session]);
  return answers;
}
