import Fastify, { type FastifyInstance } from 'fastify';
import { beforeEach, describe, expect, it } from 'vitest';
import { addBookkeeping } from './bookkeeping';
import { ownPage, SECRET_HEAD } from './door';

const NOON = Date.parse('2026-11-12T12:00:00Z');
const SECRET = 'abcdefgh';
const ADDRESS = 'http://127.0.0.1:4399';
let now = NOON;
let server: FastifyInstance;

beforeEach(() => {
  now = NOON;
  server = Fastify();
  addBookkeeping(server, ownPage(SECRET, ADDRESS), () => now);
});

interface Answer {
  transactions: { id: string; revision: number; amount: string; withdrawn: boolean }[];
  cursor: string;
  more: boolean;
}
const read = async (after = '', limit = 200) =>
  (await server.inject(`/bookkeeping/transactions?after=${after}&limit=${limit}`)).json<Answer>();

describe('the simulated bookkeeping', () => {
  it('tells everything once, page by page', async () => {
    const all = await read();
    expect(all.transactions.length).toBeGreaterThan(20);
    const paged: Answer['transactions'] = [];
    for (let cursor = ''; ;) {
      const page = await read(cursor, 7);
      paged.push(...page.transactions);
      cursor = page.cursor;
      if (!page.more) break;
    }
    expect(paged).toEqual(all.transactions);
    expect((await read(all.cursor)).transactions).toEqual([]);
  });

  it('tells new and corrected ones as time goes on, and the same ones whenever it is asked', async () => {
    const before = await read();
    now += 12 * 86_400_000;
    const later = await read(before.cursor);
    expect(later.transactions.length).toBeGreaterThan(5);
    const known = new Map(before.transactions.map((each) => [each.id, each]));
    const everything = [...before.transactions, ...later.transactions];
    expect(everything.some((each) => each.revision > 1)).toBe(true);
    for (const each of later.transactions) if (known.has(each.id)) expect(each.revision).toBeGreaterThan(1);
  });

  it('has faults on demand', async () => {
    const fault = (kind: string) =>
      server.inject({
        method: 'PUT',
        url: '/bookkeeping/fault',
        headers: { [SECRET_HEAD]: SECRET },
        payload: { kind },
      });
    expect((await fault('error')).statusCode).toBe(204);
    expect((await server.inject('/bookkeeping/transactions')).statusCode).toBe(500);
    expect((await server.inject('/bookkeeping/transactions')).statusCode).toBe(200);
    await fault('duplicate');
    const { transactions } = await read();
    expect(new Set(transactions.map((each) => `${each.id} ${each.revision}`)).size).toBe(transactions.length - 3);
    await fault('malformed');
    expect((await read()).transactions[0]!.amount).toBe('n/a');
    expect((await fault('none')).statusCode).toBe(400);
  });

  it('refuses what it did not give out', async () => {
    expect((await server.inject('/bookkeeping/transactions?after=x')).statusCode).toBe(400);
    expect((await server.inject('/bookkeeping/transactions?limit=1000')).statusCode).toBe(400);
  });
});
