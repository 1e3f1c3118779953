import { welcomeSchema, type Hello } from '@half-penny/core/capture';
import * as z from 'zod';
import type { Gate } from './gate';

export interface HelloOptions {
  server: string;
  key: () => string | null;
  /** What this device is and sees. */
  about: Pick<Hello, 'device' | 'name' | 'sees' | 'lacks'>;
  gate: Gate;
}

/** The browser's wishes reach a device within so many milliseconds. */
const EVERY = 3000;
const SLOWEST = 5000;
const answerSchema = z.object({ welcome: welcomeSchema.nullable() });

/**
 * Tells the server that this device is there, and hears what it may record.
 *
 * @returns whether the server answered; what is wrong otherwise is told by the one that sends
 */
export async function sayHello({ server, key, about, gate }: HelloOptions, ended = false): Promise<boolean> {
  const secret = key();
  if (secret === null) return false;
  try {
    const response = await fetch(new URL('/activity/hello', server), {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${secret}` },
      body: JSON.stringify({ ...about, paused: gate.paused, ended } satisfies Hello),
      signal: AbortSignal.timeout(SLOWEST),
    });
    if (!response.ok) return false;
    const { welcome } = answerSchema.parse(await response.json());
    if (welcome) gate.hear(welcome);
    return true;
  } catch {
    return false;
  }
}

/** Goes on saying so until it is stopped. */
export async function keepSaying(options: HelloOptions, isStopped: () => boolean): Promise<void> {
  while (!isStopped()) {
    await sayHello(options);
    await new Promise((done) => setTimeout(done, EVERY));
  }
}
