import { Zip, ZipDeflate } from 'fflate';

// A fixed moment, local as zip has it, so that identical content gives identical bytes whenever and wherever it is written.
const EPOCH = new Date(1980, 0, 1);
const LEVEL = 6;

/** A zip that is written as a stream, the same bytes for the same content. */
export class SteadyZip {
  readonly #zip: Zip;
  #failure: Error | null = null;

  constructor(sink: (bytes: Uint8Array) => void) {
    this.#zip = new Zip((error, bytes) => {
      if (error) this.#failure = error;
      else sink(bytes);
    });
  }

  /** Begins a file; the returned function takes its pieces, the last of them marked. */
  file(name: string): (bytes: Uint8Array, last: boolean) => void {
    const entry = new ZipDeflate(name, { level: LEVEL });
    entry.mtime = EPOCH;
    this.#zip.add(entry);
    return (bytes, last) => {
      entry.push(bytes, last);
      if (this.#failure) throw this.#failure;
    };
  }

  end(): void {
    this.#zip.end();
    if (this.#failure) throw this.#failure;
  }
}

/** Text is handed to the compressor in pieces of about this many characters, whole lines each: so the same text is the same bytes. */
export const PIECE = 1 << 18;

/** Zips named texts and files, texts line by line as the writer of workspaces does. */
export function zipParts(parts: ReadonlyMap<string, string | Uint8Array>, sink: (bytes: Uint8Array) => void): void {
  const zip = new SteadyZip(sink);
  const encoder = new TextEncoder();
  for (const [name, part] of parts) {
    const put = zip.file(name);
    if (typeof part !== 'string' || !name.endsWith('.jsonl')) {
      put(typeof part === 'string' ? encoder.encode(part) : part, true);
      continue;
    }
    let from = 0;
    while (part.length - from > PIECE) {
      // As long as lines begin within the piece, they belong to it.
      const end = part.indexOf('\n', from + PIECE);
      const to = end < 0 ? part.length : end + 1;
      put(encoder.encode(part.slice(from, to)), false);
      from = to;
    }
    put(encoder.encode(part.slice(from)), true);
  }
  zip.end();
}
