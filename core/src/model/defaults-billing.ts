import type { Agreed, Allocation, Cost, CostLine, Invoice } from './records';

// Apart from the others, which name choices that records are checked by: computing a draft needs none of those rules.

/** What a cost has where nothing else is said. */
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

/** What a line of a cost is where nothing else is said. */
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

/** What an agreed amount is where nothing else is said. */
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
  grossedUp: false,
  retention: null,
  retentionDue: null,
  deposits: [],
  openBook: false,
  withReceipts: true,
  collects: false,
  note: '',
  purchaseOrder: '',
  taxPoint: null,
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
  billed: null,
  part: 0,
  amount: null,
  markup: null,
  dealId: null,
};
