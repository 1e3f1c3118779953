import { putNewEntry } from './entry-writes';
import * as z from 'zod';
import { blankEntry, withTimes } from '../entries/timer';
import { serviceDefaults } from '../model/defaults';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import { entrySchema, mappingSchema, spanSchema, type Member } from '../model/records';
import { command, need, Plan } from '../engine/command';
import { jobAfter, jobInput, serviceAfter } from './job-fields';

const hoursRow = z.strictObject({
  memberId: fields.id,
  day: fields.day,
  ...jobInput,
  seconds: fields.length,
  span: spanSchema.nullable(),
  billableSeconds: fields.seconds.nullable(),
  source: fields.text.max(2000),
  tags: entrySchema.shape.tags,
});
export type HoursRow = z.input<typeof hoursRow>;

/**
 * Takes in hours from elsewhere, all or none of them. Rows that were taken in before, known by their source, are left out; how the
 * columns were understood is remembered.
 */
export const importHours = command({
  name: 'hours.import',
  title: ({ rows }: { rows: unknown[] }) =>
    rows.length === 1 ? 'One row of hours imported' : `${rows.length} rows of hours imported`,
  input: z.strictObject({
    rows: z.array(hoursRow).min(1).max(200_000),
    /** Services that the table names and the workspace does not have yet. */
    services: z.array(z.strictObject({ id: fields.id, name: fields.name })).max(1000),
    mapping: mappingSchema.omit({ id: true }).nullable(),
  }),
  async plan(reader, { rows, services, mapping }, { newId }) {
    const plan = new Plan();
    for (const service of services) plan.put('services', { ...serviceDefaults, ...service });
    const sources = rows.map((row) => row.source).filter(Boolean);
    const known = new Set((await reader.by('entries', 'source', sources)).map((entry) => entry.source));
    const members = new Map<Id, Member>();
    for (const row of rows) {
      if (known.has(row.source)) continue;
      const member = members.get(row.memberId) ?? (await need(reader, 'members', row.memberId, 'member'));
      members.set(member.id, member);
      const { span, ...rest } = row;
      const entry = blankEntry({ ...rest, ...jobAfter(row), ...serviceAfter(row), id: newId() });
      putNewEntry(plan, span ? { ...withTimes(entry, [span], member.zone), seconds: row.seconds } : entry);
    }
    if (mapping) {
      const [before] = await reader.by('mappings', 'head', [mapping.head]);
      plan.put('mappings', { id: before?.id ?? newId(), ...mapping });
    }
    return plan;
  },
});
