import type * as z from 'zod';
import { Fault } from '../model/fault';
import type { Command } from './command';
import { reports } from './reports';
import * as agreed from './agreed';
import * as clients from './clients';
import * as costs from './costs';
import * as invoices from './invoices';
import * as issue from './issue';
import * as entries from './entries';
import { importHours } from './hours';
import { addJob, fileJobs } from './jobs';
import { takeLedger } from './ledger';
import * as plans from './plans';
import * as projects from './projects';
import * as rates from './rates';
import * as setup from './setup';
import * as timers from './timers';
import { postStretches } from './stretches';
import { fillWeek } from './week';
import { importWork } from './work-import';

/** Every change there is, by name. */
export const catalogue = {
  'stretch.post': postStretches,
  'workspace.create': setup.createWorkspace,
  'workspace.edit': setup.editWorkspace,
  'workspace.logo': setup.setLogo,
  'member.add': setup.members.add,
  'member.edit': setup.members.edit,
  'member.remove': setup.members.remove,
  'tax.add': setup.taxes.add,
  'tax.edit': setup.taxes.edit,
  'tax.remove': setup.taxes.remove,
  'service.add': clients.services.add,
  'service.edit': clients.services.edit,
  'service.remove': clients.services.remove,
  'kindOfWork.add': clients.kindsOfWork.add,
  'kindOfWork.edit': clients.kindsOfWork.edit,
  'kindOfWork.remove': clients.kindsOfWork.remove,
  'costCode.add': clients.costCodes.add,
  'costCode.edit': clients.costCodes.edit,
  'costCode.remove': clients.costCodes.remove,
  'stage.add': clients.stages.add,
  'stage.edit': clients.stages.edit,
  'stage.remove': clients.stages.remove,
  'stage.order': clients.orderStages,
  'client.add': clients.clients.add,
  'client.edit': clients.clients.edit,
  'client.remove': clients.clients.remove,
  'client.archive': clients.archiveClients,
  'contact.add': clients.contacts.add,
  'contact.edit': clients.contacts.edit,
  'contact.remove': clients.contacts.remove,
  'contact.take': clients.takeContacts,
  'contract.add': clients.contracts.add,
  'contract.edit': clients.contracts.edit,
  'contract.remove': clients.contracts.remove,
  'budget.add': clients.budgets.add,
  'budget.edit': clients.budgets.edit,
  'budget.remove': clients.budgets.remove,
  'project.add': projects.projects.add,
  'project.edit': projects.projects.edit,
  'project.remove': projects.projects.remove,
  'project.move': projects.moveProject,
  'project.finish': projects.finishProjects,
  'task.add': projects.tasks.add,
  'task.edit': projects.tasks.edit,
  'task.remove': projects.tasks.remove,
  'milestone.add': projects.milestones.add,
  'milestone.edit': projects.milestones.edit,
  'milestone.remove': projects.milestones.remove,
  'rate.add': rates.rates.add,
  'rate.edit': rates.rates.edit,
  'rate.remove': rates.rates.remove,
  'rate.change': rates.changeRate,
  'costRate.add': rates.costRates.add,
  'costRate.edit': rates.costRates.edit,
  'costRate.remove': rates.costRates.remove,
  'markup.add': rates.markups.add,
  'markup.agree': rates.agreeMarkups,
  'markup.edit': rates.markups.edit,
  'markup.remove': rates.markups.remove,
  'exchange.add': rates.exchangeRates.add,
  'exchange.edit': rates.exchangeRates.edit,
  'exchange.remove': rates.exchangeRates.remove,
  'exchange.take': rates.takeExchangeRates,
  'absence.add': setup.absences.add,
  'absence.edit': setup.absences.edit,
  'absence.remove': setup.absences.remove,
  'timer.start': timers.startTimer,
  'timer.resume': timers.resumeEntry,
  'timer.edit': timers.editTimer,
  'timer.stop': timers.stopTimer,
  'timer.discard': timers.discardTimer,
  'time.settle': timers.settleDoubt,
  'entry.add': entries.addEntry,
  'entry.edit': entries.editEntry,
  'entry.editAll': entries.editEntries,
  'entry.remove': entries.removeEntries,
  'entry.split': entries.splitEntry,
  'entry.join': entries.joinEntries,
  'entry.tag': entries.tagEntries,
  'entry.duplicate': entries.duplicateEntries,
  'week.fill': fillWeek,
  'plan.add': plans.addPlans,
  'plan.edit': plans.editPlan,
  'plan.remove': plans.removePlans,
  'plan.take': plans.takePlans,
  'calendar.take': plans.takeCalendar,
  'job.file': fileJobs,
  'job.add': addJob,
  'work.import': importWork,
  'hours.import': importHours,
  'cost.add': costs.addCost,
  'cost.edit': costs.editCost,
  'cost.remove': costs.removeCosts,
  'cost.place': costs.placeLines,
  'cost.payBack': costs.payBack,
  'receipt.add': costs.addReceipts,
  'receipt.remove': costs.removeReceipt,
  'unitRate.add': costs.unitRates.add,
  'unitRate.edit': costs.unitRates.edit,
  'unitRate.remove': costs.unitRates.remove,
  'matchRule.add': costs.matchRules.add,
  'matchRule.edit': costs.matchRules.edit,
  'matchRule.remove': costs.matchRules.remove,
  'order.add': costs.orders.add,
  'order.edit': costs.orders.edit,
  'order.remove': costs.orders.remove,
  'ledger.take': takeLedger,
  'agreed.add': agreed.agreed.add,
  'agreed.edit': agreed.agreed.edit,
  'agreed.remove': agreed.agreed.remove,
  'deposit.add': agreed.deposits.add,
  'deposit.edit': agreed.deposits.edit,
  'deposit.remove': agreed.deposits.remove,
  'bill.adjust': agreed.adjust,
  'bill.restore': agreed.removeAdjustments,
  'bill.internal': agreed.makeInternal,
  'invoice.draft': invoices.putOnDraft,
  'invoice.edit': invoices.editDraft,
  'invoice.markUp': invoices.markUp,
  'invoice.part': invoices.billPart,
  'invoice.deal': invoices.dealHours,
  'invoice.endDeal': invoices.endDeal,
  'invoice.takeOff': invoices.takeOffDraft,
  'invoice.discard': invoices.discardDraft,
  'invoice.issue': issue.issueInvoice,
  'invoice.void': issue.voidInvoice,
  'invoice.credit': issue.creditInvoice,
  'invoice.release': issue.releaseRetention,
  'payment.add': issue.addPayment,
  'payment.remove': issue.removePayment,
  'report.add': reports.add,
  'report.edit': reports.edit,
  'report.remove': reports.remove,
} as const;

export type CommandName = keyof typeof catalogue;
export type CommandInput<N extends CommandName> = z.output<(typeof catalogue)[N]['input']>;

/** @throws Fault when there is no such command */
export function commandNamed(name: string): Command {
  if (!Object.hasOwn(catalogue, name)) throw new Fault(`There is no command “${name.slice(0, 40)}”.`, '', { name });
  return catalogue[name as CommandName] as unknown as Command;
}
