import { deviceSchema, heardSchema, type Activity, type Welcome } from '@half-penny/core/capture';
import { publicLineKey } from '@half-penny/formats/sealed-lines';
import * as z from 'zod';
import { askServer } from './server';
import { forgetOld, keepActivities, lineKeys, readRecording, trail } from './trail';

const OFTEN = 3000;
const SELDOM = 60_000;

/** What the server has is looked at as what comes from anywhere: one activity that is not sound is left out, not the others. */
const waitingSchema = z.strictObject({
  waiting: z
    .strictObject({
      device: deviceSchema,
      first: z.int().min(1),
      activities: z.array(
        z.custom<Activity | string>((each) => (each !== null && typeof each === 'object') || typeof each === 'string'),
      ),
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
  const devices = new DeviceTalk();
  while (!signal.aborted) {
    try {
      await devices.tell();
      for (let more = true; more && !signal.aborted;) more = await collectOnce();
      await devices.hear();
      await devices.followCalendars();
      wait = OFTEN;
    } catch {
      // No server, or one that does not know this page: the application works on without what it brings.
      wait = Math.min(SELDOM, wait * 2);
    }
    await new Promise((resolve) => setTimeout(resolve, wait));
  }
}

/** How often it is asked which devices were heard, in milliseconds. */
const HEARD_EVERY = 15_000;

/** What is told to devices by way of the server, and heard of them. */
class DeviceTalk {
  /** What the server was told last. */
  #told = '';
  #wiped = -1;
  #asked = -Infinity;
  #followed = -Infinity;

  /** Says what may be recorded, where the server has not been told yet. */
  async tell(): Promise<void> {
    const recording = await readRecording();
    const welcome: Welcome = { recording, publicKey: await publicLineKey(await lineKeys()) };
    const body = JSON.stringify(welcome);
    if (body === this.#told) return;
    const headers = { 'content-type': 'application/json' };
    await askServer('/activity/recording', { method: 'POST', headers, body });
    // What waits at the server was noticed before the wiping.
    if (this.#wiped >= 0 && recording.wipedAt > this.#wiped) await askServer('/activity/wiped', { method: 'POST' });
    this.#wiped = recording.wipedAt;
    this.#told = body;
  }

  /** Reads calendars that are followed, once a minute. */
  async followCalendars(): Promise<void> {
    const now = Date.now();
    if (now - this.#followed < SELDOM) return;
    this.#followed = now;
    const { collectFeeds } = await import('./feeds');
    // A calendar that cannot be had keeps nothing else from coming.
    await collectFeeds(Intl.DateTimeFormat().resolvedOptions().timeZone, now).catch(() => undefined);
  }

  async hear(): Promise<void> {
    const now = Date.now();
    if (now - this.#asked < HEARD_EVERY) return;
    this.#asked = now;
    await readDevices();
  }
}

/** Asks which devices were heard, and keeps it for the screens. */
export async function readDevices(): Promise<void> {
  const { devices } = z
    .object({ devices: z.array(heardSchema) })
    .parse(await (await askServer('/activity/devices')).json());
  await trail.transaction('rw', trail.devices, async () => {
    await trail.devices.clear();
    await trail.devices.bulkPut(devices);
  });
}

/** Forgets a device that is not used any more; it comes back when it is heard again. */
export async function forgetDevice(device: string): Promise<void> {
  await askServer('/activity/devices/forget', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ device }),
  });
  await trail.devices.delete(device);
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
