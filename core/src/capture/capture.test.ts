import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  activitySchema,
  attentionOf,
  captureDefaults,
  documentClocks,
  cleaned,
  documentTimes,
  formStretches,
  isToldIn,
  RuleBook,
  namesOf,
  noteFor,
  readLine,
  subjectOf,
  TrailArrays,
  writeLine,
  type Activity,
  type Placing,
} from '.';
import type { Contact } from '../model/records';
import { covered } from '../time';

const zone = 'Europe/London';
const NINE = Date.parse('2026-11-12T09:00:00Z');
const at = (minute: number) => NINE + minute * 60_000;
const window = (from: number, to: number, rest: Partial<Activity> = {}): Activity => ({
  kind: 'window',
  from: at(from),
  to: at(to),
  program: 'Plotting desk',
  title: 'Plot sheet 4',
  ...rest,
});
const columnsOf = (...activities: Activity[]): TrailArrays => {
  const columns = new TrailArrays();
  for (const each of activities) columns.add(each);
  return columns;
};
/** Takes a line as it would stand in a file. */
const take = (columns: TrailArrays, line: string): string | null => {
  const bytes = new TextEncoder().encode(line);
  return columns.addLine(bytes, 0, bytes.length, (each) => new TextDecoder().decode(each));
};
const form = (activities: Activity[], more: Partial<Parameters<typeof formStretches>[1]> = {}) =>
  formStretches(columnsOf(...activities), {
    settings: captureDefaults,
    zone,
    rules: new RuleBook([]),
    placings: [],
    ...more,
  });
const minutes = (list: readonly { start: number; end: number }[]) =>
  list.map(({ start, end }) => [(start - NINE) / 60_000, (end - NINE) / 60_000]);

