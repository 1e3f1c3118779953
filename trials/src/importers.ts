import { readBook, Pricer } from '@half-penny/core/billing';
import { TrailArrays, whyUnsound, type Activity } from '@half-penny/core/capture';
import { MemoryExecutor, type CommandInput, type CommandName } from '@half-penny/core/commands';
import { MemoryStore } from '@half-penny/core/engine';
import { Fault } from '@half-penny/core/model';
import { definitionSchema } from '@half-penny/core/reports';
import { setUp, TestContext, work, ZONE, type Studio } from '@half-penny/core/testing';
import { guessCallMapping, mapCalls, readActivityLines, readMail } from '@half-penny/formats/activity';
import { readCalendar } from '@half-penny/formats/calendar';
import { readContacts } from '@half-penny/formats/contacts';
import { readReferenceRates } from '@half-penny/formats/exchange';
import { guessMapping, hoursLines, mapHours, readTable, TableError, writeXlsx } from '@half-penny/formats/hours';
import { guessLedgerMapping, mapLedger, readCamt053, readLedgerPage, readOfx } from '@half-penny/formats/ledger';
import { readReport, writeReport } from '@half-penny/formats/reports';
import { guessWorkMapping, mapWork } from '@half-penny/formats/work';
import { readWorkspace, WorkspaceFileError, writeWorkspace } from '@half-penny/formats/workspace';
import { plainDefinition, type Definition } from '@half-penny/core/reports';
import { readJson } from '@half-penny/core/model';

/** What became of one file: what was said of it, and what was taken in. */
export interface Outcome {
  /** Rows, events or records that were taken. */
  taken: number;
  /** What a person would have been told. */
  said: readonly string[];
}

/** One importer as a person meets it: files that are sound, words of its format, and reading one. */
export interface Importer {
  corpus: readonly Uint8Array[];
  words: readonly string[];
  /** @throws what a person would be told, or what ought never to be thrown */
  read(bytes: Uint8Array): Promise<Outcome>;
}

/** Something was taken in that no command and no schema would have taken. */
export class Garbage extends Error {
  override name = 'Garbage';
}

const encoder = new TextEncoder();
const bytesOf = (...texts: readonly string[]): Uint8Array[] => texts.map((text) => encoder.encode(text));
const textOf = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
const blobOf = (bytes: Uint8Array): Blob => new Blob([bytes as Uint8Array<ArrayBuffer>]);

/** A small studio that rows are taken into, made again now and then so that it stays small. */
class Taking {
  #uses = 0;
  #made: { executor: MemoryExecutor; store: MemoryStore; at: Studio; pricer: Pricer; test: TestContext } | null = null;

  async here() {
    if (!this.#made || this.#uses++ % 200 === 0) {
      const test = new TestContext();
      const store = new MemoryStore();
      const executor = new MemoryExecutor(store, test.context);
      const at = await setUp(executor, test);
      await executor.run('entry.add', work(at.rig, 3600));
      this.#made = { executor, store, at, test, pricer: new Pricer(await readBook(store)) };
    }
    return this.#made;
  }

  /** Runs the command that the screen would; what it refuses it says in words. */
  async run<N extends CommandName>(name: N, input: CommandInput<N>): Promise<string[]> {
    const { executor } = await this.here();
    try {
      await executor.run(name, input);
      return [];
    } catch (thrown) {
      if (thrown instanceof Fault) return [thrown.message];
      throw thrown;
    }
  }
}

const taking = new Taking();

const sound = (activities: readonly Activity[]): number => {
  for (const activity of activities) {
    const why = whyUnsound(activity);
    if (why !== null) throw new Garbage(`${why} ${JSON.stringify(activity).slice(0, 300)}`);
  }
  return activities.length;
};

const said = (faults: readonly { message: string }[]): string[] => faults.map(({ message }) => message);

