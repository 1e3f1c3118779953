import * as z from 'zod';
import { id, name } from '../fields';

// What members may see and do.

/** What a member may be allowed, from recording to setting the studio up. */
export const rightNames = [
  'record own',
  'record others',
  'see rates',
  'see cost',
  'billable part',
  'approve',
  'close',
  'work',
  'rates',
  'costs',
  'billing',
  'reports',
  'setup',
] as const;

/** Rights that hold for the whole studio: days are closed for all work at once, and there is one Setup. */
export const wholeRights = ['close', 'setup'] as const satisfies readonly (typeof rightNames)[number][];

/** The only work that a right holds for. */
export const limitSchema = z
  .strictObject({
    /** Everything of these clients. */
    clientIds: z.array(id).max(1000),
    /** Everything of these projects and their parts. */
    projectIds: z.array(id).max(1000),
  })
  .refine(({ clientIds, projectIds }) => clientIds.length + projectIds.length > 0, {
    message: 'Name at least one client or project, or let it hold for all work.',
    path: ['clientIds'],
  });

/** One right of a set. */
export const grantSchema = z
  .strictObject({
    /** What is allowed. */
    right: z.enum(rightNames),
    /** The only work that it holds for; all work where null. */
    only: limitSchema.nullable(),
  })
  .refine(({ right, only }) => only === null || !(wholeRights as readonly string[]).includes(right), {
    message: 'This holds for the whole studio or not at all.',
    path: ['only'],
  });

/** A named set of rights: those that are not in it are not given. */
export const rightSetSchema = z
  .strictObject({
    id,
    name,
    /** What whoever has the set may see and do. */
    grants: z.array(grantSchema).max(rightNames.length),
  })
  .refine(({ grants }) => new Set(grants.map(({ right }) => right)).size === grants.length, {
    message: 'Each right stands in a set once.',
    path: ['grants'],
  });

export type Right = (typeof rightNames)[number];
export type Limit = z.infer<typeof limitSchema>;
export type Grant = z.infer<typeof grantSchema>;
export type RightSet = z.infer<typeof rightSetSchema>;