describe('what had attention', () => {
  it('takes time away from its limit on, and not a moment before', () => {
    const limit = captureDefaults.awayAfter * 60_000;
    const awayOf = (length: number) =>
      attentionOf(columnsOf(window(0, 60), { kind: 'away', from: NINE, to: NINE + length }), captureDefaults).away;
    expect(awayOf(limit - 1)).toEqual([]);
    expect(awayOf(limit)).toEqual([{ start: NINE, end: NINE + limit }]);
  });

  it('joins repeats, and gives each moment to what came last', () => {
    const columns = columnsOf(
      window(0, 10),
      window(10, 20),
      window(12, 15, { title: 'Mail' }),
      window(20, 30, { title: 'Other' }),
    );
    const { pieces } = attentionOf(columns, captureDefaults);
    expect(pieces.map((each) => [columns.subjects[each.subject]!.title, ...minutes([each])[0]!])).toEqual([
      ['Plot sheet 4', 0, 12],
      ['Mail', 12, 15],
      ['Plot sheet 4', 15, 20],
      ['Other', 20, 30],
    ]);
  });

  it('is told by the browser which page it is, although the system names its window later and oftener', () => {
    const page = { program: 'Chromium', title: 'Gel swatches', address: 'https://gels.example/swatches' };
    const named = { program: 'Chromium', title: 'Gel swatches - Chromium' };
    const columns = columnsOf(
      window(0, 3, page),
      window(1, 2, named),
      window(2, 5, named),
      window(5, 6, { ...named, title: 'Other page - Chromium' }),
      window(5, 6, page),
    );
    const { pieces } = attentionOf(columns, captureDefaults);
    expect(pieces.map((each) => [columns.subjects[each.subject]!.address, ...minutes([each])[0]!])).toEqual([
      ['https://gels.example/swatches', 0, 3],
      ['', 3, 5],
      ['https://gels.example/swatches', 5, 6],
    ]);
  });

  it('stops while nobody is there, unless a call or meeting goes on', () => {
    const columns = columnsOf(
      window(0, 60),
      { kind: 'away', from: at(10), to: at(40) },
      { kind: 'away', from: at(50), to: at(53) },
      { kind: 'call', from: at(20), to: at(30), people: ['Asha Quill'] },
    );
    const { pieces, away } = attentionOf(columns, captureDefaults);
    expect(minutes(pieces)).toEqual([
      [0, 10],
      [20, 30],
      [40, 60],
    ]);
    expect(minutes(away)).toEqual([
      [10, 20],
      [30, 40],
    ]);
  });

  it('absorbs glances, and tells of a call what was in front meanwhile', () => {
    const glance = { from: at(5), to: at(5) + 4000, title: 'Clock' };
    const columns = columnsOf(
      { ...window(0, 5), title: 'A' },
      { ...window(0, 0), ...glance },
      { ...window(0, 0), from: at(5) + 4000, to: at(20), title: 'B' },
      { kind: 'call', from: at(10), to: at(15), people: ['x'] },
    );
    const { pieces } = attentionOf(columns, captureDefaults);
    expect(pieces.map((each) => columns.subjects[each.subject]!.title)).not.toContain('Clock');
    const call = pieces.find((each) => columns.subjects[each.subject]!.kind === 'call')!;
    expect(call.beside!.map((each) => columns.subjects[each]!.title)).toEqual(['B']);
  });

  const anyActivity = fc
    .record({
      kind: fc.constantFrom('window' as const, 'away' as const, 'call' as const, 'mail' as const, 'kept' as const),
      from: fc.integer({ min: 0, max: 3000 }),
      length: fc.integer({ min: 0, max: 200 }),
      title: fc.constantFrom('a', 'b', 'c', 'd'),
    })
    .map(({ kind, from, length, title }): Activity => ({ kind, from: at(from), to: at(from + length), title }));

  it('counts no moment twice and loses none, however activities overlap and in whatever order they come', () => {
    fc.assert(
      fc.property(fc.array(anyActivity, { maxLength: 40 }), (activities) => {
        const { pieces, away } = attentionOf(columnsOf(...activities), { ...captureDefaults, blip: 0 });
        for (let i = 1; i < pieces.length; i++) expect(pieces[i]!.start).toBeGreaterThanOrEqual(pieces[i - 1]!.end);
        const shown = activities.filter((each) => each.kind !== 'away' && each.kind !== 'call');
        const spans = (list: Activity[]) => list.map(({ from, to }) => ({ start: from, end: to }));
        const calls = covered(spans(activities.filter((each) => each.kind === 'call')));
        const gone = spans(
          activities.filter(
            (each) => each.kind === 'away' && each.to - each.from >= captureDefaults.awayAfter * 60_000,
          ),
        );
        const all = covered([...spans(shown), ...gone]);
        const seen = covered(pieces);
        // What was in front while somebody was there, and every call.
        const both = covered([...spans(shown), ...gone, ...spans(activities.filter((each) => each.kind === 'call'))]);
        expect(seen).toBeLessThanOrEqual(both);
        expect(seen).toBeGreaterThanOrEqual(Math.max(calls, all - covered(gone)));
        expect(covered([...pieces, ...away])).toBe(both);
      }),
    );
  });

  it('forms stretches that come to exactly what was seen', () => {
    fc.assert(
      fc.property(fc.array(anyActivity, { maxLength: 40 }), (activities) => {
        const columns = columnsOf(...activities);
        const { pieces } = attentionOf(columns, captureDefaults);
        const days = form(activities);
        const spans = days.flatMap((day) => day.stretches.flatMap((stretch) => stretch.spans));
        expect(covered(spans)).toBe(covered(pieces));
        expect(spans.reduce((sum, span) => sum + span.end - span.start, 0)).toBe(covered(pieces));
      }),
    );
  });
});

