import { describe, expect, it } from 'vitest';
import { showZoned } from './testing';
import { readCalendar, writeCalendar } from '.';

const ZONE = 'Europe/London';
const calendar = (...events: string[]) =>
  `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Saltmere Lighting//EN\r\n${events.join('')}END:VCALENDAR\r\n`;
const event = (...lines: string[]) =>
  `BEGIN:VEVENT\r\nUID:show@quayside-playhouse.example\r\nDTSTAMP:19970101T000000Z\r\n${lines.join('\r\n')}\r\nEND:VEVENT\r\n`;
const range = { from: '1996-01-01', to: '2005-12-31', zone: ZONE };

describe('series', () => {
  // RFC 5545 section 3.8.5.3; rules and dates from memory.
  it.each([
    [
      'daily for 10 occurrences',
      '19970902',
      'FREQ=DAILY;COUNT=10',
      '1997-09-02 1997-09-03 1997-09-04 1997-09-05 1997-09-06 1997-09-07 1997-09-08 1997-09-09 1997-09-10 1997-09-11',
    ],
    [
      'every 10 days, 5 occurrences',
      '19970902',
      'FREQ=DAILY;INTERVAL=10;COUNT=5',
      '1997-09-02 1997-09-12 1997-09-22 1997-10-02 1997-10-12',
    ],
    [
      'weekly on Tuesday and Thursday for five weeks',
      '19970902',
      'FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH',
      '1997-09-02 1997-09-04 1997-09-09 1997-09-11 1997-09-16 1997-09-18 1997-09-23 1997-09-25 1997-09-30 1997-10-02',
    ],
    [
      'monthly on the first Friday',
      '19970905',
      'FREQ=MONTHLY;COUNT=10;BYDAY=1FR',
      '1997-09-05 1997-10-03 1997-11-07 1997-12-05 1998-01-02 1998-02-06 1998-03-06 1998-04-03 1998-05-01 1998-06-05',
    ],
    [
      'monthly on the third-to-last day',
      '19970928',
      'FREQ=MONTHLY;BYMONTHDAY=-3;COUNT=6',
      '1997-09-28 1997-10-29 1997-11-28 1997-12-29 1998-01-29 1998-02-26',
    ],
    [
      'every fourth year, the first Tuesday after a Monday in November',
      '19961105',
      'FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8;COUNT=3',
      '1996-11-05 2000-11-07 2004-11-02',
    ],
    [
      'every other week, weeks from Monday',
      '19970805',
      'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO',
      '1997-08-05 1997-08-10 1997-08-19 1997-08-24',
    ],
    [
      'every other week, weeks from Sunday',
      '19970805',
      'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU',
      '1997-08-05 1997-08-17 1997-08-19 1997-08-31',
    ],
    [
      'every Friday the 13th',
      '19980213',
      'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13;COUNT=5',
      '1998-02-13 1998-03-13 1998-11-13 1999-08-13 2000-10-13',
    ],
  ])('%s', async (_what, start, rule, days) => {
    const text = calendar(event(`DTSTART;TZID=America/New_York:${start}T090000`, 'DURATION:PT1H', `RRULE:${rule}`));
    const { events, faults } = await readCalendar(text, { ...range, zone: 'America/New_York' });
    expect(faults).toEqual([]);
    expect(events.map((each) => each.day).join(' ')).toBe(days);
    // Nine in New York, in summer and in winter.
    for (const each of events) expect(showZoned(each.start!, 'America/New_York')).toBe(`${each.day} 09:00`);
  });

  it('that cannot be followed are named, and not followed wrongly', async () => {
    const text = calendar(event('DTSTART:19970519T090000', 'DURATION:PT1H', 'RRULE:FREQ=YEARLY;BYDAY=20MO'));
    const { events, faults } = await readCalendar(text, range);
    expect(events.map((each) => each.day)).toEqual(['1997-05-19']);
    expect(faults[0]!.message).toContain('cannot be followed');
  });

  it('leave out what was called off, and move what was moved', async () => {
    const text = calendar(
      event(
        'DTSTART;TZID=Europe/London:20261102T100000',
        'DTEND;TZID=Europe/London:20261102T110000',
        'RRULE:FREQ=DAILY;COUNT=5',
        'EXDATE;TZID=Europe/London:20261103T100000',
        'SUMMARY:Notes session',
      ),
      event(
        'RECURRENCE-ID;TZID=Europe/London:20261104T100000',
        'DTSTART;TZID=Europe/London:20261104T143000',
        'DTEND;TZID=Europe/London:20261104T150000',
        'SUMMARY:Notes session\\, moved',
      ),
      event(
        'RECURRENCE-ID;TZID=Europe/London:20261105T100000',
        'DTSTART;TZID=Europe/London:20261105T100000',
        'DTEND;TZID=Europe/London:20261105T110000',
        'STATUS:CANCELLED',
        'SUMMARY:Notes session',
      ),
    );
    const { events } = await readCalendar(text, { from: '2026-11-01', to: '2026-11-30', zone: ZONE });
    expect(events.map((each) => [showZoned(each.start!, ZONE), each.seconds, each.title])).toEqual([
      ['2026-11-02 10:00', 3600, 'Notes session'],
      ['2026-11-04 14:30', 1800, 'Notes session, moved'],
      ['2026-11-06 10:00', 3600, 'Notes session'],
    ]);
    expect(new Set(events.map((each) => each.source)).size).toBe(3);
  });
});

