import { describe, expect, it } from 'vitest';
import { heardWords } from '../data/sharing/heard-words';
import { meetingIn, meetingLink } from './meeting-link';
import { shareWords } from './share-words';

const at = Date.parse('2026-11-12T14:05:00Z');
const today = new Date();
today.setUTCHours(14, 5, 0, 0);

describe('how a shared workspace stands', () => {
  it.each([
    [{ kind: 'together', at }, 0, 0, 'all here'],
    [{ kind: 'together', at }, 3, 0, '3 waiting'],
    [{ kind: 'together', at }, 0, 2, 'all here · 2 did not fit'],
    [{ kind: 'off line', since: today.getTime() }, 0, 0, 'off line since 14:05'],
    [{ kind: 'off line', since: today.getTime() }, 1200, 1, 'off line since 14:05 · 1,200 waiting · 1 did not fit'],
    [{ kind: 'off line', since: Date.parse('2025-11-12T14:05:00Z') }, 0, 0, 'off line since 12 Nov 2025, 14:05'],
    [{ kind: 'stopped', since: at, why: 'No room.' }, 1, 0, 'held up · 1 waiting'],
  ] as const)('%o, %i waiting, %i refused: %s', (standing, waiting, refused, words) => {
    expect(shareWords({ standing }, waiting, refused, 'UTC')).toBe(words);
  });

  it('says it where the device was removed', () =>
    expect(shareWords({ standing: { kind: 'together', at }, removed: true }, 4, 0, 'UTC')).toBe(
      'removed from the others',
    ));
});

describe('what a code to scan says', () => {
  const words = 'alone arrive table arm library element floor proof cargo grocery box swarm';

  it('is a link where others reach this address, and the words where they do not; both are read', () => {
    const relay = 'https://relay.saltmere-lighting.example/book';
    const link = meetingLink(relay, words.split(' '), 'https://half-penny.saltmere-lighting.example');
    expect(link).toMatch(/^https:\/\/half-penny\.saltmere-lighting\.example\/start#meet=/);
    expect(meetingIn(link)).toEqual({ relay, words });
    const text = meetingLink(relay, words.split(' '), 'http://127.0.0.1:4350');
    expect(text).toBe(`${relay} ${words}`);
    expect(meetingIn(text)).toEqual({ relay, words });
    expect(meetingIn(words)).toEqual({ relay: '', words });
    expect(meetingIn('#meet=%E0%A4%A&words=a-b')).toEqual({ relay: '', words: 'a b' });
  });
});

describe('what is told of what came', () => {
  const row = {
    device: 'd',
    seq: 1,
    at,
    memberId: 'm',
    title: 'Timer started',
    input: {},
    of: null,
    previous: '',
    hash: '',
  };
  const timer = { table: 'timers', id: 't', before: { id: 't', memberId: 'm' }, after: null };
  const heard = (command: string, changes: unknown[] = [timer]) =>
    ({ confirmed: [], refused: [], applied: [{ ...row, command, changes }] }) as unknown as Parameters<
      typeof heardWords
    >[0];

  it('names a timer that a start elsewhere has ended, of whoever works here alone', () => {
    expect(heardWords(heard('timer.start'), 'm')).toHaveLength(1);
    expect(heardWords(heard('timer.start'), 'another')).toEqual([]);
    expect(heardWords(heard('timer.stop'), 'm')).toEqual([]);
  });

  it('names what did not fit, and why', () => {
    const refused = {
      op: 'o',
      at,
      memberId: null,
      title: 'Entry changed',
      done: { again: false, of: 1 },
      why: 'It is billed.',
      refusedAt: at,
    };
    expect(heardWords({ confirmed: [], applied: [], refused: [refused] }, null)).toEqual([
      '“Entry changed” did not fit any more: It is billed. It is kept in Setup → Devices.',
    ]);
  });
});
