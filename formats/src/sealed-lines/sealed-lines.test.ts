import { CipherSuite, DhkemP256HkdfSha256, HkdfSha256, Aes256Gcm } from '@hpke/core';
import { describe, expect, it } from 'vitest';
import { LineSealer, makeLineKeys, openLine, publicLineKey } from './index';

describe('sealed lines', () => {
  it('are read by the browser they were sealed for, and by nobody else', async () => {
    const [own, other] = [await makeLineKeys(), await makeLineKeys()];
    const line = '{"kind":"window","title":"Plan – „Säule“ 幕"}';
    const sealed = await new LineSealer(await publicLineKey(own)).seal(line);
    expect(await openLine(own, sealed)).toBe(line);
    expect(await openLine(other, sealed)).toBeNull();
    expect(atob(sealed)).not.toContain('window');
  });

  it('differ each time, and do not open when anything of them was changed', async () => {
    const keys = await makeLineKeys();
    const sealer = new LineSealer(await publicLineKey(keys));
    const [one, two] = [await sealer.seal('the same'), await sealer.seal('the same')];
    expect(one).not.toBe(two);
    for (const at of [0, 30, 70, atob(one).length - 1]) {
      const bytes = [...atob(one)];
      bytes[at] = String.fromCharCode(bytes[at]!.charCodeAt(0) ^ 1);
      expect(await openLine(keys, btoa(bytes.join('')))).toBeNull();
    }
    for (const none of ['', 'AAAA', '%%']) expect(await openLine(keys, none)).toBeNull();
  });

  it('are of their own use: what was sealed with the same keys for something else is none', async () => {
    const keys = await makeLineKeys();
    const suite = new CipherSuite({
      kem: new DhkemP256HkdfSha256(),
      kdf: new HkdfSha256(),
      aead: new Aes256Gcm(),
    });
    const { ct, enc } = await suite.seal(
      { recipientPublicKey: keys.publicKey },
      new TextEncoder().encode('a line').buffer,
    );
    const joined = String.fromCharCode(...new Uint8Array(enc), ...new Uint8Array(ct));
    expect(await openLine(keys, btoa(joined))).toBeNull();
  });

  it('cannot be made with what is no key', async () => {
    await expect(new LineSealer(btoa('no key')).seal('a line')).rejects.toThrow();
  });

  it('keep their private key to themselves', async () => {
    const { privateKey } = await makeLineKeys();
    await expect(crypto.subtle.exportKey('pkcs8', privateKey)).rejects.toThrow();
  });
});
