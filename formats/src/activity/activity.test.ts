import { TrailArrays, writeLine, type Activity } from '@half-penny/core/capture';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readCsv } from '../hours';
import { guessCallMapping, mapCalls, readActivityLines, readMail, readPhoneXml, writeActivityLines } from '.';
import { runs } from '@half-penny/core/testing';

const NINE = Date.parse('2026-11-12T09:00:00Z');
const zone = 'Europe/London';

async function* chunks(bytes: Uint8Array, size: number): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}

describe('JSON Lines of activity', () => {
  it('are read alike however the stream is cut, and what cannot be read is named by its line', async () => {
    const good = writeActivityLines([
      { kind: 'window', from: NINE, to: NINE + 1000, title: 'Plot “4” é' },
      { kind: 'kept', from: NINE, to: NINE, file: '/work/a.lgp' },
    ]);
    const bytes = new TextEncoder().encode(`${good}\r\n{"kind":"dream"}\n${good.trimEnd()}`);
    for (const size of [1, 7, 64, 10_000]) {
      const columns = new TrailArrays();
      const read = await readActivityLines(chunks(bytes, size), columns);
      expect([read.taken, read.refused, read.faults[0]!.line]).toEqual([4, 1, 4]);
      expect(columns.subjects.map((each) => each.title || each.file)).toEqual(['Plot “4” é', '/work/a.lgp']);
    }
  });

  it('are known again by their bytes just as by what they say, however they come and are written', async () => {
    const about = fc.record(
      {
        kind: fc.constantFrom('window', 'kept', 'away', 'mail'),
        program: fc.constantFrom('Plotting desk', 'Mail'),
        title: fc.oneof(
          fc.constantFrom('Plot', 'Plot sheet 4', 'Plot sheet 5', 'x'.repeat(1200), 'Grüße “é”'),
          fc.string({ maxLength: 12 }),
        ),
        file: fc.constantFrom('/work/2604/plot-4.lgp', '/work/2604/plot-5.lgp'),
        people: fc.uniqueArray(fc.constantFrom('maud@quayside-playhouse.example', 'door'), { maxLength: 2 }),
      },
      { requiredKeys: ['kind'] },
    );
    const activity = fc.record({
      about,
      length: fc.integer({ min: 0, max: 90_000 }),
      hands: fc.option(fc.integer({ min: 0, max: 9000 }), { nil: undefined }),
      writing: fc.constantFrom('ours', 'ours', 'ours', 'times last', 'times twice', 'spaced'),
      end: fc.constantFrom('\n', '\n', '\r\n'),
      again: fc.integer({ min: 1, max: 4 }),
    });
    await fc.assert(
      fc.asyncProperty(
        fc.array(activity, { minLength: 1, maxLength: 30 }),
        fc.integer({ min: 1, max: 700 }),
        async (list, size) => {
          const plain = new TrailArrays();
          let text = '';
          let from = NINE;
          for (const { about: said, length, hands, writing, end, again } of list) {
            for (let time = 0; time < again; time++) {
              const to = from + length;
              const times = { from, to, ...(hands === undefined ? {} : { hands }) };
              const own = { ...times, ...said } as Activity;
              plain.add(own);
              // Of a field that is there twice, JSON takes the second.
              const twice = JSON.stringify({ from: 1, to: 2, ...said }).replace(/\}$/, `,"from":${from},"to":${to}}`);
              text +=
                writing === 'times last'
                  ? JSON.stringify({ ...said, ...times })
                  : writing === 'times twice' && hands === undefined
                    ? twice.replace('"from":1,"to":2', `"from":${NINE},"to":${NINE + 5}`)
                    : writing === 'spaced'
                      ? JSON.stringify(own, null, 1).replaceAll('\n', ' ')
                      : writeLine(own);
              text += end;
              from = to;
            }
          }
          const columns = new TrailArrays();
          const read = await readActivityLines(chunks(new TextEncoder().encode(text), size), columns);
          expect([read.refused, read.taken]).toEqual([0, plain.length]);
          const said = (from: TrailArrays) =>
            Array.from({ length: from.length }, (_, at) => [
              from.from[at],
              from.to[at],
              from.hands[at],
              from.subjects[from.subject[at]!],
            ]);
          expect(said(columns)).toEqual(said(plain));
        },
      ),
      { numRuns: runs(150) },
    );
  });
});