describe('stretches', () => {
  const plots = { file: '/work/quayside/plots/plot-4.lgp' };
  it('form by what belongs together, not by program', () => {
    const [day] = form([
      window(0, 20, plots),
      window(20, 30, { kind: 'mail', program: 'Post', title: 'Re: Lux study', people: ['x@museum.example'] }),
      window(30, 50, { program: 'Viewer', file: '/work/quayside/plots/plan.pdf' }),
      window(50, 60, { kind: 'mail', program: 'Post', title: 'Lux study' }),
    ]);
    expect(day!.stretches.map((each) => [each.evidence.length, minutes(each.spans)])).toEqual([
      [
        2,
        [
          [0, 20],
          [30, 50],
        ],
      ],
      [
        2,
        [
          [20, 30],
          [50, 60],
        ],
      ],
    ]);
  });

  it('end where the gap is too long; short ones go to what is around them', () => {
    const [day] = form([
      window(0, 20, plots),
      window(20, 21, { title: 'Weather', program: 'Browser', address: 'https://weather.example' }),
      window(21, 30, plots),
      window(60, 80, plots),
    ]);
    expect(day!.stretches.map((each) => minutes(each.spans))).toEqual([[[0, 30]], [[60, 80]]]);
    expect(day!.stretches[0]!.evidence.map((each) => each.subject.site)).toContain('weather.example');
  });

  it('take what the person held together, and keep its id', () => {
    const placing: Placing = {
      id: 'p1',
      day: '2026-11-12',
      spans: [{ start: at(10), end: at(25) }],
      outcome: null,
      note: '',
      billableSeconds: null,
      features: [],
      at: at(90),
    };
    const [day] = form([window(0, 20, plots), window(20, 40, { title: 'Other thing' })], { placings: [placing] });
    expect(day!.stretches.map((each) => [each.id === 'p1', minutes(each.spans)])).toEqual([
      [false, [[0, 10]]],
      [true, [[10, 25]]],
      [false, [[25, 40]]],
    ]);
  });

  it('are of the day in the person’s zone, the long and the short ones too', () => {
    const late = Date.parse('2026-10-24T22:30:00Z');
    const days = form([{ kind: 'window', title: 'x', from: late, to: late + 27 * 3_600_000 }]);
    expect(days.map((day) => [day.day, day.stretches.reduce((sum, each) => sum + each.seen, 0) / 3_600_000])).toEqual([
      ['2026-10-24', 0.5],
      ['2026-10-25', 25],
      ['2026-10-26', 1.5],
    ]);
  });

  it('count several devices of one person once where they overlap', () => {
    const [day] = form([window(0, 30), window(10, 20, { program: 'Tablet', title: 'Sketch' })]);
    expect(day!.stretches.reduce((sum, each) => sum + each.seen, 0)).toBe(30 * 60_000);
  });

  it('offer a sentence without window jargon', () => {
    const [day] = form([
      window(0, 20, { title: 'plot-sheet_4.lgp * - Plotting desk 3.1', file: '/work/quayside/plots/plot-sheet_4.lgp' }),
      { kind: 'call', from: at(20), to: at(30), people: ['+44 1632 960041'] },
    ]);
    const names = namesOf([{ name: 'Asha Quill', email: '', telephone: '01632 960 041' } as Contact], [], 'GB');
    expect(day!.stretches.map((each) => noteFor(each.evidence, names))).toEqual([
      'Plot sheet 4',
      'Call with Asha Quill',
    ]);
  });
});

describe('what a sentence says of what was seen', () => {
  const names = new Map([['stage@quayside.example', 'Maud Fern']]);
  it.each([
    ['the document by its name', 'Plot sheet 4; call with somebody', { file: '/work/plot-sheet_4.lgp' }, true],
    ['who took part', 'E-mail with Maud Fern', { kind: 'mail', people: ['stage@quayside.example'] }, true],
    ['what a mail is about', 'Follow-spot hire', { kind: 'mail', title: 'Re: Follow-spot hire' }, true],
    ['a page', 'Reading up: Lamp prices', { title: 'Lamp prices - Shop', address: 'https://shop.example' }, true],
    ['nothing of a page', 'Plot sheet 4', { title: 'Lamp prices - Shop', address: 'https://shop.example' }, false],
    ['nothing by chance', 'Act on it', { title: 'Act' }, false],
  ] as const)('is %s', (_, note, activity, told) => {
    expect(isToldIn(note, subjectOf({ kind: 'window', ...activity } as Activity), names)).toBe(told);
  });
});

