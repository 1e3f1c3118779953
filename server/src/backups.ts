import { momentsToKeep } from '@half-penny/core/time';
import type { FastifyInstance } from 'fastify';
import { createHash } from 'node:crypto';
import {
  closeSync,
  createReadStream,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import * as z from 'zod';
import type { ownPage } from './door';
import { writeSafely } from './files';

/** What the page tells of a backup. */
const aboutSchema = z.strictObject({
  workspace: z.string().min(1).max(100),
  name: z.string().min(1).max(500),
  /** How many changes its history has. */
  changes: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER),
});
const keptSchema = aboutSchema.extend({
  /** Milliseconds since 1970. */
  at: z.int().min(0),
  bytes: z.int().min(0),
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
});
export type BackupAbout = z.output<typeof aboutSchema>;
export type Backup = z.output<typeof keptSchema> & { id: string };

/** A backup that cannot be taken now: what was kept before is untouched. */
export class BackupRefused extends Error {
  readonly statusCode: 400 | 413 | 507;

  constructor(statusCode: 400 | 413 | 507, message: string) {
    super(message);
    this.statusCode = statusCode;
  }
}

const LARGEST = 2 ** 31;
const MOST_BYTES = 8 * 2 ** 30;
const inMegabytes = (bytes: number) => `${Math.ceil(bytes / 1e6).toLocaleString('en-GB')} MB`;

/** What kind of files a folder of backups is for. */
export interface BackupKind {
  /** In words. */
  called: string;
  ending: string;
  /** Its first bytes, which no other kind has. */
  begins: Buffer;
  type: string;
  /** Whether earlier ones stay beside the newest. */
  generations: boolean;
}

/** Workspace files, which are zip files. */
export const WORKSPACES: BackupKind = {
  called: 'workspace file',
  ending: 'half-penny.zip',
  begins: Buffer.from('PK\u0003\u0004'),
  type: 'application/zip',
  generations: true,
};

/** Sealed trails. What was deleted from a trail is not to live on in an older backup of it: only the newest stays. */
export const TRAILS: BackupKind = {
  called: 'sealed trail',
  ending: 'half-penny-trail',
  begins: Buffer.from('HPSEAL1\n'),
  type: 'application/octet-stream',
  generations: false,
};

/** The name of a backup's two files, made of its moment and a hash; nothing of it is what was sent. */
const ID = /^\d{8}T\d{9}Z-[0-9a-f]{16}$/;

interface BackupOptions {
  /** The clock; the machine's where not given. */
  now?: () => number;
  /** Of one file, and of all together. */
  largest?: number;
  mostBytes?: number;
  kind?: BackupKind;
}

/**
 * Files of one kind that the page hands over, in a folder: `….half-penny.zip` beside a `….json` that tells what it is. A file is written
 * beside, flushed and then given its name, so there is no half of one.
 */
export class Backups {
  readonly folder: string;
  readonly mostBytes: number;
  readonly kind: BackupKind;
  readonly #largest: number;
  readonly #now: () => number;

  constructor(
    folder: string,
    { now = Date.now, largest = LARGEST, mostBytes = MOST_BYTES, kind = WORKSPACES }: BackupOptions = {},
  ) {
    this.folder = folder;
    this.kind = kind;
    this.mostBytes = mostBytes;
    this.#largest = largest;
    this.#now = now;
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    // What a server that was killed had begun.
    for (const name of readdirSync(folder)) if (/\.(?:part|new)$/.test(name)) rmSync(join(folder, name));
  }

