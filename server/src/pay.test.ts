import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeServer } from './app';
import { SECRET_HEAD } from './door';
import { signatureOf, type PayEvent } from './pay';

const PORT = 4396;
const SECRET = 'abcdefgh';
const data = mkdtempSync(join(tmpdir(), 'half-penny-pay-'));
const clock = { now: Date.UTC(2026, 10, 12, 9) };
let server: Awaited<ReturnType<typeof makeServer>>;

beforeAll(async () => {
  const root = mkdtempSync(join(tmpdir(), 'half-penny-server-'));
  mkdirSync(join(root, 'assets'));
  writeFileSync(join(root, 'index.html'), '<!doctype html><title>Half Penny</title>');
  server = await makeServer({ root, port: PORT, data, secret: SECRET, now: () => clock.now });
});
afterAll(() => server.close());

const host = `127.0.0.1:${PORT}`;
const own = { host, [SECRET_HEAD]: SECRET, 'sec-fetch-site': 'same-origin', origin: `http://${host}` };
const ask = (method: 'GET' | 'PUT' | 'POST', url: string, payload?: object) =>
  server.inject({ method, url, headers: own, ...(payload && { payload }) });
const press = (url: string, payload = '', more: object = {}) =>
  server.inject({
    method: 'POST',
    url,
    headers: { host, 'content-type': 'application/x-www-form-urlencoded', 'sec-fetch-site': 'same-origin', ...more },
    payload,
  });
const invoice = '01a1cfaa-35a2-7000-9e89-000000000001';
const link = {
  workspace: 'ours',
  number: 'SL-0131',
  payee: 'Saltmere Lighting',
  payer: 'Quayside <Playhouse>',
  amount: 120_000,
  currency: 'GBP',
};
const told = async () => (await ask('GET', '/pay/told')).json<{ told: PayEvent[]; refused: { why: string }[] }>();

describe('paying online', () => {
  it('is asked for where a service is set up, and by the person’s own page alone', async () => {
    expect((await ask('PUT', `/pay/links/${invoice}`, link)).statusCode).toBe(409);
    expect((await ask('PUT', '/pay/settings', { simulated: true })).json()).toMatchObject({
      simulated: true,
      told: [],
    });
    const stranger = await server.inject({
      method: 'PUT',
      url: `/pay/links/${invoice}`,
      headers: { host },
      payload: link,
    });
    expect(stranger.statusCode).toBe(401);
    expect((await ask('PUT', `/pay/links/${invoice}`, { ...link, amount: 0 })).statusCode).toBe(400);
    const made = await ask('PUT', `/pay/links/${invoice}`, link);
    expect(made.json()).toEqual({ address: `http://${host}/pay/${invoice}` });
  });

  it('shows what is to be paid as text, and pays nothing by a card that is declined', async () => {
    const page = await server.inject({ url: `/pay/${invoice}`, headers: { host } });
    expect(page.body).toContain('£1,200.00');
    expect(page.body).not.toContain('<Playhouse>');
    expect((await press(`/pay/${invoice}`, 'card=bad')).headers.location).toContain('declined');
    expect((await told()).told).toEqual([]);
    expect((await server.inject({ url: '/pay/nothing', headers: { host } })).statusCode).toBe(404);
  });

  it('tells of a payment once, though the service tells of it twice and late things first', async () => {
    expect((await press(`/pay/${invoice}`, 'card=good')).statusCode).toBe(303);
    const [event, ...others] = (await told()).told;
    expect(others).toEqual([]);
    expect(event).toMatchObject({ kind: 'paid', payment: { reference: invoice, amount: 120_000, fee: 1_820 } });
    await ask('PUT', `/pay/payments/${event!.payment.id}/refund`);
    expect((await told()).told.map((each) => each.kind)).toEqual(['paid', 'refunded']);
    expect((await ask('PUT', `/pay/payments/${event!.payment.id}/refund`)).statusCode).toBe(409);
    await press(`/pay/payments/${event!.payment.id}/charge-back`);
    expect((await told()).told).toHaveLength(2);
  });

  it('takes no form of another site', async () => {
    const other = await press(`/pay/${invoice}`, 'card=good', { 'sec-fetch-site': 'cross-site' });
    expect(other.statusCode).toBe(403);
    expect((await told()).told).toHaveLength(2);
  });

  it('refuses messages that are signed wrongly, too old, unreadable or of what nobody asked for, and says so', async () => {
    const secret = readFileSync(join(data, 'pay/secret'), 'utf8').trim();
    const { told: before } = await told();
    const hook = (body: string, time = clock.now, signature = signatureOf(secret, time, body)) =>
      server.inject({
        method: 'POST',
        url: '/pay/hook',
        headers: { host, 'content-type': 'application/json', 'pay-time': String(time), 'pay-signature': signature },
        payload: body,
      });
    const good = JSON.stringify({ ...before[0], id: '11111111-2222-4333-8444-555555555555' });
    expect((await hook(good, clock.now, 'ab'.repeat(32))).statusCode).toBe(401);
    expect((await hook(good, clock.now - 600_000)).statusCode).toBe(401);
    expect((await hook('{')).statusCode).toBe(400);
    const foreign = good.replace(invoice, invoice.replace(/1$/, '9'));
    expect((await hook(foreign)).statusCode).toBe(404);
    const after = await told();
    expect(after.told).toHaveLength(before.length);
    expect(after.refused.map((each) => each.why)).toEqual([
      expect.stringContaining('signed rightly'),
      expect.stringContaining('too old'),
      expect.stringContaining('could not be read'),
      expect.stringContaining('nobody here asked for'),
    ]);
    expect((await hook(good)).statusCode).toBe(200);
  });
});

