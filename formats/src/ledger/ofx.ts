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
 * Reads a statement of a bank account or credit card in OFX 2 (Open Financial Exchange, an XML format).
 *
 * @throws Fault that names what cannot be read and where
 */
export function readOfx(bytes: Uint8Array, name: string, options: StatementOptions = {}): Statement {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 400));
  if (/^\s*OFXHEADER\s*:/i.test(head)) {
    throw new Fault(
      'older-version',
      `${name} is OFX 1, an older form. Export it as OFX 2 (“2.x”, or “for other programs”), CSV or camt.053.`,
      'file',
    );
  }
  const text = textOf(bytes, name);
  if (!/<OFX[\s>]/i.test(text)) throw new Fault('other-file', `${name} is not an OFX statement.`, 'file');
  const ofx = at(parseXml(text, name), 'OFX');
  const statements = [
    ...all(at(ofx, 'BANKMSGSRSV1'), 'STMTTRNRS').map((each) => at(each, 'STMTRS')),
    ...all(at(ofx, 'CREDITCARDMSGSRSV1'), 'CCSTMTTRNRS').map((each) => at(each, 'CCSTMTRS')),
  ].filter((each) => each !== undefined);
  if (statements.length === 0) throw new Fault('empty-file', `${name} holds no statement of an account.`, 'file');
  const lines = statements.flatMap((statement) => {
    const currency = currencyOf(textAt(statement, 'CURDEF'), `${name}, CURDEF`);
    const account = textAt(statement, 'BANKACCTFROM', 'ACCTID') || textAt(statement, 'CCACCTFROM', 'ACCTID');
    return all(at(statement, 'BANKTRANLIST'), 'STMTTRN').map((each, index) =>
      lineOf(each, currency, account, `${name}, transaction ${index + 1}`),
    );
  });
  return spent(withIds('ofx', lines), options);
}

function lineOf(node: Node, usual: string, account: string, place: string): ReadLine {
  const own = textAt(node, 'CURRENCY', 'CURSYM') || textAt(node, 'ORIGCURRENCY', 'CURSYM');
  const currency = textAt(node, 'CURRENCY', 'CURSYM') ? currencyOf(own, place) : usual;
  const day = dayOf(textAt(node, 'DTPOSTED'), place);
  // OFX counts from the account's side: money spent is below nothing.
  const amount = -minorOf(textAt(node, 'TRNAMT'), currency, `${place}, TRNAMT`) || 0;
  const supplier = oneLine(textAt(node, 'NAME') || textAt(node, 'PAYEE', 'NAME'));
  const text = oneLine(textAt(node, 'MEMO'), 2000);
  const given = textAt(node, 'FITID').slice(0, 100);
  return { account, given, day, supplier, text, amount, currency, withdrawn: false };
}

/** "20261112120000[0:GMT]" → "2026-11-12". */
function dayOf(text: string, place: string): string {
  const match = /^(\d{4})(\d{2})(\d{2})/.exec(text.trim());
  const day = match ? `${match[1]}-${match[2]}-${match[3]}` : '';
  if (!isDay(day)) throw new Fault('not-a-day', `${place}: “${text.slice(0, 30)}” is not a day.`, 'file', { place });
  return day;
}
