import { MemoryExecutor, type CommandInput, type CommandName, type Executor } from '../commands';
import { MemoryStore, type ExecutionContext } from '../engine';
import type { Id } from '../model/ids';
import { idSource } from '../model/ids';
import type { PriceBook } from '../billing/pricer';
import {
  clientDefaults,
  markupDefaults,
  memberDefaults,
  projectDefaults,
  rateDefaults,
  workspaceDefaults,
} from '../model/defaults';
import { costDefaults, costLineDefaults } from '../model/defaults-billing';
import {
  WORKSPACE_ID,
  type Client,
  type Cost,
  type CostLine,
  type Markup,
  type Member,
  type Project,
  type RateLine,
  type Task,
  type Workspace,
} from '../model/records';
import { instantAt } from '../time/day';

export const ZONE = 'Europe/London';
export const DAY = '2026-11-12';

/** A clock that tests move by hand, and ids that are the same on every run. */
export class TestContext {
  now = instantAt(DAY, 9 * 60, ZONE);
  memberId: Id | null = null;
  readonly newId: () => Id;
  readonly device: Id;

  constructor(start = 1) {
    let state = start;
    const random = (bytes: Uint8Array) => bytes.map(() => (state = (state * 73 + 29) % 256));
    this.newId = idSource(() => this.now, random);
    this.device = this.newId();
  }

  readonly context = (): ExecutionContext => ({
    now: this.now,
    memberId: this.memberId,
    newId: this.newId,
    device: this.device,
  });

  wait(minutes: number): void {
    this.now += minutes * 60_000;
  }
}

export const studio: CommandInput<'workspace.create'> = {
  workspace: {
    name: 'Saltmere Lighting',
    address: '14 Lantern Row\nSaltmere',
    email: 'accounts@saltmere-lighting.example',
    taxNumber: '',
    paymentDetails: '',
    currency: 'GBP',
    zone: ZONE,
    daySeconds: 27_000,
    amountRounding: 'half away from zero',
    taxMethod: 'invoice',
    rounding: { increment: 360, direction: 'up', minimum: 0, per: 'entry' },
    numberPrefix: 'SL-',
    numberDigits: 4,
    firstNumber: 1,
    termsDays: 30,
    paper: 'A4',
    lengthStyle: 'h:mm',
  },
  member: { name: 'Imogen Vale', role: 'principal', zone: ZONE, owed: [27_000, 27_000, 27_000, 27_000, 27_000, 0, 0] },
  taxes: [{ name: 'VAT', percent: '20', note: '' }],
};

/** Ids of a studio with two clients, three projects and a rate for each place. */
export interface Studio {
  member: Id;
  tax: Id;
  playhouse: Id;
  rig: Id;
  museum: Id;
  gallery: Id;
  internal: Id;
  design: Id;
}

/** Sets up the studio through the same commands a person uses. */
export async function setUp(executor: Executor, test: TestContext): Promise<Studio> {
  const created = await executor.run('workspace.create', studio);
  const idOf = (table: string) => created.changes.find((change) => change.table === table)!.id;
  test.memberId = idOf('members');
  const tax = idOf('taxes');
  const added = async (...args: Parameters<Executor['run']>) => (await executor.run(...args)).changes[0]!.id;
  const client = (name: string) =>
    added('client.add', {
      name,
      address: 'Saltmere',
      email: '',
      taxNumber: '',
      currency: 'GBP',
      taxId: tax,
      termsDays: null,
      archived: false,
    });
  const project = (name: string, clientId: Id | null) =>
    added('project.add', { name, clientId, jobNumber: '', colour: 'moss', finished: false });
  const playhouse = await client('Quayside Playhouse');
  const museum = await client('Fernhill Folk Museum');
  const rig = await project('Winter season rig', playhouse);
  const gallery = await project('Museum gallery 3', museum);
  const internal = await project('Studio', null);
  const design = await added('service.add', { name: 'Lighting design' });
  const { id: _, ...any } = rateLine('');
  await executor.run('rate.add', { ...any, price: '78' });
  await executor.run('rate.add', { ...any, clientId: playhouse, price: '85' });
  return { member: test.memberId, tax, playhouse, rig, museum, gallery, internal, design };
}

/** A fresh studio in memory, with short ways to change it. */
export async function freshStudio() {
  const store = new MemoryStore();
  const test = new TestContext();
  const executor = new MemoryExecutor(store, test.context);
  const at = await setUp(executor, test);
  const run = <N extends CommandName>(name: N, input: CommandInput<N>) => executor.run(name, input);
  /** Runs a command and returns the id of the first row that it put. */
  const added = async <N extends CommandName>(name: N, input: CommandInput<N>): Promise<Id> =>
    (await run(name, input)).changes[0]!.id;
  return { store, test, executor, at, run, added };
}

/** Fields of an entry of a length on a project, on the test's day. */
export const work = (
  projectId: Id | null,
  seconds: number,
  more: Partial<CommandInput<'entry.add'>> = {},
): CommandInput<'entry.add'> => ({
  day: DAY,
  projectId,
  serviceId: null,
  note: 'Plot sheet 4',
  seconds,
  ...more,
});

/** A rate line for anybody's work anywhere, but for the fields given. */
export const rateLine = (id: Id, fields: Partial<RateLine> = {}): RateLine => ({
  ...rateDefaults,
  id,
  from: '2026-01-01',
  // A line that marks up a cost has no price of its own.
  ...(fields.markup ? {} : { price: '80', currency: 'GBP' }),
  ...fields,
});

export const clientRow = (id: Id, name: string, fields: Partial<Client> = {}): Client => ({
  ...clientDefaults,
  id,
  name,
  address: '',
  email: '',
  taxNumber: '',
  currency: 'GBP',
  taxId: null,
  termsDays: null,
  archived: false,
  ...fields,
});

export const projectRow = (id: Id, name: string, clientId: Id | null, fields: Partial<Project> = {}): Project => ({
  ...projectDefaults,
  id,
  name,
  clientId,
  kind: clientId === null ? 'internal' : 'hourly',
  ...fields,
});

export const taskRow = (id: Id, name: string, projectId: Id): Task => ({
  id,
  name,
  projectId,
  order: 0,
  estimate: null,
  stageId: null,
  finished: false,
});

export const markupRow = (fields: Pick<Markup, 'id' | 'costType' | 'percent'> & Partial<Markup>): Markup => ({
  ...markupDefaults,
  from: '2026-01-01',
  ...fields,
});

export const costRow = (fields: Partial<Cost> = {}): Cost => ({
  ...costDefaults,
  id: 'cost',
  kind: 'expense',
  day: DAY,
  currency: 'GBP',
  ...fields,
});

export const costLineRow = (fields: Partial<CostLine> = {}): CostLine => ({
  ...costLineDefaults,
  id: 'cost line',
  costId: 'cost',
  ...fields,
});

/** Small tables with nothing in them but what is given. */
export const bookOf = (tables: Partial<PriceBook>): PriceBook => ({
  workspace: { ...workspaceDefaults, ...studio.workspace, id: WORKSPACE_ID } as Workspace,
  members: [{ ...memberDefaults, ...studio.member, id: 'imogen' } as Member],
  clients: [],
  contacts: [],
  contracts: [],
  projects: [],
  tasks: [],
  stages: [],
  services: [],
  kindsOfWork: [],
  costCodes: [],
  taxes: [],
  rateLines: [],
  costRates: [],
  markups: [],
  exchangeRates: [],
  agreed: [],
  ...tables,
});
