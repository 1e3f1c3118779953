import { journalSchema, SCHEMA_VERSION, tableNames, schemas } from '@half-penny/core/model';
import * as z from 'zod';
import { JOURNAL, manifestSchema, tableFile } from './manifest';

/** The published JSON Schemas of a workspace file: one definition for the manifest and one for a line of each table. */
export function workspaceJsonSchema(): object {
  const define = (schema: z.ZodType) => {
    const { $schema: _dialect, ...definition } = z.toJSONSchema(schema, { unrepresentable: 'any' });
    return definition;
  };
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Half Penny workspace file',
    description:
      `Records of version ${SCHEMA_VERSION}. A workspace file is a zip of manifest.json and, for each table, ` +
      `${tableFile('<table>')} with one record a line, ordered by id, keys in code-unit order.`,
    $defs: {
      manifest: define(manifestSchema),
      ...Object.fromEntries(tableNames.map((name) => [name, define(schemas[name])])),
      [JOURNAL]: define(journalSchema),
    },
  };
}
