import { isSignedBy, MOST_APART, signedAs, type SignedAs } from '@half-penny/formats/sealed-log';
import type { FastifyRequest } from 'fastify';
import { seenBefore } from './books';
import { RelayFault } from './fault';
import type { Database } from './sql';

/** Who sent a request, by what it says: looked at before any of its body is read. @throws RelayFault */
export function saidBy(request: FastifyRequest, now: number): SignedAs {
  const as = signedAs(request.headers);
  if (!as) throw new RelayFault('not signed', 'A request is signed by a device: see docs/relay.md.');
  if (Math.abs(now - as.at) > MOST_APART)
    throw new RelayFault(
      'wrong time',
      `The device’s clock stands ${Math.round(Math.abs(now - as.at) / 60_000)} minutes from the relay’s; at most ${MOST_APART / 60_000} are let pass.`,
      { now },
    );
  return as;
}

/** @throws RelayFault where the signature is not the device's, over this request whole */
export async function checkSigned(request: FastifyRequest, as: SignedAs): Promise<void> {
  const body = request.body instanceof Uint8Array ? request.body : new Uint8Array();
  if (!(await isSignedBy({ method: request.method, path: request.url, body }, as)))
    throw new RelayFault('wrong signature', 'The signature is not this device’s over this request.');
}

/** Requests that were here, so that none counts twice. */
export class Nonces {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  /** @throws RelayFault where the very same request was here before */
  async once({ device, nonce }: SignedAs): Promise<void> {
    const put = await this.#database.query(
      'INSERT INTO nonces (device, nonce) VALUES ($1, $2) ON CONFLICT DO NOTHING RETURNING nonce',
      [device, nonce],
    );
    if (put.length === 0) throw seenBefore();
  }

  /** Forgets those whose time is over anyway. */
  async sweep(): Promise<void> {
    await this.#database.query("DELETE FROM nonces WHERE at < now() - ($1 || ' milliseconds')::interval", [
      String(2 * MOST_APART),
    ]);
  }
}