describe('a sentence for the client', () => {
  const names = new Map([['stage@quayside.example', 'Maud Fern']]);
  const note = (activity: Partial<Activity>, sources?: Parameters<typeof noteFor>[2]) => {
    const subject = subjectOf({ kind: 'window', ...activity });
    return noteFor([{ subject, seen: 60_000, hands: -1, times: 1, first: NINE }], names, sources);
  };
  const mail: Partial<Activity> = {
    kind: 'mail',
    title: 'Re: Your overdraft',
    people: ['stage@quayside.example', 'me@saltmere.example'],
  };
  const page: Partial<Activity> = { title: 'Divorce law – Advice', address: 'https://advice.example/' };

  it('is made of documents and who took part; of titles only where the person chose so', () => {
    expect([note(mail, { titles: false, own: ['Me@saltmere.example'] }), note(page)]).toEqual([
      'E-mail with Maud Fern',
      '',
    ]);
    const chosen = { titles: true, own: ['me@saltmere.example'] };
    expect([note(mail, chosen), note(page, chosen)]).toEqual([
      'E-mail with Maud Fern about Your overdraft',
      'Reading up: Divorce law',
    ]);
    expect(note({ kind: 'meeting', title: 'Production meeting' })).toBe('Production meeting');
  });

  it('names the document that a window names before its program, and no page, folder or letter box', () => {
    const title = (program: string, shown: string) => note({ program, title: shown });
    expect(title('Writing pad', 'Orchid novel chapter 3 – Writing pad')).toBe('Orchid novel chapter 3');
    expect(title('writing-pad', 'plot-sheet_4.lgp - Writing-pad 7')).toBe('Plot sheet 4');
    for (const [program, shown] of [
      ['Chromium', 'Divorce law - Chromium'],
      ['Terminal', 'imogen@desk: ~/work - Terminal'],
      ['Post', 'Inbox – Post'],
      ['Writing pad', 'Untitled 1 – Writing pad'],
      ['Writing pad', 'Writing pad'],
      ['Writing pad', 'Something – Else'],
    ] as const)
      expect(title(program, shown)).toBe('');
  });
});

