import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';

/** Lets a part of the server read forms as browsers send them (application/x-www-form-urlencoded). */
export function addForms(server: FastifyInstance, bodyLimit: number): void {
  server.addContentTypeParser(
    'application/x-www-form-urlencoded',
    { parseAs: 'string', bodyLimit },
    (_request, body, done) => done(null, Object.fromEntries(new URLSearchParams(body as string))),
  );
}

/** A text with what HTML gives a meaning written as references. */
export const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** A plain page of this server. */
export const plainPage = (title: string, body: string): string =>
  `<!doctype html><html lang="en-GB"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escaped(title)}</title><style>body{font:16px/1.5 sans-serif;max-width:46rem;margin:2rem auto;padding:0 1rem;color:#13222b;background:#fff}a{color:#0b6a70}li,dl{border-bottom:1px solid #d5dedd;padding:.5rem 0}ol{list-style:none;padding:0}pre{white-space:pre-wrap;font:inherit}small{color:#566873}button{font:inherit;padding:.5rem 1rem;margin:.25rem .5rem .25rem 0;border:1px solid #13222b;background:#fff;cursor:pointer}button:first-of-type{background:#0b6a70;color:#fff;border-color:#0b6a70}.sum{font-size:2rem;font-weight:700;margin:.25rem 0}.said{border-left:3px solid #0b6a70;background:#e2f1f0;padding:.5rem .75rem}form{display:inline}</style></head><body><main>${body}</main></body></html>`;

/** How a simulated service shows its pages: forms go back to this address alone. */
export function formPages(address: string) {
  const policy = `default-src 'none'; style-src 'unsafe-inline'; form-action ${address}; base-uri 'none'; frame-ancestors 'none'`;
  return {
    send: (reply: FastifyReply, title: string, body: string) =>
      reply
        .headers({ 'content-security-policy': policy, 'cache-control': 'no-store' })
        .type('text/html; charset=utf-8')
        .send(plainPage(title, body)),
    /** Forms of other sites change nothing here. */
    sameSite: async ({ headers }: FastifyRequest, reply: FastifyReply) => {
      if (!['same-origin', 'none', undefined].includes(headers['sec-fetch-site'] as string | undefined))
        await reply.code(403).send({ message: 'Only a page of this address may ask for this.' });
    },
  };
}
