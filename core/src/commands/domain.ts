import { checkConservation, checkInvoices } from '../billing/invariants';
import { checkMoneyIn } from '../billing/invariants-money';
import { checkWork } from '../billing/invariants-work';
import { guardChecked, traceCorrections } from '../checking/guard';
import { checkTimesheets } from '../checking/invariants';
import { checkCosts } from '../costs/invariants';
import type { Domain } from '../engine/domain';
import { checkTime } from '../entries/invariants';
import { checkPayingOut } from '../paying-out/invariants';
import { checkRights } from '../rights';
import { admit, guardRights } from './admission';
import { askAbout } from './ask';
import { catalogue } from './catalogue';
import { collect } from './invoices';
import { guardWays } from './ways';

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
    checkRights,
  ],
  reactions: [collect, traceCorrections],
  admit,
  // Whether somebody may is told before whether the days allow it.
  guards: [guardRights, guardWays, guardChecked],
  doubts: [askAbout],
};
