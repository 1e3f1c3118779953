import { deviceSchema, type Activity } from '@half-penny/core/capture';
import * as z from 'zod';
import { forgetOld, keepActivities } from './trail';

const OFTEN = 3000;
const SELDOM = 60_000;
const HEAD = { 'x-half-penny': 'application' };

/** What the server has is looked at as what comes from anywhere: one activity that is not sound is left out, not the others. */
const waitingSchema = z.strictObject({
  waiting: z
    .strictObject({ device: deviceSchema, first: z.int().min(1), activities: z.array(z.looseObject({})) })
    .nullable(),
});

/**
 * Collects activity from the server as long as the application is open: one tab does it for all. What is kept in this browser is said so
 * to the server only afterwards; what comes twice for it is kept once, by its number.
 */
export function collectActivity(): () => void {
  const ended = new AbortController();
  void navigator.locks
    .request('half-penny-collect', { signal: ended.signal }, () => collectUntil(ended.signal))
    .catch(() => undefined);
  return () => ended.abort();
}

async function collectUntil(signal: AbortSignal): Promise<void> {
  await forgetOld(Date.now()).catch(() => undefined);
  let wait = OFTEN;
  while (!signal.aborted) {
    try {
      for (let more = true; more && !signal.aborted;) more = await collectOnce();
      wait = OFTEN;
    } catch {
      // No server, as when it was ended: the application works on without what it brings.
      wait = Math.min(SELDOM, wait * 2);
    }
    await new Promise((resolve) => setTimeout(resolve, wait));
  }
}

/** @returns whether more may be waiting */
async function collectOnce(): Promise<boolean> {
  const response = await fetch('/activity/waiting', { headers: HEAD });
  if (!response.ok) throw new Error(`The server answered ${response.status}.`);
  const { waiting } = waitingSchema.parse(await response.json());
  if (!waiting) return false;
  const { device, first, activities } = waiting;
  await keepActivities(device, first, activities as unknown as Activity[]);
  await fetch('/activity/collected', {
    method: 'POST',
    headers: { ...HEAD, 'content-type': 'application/json' },
    body: JSON.stringify({ device, upTo: first + activities.length - 1 }),
  });
  return true;
}

/** The key that the agent is paired by; a new one ends the old one. */
export async function pairingKey(renew = false): Promise<string> {
  const method = renew ? 'POST' : 'GET';
  const response = await fetch('/activity/key', { method, headers: HEAD }).catch(() => null);
  if (!response?.ok) throw new Error('The server does not answer; start it with npm start.');
  return ((await response.json()) as { key: string }).key;
}
