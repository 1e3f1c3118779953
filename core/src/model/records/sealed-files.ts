import * as z from 'zod';
import { day, id, instant } from '../fields';

// What travels between the studio's workspace and those of its members: who signs and opens it, and what went and came.

const hex = (bytes: number) =>
  z.string().regex(new RegExp(`^[0-9a-f]{${bytes * 2}}$`), `This is not ${bytes} bytes in hex.`);

/** What others know of somebody's keys. */
export const publicKeysSchema = z.strictObject({
  /** Ed25519 (RFC 8032): what they signed is told by it. */
  signing: hex(32),
  /** X25519 (RFC 7748): what is meant for them is sealed to it. */
  agreement: hex(32),
});

/** How far somebody is known: invited, answered without the short codes having been compared, or met. */
export const meetings = ['invited', 'to compare', 'met'] as const;

/** Private keys as they may be kept in backups: sealed by a passphrase. */
export const wrappedKeysSchema = z.strictObject({
  /** Of the passphrase. */
  salt: hex(16),
  /** Of the sealing (XChaCha20-Poly1305). */
  nonce: hex(24),
  /** Both private keys and the seal of them. */
  sealed: hex(80),
});

/** Somebody who signs and opens sealed files: the studio, or one of its members. */
export const keyHolderSchema = z
  .strictObject({
    id,
    /** The member; null for the studio. */
    memberId: id.nullable(),
    /** Null until they answered. */
    keys: publicKeysSchema.nullable(),
    standing: z.enum(meetings),
    /** When it came to that. */
    at: instant,
    /** What was in the invitation and must be in the answer to it; absent once it was answered. */
    secret: hex(32).optional(),
    /** The private keys under a passphrase, of whoever's workspace this is; absent where they are in the browser alone. */
    wrapped: wrappedKeysSchema.optional(),
  })
  .refine(({ keys, standing }) => (keys === null) === (standing === 'invited'), {
    message: 'Who has answered has keys, and who has not has none.',
    path: ['keys'],
  });

/** What goes to a member, what comes from one, and what is said to that. */
export const sealedKinds = ['job sheet', 'timesheet', 'answer'] as const;

/** A sealed file that was made here, or was opened here and taken. */
export const sealedFileSchema = z.strictObject({
  /** Its own, given by whoever made it. */
  id,
  kind: z.enum(sealedKinds),
  /** The member that it is to or from. */
  memberId: id,
  /** Whether it was made here. */
  sent: z.boolean(),
  /** When it was made, by the clock of whoever made it. */
  madeAt: instant,
  /** When it was made or taken here. */
  at: instant,
  /** The days that a timesheet is of. */
  from: day.nullable(),
  to: day.nullable(),
  /** The handings in that an answer is to: whoever sent it has them. */
  answers: z.array(id).max(1000).optional(),
});

export type PublicKeys = z.infer<typeof publicKeysSchema>;
export type Meeting = (typeof meetings)[number];
export type WrappedKeys = z.infer<typeof wrappedKeysSchema>;
export type KeyHolder = z.infer<typeof keyHolderSchema>;
export type SealedKind = (typeof sealedKinds)[number];
export type SealedFile = z.infer<typeof sealedFileSchema>;
