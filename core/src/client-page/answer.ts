import * as z from 'zod';
import { Fault } from '../faults/fault';
import { canonical } from '../model/canonical';
import { id } from '../model/fields';
import type { Quote, QuoteVersion } from '../model/records';
import { digestOf } from './page';
import { signatureOf, type Answer } from './seal';

const answerSchema = z.strictObject({
  what: z.literal('answer to a quote'),
  form: z.literal(1),
  quoteId: id,
  number: z.string().min(1).max(100),
  digest: z.string().regex(/^[0-9a-f]{64}$/),
  decision: z.enum(['accepted', 'declined']),
  keys: z.array(z.string().max(100)).max(500),
  by: z.string().min(1).max(200),
  note: z.string().max(1000),
  at: z.iso.datetime({ offset: true }),
});
const signedSchema = answerSchema.extend({ signature: z.string().regex(/^[0-9a-f]{64}$/) });

/** An answer that was read, with the quote and the version that it is to. */
export interface ReadAnswer {
  quote: Quote;
  version: QuoteVersion;
  answer: Answer;
  /** As it came. */
  signed: string;
}

/** No answer is longer. */
const LONGEST = 20_000;

/**
 * Reads a client's answer and checks its signature.
 *
 * @param quotes among which the one is that it is to
 * @throws Fault where it is none, is to no quote that is known, was changed on its way, or is to a version that holds no more
 */
export function readAnswer(text: string, quotes: readonly Quote[]): ReadAnswer {
  const { signature, ...answer } = parsed(text);
  const quote = quotes.find((each) => each.id === answer.quoteId);
  if (!quote) throw new Fault('unknown', `This answers ${answer.number}, which is not in this workspace.`, 'file');
  const version = quote.versions.find(
    ({ seal, frozen }) => seal !== undefined && digestOf(frozen) === answer.digest && frozen.number === answer.number,
  );
  if (!version || signatureOf(version.seal!, canonical(answer)) !== signature)
    throw new Fault(
      'altered',
      `This answer to ${quote.versions.at(-1)?.frozen.number ?? answer.number} was changed after it was signed, or was not made with the page that was sent. Ask the client.`,
      'file',
    );
  const last = quote.versions.at(-1)!;
  if (version !== last)
    throw new Fault(
      'outdated',
      `${answer.by} answers ${version.frozen.number}, and ${last.frozen.number} was given since. Ask which is meant.`,
      'file',
    );
  return { quote, version, answer, signed: text };
}

function parsed(text: string): z.infer<typeof signedSchema> {
  let plain: unknown;
  try {
    if (text.length > LONGEST) throw new Error();
    plain = JSON.parse(text);
  } catch {
    throw new Fault('other-file', 'This is no answer to a quote: those are small files that its page saves.', 'file');
  }
  const result = signedSchema.safeParse(plain);
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  throw new Fault(
    'other-file',
    `This is no answer to a quote: ${issue!.path.join('.') || 'the file'}: ${issue!.message}.`,
    'file',
  );
}
