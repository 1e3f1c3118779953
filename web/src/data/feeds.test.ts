import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { collectFeeds, forgetFeed, type Feed } from './feeds';
import { keepActivities, saveSettings, trail } from './trail';

const NOON = Date.parse('2026-11-12T12:00:00Z');
const ID = '2b1c6a1e-3f0a-4c0e-9a57-0d3a3b8e7f11';
const event = (uid: string, from: string, to: string, more: string[] = []) => [
  'BEGIN:VEVENT',
  `UID:${uid}`,
  'DTSTAMP:20261101T000000Z',
  `DTSTART:20261112T${from}00Z`,
  `DTEND:20261112T${to}00Z`,
  `SUMMARY:${uid}`,
  ...more,
  'END:VEVENT',
];
const calendar = (...events: string[][]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:x', ...events.flat(), 'END:VCALENDAR', ''].join('\r\n');

let feeds: Feed[];
let text: string;
let asked: string[];
/** The calendar says something else from now on. */
const says = (next: string) => {
  text = next;
  feeds = feeds.map((each) => ({ ...each, version: each.version + 1 }));
};

beforeEach(() => {
  feeds = [{ id: ID, address: 'https://a.example/c.ics', version: 0, fetched: NOON, fault: null }];
  asked = [];
  vi.stubGlobal('localStorage', { getItem: () => 'abcdefgh' });
  vi.stubGlobal('fetch', async (path: string, init: RequestInit = {}) => {
    asked.push(path);
    if (path === '/calendars/forget')
      feeds = feeds.filter((each) => each.id !== (JSON.parse(init.body as string) as Feed).id);
    return path === `/calendars/${ID}` ? new Response(text) : Response.json({ calendars: feeds });
  });
});
afterEach(async () => {
  vi.unstubAllGlobals();
  for (const table of trail.tables) await table.clear();
});
const meetings = async () =>
  (await trail.activities.orderBy('from').toArray()).map(({ title, from, people }) => [
    title,
    new Date(from).toISOString().slice(11, 16),
    ...(people ?? []),
  ]);
const planned = async () => {
  const row = await trail.own.get(`feed ${ID}`);
  return row && 'feed' in row ? row.feed.planned.map((each) => each.title) : null;
};

describe('a calendar that is followed', () => {
  it('brings what is over as meetings and what is to come as planned, without what takes no time', async () => {
    await saveSettings({ ownAddresses: ['me@saltmere.example'] });
    says(
      calendar(
        event('Round', '0830', '0900', [
          'ATTENDEE:mailto:Maud@quayside.example',
          'ATTENDEE:mailto:me@saltmere.example',
        ]),
        event('Site visit', '1500', '1600'),
        event('Rig', '1100', '1300'),
        event('Birthday', '0700', '0800', ['TRANSP:TRANSPARENT']),
      ),
    );
    await collectFeeds('Europe/London', NOON);
    expect(await meetings()).toEqual([['Round', '08:30', 'maud@quayside.example']]);
    expect(await planned()).toEqual(['Rig', 'Site visit']);
  });

  it('is followed where something is moved or called off, and becomes over by and by', async () => {
    says(calendar(event('Round', '0830', '0900'), event('Rig', '0900', '0930'), event('Later', '1200', '1230')));
    await collectFeeds('Europe/London', NOON);
    says(
      calendar(
        event('Round', '0845', '0915'),
        event('Rig', '0900', '0930', ['STATUS:CANCELLED']),
        event('Later', '1200', '1230'),
      ),
    );
    await collectFeeds('Europe/London', NOON + 1000);
    expect(await meetings()).toEqual([['Round', '08:45']]);
    asked = [];
    await collectFeeds('Europe/London', NOON + 30_000);
    expect(asked).toEqual(['/calendars']);
    await collectFeeds('Europe/London', NOON + 40 * 60_000);
    expect([await meetings(), await planned()]).toEqual([
      [
        ['Round', '08:45'],
        ['Later', '12:00'],
      ],
      [],
    ]);
  });

  it('takes with it what it brought when it is followed no more, and nothing else', async () => {
    says(calendar(event('Round', '0830', '0900')));
    await collectFeeds('Europe/London', NOON);
    await keepActivities('agent-1', 1, [{ kind: 'call', from: NOON, to: NOON + 60_000, title: 'Own' }]);
    expect(await forgetFeed(ID)).toEqual([]);
    expect([await meetings(), await planned()]).toEqual([[['Own', '12:00']], null]);
  });

  it('names what cannot be read, and takes the rest', async () => {
    says(calendar(event('Round', '0830', '0900'), event('Broken', 'nine', '0900')));
    await collectFeeds('Europe/London', NOON);
    const row = await trail.own.get(`feed ${ID}`);
    expect(row && 'feed' in row && row.feed.faults[0]).toMatch(/^Line \d+: /);
    expect(await meetings()).toEqual([['Round', '08:30']]);
  });
});