const hoursText = `Date,Start,End,Duration,Client,Project,Task,Service,Note,Billable,Person
2026-11-12,09:00,10:30,1:30,Fernhollow Museum,Gallery,Rigging,Design,"Cue, sheet",yes,Robin Vale
12/11/2026,,,45m,Fernhollow Museum,Gallery,,,Call,no,
2026-11-11,22:00,01:00,3:00,Marsh Opera,Rig,,,"Late
night",yes,Robin Vale
`;
const ics = `BEGIN:VCALENDAR\r
VERSION:2.0\r
BEGIN:VTIMEZONE\r
TZID:Europe/London\r
BEGIN:STANDARD\r
DTSTART:19961027T020000\r
TZOFFSETFROM:+0100\r
TZOFFSETTO:+0000\r
RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU\r
END:STANDARD\r
END:VTIMEZONE\r
BEGIN:VEVENT\r
UID:one@example.test\r
DTSTART;TZID=Europe/London:20261112T090000\r
DURATION:PT1H30M\r
RRULE:FREQ=WEEKLY;COUNT=5;BYDAY=MO,TH\r
EXDATE;TZID=Europe/London:20261119T090000\r
SUMMARY;LANGUAGE=en:Stage plot\\, act one\r
ATTENDEE;CN="Vale, Robin":mailto:robin@example.test\r
END:VEVENT\r
BEGIN:VEVENT\r
UID:two@example.test\r
DTSTART;VALUE=DATE:20261110\r
DTEND;VALUE=DATE:20261112\r
SUMMARY:Get-in\r
END:VEVENT\r
END:VCALENDAR\r
`;
const vcf = `BEGIN:VCARD
VERSION:4.0
FN:Ada Marsh
N:Marsh;Ada;;;
ORG:Marsh Opera
TITLE:Producer
EMAIL;TYPE=work:ada@example.test
TEL;VALUE=uri:tel:+44-20-7946-0000
END:VCARD
BEGIN:VCARD
VERSION:3.0
FN:Box
 Office
EMAIL:box@example.test
END:VCARD
`;
const ofx = `<?xml version="1.0" encoding="UTF-8"?>
<?OFX OFXHEADER="200" VERSION="220"?>
<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>GBP</CURDEF><BANKACCTFROM><ACCTID>12345678</ACCTID></BANKACCTFROM>
<BANKTRANLIST><STMTTRN><TRNTYPE>DEBIT</TRNTYPE><DTPOSTED>20261110120000</DTPOSTED><TRNAMT>-123.45</TRNAMT><FITID>a1</FITID><NAME>Lamp hire</NAME><MEMO>Gels &amp; lamps</MEMO></STMTTRN>
<STMTTRN><TRNTYPE>CREDIT</TRNTYPE><DTPOSTED>20261111</DTPOSTED><TRNAMT>10.00</TRNAMT><FITID>a2</FITID><NAME>Refund</NAME></STMTTRN></BANKTRANLIST></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>`;
const camt = `<?xml version="1.0"?><Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><BkToCstmrStmt><Stmt><Id>s1</Id><Acct><Id><IBAN>GB33BUKB20201555555555</IBAN></Id><Ccy>GBP</Ccy></Acct>
<Ntry><NtryRef>1</NtryRef><Amt Ccy="GBP">120.00</Amt><CdtDbtInd>DBIT</CdtDbtInd><Sts><Cd>BOOK</Cd></Sts><BookgDt><Dt>2026-11-10</Dt></BookgDt><AcctSvcrRef>r1</AcctSvcrRef><NtryDtls><TxDtls><RltdPties><Cdtr><Pty><Nm>Lamp hire</Nm></Pty></Cdtr></RltdPties><RmtInf><Ustrd>Invoice 7</Ustrd></RmtInf></TxDtls></NtryDtls></Ntry></Stmt></BkToCstmrStmt></Document>`;
const statementText = `Date;Payee;Description;Amount;Currency;Reference
2026-11-10;Lamp hire;Gels;-123,45;GBP;a1
11.11.2026;Refund;;10,00;GBP;a2
`;
const callsText = `Date,Time,Duration,Number,Name
2026-11-12,09:12,0:12:30,+44 20 7946 0000,Ada Marsh
12/11/2026,17:40,95,02079460001,
`;
const mail = `From robin@example.test Thu Nov 12 09:00:00 2026
From: Robin Vale <robin@example.test>
To: "Marsh, Ada" <ada@example.test>
Date: Thu, 12 Nov 2026 09:00:00 +0000
Subject: =?utf-8?B?Q3VlIHNoZWV0?=
Message-ID: <one@example.test>

Hello

From ada@example.test Thu Nov 12 10:00:00 2026
From: ada@example.test
To: robin@example.test
Date: Thu, 12 Nov 2026 10:00:00 GMT
Subject: Re: Cue sheet

Thanks
`;
const linesText = `{"from":1794474000000,"to":1794474060000,"kind":"window","program":"Plotting desk","title":"act one.lgp"}
{"from":"2026-11-12T09:02:00Z","to":"2026-11-12T09:03:00Z","kind":"call","title":"Ada","people":["ada@example.test"]}
{"from":1794474120000,"to":1794474180000,"hands":30000,"kind":"file","file":"/work/quayside/plot.lgp","title":"plot.lgp"}
`;
const workText = `Client,Project,Task,Service,Number,Budget
Fernhollow Museum,Spring double bill › Extras,Rigging,Design,7,40
Marsh Opera,Rig,,,,
`;
const ratesText = `Date, USD, GBP, CHF,\n12 November 2026, 1.0812, 0.8421, 0.9312,\n11 November 2026, 1.0800, N/A, 0.9300,\n`;
const ledgerJson = JSON.stringify({
  transactions: [
    {
      id: 'T000000001',
      revision: 1,
      date: '2026-11-10',
      payee: 'Lamp hire',
      narrative: 'Gels',
      amount: '123.45',
      currency: 'GBP',
      withdrawn: false,
    },
  ],
  cursor: '20261110120000-T1-1',
  more: false,
});

