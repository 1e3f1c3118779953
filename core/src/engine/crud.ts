import * as z from 'zod';
import { id } from '../model/fields';
import type { Id } from '../model/ids';
import type { Rows, TableName } from '../model/tables';
import { command, defined, need, Plan } from './command';

/** Fields that a row has from the start where nothing else is said. */
type Defaults<T extends TableName> = Partial<Omit<Rows[T], 'id'>>;

type Addition<T extends TableName, D> = Omit<Rows[T], 'id' | keyof D> & {
  [K in keyof D & keyof Rows[T]]?: Rows[T][K];
} & {
  id?: Id;
};

/** `<one>.add` and `<one>.edit` of a table whose rows have nothing to them but their fields. */
export function plainCommands<T extends TableName, S extends z.ZodObject, D extends Defaults<T> = object>(
  table: T,
  one: string,
  label: string,
  schema: S,
  defaults: D = {} as D,
) {
  const optional = Object.fromEntries(['id', ...Object.keys(defaults)].map((field) => [field, true]));
  // What a schema with some fields left open reads is not inferred through a type that is not known yet.
  const addition: z.ZodType = schema.extend({ id }).partial(optional as never);
  const edition: z.ZodType = schema.partial().extend({ id });
  return {
    add: command({
      name: `${one}.add`,
      title: `${label} added`,
      input: addition as z.ZodType<Addition<T, D>>,
      plan: async (_reader, input, { newId }) => {
        const row: object = { ...defaults, ...defined(input), id: input.id ?? newId() };
        return new Plan().put(table, row as Rows[T]);
      },
    }),
    edit: command({
      name: `${one}.edit`,
      title: `${label} changed`,
      input: edition as z.ZodType<Partial<Rows[T]> & { id: string }>,
      plan: async (reader, input) =>
        new Plan().put(table, { ...(await need(reader, table, input.id, one)), ...defined(input) }),
    }),
    remove: command({
      name: `${one}.remove`,
      title: `${label} removed`,
      input: z.strictObject({ id }),
      plan: async (reader, input) => new Plan().remove(table, (await need(reader, table, input.id, one)).id),
    }),
  };
}
