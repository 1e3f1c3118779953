import { deviceSchema, type Activity } from '@half-penny/core/capture';
import * as z from 'zod';
import { askServer } from './server';
import { forgetOld, keepActivities } from './trail';

const OFTEN = 3000;
const SELDOM = 60_000;

/** What the server has is looked at as what comes from anywhere: one activity that is not sound is left out, not the others. */
const waitingSchema = z.strictObject({
  waiting: z
    .strictObject({
      device: deviceSchema,
      first: z.int().min(1),
      activities: z.array(z.custom<Activity>((each) => each !== null && typeof each === 'object')),
    })
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
      // No server, or one that does not know this page: the application works on without what it brings.
      wait = Math.min(SELDOM, wait * 2);
    }
    await new Promise((resolve) => setTimeout(resolve, wait));
  }
}

/** @returns whether more may be waiting */
async function collectOnce(): Promise<boolean> {
  const response = await askServer('/activity/waiting');
  const { waiting } = waitingSchema.parse(await response.json());
  if (!waiting) return false;
  const { device, first, activities } = waiting;
  await keepActivities(device, first, activities);
  await askServer('/activity/collected', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ device, upTo: first + activities.length - 1 }),
  });
  return true;
}

/** The key that the agent is paired by; a new one ends the old one. */
export async function pairingKey(renew = false): Promise<string> {
  const method = renew ? 'POST' : 'GET';
  return ((await (await askServer('/activity/key', { method })).json()) as { key: string }).key;
}
