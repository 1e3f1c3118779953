import { ed25519, x25519 } from '@noble/curves/ed25519.js';
import { bytesToHex, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import fc from 'fast-check';
import * as node from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { workspaceDefaults } from '@half-penny/core/model';
import type { SealedContent } from '@half-penny/core/sealed-files';
import {
  gistOf,
  makeKeys,
  openSealed,
  packContent,
  publicKeysOf,
  readContent,
  readInvitation,
  readReply,
  sealTo,
  shortCode,
  unwrapKeys,
  wrapKeys,
  writeInvitation,
  writeReply,
} from '.';

const id = (n: number) => `01a1cfaa-35a2-7000-9e89-${n.toString(16).padStart(12, '0')}`;
const studio = makeKeys();
const member = makeKeys();
const stranger = makeKeys();
const code = (wanted: string) => expect.objectContaining({ code: wanted }) as unknown;

describe('the curves', () => {
  // RFC 8032, section 7.1, tests 1 to 3; written down from memory, and held against another implementation below.
  it.each([
    [
      '9d61b19deffd5a60ba844af492ec2cc44449c5697b326919703bac031cae7f60',
      'd75a980182b10ab7d54bfed3c964073a0ee172f3daa62325af021a68f707511a',
      '',
      'e5564300c360ac729086e2cc806e828a84877f1eb8e5d974d873e065224901555fb8821590a33bacc61e39701cf9b46bd25bf5f0595bbe24655141438e7a100b',
    ],
    [
      '4ccd089b28ff96da9db6c346ec114e0f5b8a319f35aba624da8cf6ed4fb8a6fb',
      '3d4017c3e843895a92b70aa74d1b7ebc9c982ccf2ec4968cc0cd55f12af4660c',
      '72',
      '92a009a9f0d4cab8720e820b5f642540a2b27b5416503f8fb3762223ebdb69da085ac1e43e15996e458f3613d0f11d8c387b2eaeb4302aeeb00d291612bb0c00',
    ],
    [
      'c5aa8df43f9f837bedb7442f31dcb7b166d38535076f094b85ce3a2e0b4458f7',
      'fc51cd8e6218a1a38da47ed00230f0580816ed13ba3303ac5deb911548908025',
      'af82',
      '6291d657deec24024827e69c3abe01a30ce548a284743a445e3680d7db5ac3ac18ff9b538d16f290ae67f760984dc6594a7c15e9716ed28dc027beceea1ec40a',
    ],
  ])('sign as RFC 8032 says: %s', (secret, known, message, signature) => {
    expect(publicKeysOf({ signing: secret, agreement: secret }).signing).toBe(known);
    expect(bytesToHex(ed25519.sign(hexToBytes(message), hexToBytes(secret)))).toBe(signature);
    const key = node.createPublicKey({
      key: { kty: 'OKP', crv: 'Ed25519', x: Buffer.from(known, 'hex').toString('base64url') },
      format: 'jwk',
    });
    expect(node.verify(null, hexToBytes(message), key, hexToBytes(signature))).toBe(true);
  });

  // RFC 7748, section 5.2 (a value, and a thousand rounds of its own result) and 6.1; likewise from memory.
  it('agree as RFC 7748 says', () => {
    const times = (scalar: string, u: string) => bytesToHex(x25519.getSharedSecret(hexToBytes(scalar), hexToBytes(u)));
    expect(
      times(
        'a546e36bf0527c9d3b16154b82465edd62144c0ac1fc5a18506a2244ba449ac4',
        'e6db6867583030db3594c1a424b15f7c726624ec26b3353b10a903a6d0ab1c4c',
      ),
    ).toBe('c3da55379de9c6908e94ea4df28d084f32eccf03491c71f754b4075577a28552');
    let [k, u] = [`09${'00'.repeat(31)}`, `09${'00'.repeat(31)}`];
    for (let round = 1; round <= 1000; round++) {
      [k, u] = [times(k, u), k];
      if (round === 1) expect(k).toBe('422c8e7a6227d7bca1350b3e2bb7279f7897b87bb6854b783c60e80311ae3079');
    }
    expect(k).toBe('684cf59ba83309552800ef566f2f4d3c1c3887c49360e3875f2eb94d99532c51');
    const bob = '5dab087e624a8a4b79e17f8b83800ee66f3bb1292618b6fd1c2f8b27ff88e0eb';
    expect(publicKeysOf({ signing: bob, agreement: bob }).agreement).toBe(
      'de9edb7d7b7dc1b4d35b61c2ece435373f8343c85b78674dadfc7e146f882b4f',
    );
    const alice = '8520f0098930a754748b7ddcb43ef75a0dbf3a0d26381af4eba4a98eaa9b4e6a';
    expect(times(bob, alice)).toBe('4a5d9d5ba4ce2de1728e3bf480350f25e07e21c947d19e3376f09b3c1e161742');
  });

  it('do what another implementation does', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 32, maxLength: 32 }),
        fc.uint8Array({ maxLength: 300 }),
        (seed, message) => {
          const own = makeKeys(() => seed);
          const jwk = { kty: 'OKP', crv: 'Ed25519', d: Buffer.from(seed).toString('base64url') };
          const x = Buffer.from(publicKeysOf(own).signing, 'hex').toString('base64url');
          const key = node.createPrivateKey({ key: { ...jwk, x }, format: 'jwk' });
          expect(new Uint8Array(node.sign(null, message, key))).toEqual(ed25519.sign(message, seed));
          const ours = node.createPrivateKey({
            key: { ...jwk, crv: 'X25519', x: Buffer.from(publicKeysOf(own).agreement, 'hex').toString('base64url') },
            format: 'jwk',
          });
          const theirs = node.createPublicKey({
            key: {
              kty: 'OKP',
              crv: 'X25519',
              x: Buffer.from(publicKeysOf(stranger).agreement, 'hex').toString('base64url'),
            },
            format: 'jwk',
          });
          expect(new Uint8Array(node.diffieHellman({ privateKey: ours, publicKey: theirs }))).toEqual(
            x25519.getSharedSecret(seed, hexToBytes(publicKeysOf(stranger).agreement)),
          );
        },
      ),
      { numRuns: 30 },
    );
  });
});

