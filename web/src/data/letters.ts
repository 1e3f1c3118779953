import {
  accountStatements,
  lateClaim,
  owedOn,
  writtenFor,
  type AccountPaper,
  type AccountStatement,
  type InvoiceBalance,
  type Pricer,
} from '@half-penny/core/billing';
import { addressesIn, type CommandInput } from '@half-penny/core/commands';
import { eInvoiceName, type PresentParties } from '@half-penny/core/e-invoice';
import {
  Fault,
  type Client,
  type FrozenInvoice,
  type Id,
  type Letter,
  type LetterKind,
  type Member,
} from '@half-penny/core/model';
import { showAmount, sumExact } from '@half-penny/core/money';
import { showDay } from '@half-penny/documents';
import { fillTemplate, templateFor, type LetterWord } from '@half-penny/documents/letters';
import { wordsIn } from '@half-penny/documents/words';
import type { ReportResult } from '@half-penny/core/reports';
import { daysBetween, type Day } from '@half-penny/core/time';
import { makeAccountPdf, makeEInvoice, makeInvoicePdf } from '../workers/tasks';
import { readInvoicesOf } from './billing';
import { clientPageOf } from './client-page';
import { receiptsOf } from './receipts';
import { reportFiles } from './report-files';
import type { Session } from './session';
import { askServer } from './server';

/** A letter that nobody wrote yet. */
export type NewLetter = CommandInput<'letter.write'>['letters'][number];

interface About {
  kind: LetterKind;
  clientId: Id;
  /** The invoice, credit note or quote that it is about. */
  frozen: FrozenInvoice;
  /** The invoice with what came in on it; of a quote there is none. */
  owing: InvoiceBalance | null;
  quoteId?: Id;
  today: Day;
  /** Who writes it. */
  memberId: Id | null;
}

/** A letter as it is written from its template, in the client's language; to be read before it goes. */
export function composeLetter(pricer: Pricer, about: About): NewLetter {
  const { kind, clientId, frozen, owing, quoteId, today, memberId } = about;
  const { workspace } = pricer.book;
  const client = pricer.client.get(clientId);
  const language = client?.language ?? 'en';
  // What was issued before the client's language was said keeps its own; the letter is in the one of now.
  const written = writtenFor(workspace, client ?? {});
  const money = (minor: number) => showAmount(minor, frozen.currency, written.numberStyle);
  const due = frozen.quote?.validUntil ?? frozen.dueDay;
  const values: Partial<Record<LetterWord, string>> = {
    client: frozen.client.name,
    contact: frozen.attention ?? frozen.client.name,
    studio: workspace.name,
    member: pricer.member.get(memberId ?? '')?.name ?? '',
    number: frozen.number,
    title: frozen.quote?.title ?? '',
    amount: money(Math.abs(frozen.payable)),
    owed: owing ? money(owedOn(owing)) : '',
    due: showDay(written, due),
    late: String(Math.max(0, daysBetween(due, today))),
    claim: owing ? claimWords(pricer, owing, frozen, today) : '',
  };
  const { subject, body } = fillTemplate(templateFor(workspace, language, kind), values);
  return {
    kind,
    clientId,
    invoiceId: owing?.invoice.id ?? null,
    quoteId: quoteId ?? null,
    version: frozen.quote?.version ?? null,
    recipients: addressOf(pricer, clientId),
    copies: '',
    subject,
    body,
    language,
    enclosed: ['pdf'],
  };
}

/** A letter with a statement of account over some days. */
export function composeStatement(
  pricer: Pricer,
  client: Client,
  statements: readonly AccountStatement[],
  period: { from: Day; to: Day },
  memberId: Id | null,
): NewLetter {
  const { workspace } = pricer.book;
  const language = client.language ?? 'en';
  const { numberStyle } = writtenFor(workspace, client);
  const owed = statements.map(({ closing, currency }) => showAmount(closing, currency, numberStyle)).join(', ');
  const values = {
    client: client.name,
    contact: client.name,
    studio: workspace.name,
    member: pricer.member.get(memberId ?? '')?.name ?? '',
    owed,
  };
  const { subject, body } = fillTemplate(templateFor(workspace, language, 'statement'), values);
  return {
    kind: 'statement',
    clientId: client.id,
    period,
    recipients: addressOf(pricer, client.id),
    subject,
    body,
    language,
    enclosed: ['pdf'],
  };
}

/** A letter that reminds a member of a week or billing period that was not handed in. */
export function composeHandIn(
  { book, member: members }: Pricer,
  { member, period, missing }: { member: Member; period: string; missing: string },
  memberId: Id | null,
): NewLetter {
  const { workspace } = book;
  const values = {
    contact: member.name,
    member: members.get(memberId ?? '')?.name ?? '',
    studio: workspace.name,
    period,
    missing,
  };
  const { subject, body } = fillTemplate(templateFor(workspace, 'en', 'hand in'), values);
  const recipients = member.email?.trim() ?? '';
  return {
    kind: 'hand in',
    clientId: null,
    memberId: member.id,
    recipients,
    subject,
    body,
    language: 'en',
    enclosed: [],
  };
}