async function workspaceFiles(): Promise<Uint8Array[]> {
  const { store } = await taking.here();
  const pieces: Uint8Array[] = [];
  await writeWorkspace({ rows: (table) => [store.rows(table)], journal: () => [store.journal] }, (piece) =>
    pieces.push(piece),
  );
  return [new Uint8Array(await new Blob(pieces as Uint8Array<ArrayBuffer>[]).arrayBuffer())];
}

async function readHours(bytes: Uint8Array): Promise<Outcome> {
  const { pricer, at, test } = await taking.here();
  const table = await readTable(blobOf(bytes));
  const { members, clients, projects, tasks, services } = pricer.book;
  const book = { members, clients, projects, tasks, services, memberId: at.member };
  const reading = mapHours(table, guessMapping(table), book, test.newId);
  const rows = reading.rows.map((row) => row.hours);
  const refused =
    rows.length > 0 ? await taking.run('hours.import', { rows, services: reading.services, mapping: null }) : [];
  return { taken: refused.length > 0 ? 0 : rows.length, said: [...said(reading.faults), ...refused] };
}

/** Every importer, by the ending or the name that a person knows it by. */
export async function importers(): Promise<Record<string, Importer>> {
  const { pricer, store } = await taking.here();
  const xlsx = await writeXlsx(hoursLines(pricer, store.rows('entries')));
  const ledger = (lines: CommandInput<'ledger.take'>['lines']) =>
    lines.length > 0 ? taking.run('ledger.take', { lines }) : Promise.resolve([]);
  return {
    csv: {
      corpus: bytesOf(hoursText, hoursText.replaceAll(',', '\t')),
      words: hoursText.split(/[,\n]/),
      read: readHours,
    },
    xlsx: {
      corpus: [new Uint8Array(await xlsx.arrayBuffer())],
      words: ['PK\u0003\u0004', '<c r="A1">', '<v>', 't="s"', 'r="XFD9"'],
      read: readHours,
    },
    ics: {
      corpus: bytesOf(ics),
      words: [
        ...ics.split(/[\r\n;:=]+/),
        'RRULE:FREQ=SECONDLY',
        'UNTIL=20991231',
        'INTERVAL=0',
        'COUNT=0',
        'P1000000D',
      ],
      async read(bytes) {
        const { events, faults } = await readCalendar(textOf(bytes), {
          from: '2026-11-01',
          to: '2026-12-31',
          zone: ZONE,
        });
        for (const { day, start, seconds } of events) {
          if (day < '2026-11-01' || day > '2026-12-31') throw new Garbage(`An event on ${day}.`);
          if (seconds !== null && !(Number.isInteger(seconds) && seconds >= 0 && seconds <= 31 * 86_400))
            throw new Garbage(`An event of ${seconds} seconds.`);
          if (start !== null && !Number.isSafeInteger(start)) throw new Garbage(`An event at ${start}.`);
        }
        return { taken: events.length, said: said(faults) };
      },
    },
    vcf: {
      corpus: bytesOf(vcf),
      words: vcf.split(/[\n;:=]+/),
      async read(bytes) {
        const { at } = await taking.here();
        const contacts = readContacts(textOf(bytes));
        const client = (await taking.here()).pricer.project.get(at.gallery)!.clientId!;
        const refused = await taking.run('contact.take', { clientId: client, contacts });
        return { taken: refused.length > 0 ? 0 : contacts.length, said: refused };
      },
    },
    ofx: {
      corpus: bytesOf(ofx),
      words: [...ofx.split(/(?=<)/), '<![CDATA[', '<!DOCTYPE a [<!ENTITY b "c">]>', '&b;', '&#xFFFFFF;'],
      async read(bytes) {
        const { lines } = readOfx(bytes, 'a.ofx', { incoming: true });
        const refused = await ledger(lines);
        return { taken: refused.length > 0 ? 0 : lines.length, said: refused };
      },
    },
    camt: {
      corpus: bytesOf(camt),
      words: [...camt.split(/(?=<)/), '<![CDATA[', '<!DOCTYPE a [<!ENTITY b "c">]>', '&b;'],
      async read(bytes) {
        const { lines } = readCamt053(bytes, 'a.xml', { incoming: true });
        const refused = await ledger(lines);
        return { taken: refused.length > 0 ? 0 : lines.length, said: refused };
      },
    },
    statement: {
      corpus: bytesOf(statementText),
      words: statementText.split(/[;\n]/),
      async read(bytes) {
        const table = await readTable(blobOf(bytes));
        const { lines, faults } = mapLedger(table, guessLedgerMapping(table, 'GBP'), { incoming: true });
        const refused = faults.length === 0 ? await ledger(lines) : [];
        return { taken: refused.length + faults.length > 0 ? 0 : lines.length, said: [...said(faults), ...refused] };
      },
    },
    calls: {
      corpus: bytesOf(callsText),
      words: callsText.split(/[,\n]/),
      async read(bytes) {
        const table = await readTable(blobOf(bytes));
        const { activities, faults } = mapCalls(table, guessCallMapping(table), ZONE);
        return { taken: sound(activities), said: said(faults) };
      },
    },
    mail: {
      corpus: bytesOf(mail),
      words: [...mail.split(/\n/), '=?utf-8?Q?=FF?=', '(((((', 'From '],
      async read(bytes) {
        const { activities, faults } = await readMail(textOf(bytes), ['robin@example.test']);
        return { taken: sound(activities), said: said(faults) };
      },
    },
    jsonl: {
      corpus: bytesOf(linesText),
      words: linesText.split(/(?=[,{}":])/),
      async read(bytes) {
        const columns = new TrailArrays();
        async function* pieces() {
          for (let from = 0; from < bytes.length; from += 97) yield bytes.subarray(from, from + 97);
        }
        const { taken, faults } = await readActivityLines(pieces(), columns);
        for (let place = 0; place < columns.length; place++) {
          const [from, to] = [columns.from[place]!, columns.to[place]!];
          if (!(from >= Date.parse('2000-01-01') && to < Date.parse('2200-01-01') && to >= from))
            throw new Garbage(`An activity from ${from} to ${to}.`);
        }
        return { taken, said: said(faults) };
      },
    },
    work: {
      corpus: bytesOf(workText),
      words: workText.split(/[,\n]/),
      async read(bytes) {
        const { pricer, test } = await taking.here();
        const table = await readTable(blobOf(bytes));
        const { clients, projects, tasks, services, stages } = pricer.book;
        const book = { clients, projects, tasks, services, stages, currency: 'GBP', taxId: null };
        const { faults, known, ...lists } = mapWork(table, guessWorkMapping(table), book, test.newId);
        const refused = faults.length === 0 ? await taking.run('work.import', lists) : [];
        return { taken: refused.length > 0 ? 0 : known + lists.projects.length, said: [...said(faults), ...refused] };
      },
    },
    rates: {
      corpus: bytesOf(ratesText),
      words: ratesText.split(/[,\n]/),
      async read(bytes) {
        const rows = readReferenceRates(bytes, 'rates.csv', new Set(['GBP', 'USD', 'EUR']));
        const refused = await taking.run('exchange.take', { rows });
        return { taken: refused.length > 0 ? 0 : rows.length, said: refused };
      },
    },
    ledger: {
      corpus: bytesOf(ledgerJson),
      words: ledgerJson.split(/(?=[,{}":])/),
      async read(bytes) {
        const { lines } = readLedgerPage(readJson(textOf(bytes)));
        const refused = await ledger(lines);
        return { taken: refused.length > 0 ? 0 : lines.length, said: refused };
      },
    },
    report: {
      corpus: bytesOf(
        writeReport('Hours', 'By client', plainDefinition),
        writeReport('Worth', '', { ...plainDefinition, rows: ['member', 'month'], measures: ['worth'] } as Definition),
      ),
      words: [
        '"client"',
        '"worth"',
        '"rows"',
        '"filters"',
        '{"field":"client","values":[]}',
        '"version":1',
        '"kind"',
        '"toString"',
      ],
      read(bytes) {
        const { definition, left } = readReport(textOf(bytes));
        const parsed = definitionSchema.safeParse(definition);
        if (!parsed.success) throw new Garbage(`A report that is none: ${JSON.stringify(definition).slice(0, 300)}`);
        return Promise.resolve({ taken: 1, said: left });
      },
    },
    workspace: {
      corpus: await workspaceFiles(),
      words: ['PK\u0003\u0004', 'PK\u0001\u0002', 'manifest.json', 'tables/entries.jsonl', '../../etc/passwd'],
      async read(bytes) {
        const { rows } = await readWorkspace(blobOf(bytes));
        return { taken: Object.values(rows).reduce((sum, list) => sum + list.length, 0), said: [] };
      },
    },
  };
}

/** What is thrown for people to read, with all that it says. */
export function saidBy(thrown: unknown): string[] | null {
  if (thrown instanceof WorkspaceFileError) return thrown.faults.map(({ message }) => message);
  if (thrown instanceof TableError) return thrown.faults.map(({ message }) => message);
  return thrown instanceof Fault ? [thrown.message] : null;
}
