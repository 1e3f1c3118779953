import type { FastifyInstance } from 'fastify';
import * as z from 'zod';
import type { ownPage } from './door';

/** Faults that a stand-in has when asked, to see what comes of them. */
export class FaultsOnDemand<Kind extends string> {
  #due: { kind: Kind; times: number } | null = null;

  /** Lets the application's page switch them on. */
  constructor(
    server: FastifyInstance,
    path: string,
    kinds: readonly [Kind, ...Kind[]],
    own: ReturnType<typeof ownPage>,
  ) {
    const schema = z.strictObject({
      kind: z.enum(kinds),
      /** For how many of the next answers. */
      times: z.number().int().min(1).max(100).default(1),
    });
    server.put(path, { onRequest: own }, async (request, reply) => {
      const parsed = schema.safeParse(request.body);
      if (!parsed.success) return reply.code(400).send({ message: parsed.error.issues[0]!.message });
      this.#due = { ...parsed.data };
      return reply.code(204).send();
    });
  }

  /** The fault of this answer; null where it has none. */
  next(): Kind | null {
    if (!this.#due) return null;
    const { kind } = this.#due;
    this.#due.times--;
    if (this.#due.times === 0) this.#due = null;
    return kind;
  }

  /** The next answer has this fault; none has where null. */
  set(kind: Kind | null): void {
    this.#due = kind && { kind, times: 1 };
  }
}
