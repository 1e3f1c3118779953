import type * as z from 'zod';
import type { schemas } from './schemas';

// A table is one line here and its row's schema in schemas.ts, which is read as types alone: showing what is stored needs none of the
// rules it is checked by. Neither can have a table that the other has not.

export type TableName = keyof typeof schemas;

/** The row of each table. */
export type Rows = { [T in TableName]: z.infer<(typeof schemas)[T]> };

type Field<T extends TableName> = keyof Rows[T] & string;

interface Definition<T extends TableName> {
  /** Fields that rows are looked up by; "memberId+day" is one index over two fields, "*laterDays" one with a key for each value of a list. */
  indexes: readonly (Field<T> | `${Field<T>}+${Field<T>}` | `*${Field<T>}`)[];
  /** Fields that hold another table's id, or null; each that rows are counted by before a deletion is an index as well. */
  references: Partial<Readonly<Record<Field<T>, TableName>>>;
  /** What one row is called in messages. */
  one: string;
  many: string;
}

/** A table's definition where it does not matter whose. */
export interface TableDefinition {
  indexes: readonly string[];
  references: Readonly<Record<string, TableName>>;
  one: string;
  many: string;
}

/** What time recorded or planned refers to. */
const onJob = {
  memberId: 'members',
  projectId: 'projects',
  taskId: 'tasks',
  serviceId: 'services',
  kindOfWorkId: 'kindsOfWork',
} as const;

/** What an allocation or adjustment is about. */
const ofSource = { entryId: 'entries', costLineId: 'costLines', agreedId: 'agreed' } as const;

