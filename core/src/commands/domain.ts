import { checkConservation, checkInvoices } from '../billing/invariants';
import { checkMoneyIn } from '../billing/invariants-money';
import { checkWork } from '../billing/invariants-work';
import { guardChecked, traceCorrections } from '../checking/guard';
import { checkTimesheets } from '../checking/invariants';
import { checkCosts } from '../costs/invariants';
import type { Domain } from '../engine/domain';
import { checkTime } from '../entries/invariants';
import { checkPayingOut } from '../paying-out/invariants';
import { askAbout } from './ask';
import { catalogue } from './catalogue';
import { collect } from './invoices';

/** What the engine is told of time, costs and invoices. */
export const domain: Domain = {
  catalogue,
  invariants: [
    checkTime,
    checkWork,
    checkCosts,
    checkInvoices,
    checkConservation,
    checkMoneyIn,
    checkPayingOut,
    checkTimesheets,
  ],
  reactions: [collect, traceCorrections],
  guards: [guardChecked],
  doubts: [askAbout],
};
