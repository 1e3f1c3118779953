import { describe, expect, it } from 'vitest';
import { readCsv } from '../hours';
import { guessLedgerMapping, mapLedger, readCamt053, readLedgerPage, readOfx } from '.';
import { fault } from '@half-penny/core/testing';

const bytes = (text: string) => new TextEncoder().encode(text);

// The shape of the bank statement response in the OFX 2 specification's examples (from memory), with the studio's own purchases.
const ofx = (body: string, head = '<?xml version="1.0" encoding="UTF-8" standalone="no"?>') => `${head}
<?OFX OFXHEADER="200" VERSION="211" SECURITY="NONE" OLDFILEUID="NONE" NEWFILEUID="NONE"?>
<OFX>
  <SIGNONMSGSRSV1><SONRS><STATUS><CODE>0</CODE><SEVERITY>INFO</SEVERITY></STATUS><DTSERVER>20261112</DTSERVER></SONRS></SIGNONMSGSRSV1>
  <BANKMSGSRSV1><STMTTRNRS><TRNUID>1001</TRNUID><STMTRS>
    <CURDEF>GBP</CURDEF>
    <BANKACCTFROM><BANKID>121099999</BANKID><ACCTID>999988</ACCTID><ACCTTYPE>CHECKING</ACCTTYPE></BANKACCTFROM>
    <BANKTRANLIST><DTSTART>20261001</DTSTART><DTEND>20261031</DTEND>${body}</BANKTRANLIST>
  </STMTRS></STMTTRNRS></BANKMSGSRSV1>
</OFX>`;
const transaction = (amount: string, more = '') =>
  `<STMTTRN><TRNTYPE>CHECK</TRNTYPE><DTPOSTED>20261004120000[0:GMT]</DTPOSTED><TRNAMT>${amount}</TRNAMT><FITID>00002</FITID><NAME>Brightwater &amp; Co</NAME><MEMO>Gel, two rolls</MEMO>${more}</STMTTRN>`;

describe('OFX 2', () => {
  it('gives what was spent, and money that came in only where asked for', () => {
    const text = ofx(transaction('-200.00') + transaction('15.5').replace('00002', '00003'));
    expect(readOfx(bytes(text), 'bank.ofx')).toEqual({
      lines: [
        {
          source: 'ofx:999988:00002',
          day: '2026-10-04',
          supplier: 'Brightwater & Co',
          text: 'Gel, two rolls',
          amount: 20_000,
          currency: 'GBP',
          withdrawn: false,
        },
      ],
      incoming: 1,
      moneyIn: [
        {
          source: 'ofx:999988:00003',
          day: '2026-10-04',
          payer: 'Brightwater & Co',
          text: 'Gel, two rolls',
          reference: '',
          amount: 1550,
          currency: 'GBP',
          sent: null,
        },
      ],
    });
    expect(readOfx(bytes(text), 'bank.ofx', { incoming: true }).lines.map((line) => line.amount)).toEqual([
      20_000, -1550,
    ]);
  });

  it('is answered where its encoding is not what it says', () => {
    const latin = Uint8Array.from(ofx(transaction('-1').replace('Gel', 'Caf\u00e9')), (char) => char.charCodeAt(0));
    expect(() => readOfx(latin, 'bank.ofx')).toThrow(/says that it is written in UTF-8, and line 8 is not/);
    const stated = Uint8Array.from(
      ofx(transaction('-1').replace('Gel', 'Caf\u00e9'), '<?xml version="1.0" encoding="ISO-8859-1"?>'),
      (char) => char.charCodeAt(0),
    );
    expect(readOfx(stated, 'bank.ofx').lines[0]!.text).toBe('Café, two rolls');
    expect(() => readOfx(bytes(ofx('', '<?xml version="1.0" encoding="EBCDIC"?>')), 'bank.ofx')).toThrow(
      fault('unknown-encoding'),
    );
  });

  it('is refused with its place where something cannot be read', () => {
    expect(() => readOfx(bytes('OFXHEADER:100\nDATA:OFXSGML'), 'old.ofx')).toThrow('is OFX 1');
    expect(() => readOfx(bytes(ofx(transaction('12.345'))), 'bank.ofx')).toThrow('transaction 1, TRNAMT: “12.345”');
    expect(() => readOfx(bytes(ofx('<STMTTRN>')), 'bank.ofx')).toThrow(fault('broken-file'));
    expect(() => readOfx(bytes(ofx(transaction('-1').replace('20261004', '20261341'))), 'bank.ofx')).toThrow(
      fault('not-a-day'),
    );
    expect(() => readOfx(bytes('<!DOCTYPE x><OFX></OFX>'), 'bank.ofx')).toThrow(fault('document-type'));
  });
});