describe('document time', () => {
  const file = '/work/quayside/plot.lgp';
  const other = '/work/museum/lux.lgp';
  const activities: Activity[] = [
    { kind: 'opened', from: at(0), to: at(0), file },
    window(2, 12, { file, hands: 5 * 60_000 }),
    window(12, 22, { program: 'Post', title: 'Inbox' }),
    window(22, 32, { file, hands: 60_000 }),
    { kind: 'kept', from: at(30), to: at(30), file },
    window(32, 42, { file: other, hands: 0 }),
  ];
  const times = (settings: Partial<typeof captureDefaults>, switches: Parameters<typeof documentTimes>[3] = []) => {
    const columns = columnsOf(...activities);
    const all = { ...captureDefaults, ...settings };
    const found = documentTimes(columns, attentionOf(columns, all), all, switches);
    return found.find((each) => each.file === file)!;
  };

  it('is in view, hands on and kept', () => {
    const document = times({});
    expect([document.inView, document.hands, document.kept]).toEqual([20 * 60_000, 6 * 60_000, [at(30)]]);
  });

  it('counts on its clock what the person chose, never time away', () => {
    expect(minutes(times({}).clock)).toEqual([
      [2, 12],
      [22, 32],
    ]);
    expect(minutes(times({ documentClock: 'hands on' }).clock)).toEqual([
      [2, 7],
      [22, 23],
    ]);
    expect(minutes(times({ documentClock: 'from opening to closing' }).clock)).toEqual([[0, 32]]);
    activities.push({ kind: 'away', from: at(13), to: at(21) });
    expect(minutes(times({ documentClock: 'from opening to closing' }).clock)).toEqual([
      [0, 13],
      [21, 32],
    ]);
    activities.pop();
  });

  it('runs through no night, although the file is kept in it and the next morning begins with time away', () => {
    const night = [
      { kind: 'kept', from: at(300), to: at(300), file } as const,
      { kind: 'away', from: at(1200), to: at(1260) } as const,
      { kind: 'opened', from: at(1260), to: at(1260), file } as const,
    ];
    activities.push(...night);
    const morning = times({ documentClock: 'from opening to closing' }).clock;
    activities.splice(-night.length);
    expect(minutes(morning)).toEqual([[0, 42]]);
  });

  it('is never longer hands on than in view, nor in view than anything was seen', () => {
    const piece = fc.record({
      from: fc.integer({ min: 0, max: 200 }),
      length: fc.integer({ min: 1, max: 60 }),
      what: fc.constantFrom('plot', 'lux', 'mail', 'away'),
      share: fc.double({ min: 0, max: 1, noNaN: true }),
    });
    fc.assert(
      fc.property(
        fc.array(piece, { minLength: 1, maxLength: 12 }),
        fc.constantFrom(...documentClocks),
        (list, documentClock) => {
          const columns = columnsOf(
            ...list.map(({ from, length, what, share }) =>
              what === 'away'
                ? { kind: 'away' as const, from: at(from), to: at(from + length) }
                : window(from, from + length, {
                    title: what,
                    hands: Math.floor(share * length * 60_000),
                    ...(what !== 'mail' && { file: `/work/${what}.lgp` }),
                  }),
            ),
          );
          const settings = { ...captureDefaults, documentClock };
          const attention = attentionOf(columns, settings);
          const seen = covered(attention.pieces);
          const found = documentTimes(columns, attention, settings);
          const last = Math.max(0, ...attention.pieces.map((each) => each.end));
          expect(found.reduce((sum, each) => sum + each.inView, 0)).toBeLessThanOrEqual(seen);
          for (const { hands, inView, clock } of found) {
            expect(hands).toBeLessThanOrEqual(inView + 1e-6);
            expect(covered(clock)).toBeLessThanOrEqual(seen + 1e-6);
            expect(clock.at(-1)?.end ?? 0).toBeLessThanOrEqual(last);
          }
        },
      ),
    );
  });

  it('is switched by hand', () => {
    const switches = [
      { file, at: at(5), on: false },
      { file, at: at(25), on: true },
    ];
    // Switched on by hand it runs on while another document is in view.
    expect(minutes(times({}, switches).clock)).toEqual([
      [2, 5],
      [25, 42],
    ]);
  });
});

