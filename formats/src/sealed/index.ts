/**
 * Files that only who knows their passphrase can read: what is in them is compressed and sealed by AES-256-GCM in pieces, so that it goes
 * through memory piece by piece, and so that no piece can be changed, left out, doubled or put elsewhere unseen (the STREAM construction:
 * Hoang, Reyhanitabar, Rogaway, Vizár, "Online Authenticated-Encryption and its Nonce-Reuse Misuse-Resistance", CRYPTO 2015). The key comes
 * from the passphrase by PBKDF2 with HMAC-SHA-256 (RFC 8018) in 600,000 rounds (OWASP Password Storage Cheat Sheet).
 *
 * | bytes | what |
 * |---|---|
 * | 8 | `HPSEAL1` and a line feed |
 * | 16 | salt of the passphrase |
 * | 4 | rounds, big-endian |
 * | 7 | random, the first of each nonce; four bytes with the number of the piece and one that is 1 for the last piece follow it |
 * | 16 | the seal of nothing, by which a wrong passphrase is told from a damaged file |
 * | rest | pieces of 64 KiB and their seals of 16 bytes each; the last one may be shorter |
 *
 * Everything before the pieces is additional data of each of them.
 */

const MAGIC = new TextEncoder().encode('HPSEAL1\n');
const SALT = 16;
const PREFIX = 7;
const SEAL = 16;
const PIECE = 64 << 10;
const HEAD = MAGIC.length + SALT + 4 + PREFIX;
const ROUNDS = 600_000;
/** Rounds that a file may ask for: more would hang whoever opens it. */
const MOST_ROUNDS = 5_000_000;
/** No piece has this number. */
const CHECK = 0xffff_ffff;

type Bytes = Uint8Array<ArrayBuffer>;

/** A file that cannot be opened: in words, with nothing of it given out. */
export class SealFault extends Error {
  override name = 'SealFault';
  readonly code: 'not sealed' | 'wrong passphrase' | 'damaged';

  constructor(code: SealFault['code'], message: string) {
    super(message);
    this.code = code;
  }
}

/** A key made from a passphrase, kept without it; it can seal and open, and cannot be read out. */
export interface SealingKey {
  key: CryptoKey;
  salt: Bytes;
  rounds: number;
}

/**
 * Makes the key of a passphrase: some tenths of a second of work, so that guessing is dear.
 *
 * @param salt and
 * @param rounds of a file that is there; new ones where not given
 */
export async function sealingKey(
  passphrase: string,
  salt: Bytes = crypto.getRandomValues(new Uint8Array(SALT)),
  rounds = ROUNDS,
): Promise<SealingKey> {
  // The same letters typed on another machine may be put together otherwise.
  const letters = new TextEncoder().encode(passphrase.normalize('NFKC'));
  const base = await crypto.subtle.importKey('raw', letters, 'PBKDF2', false, ['deriveKey']);
  const key = await crypto.subtle.deriveKey(
    { name: 'PBKDF2', hash: 'SHA-256', salt, iterations: rounds },
    base,
    { name: 'AES-GCM', length: 256 },
    false,
    ['encrypt', 'decrypt'],
  );
  return { key, salt, rounds };
}

function nonce(head: Bytes, piece: number, last: boolean): Bytes {
  const made = new Uint8Array(12);
  made.set(head.subarray(HEAD - PREFIX));
  new DataView(made.buffer).setUint32(PREFIX, piece);
  made[11] = last ? 1 : 0;
  return made;
}

const gcm = (head: Bytes, piece: number, last: boolean) => ({
  name: 'AES-GCM',
  iv: nonce(head, piece, last),
  additionalData: head,
});

