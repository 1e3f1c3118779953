import { ADDRESS, inBrowser } from './browser';
import { count, report } from './measure';

const WRITES = count(400, 10);

/**
 * One row written with strict durability, as every command is, against the same row with relaxed: what it costs that a power cut right
 * after takes nothing. Both in turn, so that what else the machine does meets both.
 */
export async function benchDurability(): Promise<void> {
  await inBrowser(async (context) => {
    const page = context.pages()[0] ?? (await context.newPage());
    // Any page of ours that is not the application itself: that would write too.
    await page.goto(`${ADDRESS}/LICENSE`);
    const { strict, relaxed } = await page.evaluate<{ strict: number; relaxed: number }>(WRITE);
    report('A row written with strict durability', strict, 'with relaxed', relaxed, 3);
  });
}

// As text: what the loader adds to functions is not there in the page.
const WRITE = `(async () => {
  const asked = (request) => new Promise((resolve, reject) => {
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error);
  });
  const opening = indexedDB.open('durability', 1);
  opening.onupgradeneeded = () => opening.result.createObjectStore('rows', { keyPath: 'id' });
  const database = await asked(opening);
  const put = (durability, id) => new Promise((resolve, reject) => {
    const transaction = database.transaction('rows', 'readwrite', { durability });
    transaction.objectStore('rows').put({ id, text: 'x'.repeat(400) });
    transaction.oncomplete = () => resolve();
    transaction.onabort = () => reject(transaction.error);
  });
  const times = { strict: [], relaxed: [] };
  for (let id = 0; id < ${WRITES}; id++) {
    for (const durability of ['strict', 'relaxed']) {
      const start = performance.now();
      await put(durability, id);
      times[durability].push(performance.now() - start);
    }
  }
  database.close();
  const middle = (list) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)];
  return { strict: middle(times.strict), relaxed: middle(times.relaxed) };
})()`;