interface ReportOf {
  answer: ReportResult;
  title: string;
  note: string;
  today: Day;
  memberId: Id | null;
}

/** A letter with a report: what it asks goes along, and is asked as of today whenever the letter goes. */
export function composeReport(
  pricer: Pricer,
  client: Client,
  { answer, title, note, today, memberId }: ReportOf,
): NewLetter {
  const { workspace } = pricer.book;
  const language = client.language ?? 'en';
  const written = writtenFor(workspace, client);
  const { range, definition } = answer;
  const days = range && `${showDay(written, range.from)} – ${showDay(written, range.to)}`;
  const values = {
    client: client.name,
    contact: client.name,
    studio: workspace.name,
    member: pricer.member.get(memberId ?? '')?.name ?? '',
    title: days ? `${title}, ${days}` : title,
  };
  const { subject, body } = fillTemplate(templateFor(workspace, language, 'report'), values);
  return {
    kind: 'report',
    clientId: client.id,
    report: { name: title, note, definition: { ...definition }, day: today },
    recipients: addressOf(pricer, client.id),
    subject,
    body,
    language,
    enclosed: ['pdf'],
  };
}

/** Where letters to a client go: its own address, else that of whoever is named there and has one. */
function addressOf({ book, client }: Pricer, clientId: Id): string {
  const own = client.get(clientId)?.email.trim();
  return own || (book.contacts.find((each) => each.clientId === clientId && each.email.trim() !== '')?.email ?? '');
}

/** What the law lets one ask for, as a sentence; empty where it is nothing, or no law was chosen. */
function claimWords(pricer: Pricer, owing: InvoiceBalance, frozen: FrozenInvoice, today: Day): string {
  const { latePayment } = pricer.book.workspace;
  const client = pricer.client.get(owing.invoice.clientId);
  const claim = latePayment && !client?.consumer ? lateClaim(owing, latePayment, today) : null;
  if (!claim || sumExact([claim.interest, claim.fixed]) === 0) return '';
  const written = writtenFor(pricer.book.workspace, client ?? {});
  const money = (minor: number) => showAmount(minor, frozen.currency, written.numberStyle);
  const values = { interest: money(claim.interest), fixed: money(claim.fixed) };
  return wordsIn(written)(claim.fixed === 0 ? 'claimInterest' : 'claimWithFixed', values);
}

/** A file that goes with a letter. */
export interface EnclosedFile {
  name: string;
  blob: Blob;
}

const plain = (number: string): string => number.replace(/[^\w.-]+/g, '-');

/**
 * Makes the files that go with a letter, as they are when it goes: invoices and quotes as they were issued.
 *
 * @throws Fault where what it is about is not there any more
 */
export async function filesOf(session: Session, pricer: Pricer, letter: Letter): Promise<EnclosedFile[]> {
  if (letter.period) return [await statementOf(session, pricer, letter)];
  if (letter.report) return reportFiles(session, pricer, letter);
  if (letter.clientId === null) return [];
  const frozen = await frozenOf(session, letter);
  const { reader, database } = session;
  const logo = frozen.studio.logoId ? await reader.get('pictures', frozen.studio.logoId) : undefined;
  const files: EnclosedFile[] = [];
  for (const kind of letter.enclosed) {
    if (kind === 'pdf') {
      const receipts = await receiptsOf(database, frozen);
      files.push({ name: `${plain(frozen.number)}.pdf`, blob: await makeInvoicePdf(frozen, logo, receipts).result });
    } else if (kind === 'page') {
      const html = await clientPageOf(session, pricer, letter);
      files.push({ name: `${plain(frozen.number)}.html`, blob: new Blob([html], { type: 'text/html' }) });
    } else if (kind === 'receipts') {
      const receipts = await receiptsOf(database, frozen);
      files.push(...receipts.map(({ name, blob }, index) => ({ name: `${index + 1}-${name}`, blob })));
    } else if (kind !== 'xlsx') {
      const blob = await makeEInvoice(kind, frozen, presentOf(pricer, letter.clientId), logo).result;
      files.push({ name: eInvoiceName(kind, frozen.number), blob });
    }
  }
  return files;
}

/** What the parties are called in electronic invoices now, where an invoice does not say it itself. */
export function presentOf(pricer: Pricer, clientId: Id): PresentParties {
  const client = pricer.client.get(clientId);
  return {
    seller: pricer.book.workspace.asSeller,
    buyer: client?.asBuyer,
    taxPlace: client?.taxPlace ?? '',
    clientEmail: client?.email ?? '',
  };
}

