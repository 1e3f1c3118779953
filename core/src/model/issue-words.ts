import * as z from 'zod';

const kinds: Record<string, string> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  object: 'an object',
  array: 'a list',
  null: 'null',
  undefined: 'nothing',
  record: 'an object',
  date: 'a moment',
};
const kindOf = (name: string): string => (Object.hasOwn(kinds, name) ? kinds[name]! : name);

const received = (input: unknown): string =>
  input === undefined
    ? 'nothing stands here'
    : `${kindOf(input === null ? 'null' : Array.isArray(input) ? 'array' : typeof input)} stands here`;

/** Of so many signs, items or so much, as a bound is said. */
const bounded = (origin: string, bound: number | bigint): string =>
  origin === 'string' ? `${bound} characters` : origin === 'array' || origin === 'set' ? `${bound} items` : `${bound}`;

const quoted = (values: readonly unknown[]): string =>
  values
    .slice(0, 8)
    .map((value) => `“${String(value).slice(0, 40)}”`)
    .join(', ');

/** What is wrong with a value that a schema refuses and says nothing of its own about. */
function inWords(issue: z.core.$ZodRawIssue): string | undefined {
  switch (issue.code) {
    case 'invalid_type':
      return `This must be ${kindOf(issue.expected)}; ${received(issue.input)}.`;
    case 'invalid_value':
      return issue.values.length === 1
        ? `This must be ${quoted(issue.values)}.`
        : `This must be one of ${quoted(issue.values)}.`;
    case 'unrecognized_keys':
      return `${issue.keys.length === 1 ? 'There is no field' : 'There are no fields'} ${quoted(issue.keys)}.`;
    case 'too_small':
      return `This must be ${issue.inclusive === false ? 'more than' : 'at least'} ${bounded(issue.origin, issue.minimum)}.`;
    case 'too_big':
      return `This must be ${issue.inclusive === false ? 'less than' : 'at most'} ${bounded(issue.origin, issue.maximum)}.`;
    case 'not_multiple_of':
      return `This must be a multiple of ${issue.divisor}.`;
    case 'invalid_format':
      return 'This is not written as it should be.';
    case 'invalid_union':
      return 'This is none of what may stand here.';
    case 'invalid_key':
    case 'invalid_element':
      return 'Something in here may not stand here.';
    default:
      return undefined;
  }
}

// Once for all schemas of this program: nobody is told what a library says.
z.config({ localeError: inWords });
