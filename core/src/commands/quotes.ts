import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import * as z from 'zod';
import { readBook } from '../billing/book';
import { Pricer } from '../billing/pricer';
import { projectDefaults } from '../model/defaults';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { Id, IdSource } from '../model/ids';
import { quoteSchema, type Budget, type Project, type Quote, type QuoteLine } from '../model/records';
import { addExact } from '../money/rational';
import { acceptedOf, freezeQuote, lastVersion } from '../quotes/quote';
import { addDays, dayOf, showDayShort, type Day } from '../time/day';
import { command, defined, need, Plan, type CommandContext } from '../engine/command';
import type { Reader } from '../engine/store';

/** So long a quote holds where nothing else is said. */
const VALID_DAYS = 30;

const shape = quoteSchema.shape;
const written = {
  projectId: shape.projectId,
  title: shape.title,
  intro: shape.intro,
  note: shape.note,
  validUntil: shape.validUntil,
  taxId: shape.taxId,
  lines: shape.lines,
};

const todayOf = async (reader: Reader, { now }: CommandContext): Promise<Day> => {
  const [workspace] = await reader.all('workspace');
  return dayOf(now, workspace?.zone ?? 'UTC');
};

/**
 * Adds a quote for a client; without more it holds for the usual number of days.
 *
 * @throws Fault where its project is another client's
 */
export const addQuote = command({
  name: 'quote.add',
  title: 'Quote added',
  input: z
    .strictObject({ id: fields.id, clientId: fields.id, ...written })
    .partial()
    .required({ clientId: true, title: true }),
  async plan(reader, input, context) {
    const client = await need(reader, 'clients', input.clientId, 'client');
    await refuseOtherClient(reader, input.projectId ?? null, client.id);
    const quote: Quote = {
      projectId: null,
      intro: '',
      note: '',
      validUntil: addDays(await todayOf(reader, context), VALID_DAYS),
      taxId: client.taxId,
      lines: [],
      ...defined(input),
      id: input.id ?? context.newId(),
      clientId: client.id,
      title: input.title,
      createdAt: context.now,
      currency: client.currency,
      seq: null,
      versions: [],
      answer: null,
    };
    return new Plan().put('quotes', quote);
  },
});

async function refuseOtherClient(reader: Reader, projectId: Id | null, clientId: Id): Promise<void> {
  if (projectId === null) return;
  const project = await need(reader, 'projects', projectId, 'project');
  if (project.clientId !== clientId)
    throw new Fault('other-client', `${project.name} is not a project of this client.`, 'projectId');
}

/** @throws Fault where it has been answered */
async function needOpen(reader: Reader, id: Id): Promise<Quote> {
  const quote = await need(reader, 'quotes', id, 'quote');
  if (quote.answer) {
    const what = quote.answer.kind === 'accepted' ? 'accepted' : 'declined';
    throw new Fault(
      'stays',
      `${quote.title} was ${what} on ${showDayShort(quote.answer.day)} and stays as it is.`,
      'id',
    );
  }
  return quote;
}

/**
 * Changes a quote as it is written; versions that were given stay.
 *
 * @throws Fault where it was answered
 */
export const editQuote = command({
  name: 'quote.edit',
  title: 'Quote changed',
  input: z.strictObject(written).partial().extend({ id: fields.id }),
  async plan(reader, input) {
    const quote = await needOpen(reader, input.id);
    await refuseOtherClient(reader, input.projectId ?? null, quote.clientId);
    for (const { taxId, costCodeId } of input.lines ?? []) {
      if (taxId) await need(reader, 'taxes', taxId, 'tax');
      if (costCodeId) await need(reader, 'costCodes', costCodeId, 'cost code');
    }
    return new Plan().put('quotes', { ...quote, ...defined(input) });
  },
});

/**
 * Deletes a quote that was never given.
 *
 * @throws Fault where it was
 */
