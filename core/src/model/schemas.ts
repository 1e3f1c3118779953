import type * as z from 'zod';
import * as records from './records';
import type { TableName } from './tables';

// Apart from the tables themselves: showing what is stored needs none of the rules it is checked by.

/** What a row of each table must look like. */
export const schemas: { readonly [Name in TableName]: z.ZodType } = {
  pictures: records.pictureSchema,
  workspace: records.workspaceSchema,
  members: records.memberSchema,
  taxes: records.taxSchema,
  services: records.serviceSchema,
  clients: records.clientSchema,
  contacts: records.contactSchema,
  contracts: records.contractSchema,
  stages: records.stageSchema,
  costCodes: records.costCodeSchema,
  projects: records.projectSchema,
  tasks: records.taskSchema,
  milestones: records.milestoneSchema,
  kindsOfWork: records.kindOfWorkSchema,
  rateLines: records.rateLineSchema,
  costRates: records.costRateSchema,
  markups: records.markupSchema,
  exchangeRates: records.exchangeRateSchema,
  budgets: records.budgetSchema,
  plans: records.planSchema,
  entries: records.entrySchema,
  timers: records.timerSchema,
  absences: records.absenceSchema,
  mappings: records.mappingSchema,
  receipts: records.receiptSchema,
  unitRates: records.unitRateSchema,
  matchRules: records.matchRuleSchema,
  feeds: records.feedSchema,
  orders: records.orderSchema,
  agreed: records.agreedSchema,
  costs: records.costSchema,
  costLines: records.costLineSchema,
  deposits: records.depositSchema,
  adjustments: records.adjustmentSchema,
  invoices: records.invoiceSchema,
  allocations: records.allocationSchema,
  payments: records.paymentSchema,
  reports: records.reportSchema,
};
