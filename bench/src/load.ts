import { existsSync, readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { compare } from './measure';

const LIMIT = 170_000;

/** JavaScript that the first load of Today needs, gzipped: what the page itself names. */
export function benchLoad(): void {
  const dist = new URL('../../web/dist/', import.meta.url);
  const page = new URL('index.html', dist);
  if (!existsSync(page)) throw new Error('The application has not been built.');
  const files = [...readFileSync(page, 'utf8').matchAll(/(?:src|href)="\/([^"]+\.js)"/g)].map(
    (match) => new URL(match[1]!, dist),
  );
  const gzipped = files.reduce((sum, file) => sum + gzipSync(readFileSync(file)).length, 0);
  const kilobytes = (bytes: number) => `${Math.round(bytes / 100) / 10} kB`;
  compare({
    what: 'JavaScript for the first screen, gzipped',
    own: kilobytes(gzipped),
    peer: 'limit',
    other: kilobytes(LIMIT),
    ratio: gzipped / LIMIT,
    aim: 1,
  });
}
