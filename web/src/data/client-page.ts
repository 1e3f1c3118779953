import { owedOn, type Pricer } from '@half-penny/core/billing';
import {
  pageOfInvoice,
  pageOfQuote,
  restOf,
  usualPage,
  type ClientPage,
  type PageRest,
} from '@half-penny/core/client-page';
import { projectMoney } from '@half-penny/core/costing';
import { Fault, type ClientPageShows, type Id } from '@half-penny/core/model';
import { dayOf } from '@half-penny/core/time';
import { makeClientPage } from '../workers/tasks';
import { readInvoice, type InvoiceRecords } from './invoice-records';
import { payingAt } from './online';
import { readProjectMoney } from './project-money';
import { receiptsOf } from './receipts';
import type { Session } from './session';
import { askServer } from './server';
import { readWork } from './work';

/** What a page is of: an invoice or credit note, or a quote. */
export interface PageOf {
  invoiceId: Id | null;
  quoteId: Id | null;
  /** Of a quote; the last where not said. */
  version?: number | null;
}

/**
 * A page for a client as one HTML file.
 *
 * @param shows what it shows; as it was kept for the client where not said
 * @throws Fault where what it is of is not there any more, or was given before there were pages
 */
export async function clientPageOf(
  session: Session,
  pricer: Pricer,
  of: PageOf,
  shows?: ClientPageShows,
): Promise<string> {
  const page = of.quoteId ? await quotePage(session, pricer, of) : await invoicePage(session, pricer, of, shows);
  const { logoId } = page.frozen.studio;
  const logo = logoId ? await session.reader.get('pictures', logoId) : undefined;
  return makeClientPage(page, logo, await receiptsOf(session.database, page.frozen)).result;
}

const todayIn = ({ book }: Pricer) => dayOf(Date.now(), book.workspace.zone);

async function quotePage({ reader }: Session, pricer: Pricer, { quoteId, version }: PageOf): Promise<ClientPage> {
  const quote = await reader.get('quotes', quoteId!);
  if (quote && version && version !== quote.versions.length)
    throw new Fault(
      'outdated',
      'The quote was given again since. Write a new letter with it as it is now.',
      'enclosed',
    );
  const page = quote && pageOfQuote(quote, todayIn(pricer));
  if (page) return page;
  throw quote
    ? new Fault('lacking', 'This quote was given before there were pages. Give it again to make one.', 'enclosed')
    : new Fault('gone', 'What this letter is about is not there any more.', 'id');
}

async function invoicePage(
  session: Session,
  pricer: Pricer,
  { invoiceId }: PageOf,
  said?: ClientPageShows,
): Promise<ClientPage> {
  const { reader } = session;
  const records = invoiceId === null ? null : await readInvoice(reader, pricer, invoiceId);
  if (!records?.invoice.frozen) throw new Fault('gone', 'What this letter is about is not there any more.', 'id');
  const shows = said ?? pricer.client.get(records.invoice.clientId)?.page ?? usualPage;
  const owed = owedOn(records);
  const at = owed > 0 ? await payingAt(session, pricer, records, owed) : '';
  return pageOfInvoice(pricer, records, {
    shows,
    rest: shows.rest ? await restFor(reader, pricer, records) : null,
    pay: at ? { at, amount: owed } : null,
    made: todayIn(pricer),
  });
}

/** What is still to come of the one project that an invoice is for; null where it is for several, or nothing was agreed. */
async function restFor(
  reader: Session['reader'],
  pricer: Pricer,
  { entries, rows }: InvoiceRecords,
): Promise<PageRest | null> {
  const ids = [...entries, ...rows.costLines, ...rows.agreed].flatMap(({ projectId }) => projectId ?? []);
  const tops = new Set(ids.map((id) => pricer.tree.upFrom(id).at(-1)!.id));
  const [top] = tops;
  if (top === undefined || tops.size > 1) return null;
  const projectIds = pricer.tree.downFrom(top).map((each) => each.id);
  const money = await readProjectMoney(reader, pricer, top, await readWork(reader, projectIds));
  return restOf(projectMoney(pricer, top, money));
}

/** Puts a page on the local server, where it can be tried. @returns its address */
export async function showClientPage(
  ...[session, pricer, of, shows]: Parameters<typeof clientPageOf>
): Promise<string> {
  const html = await clientPageOf(session, pricer, of, shows);
  const response = await askServer(`/pages/${of.quoteId ?? of.invoiceId}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ html, workspace: session.entry.id }),
  });
  return ((await response.json()) as { address: string }).address;
}