// The shape of the ISO 20022 message's sample statement (from memory), with the studio's own purchases; the IBAN is a published example.
const camt = (entries: string, version = '08') => `<?xml version="1.0" encoding="UTF-8"?>
<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.${version}"><BkToCstmrStmt>
  <GrpHdr><MsgId>STMT-1</MsgId><CreDtTm>2026-11-30T18:00:00Z</CreDtTm></GrpHdr>
  <Stmt><Id>1</Id><Acct><Id><IBAN>GB42SALT00000012345678</IBAN></Id></Acct>${entries}</Stmt>
</BkToCstmrStmt></Document>`;
const entry = (amount: string, sign: string, detail: string, more = '') =>
  `<Ntry><NtryRef>${amount}</NtryRef><Amt Ccy="EUR">${amount}</Amt><CdtDbtInd>${sign}</CdtDbtInd>${more || '<Sts><Cd>BOOK</Cd></Sts>'}<BookgDt><Dt>2026-11-10</Dt></BookgDt><NtryDtls>${detail}</NtryDtls></Ntry>`;

describe('camt.053', () => {
  it('gives booked entries with whom was paid, in old and new versions', () => {
    const party = (inner: string) =>
      `<TxDtls><RltdPties><Cdtr>${inner}</Cdtr></RltdPties><RmtInf><Ustrd>Inv 77</Ustrd></RmtInf></TxDtls>`;
    const text = camt(
      entry('105.10', 'DBIT', party('<Pty><Nm>Maison Lumen</Nm></Pty>')) +
        entry('9.00', 'CRDT', party('<Nm>Somebody</Nm>')) +
        entry('7.00', 'DBIT', '', '<Sts><Cd>PDNG</Cd></Sts>'),
    );
    expect(readCamt053(bytes(text), 'nov.xml')).toMatchObject({
      lines: [{ day: '2026-11-10', supplier: 'Maison Lumen', text: 'Inv 77', amount: 10_510, currency: 'EUR' }],
      incoming: 1,
    });
    const old = camt(entry('3.20', 'DBIT', party('<Nm>Maison Lumen</Nm>'), '<Sts>BOOK</Sts>'), '02');
    expect(readCamt053(bytes(old), 'old.xml').lines[0]).toMatchObject({ supplier: 'Maison Lumen', amount: 320 });
  });

  it('tells what came in by its reference, and what was sent where that was more or in another currency', () => {
    const credit = (inner: string) => camt(entry('97.00', 'CRDT', `<TxDtls>${inner}</TxDtls>`));
    const read = (inner: string) => readCamt053(bytes(credit(inner)), 'nov.xml').moneyIn[0]!;
    const structured =
      '<RmtInf><Strd><CdtrRefInf><Ref>RF73SL0131</Ref></CdtrRefInf></Strd></RmtInf><RltdPties><Dbtr><Nm>Quayside</Nm></Dbtr></RltdPties>';
    expect(read(structured)).toMatchObject({ payer: 'Quayside', reference: 'RF73SL0131', amount: 9_700, sent: null });
    expect(read('<Refs><EndToEndId>NOTPROVIDED</EndToEndId></Refs>').reference).toBe('');
    expect(read('<Refs><EndToEndId>SL-0131</EndToEndId></Refs>').reference).toBe('SL-0131');
    const sent = (currency: string, amount: string) =>
      read(`<AmtDtls><InstdAmt><Amt Ccy="${currency}">${amount}</Amt></InstdAmt></AmtDtls>`).sent;
    expect(sent('EUR', '100.00')).toEqual({ amount: 10_000, currency: 'EUR' });
    expect(sent('JPY', '15000')).toEqual({ amount: 15_000, currency: 'JPY' });
    expect(sent('EUR', '97.00')).toBeNull();
  });

  it('takes each transaction of a batch by itself where each has its amount', () => {
    const part = (amount: string) =>
      `<TxDtls><AmtDtls><TxAmt><Amt Ccy="EUR">${amount}</Amt></TxAmt></AmtDtls></TxDtls>`;
    const { lines } = readCamt053(bytes(camt(entry('5.00', 'DBIT', part('2.00') + part('3.00')))), 'nov.xml');
    expect(lines.map((line) => [line.was, line.amount])).toEqual([
      ['camt:GB42SALT00000012345678:5.00/1', 200],
      ['camt:GB42SALT00000012345678:5.00/2', 300],
    ]);
    expect(new Set(lines.map((line) => line.source)).size).toBe(2);
  });

  it('takes a number that comes again every month for no id', () => {
    // NtryRef is unique within one statement only (ISO 20022 message definition report, from memory): rent of two months has one.
    const rent = (day: string) =>
      camt(entry('640.00', 'DBIT', '').replace('2026-11-10', day).replace('<NtryRef>640.00', '<NtryRef>1'));
    const sourceOf = (text: string) => readCamt053(bytes(text), 'a.xml').lines.map((line) => line.source);
    expect(sourceOf(rent('2026-11-01'))).not.toEqual(sourceOf(rent('2026-12-01')));
    expect(sourceOf(rent('2026-11-01'))).toEqual(sourceOf(rent('2026-11-01')));
  });

  it("goes by the bank's own number where it has one, and by the content where that says none", () => {
    const numbered = (number: string, day: string) =>
      entry('9.00', 'DBIT', '', `<Sts><Cd>BOOK</Cd></Sts>`)
        .replace('<NtryDtls>', `<AcctSvcrRef>${number}</AcctSvcrRef><NtryDtls>`)
        .replace('2026-11-10', day);
    const sources = (...entries: string[]) =>
      readCamt053(bytes(camt(entries.join(''))), 'a.xml').lines.map((line) => line.source);
    expect(sources(numbered('B7781', '2026-11-10'))).toEqual(['camt:GB42SALT00000012345678:B7781']);
    const none = sources(numbered('NONREF', '2026-11-10'), numbered('NONREF', '2026-11-10'));
    expect(new Set(none).size).toBe(2);
    expect(none.join()).not.toContain('NONREF');
    // One number on two lines of a file tells neither apart.
    const twice = sources(numbered('C1', '2026-11-10'), numbered('C1', '2026-11-11'));
    expect(twice.join()).not.toContain(':C1');
  });

  it('names the entry that cannot be read', () => {
    expect(() => readCamt053(bytes(camt(entry('x', 'DBIT', ''))), 'nov.xml')).toThrow('statement 1, entry 1, Amt: “x”');
    expect(() => readCamt053(bytes('<Document/>'), 'nov.xml')).toThrow('not a camt.053 statement');
  });
});