// After the examples of RFC 5322, appendix A.1 and A.2 (from memory), with the studio's own people.
const mail = (subject: string, more = '') =>
  `From: Maud Ferrier <maud@quayside-playhouse.example>\r\nTo: "Imogen Vale" <imogen@saltmere-lighting.example>\r\n${more}Subject: ${subject}\r\nDate: Thu, 12 Nov 2026 09:55:06 +0000\r\nMessage-ID: <1234@local.example>\r\n\r\nFrom here on nobody reads.\r\nSecret: body\r\n`;

describe('mails', () => {
  it('tell when, who and what about, and nothing of their bodies', async () => {
    const { activities, faults } = await readMail(
      mail('=?utf-8?q?Follow-spot_hire_=C3=A9?=', 'Cc: stage@quayside-playhouse.example\r\n'),
      ['Imogen@saltmere-lighting.example'],
    );
    expect(faults).toEqual([]);
    const at = Date.parse('2026-11-12T09:55:06Z');
    expect(activities).toEqual([
      {
        kind: 'mail',
        from: at,
        to: at,
        title: 'Follow-spot hire é',
        people: ['maud@quayside-playhouse.example', 'stage@quayside-playhouse.example'],
      },
    ]);
    expect(JSON.stringify(activities)).not.toContain('Secret');
  });

  it('are many in a mailbox (RFC 4155), and one that cannot be read is named', async () => {
    const box = `From maud@quayside-playhouse.example Thu Nov 12 09:55:06 2026\r\n${mail('One')}\r\nFrom x@y.example Thu Nov 12 10:00:00 2026\r\nSubject: no date\r\n\r\nbody\r\n\r\nFrom maud@quayside-playhouse.example Thu Nov 12 11:00:00 2026\r\n${mail('Two').replace('09:55', '10:55')}`;
    const { activities, faults } = await readMail(box);
    // A line of a body that begins with "From " and is not marked begins another mail, as the format has it.
    expect(activities.map((each) => each.title)).toEqual(['One', 'Two']);
    expect(faults.some((each) => each.message.includes('no date'))).toBe(true);
    expect((await readMail('Dear diary')).faults[0]!.message).toContain('neither an e-mail nor a mailbox');
  });
});

describe('call lists', () => {
  it('of any carrier become calls', () => {
    const table = readCsv(
      'Date,Time,Duration,Number\n12/11/2026,09:00,0:05:30,+44 1632 960141\n13/11/2026,1:15 pm,90,01632 960163\n13/11/2026,14:00,0,x\n',
    );
    const mapping = guessCallMapping(table);
    expect(mapping.columns).toEqual({ day: 0, time: 1, length: 2, number: 3 });
    const { activities, faults, missed } = mapCalls(table, mapping, zone);
    expect([faults, missed]).toEqual([[], 1]);
    expect(activities).toEqual([
      { kind: 'call', from: NINE, to: NINE + 330_000, program: 'Telephone', people: ['+44 1632 960141'] },
      {
        kind: 'call',
        from: Date.parse('2026-11-13T13:15:00Z'),
        to: Date.parse('2026-11-13T13:16:30Z'),
        program: 'Telephone',
        people: ['01632 960163'],
      },
    ]);
  });

  it('name the rows that cannot be read, and take the others', () => {
    const table = readCsv('When,Minutes,To\n2026-11-12 09:00,2,1\n2026-13-12 09:00,2,1\n2026-11-12 09:30,soon,1\n');
    const { activities, faults } = mapCalls(table, guessCallMapping(table), zone);
    expect(activities.map((each) => each.to - each.from)).toEqual([120_000]);
    expect(faults.map((each) => each.message)).toEqual([
      'Row 3: “2026-13-12 09:00” is no day with a time.',
      'Row 4: “soon” is no length of a call.',
    ]);
    expect(mapCalls(table, { ...guessCallMapping(table), columns: {} }, zone).faults[0]!.message).toContain(
      'Say which columns',
    );
  });
});