describe('zones', () => {
  it('are those of IANA by name, those of the file by its own rules, and the reader’s where there is none', async () => {
    const zone =
      'BEGIN:VTIMEZONE\r\nTZID:Studio time\r\nBEGIN:STANDARD\r\nDTSTART:19700101T000000\r\nTZOFFSETFROM:+0300\r\nTZOFFSETTO:+0300\r\nEND:STANDARD\r\nEND:VTIMEZONE\r\n';
    const at = (line: string, uid: string) => event(line, 'DURATION:PT30M').replace('show@', `${uid}@`);
    const text = calendar(
      zone,
      at('DTSTART;TZID=Asia/Tokyo:20261112T180000', 'a'),
      at('DTSTART;TZID=Studio time:20261112T130000', 'b'),
      at('DTSTART:20261112T110000', 'c'),
      at('DTSTART:20261112T120000Z', 'd'),
    );
    const { events } = await readCalendar(text, { from: '2026-11-12', to: '2026-11-12', zone: ZONE });
    expect(events.map((each) => showZoned(each.start!, ZONE))).toEqual([
      '2026-11-12 09:00',
      '2026-11-12 10:00',
      '2026-11-12 11:00',
      '2026-11-12 12:00',
    ]);
  });

  it('leave whole days on their days, one for each', async () => {
    const text = calendar(
      event(
        'DTSTART;VALUE=DATE:20261112',
        'DTEND;VALUE=DATE:20261115',
        'SUMMARY:Fit-up',
        'ATTENDEE;CN="Stage door":mailto:door@quayside-playhouse.example',
      ),
    );
    const { events } = await readCalendar(text, { from: '2026-11-13', to: '2026-12-01', zone: ZONE });
    expect(events.map((each) => [each.day, each.start, each.guests])).toEqual([
      ['2026-11-13', null, ['Stage door <door@quayside-playhouse.example>']],
      ['2026-11-14', null, ['Stage door <door@quayside-playhouse.example>']],
    ]);
  });
});

describe('what cannot be read', () => {
  it('is named with line and column; the rest is read', async () => {
    const text = calendar(
      event('DTSTART:20261112T110000', 'DURATION:PT1H'),
      event('DTSTART:20261112T110000', 'what is this').replace('show@', 'x@'),
      event('SUMMARY:When?').replace('show@', 'y@'),
    );
    const { events, faults } = await readCalendar(text, { from: '2026-11-12', to: '2026-11-12', zone: ZONE });
    expect(events).toHaveLength(1);
    expect(faults.map((fault) => [fault.line, fault.column])).toEqual([
      [14, 5],
      [16, 1],
    ]);
  });

  it('is a file that is no calendar, or that is cut off', async () => {
    const nothing = await readCalendar('{"a":1}', range);
    expect(nothing.faults[0]).toMatchObject({ line: 1, column: 1, message: /not a calendar/ });
    const cut = await readCalendar(calendar(event('DTSTART:20261112T110000')).slice(0, 120), range);
    expect(cut.faults[0]!.message).toContain('cut off');
  });

  it('shows how far it is with a long file', async () => {
    const many = Array.from({ length: 3000 }, (_, index) =>
      event('DTSTART:20261112T110000', 'DURATION:PT1H').replace('show@', `${index}@`),
    );
    const shares: number[] = [];
    const { found } = await readCalendar(calendar(...many), {
      from: '2026-11-12',
      to: '2026-11-12',
      zone: ZONE,
      onProgress: (share) => shares.push(share),
    });
    expect(found).toBe(3000);
    expect(shares.length).toBeGreaterThan(5);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
  });
});