/** Every table of a workspace, in an order in which no table refers to a later one. */
const defined = {
  pictures: { indexes: [], references: {}, one: 'picture', many: 'pictures' },
  workspace: { indexes: ['logoId'], references: { logoId: 'pictures' }, one: 'studio', many: 'studios' },
  rightSets: { indexes: [], references: {}, one: 'set of rights', many: 'sets of rights' },
  members: {
    indexes: ['checkerId', 'deputyId', 'rightSetId'],
    references: { checkerId: 'members', deputyId: 'members', rightSetId: 'rightSets' },
    one: 'member',
    many: 'members',
  },
  taxes: { indexes: [], references: {}, one: 'tax', many: 'taxes' },
  costCodes: { indexes: [], references: {}, one: 'cost code', many: 'cost codes' },
  services: {
    indexes: ['costCodeId', 'taxId'],
    references: { costCodeId: 'costCodes', taxId: 'taxes' },
    one: 'service',
    many: 'services',
  },
  kindsOfWork: {
    indexes: ['serviceId'],
    references: { serviceId: 'services' },
    one: 'kind of work',
    many: 'kinds of work',
  },
  stages: { indexes: [], references: {}, one: 'stage', many: 'stages' },
  clients: { indexes: ['taxId'], references: { taxId: 'taxes' }, one: 'client', many: 'clients' },
  contacts: { indexes: ['clientId'], references: { clientId: 'clients' }, one: 'contact', many: 'contacts' },
  contracts: { indexes: ['clientId'], references: { clientId: 'clients' }, one: 'contract', many: 'contracts' },
  projects: {
    indexes: ['clientId', 'parentId', 'contractId', 'stageId'],
    references: { clientId: 'clients', parentId: 'projects', contractId: 'contracts', stageId: 'stages' },
    one: 'project',
    many: 'projects',
  },
  tasks: {
    indexes: ['projectId', 'stageId'],
    references: { projectId: 'projects', stageId: 'stages' },
    one: 'task',
    many: 'tasks',
  },
  milestones: { indexes: ['projectId'], references: { projectId: 'projects' }, one: 'milestone', many: 'milestones' },
  rateLines: {
    indexes: ['clientId', 'contractId', 'projectId', 'taskId', 'memberId', 'serviceId'],
    references: {
      clientId: 'clients',
      contractId: 'contracts',
      projectId: 'projects',
      taskId: 'tasks',
      memberId: 'members',
      serviceId: 'services',
    },
    one: 'rate',
    many: 'rates',
  },
  costRates: { indexes: ['memberId'], references: { memberId: 'members' }, one: 'cost rate', many: 'cost rates' },
  markups: {
    indexes: ['clientId', 'contractId', 'projectId'],
    references: { clientId: 'clients', contractId: 'contracts', projectId: 'projects' },
    one: 'markup',
    many: 'markups',
  },
  exchangeRates: { indexes: [], references: {}, one: 'exchange rate', many: 'exchange rates' },
  budgets: {
    indexes: ['projectId', 'taskId', 'contractId', 'costCodeId'],
    references: { projectId: 'projects', taskId: 'tasks', contractId: 'contracts', costCodeId: 'costCodes' },
    one: 'budget',
    many: 'budgets',
  },
  plans: {
    indexes: ['memberId+day', 'memberId', 'projectId', 'taskId', 'serviceId', 'kindOfWorkId', 'source', 'unlisted'],
    references: onJob,
    one: 'planned time',
    many: 'planned times',
  },
  entries: {
    indexes: [
      'day',
      'memberId+day',
      'projectId+day',
      '*laterDays',
      'memberId',
      'projectId',
      'taskId',
      'serviceId',
      'kindOfWorkId',
      'unlisted',
      'planId',
      'source',
      '*stretchIds',
    ],
    references: { ...onJob, planId: 'plans' },
    one: 'entry',
    many: 'entries',
  },
  timers: {
    indexes: ['memberId', 'projectId', 'taskId', 'serviceId', 'kindOfWorkId', 'entryId', 'unlisted'],
    references: { ...onJob, entryId: 'entries' },
    one: 'timer',
    many: 'timers',
  },
  absences: {
    indexes: ['memberId'],
    references: { memberId: 'members' },
    one: 'absence',
    many: 'absences',
  },
  mappings: { indexes: ['head'], references: {}, one: 'column mapping', many: 'column mappings' },
  receipts: { indexes: ['sha256'], references: {}, one: 'receipt', many: 'receipts' },
  unitRates: {
    indexes: ['costCodeId'],
    references: { costCodeId: 'costCodes' },
    one: 'unit rate',
    many: 'unit rates',
  },
  matchRules: {
    indexes: ['projectId', 'costCodeId'],
    references: { projectId: 'projects', costCodeId: 'costCodes' },
    one: 'matching rule',
    many: 'matching rules',
  },
  feeds: { indexes: [], references: {}, one: 'feed', many: 'feeds' },
  orders: {
    indexes: ['projectId', 'costCodeId'],
    references: { projectId: 'projects', costCodeId: 'costCodes' },
    one: 'order',
    many: 'orders',
  },
  agreed: {
    indexes: ['projectId', 'costCodeId', 'milestoneId'],
    references: { projectId: 'projects', costCodeId: 'costCodes', milestoneId: 'milestones' },
    one: 'agreed amount',
    many: 'agreed amounts',
  },
  costs: {
    indexes: ['day', 'kind', 'source', 'memberId', 'taxId', 'dueMilestoneId', '*receiptIds'],
    references: { memberId: 'members', taxId: 'taxes', dueMilestoneId: 'milestones' },
    one: 'cost',
    many: 'costs',
  },
  costLines: {
    indexes: ['costId', 'projectId', 'costCodeId', 'orderId', 'agreedId', 'unlisted'],
    references: {
      costId: 'costs',
      projectId: 'projects',
      costCodeId: 'costCodes',
      orderId: 'orders',
      agreedId: 'agreed',
    },
    one: 'line of a cost',
    many: 'lines of costs',
  },
  payees: { indexes: ['memberId'], references: { memberId: 'members' }, one: 'payee', many: 'payees' },
  payouts: {
    indexes: ['costId', 'source'],
    references: { costId: 'costs' },
    one: 'payment to a payee',
    many: 'payments to payees',
  },
  quotes: {
    indexes: ['clientId', 'projectId', 'taxId'],
    references: { clientId: 'clients', projectId: 'projects', taxId: 'taxes' },
    one: 'quote',
    many: 'quotes',
  },
  repeats: {
    indexes: ['clientId'],
    references: { clientId: 'clients' },
    one: 'recurring invoice',
    many: 'recurring invoices',
  },
  moneyIn: {
    indexes: ['source', 'day'],
    references: {},
    one: 'sum that came in',
    many: 'sums that came in',
  },
  deposits: {
    indexes: ['clientId', 'projectId', 'moneyInId'],
    references: { clientId: 'clients', projectId: 'projects', moneyInId: 'moneyIn' },
    one: 'deposit',
    many: 'deposits',
  },
  adjustments: {
    indexes: ['entryId', 'costLineId', 'agreedId', 'memberId'],
    references: { ...ofSource, memberId: 'members' },
    one: 'adjustment',
    many: 'adjustments',
  },
  invoices: {
    indexes: ['clientId', 'taxId', 'seq', 'ofId'],
    references: { clientId: 'clients', taxId: 'taxes' },
    one: 'invoice',
    many: 'invoices',
  },
  allocations: {
    indexes: ['invoiceId', 'entryId', 'costLineId', 'agreedId'],
    references: { invoiceId: 'invoices', ...ofSource },
    one: 'allocation',
    many: 'allocations',
  },
  payments: {
    indexes: ['invoiceId', 'moneyInId', 'source'],
    references: { invoiceId: 'invoices', moneyInId: 'moneyIn' },
    one: 'payment',
    many: 'payments',
  },
  letters: {
    indexes: ['clientId', 'memberId', 'invoiceId', 'quoteId', 'standing'],
    references: { clientId: 'clients', memberId: 'members', invoiceId: 'invoices', quoteId: 'quotes' },
    one: 'letter',
    many: 'letters',
  },
  reports: { indexes: [], references: {}, one: 'report', many: 'reports' },
  timesheets: {
    indexes: ['memberId', '*months'],
    references: { memberId: 'members' },
    one: 'timesheet',
    many: 'timesheets',
  },
  handIns: {
    indexes: ['timesheetId'],
    references: { timesheetId: 'timesheets' },
    one: 'handing in',
    many: 'handings in',
  },
  // What they correct may be gone: that is what they tell of then.
  corrections: {
    indexes: ['memberId', 'entryId'],
    references: { memberId: 'members' },
    one: 'correction',
    many: 'corrections',
  },
  closings: { indexes: ['memberId'], references: { memberId: 'members' }, one: 'closing', many: 'closings' },
  keyHolders: {
    indexes: ['memberId'],
    references: { memberId: 'members' },
    one: 'holder of keys',
    many: 'holders of keys',
  },
  sealedFiles: {
    indexes: ['memberId'],
    references: { memberId: 'members' },
    one: 'sealed file',
    many: 'sealed files',
  },
  // What follows an outside row is deleted as freely as any other task or client.
  outsideLists: { indexes: [], references: {}, one: 'outside list', many: 'outside lists' },
  outsideProjects: {
    indexes: ['listId'],
    references: { listId: 'outsideLists' },
    one: 'outside project',
    many: 'outside projects',
  },
  outsideTasks: {
    indexes: ['listId', 'outsideProjectId', 'taskId'],
    references: { listId: 'outsideLists', outsideProjectId: 'outsideProjects' },
    one: 'outside task',
    many: 'outside tasks',
  },
  outsideClients: {
    indexes: ['listId'],
    references: { listId: 'outsideLists' },
    one: 'outside client',
    many: 'outside clients',
  },
  sentHours: {
    indexes: ['listId', 'entryId'],
    references: { listId: 'outsideLists' },
    one: 'sent hour',
    many: 'hours sent',
  },
  devices: { indexes: [], references: {}, one: 'device', many: 'devices' },
} as const satisfies { readonly [T in TableName]: Definition<T> };

/** What a table's rows can be looked up by. */
export type IndexName<T extends TableName> = (typeof defined)[T]['indexes'][number];

/** The tables by their names, each with its schema, indexes and references. */
export const tables: { readonly [T in TableName]: TableDefinition } = defined;

/** The names of all tables. */
export const tableNames = Object.keys(tables) as TableName[];

/** The rows of every table. */
export type AllRows = { [T in TableName]: Rows[T][] };

const put = <T extends TableName>(all: { [K in T]?: Rows[K][] }, table: T, rows: Rows[T][]): void => {
  all[table] = rows;
};

/** The rows of every table, each table as it is read. */
export function byTable(read: <T extends TableName>(table: T) => Rows[T][]): AllRows {
  const all = {} as AllRows;
  for (const table of tableNames) put(all, table, read(table));
  return all;
}

/** The same where reading takes its time; one table after the other, so that only one is read at once. */
export async function readTables(read: <T extends TableName>(table: T) => Promise<Rows[T][]>): Promise<AllRows> {
  const all = {} as AllRows;
  for (const table of tableNames) put(all, table, await read(table));
  return all;
}
/** Whether a text names a table. */
export const isTableName = (text: string): text is TableName => Object.hasOwn(tables, text);
