import * as z from 'zod';

/** What a rule can look at. */
export const ruleFields = [
  'program',
  'title',
  'address',
  'site',
  'folder',
  'file',
  'document',
  'people',
  'kind',
  'weekday',
  'time',
] as const;
export type RuleField = (typeof ruleFields)[number];

/** How it looks at words. "is like" knows * for anything; there is no other pattern, so none can take long. */
export const ruleVerbs = ['has', 'is', 'begins with', 'ends with', 'is like'] as const;
export type RuleVerb = (typeof ruleVerbs)[number];

/** One thing that is asked of what was seen. */
export type Test =
  | { field: Exclude<RuleField, 'weekday' | 'time'>; verb: RuleVerb; text: string }
  /** 1 is Monday. */
  | { field: 'weekday'; days: number[] }
  /** Minutes of the day, the end not in it; over midnight where the end is the smaller. */
  | { field: 'time'; from: number; to: number };

export type Condition = { all: Condition[] } | { any: Condition[] } | { not: Condition } | Test;

/** What becomes of what a rule catches. */
export const outcomeSchema = z.discriminatedUnion('act', [
  z.strictObject({
    act: z.literal('place'),
    /** The workspace that the job is of. */
    workspaceId: z.string(),
    projectId: z.string().nullable(),
    taskId: z.string().nullable(),
    unlisted: z.string().max(500).default(''),
    serviceId: z.string().nullable(),
    note: z.string().max(2000),
    /** Percent of it that is billable. */
    billable: z.int().min(0).max(100).default(100),
    openedForId: z.string().nullable().default(null),
  }),
  z.strictObject({ act: z.literal('private') }),
  z.strictObject({ act: z.literal('not work') }),
  z.strictObject({ act: z.literal('never record') }),
]);
export type Outcome = z.output<typeof outcomeSchema>;
export type PlaceOutcome = Extract<Outcome, { act: 'place' }>;

/** A placing rule. Of several that catch the same the first in order decides. */
export interface PlacingRule {
  id: string;
  order: number;
  when: Condition;
  then: Outcome;
  /** From when on it holds; 0 for always. */
  since: number;
  /** What it places is posted without being asked about. */
  posts: boolean;
  on: boolean;
}

const textFields = ruleFields.filter((field) => field !== 'weekday' && field !== 'time');

const conditionSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    z.strictObject({ all: z.array(conditionSchema) }),
    z.strictObject({ any: z.array(conditionSchema) }),
    z.strictObject({ not: conditionSchema }),
    z.strictObject({ field: z.enum(textFields), verb: z.enum(ruleVerbs), text: z.string().max(2000) }),
    z.strictObject({ field: z.literal('weekday'), days: z.array(z.int().min(1).max(7)) }),
    z.strictObject({ field: z.literal('time'), from: z.int().min(0).max(1440), to: z.int().min(0).max(1440) }),
  ]),
);

/** A placing rule as it comes out of a file. */
export const placingRuleSchema: z.ZodType<PlacingRule> = z.strictObject({
  id: z.string().min(1),
  order: z.number(),
  when: conditionSchema,
  then: outcomeSchema,
  since: z.number().min(0),
  posts: z.boolean(),
  on: z.boolean(),
});
