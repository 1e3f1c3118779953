import { homedir } from 'node:os';
import { join } from 'node:path';
import { mkdirSync } from 'node:fs';
import * as z from 'zod';
import { makeRelay } from './app';
import { openDatabase } from './sql';

const whole = (name: string, usual: number, most: number) =>
  z.coerce
    .number({ error: `${name} must be a whole number.` })
    .int()
    .min(1)
    .max(most, `${name} must be a whole number from 1 to ${most}.`)
    .default(usual);

const settings = z.object({
  RELAY_PORT: whole('RELAY_PORT', 4360, 65_535),
  /** Behind a TLS proxy on the same machine nothing else is needed. */
  RELAY_HOST: z.string().default('127.0.0.1'),
  RELAY_DATA: z.string().default(join(homedir(), '.half-penny-relay')),
  RELAY_DATABASE_URL: z.string().optional(),
  RELAY_BOOK_MB: whole('RELAY_BOOK_MB', 2000, 1_000_000),
  RELAY_REQUESTS_A_MINUTE: whole('RELAY_REQUESTS_A_MINUTE', 1200, 1_000_000),
});

const parsed = settings.safeParse(process.env);
if (!parsed.success) {
  console.error(parsed.error.issues.map(({ message }) => message).join('\n'));
  process.exit(1);
}
const set = parsed.data;

try {
  if (!set.RELAY_DATABASE_URL) mkdirSync(set.RELAY_DATA, { recursive: true, mode: 0o700 });
  const database = await openDatabase(
    set.RELAY_DATABASE_URL ? { address: set.RELAY_DATABASE_URL } : { folder: set.RELAY_DATA },
  );
  const relay = await makeRelay(database, {
    quota: set.RELAY_BOOK_MB * 1_000_000,
    requestsAMinute: set.RELAY_REQUESTS_A_MINUTE,
    log: process.stdout,
  });
  await relay.listen({ host: set.RELAY_HOST, port: set.RELAY_PORT });
  // What was taken is answered, whoever waits is told to come again, and then it ends.
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.once(signal, () => void relay.close().then(() => process.exit(0)));
} catch (thrown) {
  const { code, message } = thrown as Error & { code?: string };
  console.error(
    code === 'EADDRINUSE'
      ? `Port ${set.RELAY_PORT} is in use. Choose another: RELAY_PORT=4361 npm run relay`
      : code === 'ECONNREFUSED'
        ? 'There is no PostgreSQL at RELAY_DATABASE_URL.'
        : message,
  );
  process.exit(1);
}
