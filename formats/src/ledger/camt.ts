import type { MoneyInLine } from '@half-penny/core/commands';
import { Fault } from '@half-penny/core/model';
import { isDay } from '@half-penny/core/time';
import {
  currencyOf,
  minorOf,
  oneLine,
  spent,
  withIds,
  type ReadLine,
  type Statement,
  type StatementOptions,
} from './lines';
import { all, at, parseXml, textAt, textOf, type Node } from '../xml';

/**
 * Reads a bank statement in camt.053 (ISO 20022, bank to customer statement), of any of its versions. Only booked entries are taken.
 *
 * @throws Fault that names what cannot be read and where
 */
export function readCamt053(bytes: Uint8Array, name: string, options: StatementOptions = {}): Statement {
  const document = at(parseXml(textOf(bytes, name), name), 'Document');
  const statements = all(at(document, 'BkToCstmrStmt'), 'Stmt');
  if (statements.length === 0) throw new Fault('other-file', `${name} is not a camt.053 statement.`, 'file');
  const lines = statements.flatMap((statement, number) => {
    const account =
      textAt(statement, 'Acct', 'Id', 'IBAN') || textAt(statement, 'Acct', 'Id', 'Othr', 'Id') || 'account';
    return all(statement, 'Ntry').flatMap((entry, index) => {
      const place = `${name}, statement ${number + 1}, entry ${index + 1}`;
      return isBooked(entry) ? linesOf(entry, account, place) : [];
    });
  });
  return spent(withIds('camt', lines), options);
}

const isBooked = (entry: Node): boolean => {
  const standing = textAt(entry, 'Sts', 'Cd') || textAt(entry, 'Sts');
  return standing === '' || standing === 'BOOK';
};

/** One line an entry; one for each of its transactions where each has an amount of its own. */
function linesOf(entry: Node, account: string, place: string): ReadLine[] {
  const details = all(entry, 'NtryDtls').flatMap((each) => all(each, 'TxDtls'));
  const amountOf = (node: Node) => at(node, 'AmtDtls', 'TxAmt', 'Amt') ?? at(node, 'Amt');
  const split = details.length > 1 && details.every((each) => amountOf(each) !== undefined);
  const parts = split
    ? details.map((detail) => ({ detail, amount: amountOf(detail)! }))
    : [{ detail: details[0], amount: at(entry, 'Amt') }];
  const debit = textAt(entry, 'CdtDbtInd') === 'DBIT';
  const day = dayOf(entry, place);
  return parts.map(({ detail, amount: node }, index) => {
    const currency = currencyOf(node?.['@Ccy'], `${place}, Amt`);
    const minor = minorOf(textAt(node), currency, `${place}, Amt`);
    const amount = (debit ? minor : -minor) || 0;
    const supplier = oneLine(nameOf(detail, debit));
    const text = oneLine(saidOf(detail) || textAt(entry, 'AddtlNtryInf'), 2000);
    // The servicer's own number alone: an entry's reference is given by statement, and a detail's by whoever paid.
    const own = textAt(detail, 'Refs', 'AcctSvcrRef');
    const whole = textAt(entry, 'AcctSvcrRef');
    const given = split ? own || (whole && `${whole}/${index + 1}`) : whole || own;
    const once = whole || textAt(entry, 'NtryRef') || own;
    const formerly = once && `${once.slice(0, 100)}${split ? `/${index + 1}` : ''}`;
    const reference = oneLine(referenceOf(detail), 200);
    const sent = sentOf(detail, minor, currency, place);
    return { account, given, formerly, day, supplier, text, reference, sent, amount, currency, withdrawn: false };
  });
}

/** Who was paid, or who paid; a party's name stands a level deeper in later versions. */
function nameOf(detail: Node | undefined, debit: boolean): string {
  const party = at(detail, 'RltdPties', debit ? 'Cdtr' : 'Dbtr');
  return textAt(party, 'Nm') || textAt(party, 'Pty', 'Nm') || textAt(detail, 'RltdPties', 'UltmtCdtr', 'Nm');
}

const saidOf = (detail: Node | undefined): string =>
  all(at(detail, 'RmtInf'), 'Ustrd')
    .map((each) => textAt(each))
    .join(' ') || textAt(detail, 'AddtlTxInf');

/** The creditor's reference, or what the payer's own program told it apart by. */
function referenceOf(detail: Node | undefined): string {
  const structured = all(at(detail, 'RmtInf'), 'Strd')
    .map((each) => textAt(each, 'CdtrRefInf', 'Ref'))
    .filter(Boolean);
  const own = textAt(detail, 'Refs', 'EndToEndId');
  return structured.join(' ') || (NOTHING.test(own) ? '' : own);
}
const NOTHING = /^(?:NOTPROVIDED|NONREF|NONE)$/i;

/** What the payer instructed the bank to send, where it differs from what arrived. */
function sentOf(detail: Node | undefined, arrived: number, currency: string, place: string): MoneyInLine['sent'] {
  const node = at(detail, 'AmtDtls', 'InstdAmt', 'Amt');
  if (!node) return null;
  const sent = currencyOf(node['@Ccy'], `${place}, InstdAmt`);
  const amount = minorOf(textAt(node), sent, `${place}, InstdAmt`);
  return amount < 1 || (sent === currency && amount === arrived) ? null : { amount, currency: sent };
}

function dayOf(entry: Node, place: string): string {
  const said = [
    textAt(entry, 'BookgDt', 'Dt'),
    textAt(entry, 'BookgDt', 'DtTm'),
    textAt(entry, 'ValDt', 'Dt'),
    textAt(entry, 'ValDt', 'DtTm'),
  ].find(Boolean);
  const day = (said ?? '').slice(0, 10);
  if (!isDay(day))
    throw new Fault('not-a-day', `${place}: “${(said ?? '').slice(0, 30)}” is not a day.`, 'file', { place });
  return day;
}
