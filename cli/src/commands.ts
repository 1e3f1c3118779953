import {
  chargeText,
  readBook,
  explainFrozen,
  owedOn,
  postingRows,
  postingsOf,
  Pricer,
  standingOf,
  toBill,
} from '@half-penny/core/billing';
import { headOf, lastOfEach, showHead, type MemoryStore } from '@half-penny/core/engine';
import { dayOf, showLength } from '@half-penny/core/time';
import { lessExact, showAmount, sumExact } from '@half-penny/core/money';
import { makeDemoWithFiles } from '@half-penny/demo';
import { invoiceView } from '@half-penny/documents';
import type { ReceiptPart } from '@half-penny/documents/receipts';
import type { FrozenInvoice } from '@half-penny/core/model';
import type { WorkspaceContent } from '@half-penny/formats/workspace';
import { openWorkspace, saveWorkspace, writeSafely } from './files';
import { parse, UsageError } from './usage';

type Print = (line: string) => void;

/** Nothing of that name: said on standard error, exit 1. */
export class NotFound extends Error {}

export async function check(args: readonly string[], print: Print): Promise<void> {
  const { positional, options } = parse(args, { positional: 1, options: ['head'] });
  const { manifest, journal, store } = await openWorkspace(positional[0]!);
  const postings = await balancedPostings(store);
  const head = showHead(headOf(lastOfEach(journal)));
  const expected = options.get('head');
  if (expected !== undefined && expected !== head)
    throw new NotFound(
      `The history ends with ${head}, not with ${expected}: it was changed, cut, or has gone on since.`,
    );
  const counts = Object.entries(manifest.tables).map(([table, { count }]) => `${count} ${table}`);
  print(
    `Sound: ${counts.join(', ')}. Records, invariants and hash chains hold, and the history made the records. ${postings} postings balance. Head ${head}.`,
  );
}

/** How many postings there are. @throws NotFound that names one that does not come to nothing */
async function balancedPostings(store: MemoryStore): Promise<number> {
  const postings = postingsOf(
    new Pricer(await readBook(store)),
    postingRows((table) => store.rows(table)),
  );
  const wrong = postings.find(
    ({ lines }) => sumExact(lines.map(({ debit, credit }) => lessExact(debit, credit))) !== 0,
  );
  if (wrong) throw new NotFound(`The posting “${wrong.text}” of ${wrong.day} does not balance.`);
  return postings.length;
}

export async function showToBill(args: readonly string[], print: Print): Promise<void> {
  const { positional, options, flags } = parse(args, { positional: 1, options: ['client'], flags: ['json'] });
  const { store } = await openWorkspace(positional[0]!);
  const pricer = new Pricer(await readBook(store));
  const name = options.get('client');
  if (name !== undefined && !pricer.book.clients.some((client) => client.name === name)) {
    const known = pricer.book.clients.map((client) => client.name).sort();
    throw new NotFound(`There is no client called “${name}”. There are: ${known.join(', ')}.`);
  }
  const open = toBill(pricer, store.rows('entries'), [...store.rows('allocations'), ...store.rows('adjustments')], {
    costs: store.rows('costs'),
    costLines: store.rows('costLines'),
    agreed: store.rows('agreed'),
    milestones: store.rows('milestones'),
  }).filter((each) => !name || each.client.name === name);
  if (flags.has('json')) {
    const rows = open.map(({ client, items, charges, seconds, billed, amount, currency, unpriced, oldest }) => ({
      client: client.name,
      entries: items.length,
      oldest,
      seconds,
      billedSeconds: billed,
      amount,
      currency,
      unpriced,
      items: items.map((item) => ({
        id: item.entry.id,
        day: item.entry.day,
        project: pricer.project.get(item.entry.projectId!)!.name,
        member: pricer.member.get(item.entry.memberId)!.name,
        note: item.entry.note,
        seconds: item.seconds,
        billedSeconds: item.billed,
        price: item.price?.price ?? null,
        unit: item.price?.unit ?? null,
        amount: item.amount,
        /** Why it has no price; null where it has one. */
        fault: item.price ? null : `no rate in ${currency}`,
      })),
      charges: charges.map((charge) => ({
        id: charge.id,
        kind: charge.kind,
        day: charge.day || null,
        project: pricer.project.get(charge.projectId)!.name,
        text: chargeText(charge),
        cost: charge.costAmount,
        markup: charge.markup,
        amount: charge.amount,
        fault: charge.fault && `${charge.fault} to ${charge.currency}`,
      })),
    }));
    return print(JSON.stringify(rows, null, 2));
  }
  if (open.length === 0) return print('Nothing is to bill.');
  for (const each of open) {
    const missing = each.unpriced ? `, ${each.unpriced} without a price` : '';
    print(
      `${each.client.name}: ${each.items.length} entries, ${each.charges.length} costs and amounts, ${showLength(each.seconds)} recorded, ${showLength(each.billed)} rounded, ${showAmount(each.amount, each.currency)}${missing}`,
    );
  }
}

