// What each field of a record means, from the comments beside the fields in the source, so that the published schema says the same.
import { readdirSync, readFileSync } from 'node:fs';
import ts from 'typescript';

/** What fields of these names mean wherever nothing else is said beside them. */
const usual: Readonly<Record<string, string>> = {
  id: 'Tells the record from every other: a UUID of version 7 (RFC 9562).',
  name: 'What it is called.',
  subject: 'What stands over a letter.',
  body: 'What a letter says.',
  copies: 'Who gets a copy: e-mail addresses with commas between them.',
  enclosed: 'What goes with a letter.',
  language: 'The language that it is written in (ISO 639-1).',
  outcome: 'What came of it.',
  text: 'What it says.',
  note: 'Words about it; empty where there are none.',
  day: 'A calendar day, year first: 2026-11-26 (ISO 8601).',
  from: 'The first day on which it holds, or of the period.',
  to: 'The last day of the period.',
  start: 'When it began: milliseconds since 1970-01-01T00:00:00Z.',
  end: 'When it ended: milliseconds since 1970-01-01T00:00:00Z.',
  at: 'When it was: milliseconds since 1970-01-01T00:00:00Z.',
  createdAt: 'When it was made: milliseconds since 1970-01-01T00:00:00Z.',
  addedAt: 'When it was added: milliseconds since 1970-01-01T00:00:00Z.',
  issuedAt: 'When it was issued: milliseconds since 1970-01-01T00:00:00Z; null while a draft.',
  readAt: 'When it was read last: milliseconds since 1970-01-01T00:00:00Z.',
  startedAt: 'When it was started: milliseconds since 1970-01-01T00:00:00Z.',
  seconds: 'A length in whole seconds.',
  amount: 'An amount in whole minor units of its currency.',
  percent: 'A percentage as a plain decimal with a point, up to four places.',
  price: 'A price as a plain decimal with a point, up to four places.',
  rate: 'A rate as a plain decimal with a point.',
  currency: 'A currency by its three letters (ISO 4217).',
  base: 'The currency that the rate is of one unit of (ISO 4217).',
  zone: 'A time zone by its name in the IANA database: Europe/London.',
  address: 'Where letters go, line by line.',
  email: 'An e-mail address; empty where there is none.',
  phone: 'A telephone number as it was written.',
  taxNumber: 'The number that the tax office gave; empty where there is none.',
  kind: 'Which kind of record it is.',
  unit: 'What the price or quantity is for one of.',
  order: 'Place among its like; smaller ones stand first.',
  archived: 'Left out of the pickers; stays in reports.',
  finished: 'Left out of the pickers; stays in reports.',
  colour: 'Which of the swatches its name has.',
  jobNumber: 'The studio’s own number of the job; empty where it has none.',
  code: 'Its short name in the books; empty where it has none.',
  role: 'What the person is in the studio: principal, designer.',
  roles: 'What the person is for the client.',
  clientId: 'The client, by its id; null for none.',
  contractId: 'The contract, by its id; null for none.',
  projectId: 'The project, by its id; null for none.',
  projectIds: 'Projects, by their ids.',
  parentId: 'The project that it is a part of, by its id; null where it stands by itself.',
  taskId: 'The task, by its id; null for none.',
  stageId: 'The stage, by its id; null for none.',
  serviceId: 'The service, by its id; null for none.',
  kindOfWorkId: 'The kind of work, by its id; null for none.',
  memberId: 'The member, by its id; null for nobody, or anybody.',
  costId: 'The cost, by its id.',
  costCodeId: 'The cost code, by its id; null for none.',
  costCodeIds: 'Cost codes, by their ids; all of them where null.',
  costType: 'What kind of cost it is, which decides its markup.',
  taxId: 'The tax, by its id; null for none.',
  milestoneId: 'The milestone, by its id; null for none.',
  depositId: 'The money paid ahead, by its id.',
  invoiceId: 'The invoice, by its id.',
  entryId: 'The entry, by its id; null where it is about something else.',
  costLineId: 'The line of a cost, by its id; null where it is about something else.',
  agreedId: 'The agreed amount, by its id; null where it is about something else.',
  receiptIds: 'Receipts, by their ids.',
  stretchIds: 'Noticed stretches that it was made of, by their ids.',
  logoId: 'The picture, by its id; null for none.',
  tags: 'Words that it can be found by.',
  spans: 'From when to when it was worked; empty where only the length is known.',
  sentence: 'A sentence about it for the client; empty where there is none.',
  markup: 'Percent added to the cost; null where none is said.',
  reason: 'Why, in words.',
  title: 'What it was about, in words.',
  number: 'The number it goes by.',
  supplier: 'Who was paid.',
  quantity: 'How many, as a plain decimal.',
  lump: 'As one sum, without quantity and price.',
  way: 'What is put together on one line.',
  account: 'The account of the bookkeeping that it goes to.',
  table: 'The table, by its name.',
  before: 'The record before the change; null where there was none.',
  after: 'After how much, in seconds; of a change, the record as it became, null where it was deleted.',
  device: 'The browser that made the change, by the id it gave itself.',
  seq: 'Place in the order, from 1.',
  command: 'What was done, by the name it has in the program.',
  input: 'What was said with it.',
  changes: 'Every record that it changed, before and after.',
  previous: 'The hash of the row before it on the same device; empty on the first.',
  hash: 'SHA-256 over the row’s canonical JSON without this field, in hex.',
  format: 'Says that the file is one.',
  tables: 'Each table with how many records it has and the hash of its lines.',
  count: 'How many records.',
  files: 'Each receipt by its hash, with how many bytes it has.',
  bytes: 'How many bytes.',
  definition: 'What the report asks.',
  amountRounding: 'How amounts between two minor units are settled.',
  rounding:
    'How recorded lengths become billed ones; in an issued invoice what brings the total to prices that include tax.',
  printed: 'Whether the sentence is printed on invoices.',
  unlisted: 'A job in words that is not set up yet; empty where it is.',
  condense: 'What is put together on one line.',
  inclusive: 'Whether the amounts of the lines have the tax in them.',
  deposits: 'What is deducted of money paid ahead.',
  openBook: 'Whether cost and markup stand beside the price.',
  dueDay: 'The day by which it is to be paid.',
  numberStyle: 'How figures are written.',
  daySeconds: 'Seconds of a day that is sold as a day.',
  per: 'What is rounded: each entry by itself, or what a member’s day on a job comes to.',
  minimum: 'The least that is billed, in seconds; 0 for none.',
  increment: 'The step that lengths are rounded to, in seconds; 1 leaves them exact.',
  direction: 'Up to the next step, down, or to the nearest one.',
  taxMethod: 'Whether tax is worked out on the net total of each rate, or line by line.',
  tax: 'The tax on it, in whole minor units.',
  paper: 'The paper it is printed on.',
  mediaType: 'What kind of file it is (RFC 6838).',
  lengthStyle: 'How lengths are written: 1:30 or 1.50.',
  clockStyle: 'How times of day are written.',
  key: 'Tells the line from the others of the invoice.',
  sales: 'Income where a service has no account of its own.',
  receivables: 'What clients owe.',
  bank: 'Where payments arrive.',
  writeOffs: 'What will never be paid.',
  withdrawn: 'Whether the bookkeeping took it back.',
  voided: 'When and why it was made void; null where it was not.',
  latePayment: 'Interest by law on what is paid late; null for none.',
  law: 'By whose law it is.',
  baseRates: 'The central bank’s rates, as they changed.',
  consumer: 'Whether the client is a private person.',
  payCode: 'Whether invoices in euro bear a code that a bank’s application pays by.',
  telephone: 'A telephone number as it was written.',
  contact: 'Who answers questions about an invoice (BT-41).',
  reference: 'What the client wants on every invoice (BT-10).',
  seller: 'What electronic invoices say of the studio beyond the rest.',
  buyer: 'What electronic invoices say of the client beyond the rest.',
  take: 'How long the break is that is taken off, in seconds.',
  studio: 'The studio as it stood when the invoice was issued.',
  client: 'The client as it stood when the invoice was issued.',
  startsOn: 'The day of the month on which it begins.',
  starts: 'The first days of the periods, with their names.',
  reached: 'Whether it has been reached.',
  rates: 'The exchange rates that were used.',
  periods: 'The studio’s own calendar of billing periods.',
  period: 'The first and last day of what stands on it; null where nothing has a day.',
  paidBackOn: 'When it was paid back; null where it has not been.',
  owedBack: 'Whether a member is to get it back.',
  numberDigits: 'With how many digits numbers are written, filled with zeros.',
  firstNumber: 'The number of the first invoice.',
  lines: 'What it asks for, line by line.',
  headings: 'Headings, and the line that each stands above.',
  frozen: 'The invoice as it was sent; null while a draft.',
  dueAfter: 'So many days after the milestone.',
  deductions: 'What is taken off the total before it is to be paid.',
  deals: 'Prices agreed for sets of hours.',
  cursor: 'How far the service has been read.',
  costPrice: 'What a unit of time cost; null where it is not shown.',
  columns: 'What its columns mean, or are told by.',
  byHand: 'Lines that stand for no source.',
  breakRule: 'The break that is taken for granted; none where null.',
  basis: 'What the tax is on, in whole minor units.',
  agreedBy: 'Who agreed.',
};

