import {
  projectKinds,
  type Buyer,
  type Client,
  type Markup,
  type Member,
  type Project,
  type RateLine,
  type Seller,
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
  companyNumber: '',
  registeredOffice: '',
  bankAccounts: [],
  numberStyle: '1,234.50',
  clockStyle: '14:05',
  receiptOver: null,
  openedFor: [],
  weights: [],
  accounts: {
    sales: '4000',
    reimbursables: '4900',
    tax: '2200',
    receivables: '1100',
    bank: '1200',
    deposits: '2110',
    retention: '1110',
    writeOffs: '8100',
    purchases: '5000',
    inputTax: '2201',
    payables: '2100',
    members: '2120',
    charges: '7900',
    exchange: '7950',
  },
} satisfies Partial<Workspace>;

/** What a member starts with where nothing else is said. */
export const memberDefaults: Pick<
  Member,
  'asked' | 'form' | 'jobOrder' | 'pinned' | 'awayAfter' | 'hiddenServices' | 'checkerId'
> = {
  asked: [],
  form: ['length', 'note', 'job', 'service', 'billable'],
  jobOrder: 'project first',
  pinned: [],
  awayAfter: 1800,
  hiddenServices: [],
  checkerId: null,
};

/** What a service is where nothing else is said. */
export const serviceDefaults: Omit<Service, 'id' | 'name'> = {
  code: '',
  costCodeId: null,
  taxId: null,
  account: '',
  kinds: [...projectKinds],
  archived: false,
};

/** What a tax is where nothing else is said: of the standard category S of UNCL 5305. */
export const taxDefaults: Pick<Tax, 'category' | 'place' | 'reverseCharge' | 'code' | 'later'> = {
  category: 'S',
  place: '',
  reverseCharge: false,
  code: '',
  later: [],
};

/** What a client is where nothing else is said. */
export const clientDefaults: Omit<
  Client,
  'id' | 'name' | 'address' | 'email' | 'taxNumber' | 'currency' | 'taxId' | 'termsDays' | 'archived'
> = {
  code: '',
  rounding: null,
  taxPlace: '',
  purchaseOrder: 'never',
  condense: 'service',
  says: ['note'],
  openBook: false,
  costCodeIds: null,
};

/** What a project is where nothing else is said. */
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

/** What a task is where nothing else is said. */
export const taskDefaults: Omit<Task, 'id' | 'projectId' | 'name'> = {
  order: 0,
  estimate: null,
  stageId: null,
  finished: false,
};

/** A studio of which e-invoices know nothing yet. */
export const sellerDefaults: Seller = {
  country: '',
  city: '',
  postCode: '',
  electronicAddress: '',
  contact: '',
  telephone: '',
};

/** A client of which e-invoices know nothing yet. */
export const buyerDefaults: Buyer = { country: '', city: '', postCode: '', electronicAddress: '', reference: '' };
