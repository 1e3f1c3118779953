import { describe, expect, it } from 'vitest';
import { makeKeys, publicKeysOf } from '../sealed-files/keys';
import {
  mailboxOf,
  meetingOf,
  meetingSecret,
  openHello,
  openLetter,
  sealHello,
  sealLetter,
  secretOfWords,
  wordsOfSecret,
  type DeviceLetter,
} from './meeting';

const id = (number: number) => `01a1cfaa-35a2-7000-9e89-${String(number).padStart(12, '0')}`;

describe('twelve words', () => {
  // BIP-39, test vectors (github.com/trezor/python-mnemonic, vectors.json), from memory.
  it.each([
    ['00'.repeat(16), `${'abandon '.repeat(11)}about`],
    ['7f'.repeat(16), 'legal winner thank year wave sausage worth useful legal winner thank yellow'],
    ['ff'.repeat(16), `${'zoo '.repeat(11)}wrong`],
  ])('stand for %s', (secret, words) => {
    expect(wordsOfSecret(secret)).toBe(words);
    expect(secretOfWords(words)).toBe(secret);
  });

  it('are read however they are spaced, numbered and cased', () => {
    const secret = meetingSecret();
    const words = wordsOfSecret(secret).split(' ');
    expect(secretOfWords(words.map((word, index) => `${index + 1}. ${word.toUpperCase()}\n`).join(''))).toBe(secret);
  });

  it('say what is wrong with them', () => {
    expect(() => secretOfWords('abandon about')).toThrow('There are twelve words; here are 2.');
    expect(() => secretOfWords(`${'abandon '.repeat(11)}lantern`)).toThrow('“lantern” is none of the words');
    expect(() => secretOfWords('abandon '.repeat(12))).toThrow(
      'One of the words is wrong, or two have changed places.',
    );
  });
});

describe('a meeting', () => {
  const keys = makeKeys();
  const device = { id: id(1), name: 'Phone', keys: publicKeysOf(keys) };
  const meeting = meetingOf(meetingSecret());

  it('has a mailbox for each side, and a seal that nobody else opens', () => {
    expect(mailboxOf(meeting.host)).not.toBe(mailboxOf(meeting.guest));
    const sealed = sealHello(device, meeting);
    expect(Buffer.from(sealed).includes('Phone')).toBe(false);
    expect(openHello(sealed, meeting)).toEqual(device);
    expect(openHello(sealed, meetingOf(meetingSecret()))).toBeNull();
    expect(openHello(sealed.subarray(0, 30), meeting)).toBeNull();
    sealed[40]! ^= 1;
    expect(openHello(sealed, meeting)).toBeNull();
  });

  const letter: DeviceLetter = {
    kind: 'welcome',
    book: id(2),
    name: 'Saltmere Lighting',
    epoch: 2,
    keys: [
      [1, 'ab'.repeat(32)],
      [2, 'cd'.repeat(32)],
    ],
    // The relay names snapshots in its own way.
    snapshot: { id: '0b1f2c9e-4f5d-4d0a-8c3e-1a2b3c4d5e6f', epoch: 2, pieces: 3, head: { number: 7, hash: 'ef' } },
    memberId: null,
    demo: false,
  };

  it('ends with a letter to one device alone, by a device that it knows', () => {
    const from = makeKeys();
    const sealed = sealLetter(letter, device.keys.agreement, from);
    expect(openLetter(sealed, keys)).toEqual({ letter, signer: publicKeysOf(from).signing });
    expect(openLetter(sealed, makeKeys())).toBeNull();
    expect(openLetter(new Uint8Array(10), keys)).toBeNull();
  });
});
