import { sha256 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';
import * as z from 'zod';
import * as fields from '../model/fields';
import { idSource, momentOfId, type Id, type IdSource } from '../model/ids';

// What a device keeps beside a workspace that it shares. None of it is part of the workspace: what waits here is nobody else's yet.

/** What was done: a command, or taking back or repeating an earlier doing of this device. */
const doneSchema = z.union([
  z.strictObject({
    command: z.string().min(1).max(60),
    input: z.unknown(),
    /** Where whoever did it was: kept until everybody has it, and told to nobody. */
    position: z
      .strictObject({ latitude: z.number(), longitude: z.number(), accuracy: z.number() })
      .nullable()
      .optional(),
    /** A timer that was seen running, and the latest moment at which it was. */
    seen: z.strictObject({ timerId: fields.id, at: fields.instant }).optional(),
  }),
  /** A number of this device's history, or a doing that waits still. */
  z.strictObject({ again: z.boolean(), of: z.union([z.int().min(1), fields.id]) }),
]);

const waitingSchema = z.strictObject({
  op: fields.id,
  at: fields.instant,
  memberId: fields.id.nullable(),
  /** In words, as it was last told. */
  title: z.string(),
  done: doneSchema,
  /** The number that it has in this device's history meanwhile; null where it is done only when its turn in the log has come. */
  seq: z.int().min(1).nullable(),
});

const refusedSchema = z.strictObject({
  ...waitingSchema.omit({ seq: true }).shape,
  /** Why it does not fit any more. */
  why: z.string(),
  refusedAt: fields.instant,
});

/** How a device stands in a shared book: how far it has read, what waits to be sent, what did not fit. */
export const shareSchema = z.strictObject({
  book: fields.id,
  device: fields.id,
  head: z.strictObject({ number: z.int().min(0), hash: z.string() }),
  /** In the order they were done. */
  waiting: z.array(waitingSchema),
  refused: z.array(refusedSchema),
});

/** Where a device stands in a shared log. */
export type Share = z.infer<typeof shareSchema>;
/** What was done here and is not in the log yet. */
export type Waiting = z.infer<typeof waitingSchema>;
/** What was done here and did not fit any more when its turn came. */
export type Refused = z.infer<typeof refusedSchema>;
export type Done = z.infer<typeof doneSchema>;

/** A device that begins to share from a head. */
export const beginning = (book: Id, device: Id, head: Share['head']): Share => ({
  book,
  device,
  head,
  waiting: [],
  refused: [],
});

/**
 * The ids that a doing hands out: always the same ones, so that what was done after it and names them still means them when all is
 * planned again.
 */
export function idsOf(op: Id): IdSource {
  let count = 0;
  const at = momentOfId(op);
  return idSource(
    () => at,
    (bytes) => {
      bytes.set(sha256(utf8ToBytes(`${op} ${count++}`)).subarray(0, bytes.length));
      return bytes;
    },
  );
}