interface Described {
  fields: Set<string>;
  words: Map<string, string>;
}

/** Every object literal of fields in the sources of records, with the comments beside its fields. */
function describedObjects(): Described[] {
  const folders = ['core/src/model/records', 'core/src/reports', 'formats/src/workspace', 'core/src/model'];
  const root = new URL('../', import.meta.url);
  return folders.flatMap((folder) =>
    readdirSync(new URL(folder, root))
      .filter((name) => name.endsWith('.ts') && !name.endsWith('.test.ts'))
      .flatMap((name) => objectsIn(readFileSync(new URL(`${folder}/${name}`, root), 'utf8'))),
  );
}

function objectsIn(text: string): Described[] {
  const source = ts.createSourceFile('records.ts', text, ts.ScriptTarget.Latest, true);
  const found: Described[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isObjectLiteralExpression(node)) {
      const object: Described = { fields: new Set(), words: new Map() };
      for (const property of node.properties) {
        const name = property.name && ts.isIdentifier(property.name) ? property.name.text : null;
        if (!name) continue;
        object.fields.add(name);
        const said = commentOf(text, property);
        if (said) object.words.set(name, said);
      }
      if (object.fields.size > 0) found.push(object);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

function commentOf(text: string, node: ts.Node): string {
  const ranges = ts.getLeadingCommentRanges(text, node.getFullStart()) ?? [];
  const doc = ranges.map(({ pos, end }) => text.slice(pos, end)).findLast((comment) => comment.startsWith('/**'));
  return (doc ?? '')
    .replace(/^\/\*\*|\*\/$/g, '')
    .replace(/^\s*\* ?/gm, ' ')
    .replace(/\{@link (\w+)\}/g, '$1')
    .replace(/\s+/g, ' ')
    .trim();
}

interface Schema {
  properties?: Record<string, Schema & { description?: string }>;
  [key: string]: unknown;
}

/**
 * Gives every field of a JSON Schema its description.
 *
 * @returns paths of fields that nothing describes
 */
export function describe(schema: Schema): string[] {
  const objects = describedObjects();
  const missing: string[] = [];
  const visit = (node: unknown, path: string): void => {
    if (node === null || typeof node !== 'object') return;
    const { properties } = node as Schema;
    if (properties) {
      const names = Object.keys(properties);
      const alike = (object: Described) => names.filter((name) => object.fields.has(name)).length;
      // The object in the source that has these fields and no others is where they come from; spread ones stand in another.
      const likeness = (object: Described) => alike(object) / Math.sqrt(object.fields.size);
      const near = objects.toSorted((a, b) => likeness(b) - likeness(a) || b.words.size - a.words.size);
      for (const name of names) {
        const other = near.find((object) => alike(object) > names.length / 3 && object.words.has(name));
        const words = near[0]?.words.get(name) ?? usual[name] ?? other?.words.get(name);
        if (words) properties[name]!.description = words;
        else missing.push(`${path}/${name}`);
      }
    }
    for (const [key, value] of Object.entries(node)) visit(value, `${path}/${key}`);
  };
  visit(schema, '');
  return missing;
}
