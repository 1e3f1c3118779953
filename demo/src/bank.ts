import { creditorReference } from '@half-penny/core/e-invoice';
import { owedOn, type InvoiceBalance } from '@half-penny/core/billing';
import { lessExact, plainAmount, type CurrencyCode } from '@half-penny/core/money';
import type { ExchangeRates } from '@half-penny/core/rates';
import type { Due, Transfer as AskedTransfer } from '@half-penny/core/paying-out';
import type { Day } from '@half-penny/core/time';

// A stand-in for the studio's bank: a statement (camt.053) by which clients have paid what they owe now, as they do: most as they should,
// one with a reference, one several invoices in one transfer, one less what banks kept, one the same twice; and one of what the studio paid.

/** The account of the studio; a code of no bank. */
const ACCOUNT = 'GB42SALT00000012345678';
/** What banks keep of a transfer from abroad. */
const KEPT = 1_250;
/** Banks write names in capitals and cut them off. */
const nameOf = (name: string): string => name.toUpperCase().slice(0, 18).trim();

/** A transfer as the bank writes it down. */
interface Transfer {
  amount: number;
  currency: CurrencyCode;
  /** Who paid, or was paid. */
  payer: string;
  /** The studio paid. */
  out?: true;
  /** What a payment file told it apart by. */
  endToEnd?: string;
  text?: string;
  reference?: string;
  /** What the payer handed to a bank, where less arrived. */
  sent?: { amount: number; currency: CurrencyCode };
}

/**
 * A statement as of a day on which open invoices are paid.
 *
 * @param home the currency of the account
 * @returns an XML document; empty of transfers but the bank's interest where nothing is owed
 */
export function bankStatement(
  invoices: readonly InvoiceBalance[],
  home: CurrencyCode,
  exchange: Pick<ExchangeRates, 'convert'>,
  day: Day,
): string {
  const open = invoices
    .filter((row) => row.invoice.frozen && !row.invoice.voided && owedOn(row) > 0)
    .sort((a, b) => a.invoice.seq! - b.invoice.seq!);
  const transfers = [
    ...paidAtHome(open.filter(({ invoice }) => invoice.currency === home)),
    ...open.flatMap((row) => fromAbroad(row, home, exchange, day)),
    ...paidAgain(invoices, home),
    { amount: 317, currency: home, payer: 'Saltmere Savings', text: 'Interest for the quarter' },
  ];
  return document(transfers, day);
}

/**
 * A statement as of a day of what went out: everything that the bank was asked for, the bill that is due first, which was paid by hand, and
 * something bought by card.
 */
export function bankPayments(
  asked: readonly AskedTransfer[],
  dues: readonly Due[],
  home: CurrencyCode,
  day: Day,
): string {
  const [next] = dues.filter(({ cost, left }) => cost.kind === 'bill' && cost.currency === home && left > 0);
  const byHand = next && {
    amount: next.left,
    payer: nameOf(next.name),
    text: ['Bill', next.cost.reference].join(' ').trim(),
  };
  const transfers: Omit<Transfer, 'currency' | 'out'>[] = [
    ...asked.map(({ endToEndId, payee, amount, text }) => ({
      amount,
      payer: nameOf(payee.name),
      text,
      endToEnd: endToEndId,
    })),
    ...(byHand ? [byHand] : []),
    { amount: 3_840, payer: 'SALTMERE HARDWARE', text: 'Card, gaffer tape and clamps' },
  ];
  return document(
    transfers.map((each): Transfer => ({ ...each, currency: home, out: true })),
    day,
  );
}

function paidAtHome(open: readonly InvoiceBalance[]): Transfer[] {
  const byClient = new Map<string, InvoiceBalance[]>();
  for (const row of open) byClient.set(row.invoice.clientId, [...(byClient.get(row.invoice.clientId) ?? []), row]);
  const transfers: Transfer[] = [];
  for (const rows of byClient.values()) {
    const [first] = rows;
    const { number, client } = first!.invoice.frozen!;
    const currency = first!.invoice.currency;
    const payer = nameOf(client.name);
    if (rows.length > 1) {
      const amount = rows.reduce((sum, row) => sum + owedOn(row), 0);
      transfers.push({ amount, currency, payer, text: 'Your invoices to date' });
    } else if (transfers.length === 0) {
      const once = { amount: owedOn(first!), currency, payer, text: `Invoice ${number}` };
      // Somebody at the client pressed the button twice.
      transfers.push(once, once);
    } else {
      transfers.push({ amount: owedOn(first!), currency, payer, reference: creditorReference(number) });
    }
  }
  return transfers;
}