describe('an envelope', () => {
  const text = utf8ToBytes('5:30 on the winter season rig');
  const sealed = sealTo(text, publicKeysOf(studio).agreement, member);

  it('is opened by its reader, who is told who made it', () => {
    expect(openSealed(sealed, studio)).toEqual({ signer: publicKeysOf(member).signing, content: text });
  });

  it('shows nothing of its content or maker', () => {
    const shown = Buffer.from(sealed).toString('latin1');
    expect(shown).not.toContain('winter');
    expect(Buffer.from(sealed).toString('hex')).not.toContain(publicKeysOf(member).signing);
    expect(sealTo(text, publicKeysOf(studio).agreement, member)).not.toEqual(sealed);
  });

  it('is for nobody else', () => {
    expect(() => openSealed(sealed, stranger)).toThrow(code('for somebody else'));
  });

  it('that was altered anywhere, cut off or lengthened is refused', () => {
    fc.assert(
      fc.property(fc.nat(sealed.length - 1), fc.integer({ min: 1, max: 255 }), (at, by) => {
        const other = sealed.slice();
        other[at]! ^= by;
        expect(() => openSealed(other, studio)).toThrow(/./);
      }),
      { numRuns: 300 },
    );
    for (const length of [0, 7, 8, 50, 96, 97, sealed.length - 1])
      expect(() => openSealed(sealed.slice(0, length), studio)).toThrow(/./);
    expect(() => openSealed(Uint8Array.of(...sealed, 0), studio)).toThrow(code('altered'));
  });

  it('cannot be passed on as meant for somebody else', () => {
    // The studio seals what it opened to another reader, with the member's signature as it was.
    const { content } = openSealed(sealed, studio);
    const passed = sealTo(content, publicKeysOf(stranger).agreement, studio);
    expect(openSealed(passed, stranger).signer).toBe(publicKeysOf(studio).signing);
  });
});