  /** All that are whole, newest first; what cannot be read is passed over and stays where it is. */
  list(): Backup[] {
    const found: Backup[] = [];
    for (const name of readdirSync(this.folder)) {
      const id = /^(.+)\.json$/.exec(name)?.[1];
      if (id === undefined || !ID.test(id)) continue;
      try {
        const about = keptSchema.parse(JSON.parse(readFileSync(join(this.folder, name), 'utf8')));
        if (statSync(this.#file(id)).size === about.bytes) found.push({ id, ...about });
      } catch {
        // Somebody else's file, or one that was damaged: a backup that cannot be trusted is not offered.
      }
    }
    return found.sort((one, other) => other.at - one.at);
  }

  /**
   * Takes one in, and lets go of those that are not kept any longer.
   *
   * @throws BackupRefused when it is no workspace file, too large, or there is no room
   */
  async take(content: Readable, { workspace, name, changes }: BackupAbout): Promise<Backup> {
    const part = join(this.folder, `${createHash('sha256').update(`${workspace} ${this.#now()}`).digest('hex')}.part`);
    const hash = createHash('sha256');
    let bytes = 0;
    const file = openSync(part, 'w', 0o600);
    try {
      for await (const piece of content) {
        const chunk = piece as Buffer;
        const { begins, called } = this.kind;
        if (bytes === 0 && !chunk.subarray(0, begins.length).equals(begins))
          throw new BackupRefused(400, `This is no ${called}; nothing was kept of it.`);
        bytes += chunk.length;
        if (bytes > this.#largest)
          throw new BackupRefused(
            413,
            `A backup has at most ${inMegabytes(this.#largest)}; nothing was kept of this one.`,
          );
        hash.update(chunk);
        // A write may take less than it was given, as when the disk is nearly full.
        for (let from = 0; from < chunk.length;) from += writeSync(file, chunk, from);
      }
      if (bytes === 0) throw new BackupRefused(400, 'The backup was empty; nothing was kept of it.');
      fsyncSync(file);
    } catch (thrown) {
      closeSync(file);
      rmSync(part, { force: true });
      if (thrown instanceof BackupRefused) throw thrown;
      const code = (thrown as { code?: string }).code ?? 'unknown';
      throw new BackupRefused(
        507,
        `The backup could not be written (${code}). The backups that were there are untouched.`,
      );
    }
    closeSync(file);
    try {
      this.#makeRoom(bytes);
      const at = this.#moment();
      const id = `${new Date(at).toISOString().replace(/[-:.]/g, '')}-${hash16(workspace)}`;
      const about = { workspace, name, changes, at, bytes, sha256: hash.digest('hex') };
      renameSync(part, this.#file(id));
      writeSafely(join(this.folder, `${id}.json`), JSON.stringify(about));
      this.#letGo();
      return { id, ...about };
    } finally {
      rmSync(part, { force: true });
    }
  }

  /** The bytes of one of the list. */
  read(id: string): Readable | null {
    const known = this.list().find((each) => each.id === id);
    return known ? createReadStream(this.#file(known.id)) : null;
  }

  /** @returns whether there was one */
  remove(id: string): boolean {
    const known = this.list().find((each) => each.id === id);
    if (known) this.#remove(known);
    return known !== undefined;
  }

  held = (): number => this.list().reduce((sum, { bytes }) => sum + bytes, 0);

  /** The oldest go first, but never the last one of a workspace. */
  #makeRoom(bytes: number): void {
    const known = this.list();
    const newest = new Set(known.map((each) => known.find(({ workspace }) => workspace === each.workspace)!.id));
    let held = this.held();
    for (const old of known.reverse()) {
      if (held + bytes <= this.mostBytes) return;
      if (newest.has(old.id)) continue;
      this.#remove(old);
      held -= old.bytes;
    }
    if (held + bytes > this.mostBytes)
      throw new BackupRefused(
        507,
        `Backups have at most ${inMegabytes(this.mostBytes)} together; ${inMegabytes(held)} are there and ${inMegabytes(bytes)} more do not fit. Delete some you no longer need.`,
      );
  }

  #letGo(): void {
    const known = this.list();
    for (const workspace of new Set(known.map((each) => each.workspace))) {
      const own = known.filter((each) => each.workspace === workspace);
      const moments = own.map(({ at }) => at);
      const keep = this.kind.generations ? momentsToKeep(moments, this.#now()) : new Set([Math.max(...moments)]);
      for (const each of own) if (!keep.has(each.at)) this.#remove(each);
    }
  }

  /** No two at one moment, and none before the last, even when the clock was set back. */
  #moment(): number {
    const newest = this.list()[0]?.at ?? 0;
    return newest >= this.#now() && newest - this.#now() < 60_000 ? newest + 1 : this.#now();
  }

  #remove({ id }: Backup): void {
    rmSync(join(this.folder, `${id}.json`));
    rmSync(this.#file(id), { force: true });
  }

  #file = (id: string): string => join(this.folder, `${id}.${this.kind.ending}`);
}

const hash16 = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 16);

type Own = ReturnType<typeof ownPage>;

/** Adds the keeping of workspace files and of the sealed trail that the application's page hands over. */
export function addBackups(server: FastifyInstance, own: Own, workspaces: Backups, trails: Backups): void {
  for (const [path, backups] of [
    ['/backups', workspaces],
    ['/trail-backups', trails],
  ] as const) {
    // Taken in as it comes: a workspace does not go through memory at once.
    server.addContentTypeParser(backups.kind.type, (_request, payload, done) => done(null, payload));
    addOneKind(server, own, path, backups);
  }
}

function addOneKind(server: FastifyInstance, own: Own, path: string, backups: Backups): void {
  const gone = { message: 'This backup is not there any more.' };
  server.get(path, { onRequest: own }, () => ({
    folder: backups.folder,
    held: backups.held(),
    most: backups.mostBytes,
    backups: backups.list(),
  }));
  server.post(path, { onRequest: own, bodyLimit: LARGEST }, async (request, reply) => {
    const about = aboutSchema.safeParse(request.query);
    if (!about.success) {
      const [issue] = about.error.issues;
      return reply.code(400).send({ message: `${issue!.path.join('.')}: ${issue!.message}` });
    }
    try {
      return await backups.take(request.body as Readable, about.data);
    } catch (thrown) {
      if (!(thrown instanceof BackupRefused)) throw thrown;
      return reply.code(thrown.statusCode).send({ message: thrown.message });
    }
  });
  server.get<{ Params: { id: string } }>(`${path}/:id`, { onRequest: own }, (request, reply) => {
    const content = backups.read(request.params.id);
    if (!content) return reply.code(404).send(gone);
    return reply.type(backups.kind.type).header('cache-control', 'no-store').send(content);
  });
  server.delete<{ Params: { id: string } }>(`${path}/:id`, { onRequest: own }, (request, reply) =>
    backups.remove(request.params.id) ? reply.code(204).send() : reply.code(404).send(gone),
  );
}