/** What was paid last comes once more: a standing order that nobody stopped. */
function paidAgain(invoices: readonly InvoiceBalance[], home: CurrencyCode): Transfer[] {
  const paid = invoices.filter(
    (row) => row.invoice.currency === home && !row.invoice.voided && row.payments.length === 1 && owedOn(row) === 0,
  );
  const last = paid.sort((a, b) => a.invoice.seq! - b.invoice.seq!).at(-1);
  if (!last) return [];
  const { client, number } = last.invoice.frozen!;
  return [{ amount: last.payments[0]!.amount, currency: home, payer: nameOf(client.name), text: `Invoice ${number}` }];
}

/** Paid in its own currency by a bank abroad, and turned into the account's: some is kept on the way. */
function fromAbroad(
  row: InvoiceBalance,
  home: CurrencyCode,
  exchange: Pick<ExchangeRates, 'convert'>,
  day: Day,
): Transfer[] {
  const { currency, frozen } = row.invoice;
  if (currency === home) return [];
  const worth = exchange.convert(owedOn(row), currency, home, day, 'half away from zero');
  if (worth === null || worth < 2 * KEPT) return [];
  return [
    {
      amount: lessExact(worth, KEPT),
      currency: home,
      payer: nameOf(frozen!.client.name),
      text: frozen!.number,
      sent: { amount: owedOn(row), currency },
    },
  ];
}

/** The bank's own number of a transfer: the same again when it is asked twice on a day. */
function numberOf(transfers: readonly Transfer[], index: number, day: Day): string {
  const { amount, payer } = transfers[index]!;
  const before = transfers.slice(0, index).filter((each) => each.amount === amount && each.payer === payer).length;
  return ['SALT', day.replaceAll('-', ''), payer.replace(/[^A-Za-z]/g, '').slice(0, 6), amount, before].join('');
}

const escaped = (text: string): string => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

const money = (tag: string, { amount, currency }: { amount: number; currency: CurrencyCode }) =>
  `<${tag} Ccy="${currency}">${plainAmount(amount, currency)}</${tag}>`;

function document(transfers: readonly Transfer[], day: Day): string {
  const entries = transfers.map((each, index) => {
    const { payer, text = '', reference = '', sent, out, endToEnd } = each;
    const said = reference
      ? `<Strd><CdtrRefInf><Ref>${escaped(reference)}</Ref></CdtrRefInf></Strd>`
      : `<Ustrd>${escaped(text)}</Ustrd>`;
    const [way, role] = out ? ['DBIT', 'Cdtr'] : ['CRDT', 'Dbtr'];
    const refs = endToEnd ? `<Refs><EndToEndId>${endToEnd}</EndToEndId></Refs>` : '';
    const instructed = sent ? `<AmtDtls><InstdAmt>${money('Amt', sent)}</InstdAmt></AmtDtls>` : '';
    return [
      `<Ntry><NtryRef>${index + 1}</NtryRef>${money('Amt', each)}<CdtDbtInd>${way}</CdtDbtInd><Sts><Cd>BOOK</Cd></Sts>`,
      `<BookgDt><Dt>${day}</Dt></BookgDt><AcctSvcrRef>${numberOf(transfers, index, day)}</AcctSvcrRef>`,
      `<NtryDtls><TxDtls>${refs}${instructed}<RltdPties><${role}><Pty><Nm>${escaped(payer)}</Nm></Pty></${role}></RltdPties>`,
      `<RmtInf>${said}</RmtInf></TxDtls></NtryDtls></Ntry>`,
    ].join('');
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><BkToCstmrStmt>',
    `<GrpHdr><MsgId>SALT-${day}</MsgId><CreDtTm>${day}T18:00:00Z</CreDtTm></GrpHdr>`,
    `<Stmt><Id>${day}</Id><Acct><Id><IBAN>${ACCOUNT}</IBAN></Id></Acct>`,
    ...entries,
    '</Stmt></BkToCstmrStmt></Document>',
  ].join('\n');
}
