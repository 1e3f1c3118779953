import { Fault, type ExchangeRate } from '@half-penny/core/model';
import { isCurrency } from '@half-penny/core/money';
import { isDay } from '@half-penny/core/time';
import { strFromU8, unzipSync } from 'fflate';
import Papa from 'papaparse';

export type ReferenceRate = Omit<ExchangeRate, 'id'>;

const LARGEST = 40_000_000;
const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/**
 * Reads the euro foreign exchange reference rates as the European Central Bank publishes them: a CSV with a day in its first column and
 * a currency in each other, zipped or not; of one day ("25 November 2026") or the history ("2026-11-25"). "N/A" is no rate.
 *
 * @param wanted only these currencies are taken
 * @throws Fault that names line and column of what cannot be read
 */
export function readReferenceRates(bytes: Uint8Array, name: string, wanted: ReadonlySet<string>): ReferenceRate[] {
  const { data } = Papa.parse<string[]>(textOf(bytes, name), { skipEmptyLines: 'greedy' });
  const head = (data[0] ?? []).map((cell) => cell.trim());
  if (!/^date$/i.test(head[0] ?? '')) {
    throw new Fault(
      'other-file',
      `${name}: this is not a file of reference rates. Its first column is headed Date.`,
      'file',
    );
  }
  const columns = head
    .map((currency, at) => ({ currency: currency.toUpperCase(), at }))
    .filter(({ currency, at }) => at > 0 && isCurrency(currency) && currency !== 'EUR' && wanted.has(currency));
  if (columns.length === 0) {
    throw new Fault(
      'incomplete',
      `${name} has none of ${[...wanted].filter((code) => code !== 'EUR').join(', ')}.`,
      'file',
    );
  }
  const rates: ReferenceRate[] = [];
  data.slice(1).forEach((cells, index) => {
    const line = index + 2;
    const from = readDay((cells[0] ?? '').trim());
    if (!from)
      throw new Fault('not-a-day', `${name}, line ${line}: “${(cells[0] ?? '').slice(0, 30)}” is not a day.`, 'file', {
        line,
      });
    for (const { currency, at } of columns) {
      const text = (cells[at] ?? '').trim();
      if (text === '' || /^n\/a$/i.test(text)) continue;
      rates.push({
        from,
        base: 'EUR',
        currency,
        rate: readRate(text, `${name}, line ${line}, ${currency}`),
        source: name.slice(0, 200),
      });
    }
  });
  if (rates.length === 0) throw new Fault('empty-file', `There is no rate in ${name}.`, 'file');
  return rates;
}

function textOf(bytes: Uint8Array, name: string): string {
  if (!(bytes[0] === 0x50 && bytes[1] === 0x4b)) return strFromU8(bytes).replace(/^\ufeff/, '');
  const files = unzipSync(bytes, { filter: (file) => /\.csv$/i.test(file.name) && file.originalSize <= LARGEST });
  const [file] = Object.values(files);
  if (!file) throw new Fault('other-file', `${name} holds no CSV file.`, 'file');
  return strFromU8(file).replace(/^\ufeff/, '');
}

function readDay(text: string): string | null {
  if (isDay(text)) return text;
  const named = /^(\d{1,2}) ([a-z]{3})[a-z]* (\d{4})$/i.exec(text);
  const month = named ? MONTHS.indexOf(named[2]!.toLowerCase()) + 1 : 0;
  const day = named && month > 0 ? `${named[3]}-${String(month).padStart(2, '0')}-${named[1]!.padStart(2, '0')}` : '';
  return isDay(day) ? day : null;
}

function readRate(text: string, where: string): string {
  const match = /^(\d{1,9})(?:\.(\d{1,8})\d*)?$/.exec(text);
  const fraction = (match?.[2] ?? '').replace(/0+$/, '');
  const rate = match ? `${Number(match[1])}${fraction ? `.${fraction}` : ''}` : '0';
  if (rate === '0') throw new Fault('not-a-number', `${where}: “${text.slice(0, 30)}” is not a rate.`, 'file');
  return rate;
}