describe('a table of transactions', () => {
  const read = (text: string, more = {}) => {
    const table = readCsv(text);
    return mapLedger(table, { ...guessLedgerMapping(table, 'GBP'), ...more });
  };

  it('is understood by its heads, with signs or in two columns', () => {
    const one = read(
      'Date,Payee,Description,Amount\n12/11/2026,Saltmere Hardware,Cable ties,-12.50\n13/11/2026,Quayside,Paid,"1,200.00"\n',
    );
    expect(one).toMatchObject({
      lines: [{ day: '2026-11-12', amount: 1250, supplier: 'Saltmere Hardware' }],
      incoming: 1,
      faults: [],
    });
    const two = read('Booking date;Name;Paid out;Paid in\n2026-11-12;Gel shop;8,50;\n');
    expect(two.lines).toMatchObject([{ amount: 850, supplier: 'Gel shop' }]);
  });

  it('of what came in has it without a sign, though most of it is', () => {
    const table = readCsv(
      'Date,Payee,Reference,Amount\n14/11/2026,Quayside,RF89SL0144,100\n15/11/2026,Bramble,,50\n16/11/2026,Shop,,-12.50\n',
    );
    expect(mapLedger(table, guessLedgerMapping(table, 'GBP', 'came in'))).toMatchObject({
      lines: [{ supplier: 'Shop', amount: 1250 }],
      moneyIn: [
        { payer: 'Quayside', reference: 'RF89SL0144', amount: 10_000 },
        { payer: 'Bramble', amount: 5_000 },
      ],
    });
    // Looked for what was spent, the few below nothing are refunds.
    expect(guessLedgerMapping(table, 'GBP').spentNegative).toBe(false);
  });

  it('tells the same rows again from two alike ones', () => {
    const text = 'Date,Payee,Amount\n2026-11-12,Cafe,-3\n2026-11-12,Cafe,-3\n';
    const sources = read(text).lines.map((line) => line.source);
    expect(new Set(sources).size).toBe(2);
    expect(read(text).lines.map((line) => line.source)).toEqual(sources);
  });

  it('keeps the same purchase of two months apart, whatever the reference column says', () => {
    const rent = (day: string) => `Date,Payee,Reference,Amount\n${day},Studio rent,LEASE-7,-640.00\n`;
    const source = (day: string) => read(rent(day)).lines[0]!.source;
    expect(source('2026-11-01')).not.toBe(source('2026-12-01'));
    expect(source('2026-11-01')).toBe(source('2026-11-01'));
  });

  it('names rows that cannot be read', () => {
    expect(read('Date,Payee,Amount\n2026-13-12,Cafe,-3\n2026-11-12,Cafe,three\n').faults).toEqual([
      { row: 2, message: 'row 2: “2026-13-12” is not a day.' },
      { row: 3, message: 'row 3: “three” is not an amount in GBP.' },
    ]);
  });
});

describe('an answer of the bookkeeping service', () => {
  const transaction = (more = {}) => ({
    id: 'T1',
    revision: 1,
    date: '2026-11-12',
    payee: 'Saltmere Hardware',
    narrative: 'CARD',
    amount: '12.50',
    currency: 'GBP',
    withdrawn: false,
    ...more,
  });
  const answer = (transactions: unknown) => ({ transactions, cursor: 'c', more: false });

  it('gives each transaction once, as it was last told', () => {
    const { lines } = readLedgerPage(
      answer([transaction(), transaction({ revision: 2, amount: '13' }), transaction()]),
    );
    expect(lines.map((line) => [line.source, line.amount])).toEqual([['ledger:T1', 1300]]);
  });

  it('is refused whole with its place where something in it cannot be read', () => {
    expect(() => readLedgerPage(answer('none'))).toThrow(fault('unreadable'));
    expect(() => readLedgerPage(answer([transaction({ amount: 'n/a' })]))).toThrow(
      'transaction T1: “n/a” is not an amount',
    );
    expect(() => readLedgerPage(answer([transaction({ date: '12 Nov' })]))).toThrow(fault('not-a-day'));
    expect(() => readLedgerPage(null)).toThrow(fault('unreadable'));
  });
});