export const removeQuote = command({
  name: 'quote.remove',
  title: 'Quote deleted',
  input: z.strictObject({ id: fields.id }),
  async plan(reader, { id }) {
    const quote = await need(reader, 'quotes', id, 'quote');
    if (quote.versions.length > 0)
      throw new Fault(
        'issued',
        `${lastVersion(quote)!.frozen.number} was given to the client and is kept. Decline it instead.`,
        'id',
      );
    return new Plan().remove('quotes', id);
  },
});

/** Gives a quote to the client as it is written now: its next version. The ones before hold no more. */
export const giveQuote = command({
  name: 'quote.give',
  title: 'Quote ready to send',
  inTurn: true,
  input: z.strictObject({ id: fields.id }),
  async plan(reader, { id }, context) {
    const quote = await needOpen(reader, id);
    const day = await todayOf(reader, context);
    const quotes = await reader.all('quotes');
    const seq = quote.seq ?? quotes.reduce((highest, each) => Math.max(highest, each.seq ?? 0), 0) + 1;
    const frozen = freezeQuote(new Pricer(await readBook(reader)), quote, seq, day);
    const seal = newSeal(context.newId);
    const versions = [...quote.versions, { at: context.now, frozen, lines: quote.lines, seal }];
    return new Plan().put('quotes', { ...quote, seq, versions });
  },
});

/** What the client's page of a version signs with: 256 bits, of four ids that have 62 random bits each. */
const newSeal = (newId: IdSource): string =>
  bytesToHex(sha256(utf8ToBytes(Array.from({ length: 4 }, () => newId()).join(' '))));

const answerFields = {
  id: fields.id,
  day: fields.day,
  by: z.string().max(200).optional(),
  note: z.string().max(1000).optional(),
  /** The answer as the client's page signed it. */
  signed: z.string().max(20_000).optional(),
};

/**
 * Keeps that the client declined, with who said so and why.
 *
 * @throws Fault where it was not given yet, or was answered
 */
export const declineQuote = command({
  name: 'quote.decline',
  title: 'Quote declined',
  input: z.strictObject(answerFields),
  async plan(reader, { id, day, by = '', note = '', signed }, { now }) {
    const quote = await needOpen(reader, id);
    if (quote.versions.length === 0)
      throw new Fault('not-issued', 'It was not given to the client yet; delete it instead.', 'id');
    const version = quote.versions.length;
    const answer = {
      kind: 'declined' as const,
      day,
      at: now,
      by,
      note,
      version,
      keys: [],
      agreedIds: [],
      ...(signed && { signed }),
    };
    return new Plan().put('quotes', { ...quote, answer });
  },
});

/** A client accepts a version, all of it or some of its lines: it becomes agreed amounts, a budget and a contract. */
export const acceptQuote = command({
  name: 'quote.accept',
  title: 'Quote accepted',
  input: z.strictObject({
    ...answerFields,
    by: fields.name.max(200),
    /** Which version was accepted, counted from 1; the last one where not said. */
    version: z.int().min(1).optional(),
    /** Keys of the lines; all that are not optional where not said. */
    keys: z.array(fields.id).min(1, 'Say what was accepted.').optional(),
    /** The project that it is for, where the quote names none; a new one where neither does. */
    projectId: fields.id.optional(),
  }),
  async plan(reader, input, context) {
    const quote = await needOpen(reader, input.id);
    const version = versionOf(quote, input.version, input.day);
    const keys = input.keys ?? version.lines.filter((line) => !line.optional).map((line) => line.key);
    const lines = version.lines.filter((line) => keys.includes(line.key));
    if (lines.length < new Set(keys).size) throw new Fault('unknown', 'This is not on the quote.', 'keys');
    const plan = new Plan();
    const project = await projectOf(reader, plan, quote, input.projectId, lines, context);
    const change = (await reader.by('quotes', 'projectId', [project.id])).some(
      (each) => each.id !== quote.id && each.answer?.kind === 'accepted',
    );
    const { by, day } = input;
    const pricer = new Pricer(await readBook(reader));
    const accepted = acceptedOf(pricer, quote, lines, { project, day, by, change }, context.newId);
    for (const row of accepted.agreed) plan.put('agreed', row);
    const fixedPrice = fixedPriceOf(project, accepted.sum, change);
    const contractId = project.contractId ?? context.newId();
    if (project.contractId === null) {
      const name = `${version.frozen.number} ${quote.title}`.slice(0, 200);
      plan.put('contracts', {
        id: contractId,
        clientId: quote.clientId,
        name,
        terms: quote.note,
        cap: null,
        termsDays: null,
      });
    }
    plan.put('projects', { ...project, fixedPrice, contractId });
    const budget = await budgetOf(reader, project.id, accepted, context);
    if (budget) plan.put('budgets', budget);
    const answer = {
      kind: 'accepted' as const,
      day,
      at: context.now,
      by,
      note: input.note ?? '',
      version: version.frozen.quote!.version,
      keys: lines.map((line) => line.key),
      agreedIds: accepted.agreed.map((row) => row.id),
      ...(input.signed && { signed: input.signed }),
    };
    return plan.put('quotes', { ...quote, projectId: project.id, answer });
  },
});

