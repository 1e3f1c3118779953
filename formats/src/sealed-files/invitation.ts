import { ed25519 } from '@noble/curves/ed25519.js';
import { bytesToHex, concatBytes, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import * as z from 'zod';
import { canonical, id, instant, name, publicKeysSchema, type PublicKeys } from '@half-penny/core/model';
import { openSealed, sealTo } from './envelope';
import { SealedFileFault } from './fault';
import { publicKeysOf, type PrivateKeys, type Random, randomBytes } from './keys';

// How a studio and a member come to know each other's keys: an invitation that anybody may read, and an answer to it sealed to the studio.

const secret = z.string().regex(/^[0-9a-f]{64}$/);
const who = z.strictObject({ id, name });

const invitedSchema = z.strictObject({
  format: z.literal('half-penny invitation'),
  version: z.literal(1),
  studio: z.strictObject({ name, keys: publicKeysSchema }),
  member: who,
  /** Comes back in the answer, so that no other invitation is answered by it. */
  secret,
  madeAt: instant,
  /** The address of a relay with mailboxes for what comes after this. */
  relay: z.string().max(300).optional(),
});
const invitationSchema = invitedSchema.extend({ signature: z.string().regex(/^[0-9a-f]{128}$/) });

const replySchema = z.strictObject({
  format: z.literal('half-penny reply'),
  version: z.literal(1),
  member: who,
  keys: publicKeysSchema,
  secret,
});

export type Invitation = z.infer<typeof invitationSchema>;
export type Reply = z.infer<typeof replySchema>;

const signedPart = (invited: z.infer<typeof invitedSchema>): Uint8Array =>
  concatBytes(utf8ToBytes('half-penny invitation 1\n'), utf8ToBytes(canonical(invited)));

/** An invitation as the text of a file. */
export function writeInvitation(
  invited: { studio: string; member: { id: string; name: string }; secret: string; madeAt: number; relay?: string },
  studio: PrivateKeys,
): string {
  const content = invitedSchema.parse({
    format: 'half-penny invitation',
    version: 1,
    ...invited,
    studio: { name: invited.studio, keys: publicKeysOf(studio) },
  });
  const signature = bytesToHex(ed25519.sign(signedPart(content), hexToBytes(studio.signing)));
  return `${JSON.stringify({ ...content, signature }, null, 2)}\n`;
}

/** @returns null where the text is no invitation. @throws SealedFileFault where it is one that was altered */
export function readInvitation(text: string): Invitation | null {
  const raw = jsonOf(text);
  if ((raw as { format?: unknown } | null)?.format !== 'half-penny invitation') return null;
  const parsed = invitationSchema.safeParse(raw);
  if (!parsed.success) throw alteredInvitation();
  const { signature, ...invited } = parsed.data;
  const isSound = ed25519.verify(hexToBytes(signature), signedPart(invited), hexToBytes(invited.studio.keys.signing), {
    zip215: false,
  });
  if (!isSound) throw alteredInvitation();
  return parsed.data;
}

const alteredInvitation = () =>
  new SealedFileFault('altered', 'This invitation was altered or cut off since it was made. Ask for it again.');

/** The member's answer to an invitation, sealed to the studio. */
export function writeReply(
  { member, secret: given, studio }: Invitation,
  keys: PrivateKeys,
  random: Random = randomBytes,
): Uint8Array<ArrayBuffer> {
  const reply = { format: 'half-penny reply', version: 1, member, keys: publicKeysOf(keys), secret: given };
  return sealTo(utf8ToBytes(canonical(reply)), studio.keys.agreement, keys, random);
}

/** What an opened envelope says where it is a reply; null where it is something else. @throws SealedFileFault where it is not by whose keys it says */
export function replyIn(content: Uint8Array, signer: string): Reply | null {
  if (content[0] !== 0x7b) return null;
  const parsed = replySchema.safeParse(jsonOf(new TextDecoder().decode(content)));
  if (!parsed.success) return null;
  if (parsed.data.keys.signing !== signer)
    throw new SealedFileFault('altered', 'This reply is not signed by the keys that it brings. Nothing was taken.');
  return parsed.data;
}

/** A studio's reply is opened like anything that is sealed to it. */
export const readReply = (bytes: Uint8Array, studio: PrivateKeys): Reply | null => {
  const { content, signer } = openSealed(bytes, studio);
  return replyIn(content, signer);
};

/** Whether two sets of keys are the same. */
export const sameKeys = (a: PublicKeys, b: PublicKeys): boolean =>
  a.signing === b.signing && a.agreement === b.agreement;

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
