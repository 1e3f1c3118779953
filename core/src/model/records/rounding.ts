import * as z from 'zod';

/** How recorded lengths become billed ones. */
export const roundingPolicySchema = z.strictObject({
  increment: z.int().min(1).max(86_400),
  direction: z.enum(['up', 'nearest', 'down']),
  minimum: z.int().min(0).max(86_400),
  per: z.enum(['entry', 'day and job']),
});
