import {
  formFields,
  projectKinds,
  type Agreed,
  type Allocation,
  type Client,
  type Cost,
  type CostLine,
  type Invoice,
  type Markup,
  type Member,
  type Project,
  type RateLine,
  type Service,
  type Task,
  type Tax,
  type Workspace,
} from './records';

/** What a workspace starts with where nothing else is said. */
export const workspaceDefaults = {
  breakRule: null,
  periods: { kind: 'monthly', startsOn: 1 },
  cutOff: 7,
  logoId: null,
  numberStyle: '1,234.50',
  clockStyle: '14:05',
  receiptOver: null,
  accounts: {
    sales: '4000',
    reimbursables: '4900',
    tax: '2200',
    receivables: '1100',
    bank: '1200',
    deposits: '2110',
    retention: '1110',
    writeOffs: '8100',
  },
} satisfies Partial<Workspace>;

/** What a member starts with where nothing else is said. */
export const memberDefaults: Pick<
  Member,
  'asked' | 'form' | 'jobOrder' | 'pinned' | 'awayAfter' | 'hiddenServices' | 'checkerId'
> = {
  asked: [],
  form: [...formFields],
  jobOrder: 'project first',
  pinned: [],
  awayAfter: 1800,
  hiddenServices: [],
  checkerId: null,
};

export const serviceDefaults: Omit<Service, 'id' | 'name'> = {
  code: '',
  costCodeId: null,
  taxId: null,
  account: '',
  kinds: [...projectKinds],
  archived: false,
};

export const taxDefaults: Pick<Tax, 'place' | 'reverseCharge' | 'later'> = {
  place: '',
  reverseCharge: false,
  later: [],
};

export const clientDefaults: Omit<
  Client,
  'id' | 'name' | 'address' | 'email' | 'taxNumber' | 'currency' | 'taxId' | 'termsDays' | 'archived'
> = {
  rounding: null,
  taxPlace: '',
  purchaseOrder: 'never',
  condense: 'service',
  says: ['note'],
  openBook: false,
  costCodeIds: null,
};

export const projectDefaults: Omit<Project, 'id' | 'clientId' | 'name' | 'kind'> = {
  parentId: null,
  order: 0,
  jobNumber: '',
  colour: 'moss',
  fixedPrice: null,
  contractId: null,
  stageId: null,
  finished: false,
  rounding: null,
  costCodeIds: null,
};

/** A rate for anybody's work anywhere. */
export const rateDefaults: Omit<RateLine, 'id' | 'from'> = {
  clientId: null,
  contractId: null,
  projectId: null,
  taskId: null,
  memberId: null,
  role: null,
  serviceId: null,
  price: null,
  unit: 'hour',
  currency: null,
  markup: null,
  sentence: '',
  printed: false,
};

/** A markup of costs anywhere. */
export const markupDefaults: Omit<Markup, 'id' | 'from' | 'costType' | 'percent'> = {
  clientId: null,
  contractId: null,
  projectId: null,
  sentence: '',
  printed: false,
};

export const taskDefaults: Omit<Task, 'id' | 'projectId' | 'name'> = {
  order: 0,
  estimate: null,
  stageId: null,
  finished: false,
};

export const costDefaults: Omit<Cost, 'id' | 'kind' | 'day' | 'currency'> = {
  supplier: '',
  reference: '',
  taxId: null,
  taxIncluded: false,
  taxReclaimed: true,
  memberId: null,
  owedBack: false,
  paidBackOn: null,
  dueDay: null,
  dueMilestoneId: null,
  dueAfter: 0,
  receiptIds: [],
  note: '',
  source: '',
  since: null,
};

export const costLineDefaults: Omit<CostLine, 'id' | 'costId'> = {
  order: 0,
  text: '',
  quantity: '1',
  unit: '',
  price: null,
  amount: null,
  projectId: null,
  unlisted: '',
  costCodeId: null,
  forClient: true,
  orderId: null,
  agreedId: null,
};

export const agreedDefaults: Omit<Agreed, 'id' | 'projectId' | 'kind' | 'text' | 'amount'> = {
  costCodeId: null,
  cost: null,
  agreedOn: null,
  agreedBy: '',
  milestoneId: null,
  billed: false,
};

/** An invoice with nothing said about how it looks. */
export const invoiceDefaults: Omit<Invoice, 'id' | 'clientId' | 'currency' | 'createdAt' | 'condense' | 'taxId'> = {
  kind: 'invoice',
  ofId: null,
  ways: {},
  says: '',
  texts: {},
  lineTaxes: {},
  discounts: {},
  order: [],
  headings: [],
  byHand: [],
  deals: [],
  allowance: null,
  inclusive: false,
  retention: null,
  deposits: [],
  openBook: false,
  withReceipts: true,
  collects: false,
  note: '',
  purchaseOrder: '',
  seq: null,
  issuedAt: null,
  frozen: null,
  voided: null,
  releasedOn: null,
};

/** What an allocation of any source has alike while its invoice is a draft. */
export const allocationDefaults: Omit<Allocation, 'id' | 'invoiceId'> = {
  entryId: null,
  costLineId: null,
  agreedId: null,
  line: '',
  seconds: 0,
  part: 0,
  amount: null,
  markup: null,
  dealId: null,
};