export async function showInvoice(args: readonly string[], print: Print): Promise<void> {
  const { positional, options, flags } = parse(args, { positional: 1, options: ['number', 'pdf'], flags: ['json'] });
  const number = options.get('number');
  if (number === undefined) throw new UsageError('Say which invoice with --number.');
  if (flags.has('json') && options.has('pdf')) throw new UsageError('Choose one of --json and --pdf.');
  const content = await openWorkspace(positional[0]!);
  const { store } = content;
  const invoice = store.rows('invoices').find((each) => each.frozen?.number === number);
  if (!invoice?.frozen) throw new NotFound(`There is no invoice ${number}.`);
  const { frozen } = invoice;
  const pdf = options.get('pdf');
  if (pdf !== undefined) {
    const { invoicePdf } = await import('@half-penny/documents/node');
    const { appendReceipts } = await import('@half-penny/documents/receipts');
    const { logoId } = frozen.studio;
    const alone = await invoicePdf(frozen, logoId === null ? undefined : await store.get('pictures', logoId));
    const bytes = await appendReceipts(alone, await receiptsOf(frozen, content));
    await writeSafely(pdf, async (sink) => sink(bytes));
    return print(`${number} written to ${pdf}`);
  }
  const payments = await store.by('payments', 'invoiceId', [invoice.id]);
  const owing = { invoice, payments, credits: await store.by('invoices', 'ofId', [invoice.id]) };
  const standing = standingOf(owing, today(store));
  const owed = owedOn(owing);
  if (flags.has('json')) {
    const paid = payments.map(({ day, amount, currency, note }) => ({ day, amount, currency, note }));
    return print(JSON.stringify({ ...frozen, standing, owed, payments: paid, voided: invoice.voided }, null, 2));
  }
  const view = invoiceView(frozen);
  print(`${view.number} · ${frozen.client.name} · ${standing}`);
  for (const line of view.lines) print(`  ${line.text}: ${line.quantity} at ${line.price} = ${line.amount}`);
  for (const total of view.totals) print(`  ${total.label}: ${total.amount}`);
  const { result } = explainFrozen(frozen);
  if (result.figure.kind === 'amount' && result.figure.minor !== frozen.payable)
    throw new Error('The total does not follow from its lines.');
  print(`  Owed: ${showAmount(owed, frozen.currency)}`);
}

/** The receipts that follow an invoice, read from the file. */
async function receiptsOf(frozen: FrozenInvoice, content: WorkspaceContent): Promise<ReceiptPart[]> {
  const wanted = invoiceView(frozen).receipts.map(({ receiptId, line }) => ({
    line,
    receipt: content.store.rows('receipts').find((row) => row.id === receiptId)!,
  }));
  if (wanted.length === 0) return [];
  const bytes = new Map<string, Uint8Array>();
  for await (const file of content.files()) bytes.set(file.sha256, file.bytes);
  return wanted.map(({ line, receipt: { name, mediaType, sha256 } }) => ({
    name,
    mediaType,
    line,
    bytes: bytes.get(sha256)!,
  }));
}

/** The studio's day. */
const today = (store: MemoryStore): string => dayOf(Date.now(), store.rows('workspace')[0]!.zone);

export async function writeDemo(args: readonly string[], print: Print): Promise<void> {
  const { positional, options, flags } = parse(args, { positional: 1, options: ['seed', 'now'], flags: ['large'] });
  const seed = options.get('seed');
  if (seed !== undefined && !/^\d{1,9}$/.test(seed))
    throw new UsageError('--seed is a whole number of up to nine digits.');
  const now = options.has('now') ? Date.parse(options.get('now')!) : Date.now();
  if (Number.isNaN(now)) throw new UsageError('--now is a moment such as 2026-11-12T15:00:00Z.');
  const { store, files } = await makeDemoWithFiles({
    now,
    ...(seed === undefined ? {} : { seed: Number(seed) }),
    large: flags.has('large'),
  });
  const stored = [...files].map(([sha256, bytes]) => ({ sha256, bytes }));
  await saveWorkspace(positional[0]!, store, () => stored.sort((a, b) => (a.sha256 < b.sha256 ? -1 : 1)));
  print(
    `${store.rows('entries').length} entries, ${store.rows('invoices').length} invoices written to ${positional[0]}`,
  );
}