it('reads what it wrote', async () => {
  const start = Date.UTC(2026, 10, 12, 9, 30);
  const line = {
    id: 'one',
    day: '2026-11-12',
    from: '',
    to: '',
    length: '1:00:00',
    seconds: 3600,
    billableSeconds: 3600,
    member: 'Imogen Vale',
    client: 'Quayside Playhouse',
    project: 'Winter season rig',
    jobNumber: '',
    unlisted: '',
    task: '',
    service: '',
    note: 'Plot; sheet 4, “bar 6”\nsecond line',
    tags: '',
    amount: null,
    minorPerMajor: 1,
    currency: '',
  };
  const text = writeCalendar(
    [
      { ...line, spans: [{ start, end: start + 3_600_000 }] },
      { ...line, id: 'two', spans: [] },
    ],
    start,
  );
  // No line is longer than 75 octets (RFC 5545, 3.1), signs of several octets included, and no carriage return stands alone.
  const long = writeCalendar([{ ...line, note: `${'Bühne 🎭 '.repeat(60)}\rnext`, spans: [] }], start);
  for (const each of long.split('\r\n')) {
    expect(new TextEncoder().encode(each).length).toBeLessThanOrEqual(75);
    expect(each).not.toContain('\r');
  }
  const { events, faults } = await readCalendar(text, { from: '2026-11-12', to: '2026-11-12', zone: ZONE });
  expect(faults).toEqual([]);
  expect(events.map((each) => [each.title, each.start, each.seconds])).toEqual([
    [line.note, null, null],
    [line.note, start, 3600],
  ]);
});

describe('a file that would never be read to its end', () => {
  const calendar = (...lines: string[]) =>
    ['BEGIN:VCALENDAR', 'BEGIN:VEVENT', 'UID:1', ...lines, 'END:VEVENT', 'END:VCALENDAR'].join('\r\n');
  const read = (text: string) => readCalendar(text, { from: '2026-11-01', to: '2026-11-30', zone: 'Europe/London' });
  const messages = async (text: string) => (await read(text)).faults.map((each) => each.message);

  it('is told where its quotation marks go on and on', async () => {
    const [message] = await messages(calendar('DTSTART:20261112T090000Z', `X;${'"'.repeat(40_001)}`));
    expect(message).toMatch(/^“X;"+” is not a line of a calendar: it does not follow the form of a calendar/);
    // Within quotes a colon ends nothing, and beside them it does.
    const named = calendar(
      'DTSTART:20261112T090000Z',
      'DTEND:20261112T100000Z',
      'ATTENDEE;CN="Vale: Imogen":mailto:a@b.example',
    );
    expect((await read(named)).events).toHaveLength(1);
  });

  it('is not followed second by second', async () => {
    const text = calendar('DTSTART:19700101T000000Z', 'DTEND:19700101T000001Z', 'RRULE:FREQ=SECONDLY');
    expect(await messages(text)).toEqual([
      expect.stringContaining('cannot be followed; its first occurrence is taken'),
    ]);
    const hourly = calendar('DTSTART:19700101T000000Z', 'DTEND:19700101T000001Z', 'RRULE:FREQ=HOURLY');
    expect(await messages(hourly)).toEqual(['This series is longer than can be followed; export fewer years.']);
  });

  it('has no event beyond 31 days, and none is said in a library’s words', async () => {
    const long = calendar('SUMMARY:Tour', 'DTSTART:20261112T090000Z', 'DTEND:20261230T090000Z');
    expect(await messages(long)).toEqual(['“Tour” lasts longer than 31 days.']);
    const odd = await messages(calendar('DTSTART:20261112T090000Z', 'DURATION:soon'));
    expect(odd.join()).toMatch(/does not follow the form|not a line of a calendar|not a date/);
  });
});

describe('lengths and steps that would be counted off one by one', () => {
  const calendar = (...lines: readonly string[]) =>
    [
      'BEGIN:VCALENDAR',
      'BEGIN:VEVENT',
      'UID:a',
      'DTSTART:20261112T090000Z',
      ...lines,
      'END:VEVENT',
      'END:VCALENDAR',
    ].join('\r\n');
  const read = (...lines: readonly string[]) =>
    readCalendar(calendar(...lines), { from: '2026-11-01', to: '2026-11-30', zone: 'Europe/London' });

  it.each([
    [`DURATION:PT1H${'30'.repeat(100)}M`, 'A length in it is far beyond the 31 days'],
    ['DURATION:-P99999999W', 'A length in it is far beyond the 31 days'],
    ['RRULE:FREQ=DAILY;INTERVAL=99999999999', 'too far apart to be followed'],
    ['RRULE:FREQ=DAILY;INTER\r\n VAL=99999999999', 'too far apart to be followed'],
  ])('%s is refused at once, by name', async (line, message) => {
    const { events, faults } = await read(line);
    expect(events).toEqual([]);
    expect(faults.map((fault) => fault.message)).toEqual([expect.stringContaining(message)]);
  });

  it('are no hindrance where they are as usual', async () => {
    expect((await read('DURATION:P1DT2H')).events).toHaveLength(1);
    expect((await read('DURATION:PT1H', 'RRULE:FREQ=DAILY;INTERVAL=7;COUNT=3')).events).toHaveLength(3);
  });

  it('and thousands of rules on one event are not gone through at every step', async () => {
    const rules = Array.from({ length: 3000 }, () => 'RRULE:FREQ=WEEKLY;BYDAY=MO,TH');
    expect((await read('DURATION:PT1H', ...rules)).faults[0]!.message).toContain('more than 20 rules');
  });
});