describe('a client’s page on this server', () => {
  const html = '<!doctype html><title>SL-0131</title>';
  const shown = (url: string) => server.inject({ url, headers: { host } });

  it('is shown as if of another address, and tells that it was opened', async () => {
    expect((await shown(`/pages/${invoice}`)).statusCode).toBe(404);
    const made = await ask('PUT', `/pages/${invoice}`, { html, workspace: 'ours' });
    expect(made.json()).toEqual({ address: `http://${host}/pages/${invoice}` });
    const page = await shown(`/pages/${invoice}`);
    expect(page.headers['content-security-policy']).toMatch(/^sandbox allow-scripts (?!.*allow-same-origin)/);
    expect(page.body).toBe(html);
    await shown(`/pages/${invoice}`);
    expect((await ask('GET', '/pages/told')).json()).toEqual({
      told: [{ kind: 'opened', page: invoice, workspace: 'ours', at: clock.now }],
    });
    expect((await shown('/pages/told')).statusCode).toBe(401);
    // A page that is made again is another one to open.
    clock.now += 1000;
    await ask('PUT', `/pages/${invoice}`, { html, workspace: 'ours' });
    await shown(`/pages/${invoice}`);
    const { told: twice } = (await ask('GET', '/pages/told')).json<{ told: { at: number }[] }>();
    expect(twice.map((each) => each.at)).toEqual([clock.now - 1000, clock.now]);
  });

  it('takes an answer once, and none that is too long or to no page', async () => {
    const answered = await press(`/pages/${invoice}/answer`, `signed=${encodeURIComponent('{"by":"R"}')}`);
    expect([answered.statusCode, answered.headers.location]).toEqual([303, `/pages/${invoice}#answered`]);
    await press(`/pages/${invoice}/answer`, `signed=${encodeURIComponent('{"by":"R"}')}`);
    expect((await press(`/pages/${invoice}/answer`, `signed=${'x'.repeat(20_001)}`)).statusCode).toBe(400);
    expect((await press(`/pages/${invoice.replace(/1$/, '7')}/answer`, 'signed=1')).statusCode).toBe(400);
    const { told: all } = (await ask('GET', '/pages/told')).json<{ told: { kind: string }[] }>();
    expect(all.map((each) => each.kind)).toEqual(['opened', 'opened', 'answered']);
  });
});
