import * as z from 'zod';
import { deviceSchema } from './activity';
import { recordingSchema } from './recording';

const words = z.string().max(300);

/** What a device says of itself each time it asks what it may record. */
export const helloSchema = z.strictObject({
  device: deviceSchema,
  /** As the person knows it: "Agent on X11", "Extension in Chromium". */
  name: words.min(1),
  /** What it can see. */
  sees: z.array(words).max(20),
  /** What it cannot, and how that is mended. */
  lacks: z.array(z.strictObject({ what: words, how: words })).max(20),
  paused: z.boolean(),
  /** It was stopped by the person and says good-bye. */
  ended: z.boolean(),
});
export type Hello = z.output<typeof helloSchema>;

/** What a device is answered: what it may record, and whom it seals that for; null while no browser has said so. */
export const welcomeSchema = z.strictObject({
  recording: recordingSchema,
  /** The public key of the browser, in base64. */
  publicKey: z.base64().max(200),
});
export type Welcome = z.output<typeof welcomeSchema>;

/** A device as the server knows it. */
export const heardSchema = helloSchema.extend({
  /** When it was last heard, in milliseconds since 1970. */
  heard: z.int().min(0),
});
export type Heard = z.output<typeof heardSchema>;
