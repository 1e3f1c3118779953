import type * as z from 'zod';
import { outsideClientSchema, outsideProjectSchema, outsideTaskSchema } from '../model/records';

// What a reading of a list brings, from a service or a file.

/** A task as a reading tells it. */
export const toldTaskSchema = outsideTaskSchema
  .pick({ source: true, number: true, title: true, assignee: true, state: true, estimate: true, closed: true })
  .extend({
    address: outsideTaskSchema.shape.address,
    /** What its keeper sorts it by. */
    project: outsideProjectSchema.pick({ source: true, name: true }),
  });
export type ToldTask = z.infer<typeof toldTaskSchema>;

/** A client as a reading tells it. */
export const toldClientSchema = outsideClientSchema.pick({
  source: true,
  name: true,
  address: true,
  email: true,
  taxNumber: true,
  gone: true,
});
export type ToldClient = z.infer<typeof toldClientSchema>;