/** Cuts a stream into pieces of one size; each is told whether it is the last. */
async function* inPieces(stream: ReadableStream<Uint8Array>, size: number): AsyncGenerator<[Bytes, boolean]> {
  let held: Bytes = new Uint8Array(0);
  for await (const chunk of chunksOf(stream)) {
    const joined = new Uint8Array(held.length + chunk.length);
    joined.set(held);
    joined.set(chunk, held.length);
    let from = 0;
    // One that is just full waits: it may be the last.
    for (; joined.length - from > size; from += size) yield [joined.slice(from, from + size), false];
    held = joined.slice(from);
  }
  yield [held, true];
}

/** Streams cannot be walked by `for await` in every browser. */
async function* chunksOf(stream: ReadableStream<Uint8Array>): AsyncGenerator<Uint8Array> {
  const reader = stream.getReader();
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      yield value;
    }
  } finally {
    // Whoever stops reading ends what makes the stream, too.
    await reader.cancel().catch(() => undefined);
  }
}

/**
 * Seals what a stream gives.
 *
 * @example
 * const blob = await seal(new Blob(['what was noticed']).stream(), await sealingKey('seven lamps over the water'));
 */
export async function seal(content: ReadableStream<Uint8Array>, { key, salt, rounds }: SealingKey): Promise<Blob> {
  const head = new Uint8Array(HEAD);
  head.set(MAGIC);
  head.set(salt, MAGIC.length);
  new DataView(head.buffer).setUint32(MAGIC.length + SALT, rounds);
  head.set(crypto.getRandomValues(new Uint8Array(PREFIX)), HEAD - PREFIX);
  const out: BlobPart[] = [head, await crypto.subtle.encrypt(gcm(head, CHECK, false), key, new Uint8Array(0))];
  const packed = content.pipeThrough(new CompressionStream('gzip') as ReadableWritablePair<Uint8Array, Uint8Array>);
  let number = 0;
  for await (const [piece, last] of inPieces(packed, PIECE))
    out.push(await crypto.subtle.encrypt(gcm(head, number++, last), key, piece));
  return new Blob(out, { type: 'application/octet-stream' });
}

/**
 * Opens a sealed file.
 *
 * @returns what was sealed, piece by piece; a fault that lies further in comes while it is read
 * @throws SealFault when it is no sealed file, the passphrase is another one, or it was damaged
 */
export async function unseal(file: Blob, passphrase: string): Promise<ReadableStream<Uint8Array>> {
  const head = new Uint8Array(await file.slice(0, HEAD).arrayBuffer());
  const view = new DataView(head.buffer);
  if (head.length < HEAD || MAGIC.some((byte, place) => head[place] !== byte))
    throw new SealFault('not sealed', 'This is no file that Half Penny sealed.');
  const rounds = view.getUint32(MAGIC.length + SALT);
  if (rounds < 1 || rounds > MOST_ROUNDS) throw damaged('its head');
  const { key } = await sealingKey(passphrase, head.slice(MAGIC.length, MAGIC.length + SALT), rounds);
  try {
    const check = await file.slice(HEAD, HEAD + SEAL).arrayBuffer();
    await crypto.subtle.decrypt(gcm(head, CHECK, false), key, check);
  } catch {
    throw new SealFault(
      'wrong passphrase',
      'The passphrase is not that of this file, or its first bytes were damaged.',
    );
  }
  const pieces = inPieces(file.slice(HEAD + SEAL).stream(), PIECE + SEAL);
  let number = 0;
  const opened = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const next = await pieces.next();
      if (next.done) return controller.close();
      const [piece, last] = next.value;
      try {
        const plain = await crypto.subtle.decrypt(gcm(head, number++, last), key, piece);
        controller.enqueue(new Uint8Array(plain));
      } catch {
        controller.error(damaged(`its piece ${number}`));
      }
    },
    async cancel() {
      await pieces.return(undefined);
    },
  });
  return opened.pipeThrough(new DecompressionStream('gzip') as ReadableWritablePair<Uint8Array, Uint8Array>);
}

const damaged = (where: string): SealFault =>
  new SealFault(
    'damaged',
    `The file was damaged or cut off: ${where} is not what was sealed. Nothing was taken from it.`,
  );
