import {
  captureSettingsSchema,
  FIRST_MOMENT,
  LAST_MOMENT,
  placingRuleSchema,
  placingSchema,
  whyUnsound,
  type Activity,
  type KeptActivity,
} from '@half-penny/core/capture';
import { Fault, readJson } from '@half-penny/core/model';
import * as z from 'zod';

/**
 * A trail as JSON Lines, for its sealed backup: a head `{"trail":1}`, then a line `{"table":…,"row":…}` for each row, and `{"rows":N}` at
 * the end, so that a file that lost its end is known. It is read back with the checks that everything passes on its way into a trail.
 */

const moment = z.number().min(FIRST_MOMENT).max(LAST_MOMENT);

const activityRowSchema = z
  .looseObject({ device: z.string().min(1).max(400), seq: z.int().min(0) })
  .transform((row: object, context): KeptActivity => {
    const { device, seq, ...activity } = row as KeptActivity;
    const why = whyUnsound(activity satisfies Activity);
    if (why !== null) context.addIssue({ code: 'custom', message: why });
    return { ...activity, device, seq };
  });

const settingSchema = z.discriminatedUnion('key', [
  z.strictObject({ key: z.literal('capture'), value: captureSettingsSchema }),
  z.strictObject({
    key: z.literal('pauses'),
    value: z.array(z.strictObject({ from: moment, to: moment.nullable() })).max(200),
  }),
]);

/** What each table of a trail holds. */
const schemas = {
  activities: activityRowSchema,
  placings: placingSchema,
  rules: placingRuleSchema,
  switches: z.strictObject({ file: z.string(), at: moment, on: z.boolean() }),
  openedFor: z.strictObject({ file: z.string(), openedForId: z.string() }),
  settings: settingSchema,
} as const;

export type TrailTableName = keyof typeof schemas;
export type TrailRows = { [Name in TrailTableName]: z.output<(typeof schemas)[Name]>[] };
export const trailTables = Object.keys(schemas) as TrailTableName[];

const HEAD = { trail: 1 } as const;
/** As long as a line of a trail can be: its texts, its people, and what stands around them. */
const MOST_LINE = 2_000_000;

/** Writes the rows that it is given, table by table, as a stream of bytes. */
export function writeTrail(
  rows: AsyncIterable<readonly [TrailTableName, readonly object[]]>,
): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  const batches = rows[Symbol.asyncIterator]();
  let count = 0;
  return new ReadableStream<Uint8Array>({
    start: (controller) => controller.enqueue(encoder.encode(`${JSON.stringify(HEAD)}\n`)),
    async pull(controller) {
      const next = await batches.next();
      if (next.done) {
        controller.enqueue(encoder.encode(`${JSON.stringify({ rows: count })}\n`));
        return controller.close();
      }
      const [table, batch] = next.value;
      count += batch.length;
      controller.enqueue(encoder.encode(batch.map((row) => `${JSON.stringify({ table, row })}\n`).join('')));
    },
    async cancel() {
      await batches.return?.();
    },
  });
}

const lineSchema = z.strictObject({ table: z.enum(trailTables), row: z.unknown() });

/**
 * Reads a trail back.
 *
 * @throws Fault that names the line, when it is no trail, of a version that is not known, not whole, or has a row that cannot be true
 */
export async function readTrail(stream: ReadableStream<Uint8Array>): Promise<TrailRows> {
  const rows: TrailRows = { activities: [], placings: [], rules: [], switches: [], openedFor: [], settings: [] };
  let number = 0;
  let count = 0;
  let said: number | null = null;
  for await (const line of linesOf(stream)) {
    number++;
    const value = readJson(line, `Line ${number} of the trail`);
    if (number === 1) {
      if (!z.object({ trail: z.literal(HEAD.trail) }).safeParse(value).success)
        throw new Fault('other-file', 'This is no trail that this version of Half Penny knows.');
      continue;
    }
    if (said !== null) throw new Fault('broken-file', `Line ${number} of the trail stands behind its end.`);
    const end = z.strictObject({ rows: z.int() }).safeParse(value);
    if (end.success) {
      said = end.data.rows;
      continue;
    }
    const parsed = lineSchema.safeParse(value);
    if (!parsed.success) throw new Fault('broken-file', `Line ${number} of the trail is no row of a trail.`);
    const { table, row } = parsed.data;
    const known = schemas[table].safeParse(row);
    if (!known.success) {
      const [issue] = known.error.issues;
      throw new Fault(
        'invalid',
        `Line ${number} of the trail, ${[table, ...issue!.path].join('.')}: ${issue!.message}`,
      );
    }
    (rows[table] as object[]).push(known.data);
    count++;
  }
  if (said === null) throw new Fault('broken-file', 'The trail has no end: a part of it is missing.');
  if (said !== count) throw new Fault('broken-file', `The trail has ${count} rows and says that it has ${said}.`);
  return rows;
}

async function* linesOf(stream: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = stream.pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>).getReader();
  let held = '';
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) break;
      const lines = (held + value).split('\n');
      held = lines.pop()!;
      if (held.length > MOST_LINE)
        throw new Fault('too-large', 'A line of the trail is longer than any that Half Penny writes.');
      yield* lines;
    }
  } finally {
    await reader.cancel().catch(() => undefined);
  }
  if (held !== '') yield held;
}