describe('meeting', () => {
  const secret = '5a'.repeat(32);
  const invited = {
    studio: 'Saltmere Lighting',
    member: { id: id(1), name: 'Asha Kerr' },
    secret,
    madeAt: 1_794_485_400_994,
  };

  it('goes by an invitation and a reply that brings keys', () => {
    const invitation = readInvitation(writeInvitation(invited, studio))!;
    expect(invitation).toMatchObject({ studio: { name: 'Saltmere Lighting', keys: publicKeysOf(studio) } });
    const reply = readReply(writeReply(invitation, member), studio);
    expect(reply).toMatchObject({ member: invited.member, keys: publicKeysOf(member), secret });
  });

  it('names the relay by which the rest goes, signed like all of it', () => {
    const relay = 'https://relay.saltmere-lighting.example';
    const text = writeInvitation({ ...invited, relay }, studio);
    expect(readInvitation(text)!.relay).toBe(relay);
    expect(readInvitation(writeInvitation(invited, studio))).not.toHaveProperty('relay');
    expect(() => readInvitation(text.replace('//relay.', '//reley.'))).toThrow(/was altered/);
  });

  it('refuses an invitation that was altered, and takes nothing else for one', () => {
    const text = writeInvitation(invited, studio);
    expect(() => readInvitation(text.replace('Asha', 'Ashe'))).toThrow(code('altered'));
    expect(() =>
      readInvitation(text.replace(publicKeysOf(studio).agreement, publicKeysOf(stranger).agreement)),
    ).toThrow(code('altered'));
    expect(readInvitation('{"format":"something else"}')).toBeNull();
    expect(readInvitation('not JSON')).toBeNull();
    expect(readReply(sealTo(utf8ToBytes('{}'), publicKeysOf(studio).agreement, member), studio)).toBeNull();
  });

  it('gives both the same short code, and another where a key is another', async () => {
    const [ours, theirs] = [publicKeysOf(studio), publicKeysOf(member)];
    const same = await shortCode(ours, theirs);
    expect(same).toMatch(/^\d{5}( \d{5}){3}$/);
    expect(await shortCode(ours, theirs)).toBe(same);
    expect(await shortCode(ours, { ...theirs, agreement: publicKeysOf(stranger).agreement })).not.toBe(same);
    expect(await shortCode(theirs, ours)).not.toBe(same);
  });

  it('keeps keys under a passphrase', async () => {
    const wrapped = await wrapKeys(member, 'seven lamps');
    expect(JSON.stringify(wrapped)).not.toContain(member.signing);
    expect(await unwrapKeys(wrapped, 'seven lamps')).toEqual(member);
    await expect(unwrapKeys(wrapped, 'seven lamp')).rejects.toEqual(code('wrong passphrase'));
  });
});

describe('what is in a sealed file', () => {
  const receipt = utf8ToBytes('a receipt');
  const hash = node.createHash('sha256').update(receipt).digest('hex');
  const content: SealedContent = {
    kind: 'timesheet',
    id: id(1),
    madeAt: 1_794_485_400_994,
    memberId: id(2),
    previousId: null,
    names: {},
    rows: {
      timesheets: [],
      handIns: [],
      entries: [],
      costs: [],
      costLines: [],
      receipts: [
        {
          id: id(3),
          name: 'taxi.pdf',
          mediaType: 'application/pdf',
          bytes: receipt.length,
          sha256: hash,
          preview: '',
          pages: 1,
          addedAt: 1,
        },
      ],
    },
  };

  it('comes back as it was, with its receipts, and is the same bytes each time', async () => {
    const packed = packContent(content, [{ sha256: hash, bytes: receipt }]);
    expect(packContent(content, [{ sha256: hash, bytes: receipt }])).toEqual(packed);
    expect(await readContent(packed)).toEqual({ content, files: [{ sha256: hash, bytes: receipt }] });
  });

  it('says the same whenever it is made, and something else where it does', () => {
    const again = { ...content, id: id(9), madeAt: content.madeAt + 1 };
    expect(gistOf(again)).toBe(gistOf(content));
    const without = { ...content, rows: { ...content.rows, receipts: [] } };
    expect(gistOf(without)).not.toBe(gistOf(content));
  });

  it('is refused in words where it is broken, of a newer version, or has more than it should', async () => {
    await expect(readContent(utf8ToBytes('nothing'))).rejects.toEqual(code('unreadable'));
    await expect(readContent(packContent({ ...content, extra: 1 } as never))).rejects.toEqual(code('unreadable'));
    await expect(readContent(packContent({ ...content, version: 99 } as never))).rejects.toEqual(code('newer'));
    const other = packContent(content, [{ sha256: hash, bytes: utf8ToBytes('another') }]);
    await expect(readContent(other)).rejects.toEqual(code('unreadable'));
  });

  it('has no room for what is not the member’s to know', async () => {
    const rows = { ...content.rows, workspace: [{ ...workspaceDefaults }] };
    await expect(readContent(packContent({ ...content, rows } as never))).rejects.toEqual(code('unreadable'));
  });
});
