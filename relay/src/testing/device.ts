import { createHash, randomUUID } from 'node:crypto';
import { LOG_START, type LogHead, type LogRow } from '@half-penny/core/shared-log';
import { grant, sealRows, signRequest, type Grant } from '@half-penny/formats/sealed-log';
import { makeKeys, publicKeysOf, type PrivateKeys } from '@half-penny/formats/sealed-files';
import type { FastifyInstance } from 'fastify';

const id = (): string =>
  randomUUID()
    .replace(/^(.{14})./, '$17')
    .replace(/^(.{19})./, '$18');

/** What a relay answered. */
export interface Answer {
  status: number;
  body: Record<string, unknown>;
  bytes: Buffer;
}

type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';

/** A device that talks to a relay as docs/relay.md says. */
export class TestDevice {
  readonly keys: PrivateKeys = makeKeys();
  readonly device = id();
  readonly relay: FastifyInstance;
  readonly now: () => number;
  epoch = 1;
  workspaceKey = createHash('sha256').update('workspace').digest('hex');

  constructor(relay: FastifyInstance, now: () => number = Date.now) {
    this.relay = relay;
    this.now = now;
  }

  get key(): string {
    return publicKeysOf(this.keys).signing;
  }

  signed(method: Method, path: string, body: Uint8Array): Promise<Record<string, string>> {
    return signRequest({ method, path, body }, this.keys.signing, this.now());
  }

  async ask(method: Method, path: string, content?: object | Uint8Array, headers?: object): Promise<Answer> {
    const body =
      content instanceof Uint8Array ? content : new TextEncoder().encode(content ? JSON.stringify(content) : '');
    const type = content instanceof Uint8Array ? 'application/octet-stream' : 'application/json';
    const answer = await this.relay.inject({
      method,
      url: path,
      headers: { ...(content && { 'content-type': type }), ...(await this.signed(method, path, body)), ...headers },
      ...(content && { payload: Buffer.from(body) }),
    });
    const isJson = answer.headers['content-type']?.toString().includes('json') ?? false;
    return { status: answer.statusCode, body: isJson ? answer.json() : {}, bytes: answer.rawPayload };
  }

  says(book: string, number: number, of: TestDevice, may = true): Grant {
    return grant({ book, number, device: of.device, key: of.key, may }, this.keys.signing);
  }

  async found(): Promise<string> {
    const book = id();
    const { status } = await this.ask('POST', '/books', this.says(book, 1, this));
    if (status !== 201) throw new Error(`A book was not founded: ${status}`);
    return book;
  }

  /** Rows behind a head that say what they are told to. */
  rows(book: string, head: LogHead = LOG_START, ...titles: string[]): LogRow[] {
    const bodies = titles.map((title) => ({
      op: id(),
      version: 1,
      row: {
        ...{ device: this.device, seq: 1, at: 0, memberId: null, command: 'client.edit', title, input: {} },
        ...{ of: null, changes: [], previous: '', hash: '' },
      },
    }));
    return sealRows(head, bodies, { book, epoch: this.epoch, key: this.workspaceKey, signing: this.keys.signing });
  }

  append = (book: string, after: LogHead, rows: readonly LogRow[]) =>
    this.ask('POST', `/books/${book}/rows`, { after, rows });
}
