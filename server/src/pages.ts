import type { FastifyInstance } from 'fastify';
import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import type { ownPage } from './door';
import { writeSafely } from './files';
import { addForms } from './forms';
import { Told } from './told';

// Pages for clients, shown by this server so that they can be tried. They are shown as if of another address: their script reaches nothing
// that the application keeps in the browser. What happens on them is told to the application when it asks.

const LARGEST = 30 << 20;
/** No answer is longer. */
const LONGEST_ANSWER = 20_000;
const MOST_TOLD = 500;

const pageSchema = z.strictObject({ html: z.string().min(1).max(LARGEST), workspace: z.string().min(1).max(100) });
const ownerSchema = z.strictObject({ workspace: z.string(), since: z.int() });
const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

const toldSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('opened'), page: z.string(), workspace: z.string(), at: z.int() }),
  z.strictObject({
    kind: z.literal('answered'),
    page: z.string(),
    workspace: z.string(),
    at: z.int(),
    signed: z.string(),
  }),
]);

/** Adds the showing of clients' pages to a server. */
export function addPages(
  server: FastifyInstance,
  own: ReturnType<typeof ownPage>,
  { folder, address, now = Date.now }: { folder: string; address: string; now?: () => number },
): void {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const fileOf = (id: string) => join(folder, `${id}.html`);
  const ownerFile = (id: string) => join(folder, `${id}.owner.json`);
  /** Whose page it is, and since when it is as it is. */
  const ownerOf = (id: string) => ownerSchema.parse(JSON.parse(readFileSync(ownerFile(id), 'utf8')));
  const told = new Told(join(folder, 'told.json'), toldSchema, MOST_TOLD);

  server.put<{ Params: { id: string } }>(
    '/pages/:id',
    { onRequest: own, bodyLimit: LARGEST },
    async (request, reply) => {
      const parsed = pageSchema.safeParse(request.body);
      if (!parsed.success || !uuid.test(request.params.id))
        return reply.code(400).send({ message: 'This is no page of a document.' });
      writeSafely(fileOf(request.params.id), parsed.data.html);
      writeSafely(ownerFile(request.params.id), JSON.stringify({ workspace: parsed.data.workspace, since: now() }));
      return { address: `${address}/pages/${request.params.id}` };
    },
  );

  server.get('/pages/told', { onRequest: own }, async () => ({ told: told.all() }));

  void server.register(async (shown) => {
    addForms(shown, LONGEST_ANSWER * 4);

    shown.get<{ Params: { id: string } }>('/pages/:id', async (request, reply) => {
      const { id } = request.params;
      if (!uuid.test(id) || !existsSync(fileOf(id)))
        return reply.code(404).send({ message: 'There is no such page here.' });
      const { workspace, since } = ownerOf(id);
      const before = told
        .all()
        .some((each) => each.kind === 'opened' && each.page === id && each.workspace === workspace && each.at >= since);
      if (!before) told.add({ kind: 'opened', page: id, workspace, at: now() });
      return reply
        .headers({
          'content-security-policy': `sandbox allow-scripts allow-forms allow-downloads allow-popups allow-popups-to-escape-sandbox; form-action ${address}`,
          'cache-control': 'no-store',
        })
        .type('text/html; charset=utf-8')
        .send(readFileSync(fileOf(id)));
    });

    shown.post<{ Params: { id: string }; Body: Record<string, string> }>(
      '/pages/:id/answer',
      async (request, reply) => {
        const { id } = request.params;
        const signed = request.body.signed ?? '';
        if (!uuid.test(id) || !existsSync(fileOf(id)) || signed === '' || signed.length > LONGEST_ANSWER)
          return reply.code(400).send({ message: 'This is no answer to a page that is here.' });
        // Whether it is signed rightly, the application tells, which knows the key.
        if (!told.all().some((each) => each.kind === 'answered' && each.signed === signed))
          told.add({ kind: 'answered', page: id, workspace: ownerOf(id).workspace, at: now(), signed });
        return reply.redirect(`/pages/${id}#answered`, 303);
      },
    );
  });
}
