import { existsSync, readFileSync, statSync } from 'node:fs';
import { gzipSync } from 'node:zlib';

const LIMIT = 220_000;

/** JavaScript that the first load of Today needs, gzipped: what the page itself names. */
export function benchLoad(): void {
  const dist = new URL('../../web/dist/', import.meta.url);
  const page = new URL('index.html', dist);
  if (!existsSync(page)) return console.log('JavaScript for Today: the application has not been built.');
  const files = [...readFileSync(page, 'utf8').matchAll(/(?:src|href)="\/([^"]+\.js)"/g)].map(
    (match) => new URL(match[1]!, dist),
  );
  const plain = files.reduce((sum, file) => sum + statSync(file).size, 0);
  const gzipped = files.reduce((sum, file) => sum + gzipSync(readFileSync(file)).length, 0);
  console.log(
    `JavaScript for Today: ${Math.round(gzipped / 100) / 10} kB gzipped, ${Math.round(plain / 1000)} kB plain; ratio to ${LIMIT / 1000} kB ${Math.round((gzipped / LIMIT) * 100) / 100} (aim at most 1)`,
  );
}