describe('call lists of other languages and of telephones', () => {
  it.each([
    [
      'Datum;Uhrzeit;Rufnummer;Dauer;Richtung',
      '12.11.2026;09:00;01632960141;0:05:30;ausgehend',
      '12.11.2026;10:00;1;0:00:20;verpasst',
    ],
    ['Fecha;Hora;Número;Duración;Tipo', '12/11/2026;09:00;01632960141;330;saliente', '12/11/2026;10:00;1;20;perdida'],
    ['Jour;Heure;Numéro appelé;Durée;Sens', '12/11/2026;09:00;01632960141;330;sortant', '12/11/2026;10:00;1;20;manqué'],
    ['Data;Ora;Numero;Durata;Direzione', '12/11/2026;09:00;01632960141;330;uscita', '12/11/2026;10:00;1;20;persa'],
    [
      'Datum;Tijd;Telefoonnummer;Gespreksduur;Soort',
      '12-11-2026;09:00;01632960141;330;uit',
      '12-11-2026;10:00;1;20;gemist',
    ],
  ])('%s', (head, taken, missed) => {
    const table = readCsv([head, taken, missed].join('\n'));
    const read = mapCalls(table, guessCallMapping(table), zone);
    expect(read).toMatchObject({ faults: [], missed: 1 });
    expect(read.activities).toEqual([
      { kind: 'call', from: NINE, to: NINE + 330_000, program: 'Telephone', people: ['01632960141'] },
    ]);
  });

  it('in XML tell calls and messages, who with and when, and nothing of what was said', () => {
    const xml = `<?xml version='1.0' encoding='UTF-8'?><calls count="3">
      <call number="+441632960141" duration="330" date="${NINE}" type="2" contact_name="Maud" />
      <call number="1" duration="0" date="${NINE}" type="2" /><call number="1" duration="12" date="${NINE}" type="3" />
      <call number="" duration="60" date="12" type="1" contact_name="(Unknown)" /></calls>`;
    expect(readPhoneXml(xml)).toEqual({
      activities: [{ kind: 'call', from: NINE, to: NINE + 330_000, program: 'Telephone', people: ['+441632960141'] }],
      faults: [{ row: 4, message: 'Call 4: The clock is wrong: this is before 2000.' }],
      missed: 2,
    });
    const messages = `<smses count="1"><sms address="01632 960163" date="${NINE}" body="The secret word" contact_name="Asha" /></smses>`;
    const { activities } = readPhoneXml(messages);
    expect(activities).toEqual([
      { kind: 'message', from: NINE, to: NINE, program: 'Messages', people: ['01632 960163'] },
    ]);
    for (const [text, fault] of [
      ['<calls><call</calls>', 'stops being XML'],
      ['<others/>', 'neither calls nor messages'],
      ['<!DOCTYPE a><calls/>', 'document type'],
    ] as const)
      expect(() => readPhoneXml(text)).toThrow(fault);
  });
});

describe('times that cannot be true', () => {
  const callsOf = (text: string) => {
    const table = readCsv(text);
    return mapCalls(table, guessCallMapping(table), zone);
  };

  it('are refused by the row in a list of calls: a telephone number in the column of lengths among them', () => {
    const read = callsOf(
      'Date,Time,Duration,Number\n12/11/2026,09:00,01632960141,60\n12/11/2026,09:10,120,01632 960 140\n12/11/1926,09:10,120,1\n12/11/2326,09:10,120,1\n12/11/2026,09:10,180000,1\n',
    );
    expect(read.activities.map((each) => each.to - each.from)).toEqual([120_000]);
    expect(read.faults).toEqual([
      { row: 2, message: 'Row 2: A call of 453600 hours is none. Its length says “01632960141”.' },
      { row: 4, message: 'Row 4: The clock is wrong: this is before 2000. Its length says “120”.' },
      { row: 5, message: 'Row 5: The clock is wrong. Its length says “120”.' },
      { row: 6, message: 'Row 6: A call of 50 hours is none. Its length says “180000”.' },
    ]);
  });

  it('are refused by the number of the mail in a mailbox', async () => {
    const mail = (date: string) =>
      `From x\nDate: ${date}\nSubject: Plot\nFrom: maud@quayside-playhouse.example\n\nText\n`;
    const read = await readMail(
      [
        mail('Thu, 12 Nov 2026 09:00:00 +0000'),
        mail('Thu, 12 Nov 1998 09:00:00 +0000'),
        mail('Thu, 12 Nov 2398 09:00:00 +0000'),
      ].join('\n'),
    );
    expect(read.activities.map((each) => each.from)).toEqual([NINE]);
    expect(read.faults.map((each) => each.message)).toEqual([
      'Mail 2 has no date that can be read.',
      'Mail 3 has no date that can be read.',
    ]);
  });
});

it('a mailbox of nothing but beginnings is read in one go', async () => {
  const read = await readMail('From x\n'.repeat(50_000));
  expect(read.activities).toEqual([]);
  const mixed = await readMail(
    'From a\r\nDate: Thu, 12 Nov 2026 09:00:00 +0000\r\nSubject: One\r\n\r\n>From here\r\nFrom b\r\nDate: Thu, 12 Nov 2026 10:00:00 +0000\r\nSubject: Two\r\n\r\nx',
  );
  expect(mixed.activities.map((each) => each.title)).toEqual(['One', 'Two']);
});