async function frozenOf({ reader }: Session, { invoiceId, quoteId, version }: Letter): Promise<FrozenInvoice> {
  const frozen = quoteId
    ? (await reader.get('quotes', quoteId))?.versions[(version ?? 1) - 1]?.frozen
    : invoiceId
      ? (await reader.get('invoices', invoiceId))?.frozen
      : undefined;
  if (!frozen) throw new Fault('gone', 'What this letter is about is not there any more.', 'id');
  return frozen;
}

async function statementOf({ reader }: Session, pricer: Pricer, letter: Letter): Promise<EnclosedFile> {
  const { from, to } = letter.period!;
  const client = pricer.client.get(letter.clientId ?? '');
  if (!client) throw new Fault('gone', 'This client is not there any more.', 'clientId');
  const { workspace } = pricer.book;
  const { name, address, email, paper: size, logoId } = workspace;
  const invoices = await readInvoicesOf(reader, client.id);
  const deposits = await reader.by('deposits', 'clientId', [client.id]);
  const paper: AccountPaper = {
    studio: { name, address, email, paper: size },
    client: { name: client.name, address: client.address },
    from,
    to,
    statements: accountStatements(invoices, deposits, from, to),
  };
  const logo = logoId ? await reader.get('pictures', logoId) : undefined;
  return { name: `statement-${to}.pdf`, blob: await makeAccountPdf(paper, logo).result };
}

const base64Of = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reading = new FileReader();
    reading.onload = () => resolve((reading.result as string).replace(/^[^,]*,/, ''));
    reading.onerror = () => reject(new Error('A file of the letter could not be read.'));
    reading.readAsDataURL(blob);
  });

/** No line of a letter is longer than 76 signs (RFC 2045, 6.8). */
const inLines = (base64: string): string => base64.replace(/(.{76})(?=.)/g, '$1\r\n');

/** What came of handing a letter over. */
export interface Told {
  outcome: 'sent' | 'failed' | 'unsure';
  reason: string;
}

/**
 * Sends a letter by the mail server: claimed first, then handed over, then noted, so that it goes once, whatever breaks in between.
 *
 * @param again the person knows that it did not arrive
 * @throws Fault where it cannot be claimed; then nothing happened
 */
export async function sendLetter(session: Session, pricer: Pricer, letter: Letter, again = false): Promise<Told> {
  const { executor } = session;
  const files = await filesOf(session, pricer, letter);
  await executor.run('letter.claim', { id: letter.id, again }, true);
  const told = await handOver(letter, files, again);
  await executor.run('letter.told', { id: letter.id, way: 'post', ...told });
  return told;
}

async function handOver(letter: Letter, files: readonly EnclosedFile[], again: boolean): Promise<Told> {
  try {
    const attached = await Promise.all(
      files.map(async ({ name, blob }) => ({ name, type: blob.type, base64: await base64Of(blob) })),
    );
    const { id, recipients, copies, subject, body } = letter;
    const response = await askServer('/post/letters', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        id,
        to: addressesIn(recipients),
        cc: addressesIn(copies),
        subject,
        text: body,
        attached,
        again,
      }),
    });
    const answer = (await response.json()) as { reason?: string };
    return { outcome: 'sent', reason: answer.reason ?? '' };
  } catch (thrown) {
    const { message, outcome } = thrown as Error & { outcome?: Told['outcome'] };
    // Nothing was handed over where the local server was not there, or refused the letter itself.
    return { outcome: outcome ?? 'failed', reason: message };
  }
}

/** A letter as a file that any mail program opens (RFC 5322), from the studio to whom it is for. */
export async function emlOf(
  from: { name: string; address: string },
  { recipients, copies, subject, body }: Pick<Letter, 'recipients' | 'copies' | 'subject' | 'body'>,
  files: readonly EnclosedFile[],
): Promise<Blob> {
  const { createMimeMessage } = await import('mimetext/browser');
  const message = createMimeMessage();
  message.setSender({ addr: from.address, name: from.name });
  message.setTo(addressesIn(recipients).map((addr) => ({ addr })));
  if (addressesIn(copies).length > 0) message.setCc(addressesIn(copies).map((addr) => ({ addr })));
  message.setSubject(subject.replace(/[\r\n]+/g, ' '));
  // Mail programs open it as one that is still to be sent.
  message.setHeader('X-Unsent', '1');
  const text = await base64Of(new Blob([body.replace(/\r?\n/g, '\r\n')]));
  message.addMessage({ contentType: 'text/plain', charset: 'utf-8', encoding: 'base64', data: inLines(text) });
  for (const { name, blob } of files)
    message.addAttachment({
      filename: name,
      contentType: blob.type || 'application/octet-stream',
      data: inLines(await base64Of(blob)),
    });
  return new Blob([message.asRaw()], { type: 'message/rfc822' });
}
