import { welcomeSchema, type Hello } from '@half-penny/core/capture';
import * as z from 'zod';
import type { Shelf } from './shelf';

const AT_ONCE = 500;
const SLOWEST = 8000;
const helloAnswer = z.object({ welcome: welcomeSchema.nullable() });
const batchAnswer = z.object({ upTo: z.int() });

const post = (shelf: Shelf, path: string, body: object): Promise<Response> =>
  fetch(new URL(path, shelf.server), {
    method: 'POST',
    headers: { 'content-type': 'application/json', authorization: `Bearer ${shelf.key}` },
    body: JSON.stringify(body),
    signal: AbortSignal.timeout(SLOWEST),
  });

/** Says that the extension is there, and hears what it may record. */
export async function greet(shelf: Shelf, program: string): Promise<Shelf> {
  if (!shelf.key) return { ...shelf, trouble: 'Not paired yet: the key stands in Half Penny under Sift → Sources.' };
  const hello: Hello = {
    device: shelf.device,
    name: `Extension in ${program}`,
    sees: ['the page in front: its title and address', 'time away'],
    lacks: [],
    paused: shelf.paused,
    ended: false,
  };
  try {
    const response = await post(shelf, '/activity/hello', hello);
    if (response.status === 401)
      return { ...shelf, trouble: 'The pairing key is wrong. Half Penny shows the right one under Sift → Sources.' };
    if (!response.ok) return { ...shelf, trouble: `Half Penny answered with ${response.status}; it is tried again.` };
    const { welcome } = helloAnswer.parse(await response.json());
    if (!welcome)
      return {
        ...shelf,
        trouble: 'Half Penny has not been opened in a browser since; pages stay in memory until it is.',
      };
    // What waits is sealed and was noticed before: after a wiping none of it goes out.
    const wiped = welcome.recording.wipedAt > (shelf.welcome?.recording.wipedAt ?? 0);
    const kept = wiped ? { ...shelf, first: shelf.first + shelf.lines.length, lines: [] } : shelf;
    return { ...kept, welcome, trouble: '' };
  } catch {
    return { ...shelf, trouble: `Nobody answers at ${shelf.server}; what is noticed waits here, sealed.` };
  }
}

/** Sends what waits, batch by batch, as far as it is taken. */
export async function send(shelf: Shelf): Promise<Shelf> {
  let now = shelf;
  while (now.key && now.lines.length > 0) {
    const sealed = now.lines.slice(0, AT_ONCE);
    try {
      const response = await post(now, '/activity', { device: now.device, first: now.first, sealed });
      if (!response.ok && response.status !== 400) return now;
      // What is refused is refused each time: the rest goes on without it.
      const last = now.first + sealed.length - 1;
      const upTo = response.ok ? Math.min(last, batchAnswer.parse(await response.json()).upTo) : last;
      now = { ...now, lines: now.lines.slice(upTo + 1 - now.first), first: upTo + 1 };
    } catch {
      return now;
    }
  }
  return now;
}