describe('lines of activity', () => {
  const anyText = fc.string({ maxLength: 12 });
  const any = fc
    .record(
      {
        from: fc.integer({ min: NINE, max: NINE + 1e9 }),
        length: fc.integer({ min: 0, max: 1e7 }),
        kind: fc.constantFrom('window' as const, 'mail' as const),
        hands: fc.integer({ min: 0, max: 1e6 }),
        program: anyText,
        title: anyText,
        address: anyText,
        file: anyText,
        people: fc.array(anyText, { maxLength: 3 }),
      },
      { requiredKeys: ['from', 'length', 'kind'] },
    )
    .map(({ from, length, ...rest }) => ({ ...rest, from, to: from + length }) as Activity);

  it('are read the same by their ends as whole', () => {
    fc.assert(
      fc.property(fc.array(any, { maxLength: 20 }), (activities) => {
        const fast = new TrailArrays();
        const slow = new TrailArrays();
        for (const each of activities) {
          expect(take(fast, writeLine(each))).toBeNull();
          slow.add(readLine(JSON.stringify(each)) as Activity);
        }
        const rows = (columns: TrailArrays) =>
          Array.from({ length: columns.length }, (_, i) => [
            columns.from[i],
            columns.to[i],
            columns.hands[i],
            columns.subjects[columns.subject[i]!],
          ]);
        expect(rows(fast)).toEqual(rows(slow));
      }),
    );
  });

  it('are refused with what is wrong where', () => {
    const columns = new TrailArrays();
    expect(take(columns, '{"from":1')).toBe('This line cannot be read as JSON.');
    expect(take(columns, `{"from":${NINE},"to":${NINE - 1},"kind":"window"}`)).toContain(
      'to: It ends before it begins',
    );
    expect(take(columns, `{"from":${NINE},"to":${NINE},"kind":"dream"}`)).toContain('Kinds are window');
    expect(take(columns, `{"from":5,"to":9,"kind":"window"}`)).toContain('The clock is wrong');
    expect(take(columns, `{"from":${NINE},"to":${NINE},"kind":"window","mood":1}`)).toContain('mood');
    expect(columns.length).toBe(0);
    expect(
      take(columns, '{"from":"2026-11-12T09:00:00Z","to":"2026-11-12T10:00:00+00:00","kind":"window"}'),
    ).toBeNull();
    expect([columns.from[0], columns.to[0]]).toEqual([NINE, NINE + 3_600_000]);
  });

  it('show titles without what would make them look like something else', () => {
    expect(cleaned('<b>Plot</b>\u0000 \u202Egpl.tolp\u202C\r\n4')).toBe('<b>Plot</b> gpl.tolp 4');
    const endless = 'x'.repeat(100_000);
    expect(cleaned(endless)).toHaveLength(401);
    expect(activitySchema.safeParse({ ...window(0, 1), title: endless }).success).toBe(true);
    expect(activitySchema.safeParse({ ...window(0, 1), title: `${endless}x` }).success).toBe(false);
    expect(subjectOf(window(0, 1, { title: endless })).title).toHaveLength(401);
  });
});

describe('lines and activities that come by turns', () => {
  const line = (title: string, from: number) =>
    writeLine({
      kind: 'window',
      from: Date.parse('2026-11-12T09:00:00Z') + from,
      to: Date.parse('2026-11-12T09:01:00Z') + from,
      title,
    });
  const take = (columns: TrailArrays, text: string) => {
    const bytes = new Uint8Array(Buffer.from(text));
    return columns.addLine(bytes, 0, bytes.length, (each) => Buffer.from(each).toString());
  };

  it('are about the same things, whichever way they came', () => {
    const columns = new TrailArrays();
    const titles = ['Plot sheet 4', 'Hängeplan', 'Plot sheet 4', 'plot sheet 4'];
    titles.forEach((title, index) => expect(take(columns, line(title, index * 60_000))).toBeNull());
    expect([...columns.subject.subarray(0, 4)]).toEqual([0, 1, 0, 2]);
    const at = Date.parse('2026-11-12T10:00:00Z');
    columns.add({ kind: 'window', from: at, to: at + 1000, title: 'Hängeplan' });
    columns.add({ kind: 'window', from: at, to: at + 1000, title: 'New' });
    expect(take(columns, line('New', 0))).toBeNull();
    expect([...columns.subject.subarray(4, 7)]).toEqual([1, 3, 3]);
  });

  it('are told apart however much they are alike', () => {
    const columns = new TrailArrays();
    // Alike in length, in the middle and at the end; more of them than are remembered as recent.
    const titles = Array.from(
      { length: 60 },
      (_, index) =>
        `${String.fromCharCode(65 + (index % 26))}${index % 10} the same old words of the same old plot sheet`,
    );
    for (let round = 0; round < 3; round++) for (const title of titles) take(columns, line(title, round));
    expect(columns.subjects).toHaveLength(new Set(titles).size);
    expect([...columns.subject.subarray(0, 60)]).toEqual([...columns.subject.subarray(120, 180)]);
  });
});