/** The version that an answer is to. @throws Fault where it was not given, another has taken its place, or it is out of date */
function versionOf(quote: Quote, wanted: number | undefined, day: Day) {
  const last = lastVersion(quote);
  if (!last) throw new Fault('not-issued', 'It was not given to the client yet.', 'id');
  const { version, validUntil } = last.frozen.quote!;
  if (wanted !== undefined && wanted !== version) {
    throw new Fault(
      'outdated',
      `Version ${wanted} holds no more: ${last.frozen.number} was given on ${showDayShort(last.frozen.day)}. Ask the client which is meant.`,
      'version',
    );
  }
  if (day > validUntil) {
    throw new Fault(
      'outdated',
      `${last.frozen.number} held until ${showDayShort(validUntil)}. Give it again with a later day, if it still stands.`,
      'day',
    );
  }
  if (day < last.frozen.day)
    throw new Fault('too-early', `It was given on ${showDayShort(last.frozen.day)}, after this day.`, 'day');
  return last;
}

async function projectOf(
  reader: Reader,
  plan: Plan,
  quote: Quote,
  chosen: Id | undefined,
  lines: readonly QuoteLine[],
  { newId }: CommandContext,
): Promise<Project> {
  const projectId = quote.projectId ?? chosen;
  if (projectId) {
    await refuseOtherClient(reader, projectId, quote.clientId);
    return need(reader, 'projects', projectId, 'project');
  }
  const fixed = lines.every((line) => line.basis === 'fixed');
  const beside = (await reader.by('projects', 'clientId', [quote.clientId])).filter((row) => row.parentId === null);
  const project: Project = {
    ...projectDefaults,
    id: newId(),
    clientId: quote.clientId,
    name: quote.title,
    kind: fixed ? 'fixed price' : 'hourly',
    order: beside.reduce((highest, row) => Math.max(highest, row.order), -1) + 1,
  };
  plan.put('projects', project);
  return project;
}

/** The price for the whole grows by what was accepted; extras stand beside it. */
const fixedPriceOf = ({ kind, fixedPrice }: Project, sum: number, change: boolean): number | null =>
  kind !== 'fixed price' || change ? fixedPrice : addExact(fixedPrice ?? 0, sum);

/** The project's budget, raised by what was accepted. */
async function budgetOf(
  reader: Reader,
  projectId: Id,
  { sum, seconds }: { sum: number; seconds: number },
  { newId }: CommandContext,
): Promise<Budget | null> {
  if (sum === 0 && seconds === 0) return null;
  const own = (await reader.by('budgets', 'projectId', [projectId])).find((row) => row.costCodeId === null);
  if (own) {
    const hours = own.seconds === null && seconds === 0 ? null : addExact(own.seconds ?? 0, seconds);
    return { ...own, money: addExact(own.money ?? 0, sum), seconds: hours };
  }
  return {
    id: newId(),
    projectId,
    taskId: null,
    contractId: null,
    costCodeId: null,
    seconds: seconds > 0 ? seconds : null,
    money: sum > 0 ? sum : null,
    cap: false,
    noticeAt: 80,
  };
}
