import { checkConservation, checkInvoices } from '../billing/invariants';
import { checkMoneyIn } from '../billing/invariants-money';
import { checkWork } from '../billing/invariants-work';
import { guardChecked, traceCorrections } from '../checking/guard';
import { checkTimesheets } from '../checking/invariants';
import { checkCosts } from '../costs/invariants';
import type { Amendment, Domain, Guard, Reaction } from '../engine/domain';
import { checkTime } from '../entries/invariants';
import { checkPayingOut } from '../paying-out/invariants';
import { recordFrom, remarkFrom } from '../places';
import { checkRights } from '../rights';
import { admit, guardRights } from './admission';
import { askAbout } from './ask';
import { catalogue, type CommandName } from './catalogue';
import { collect } from './invoices';
import { guardWays } from './ways';

/** What somebody signed who may: whether the days allow it they decided, or the command itself asks. */
const SIGNED: ReadonlySet<string> = new Set<CommandName>(['jobSheet.take', 'timesheet.take', 'answer.take']);

const unlessSigned =
  (guard: Guard): Guard =>
  (reader, changes, context, command) =>
    SIGNED.has(command) ? Promise.resolve() : guard(reader, changes, context, command);

/** What is cut, joined or copied was recorded before; what was signed was recorded elsewhere. */
const RECORDED_BEFORE: ReadonlySet<string> = new Set<CommandName>(['entry.split', 'entry.join', 'entry.duplicate']);

const fromPlaces: Amendment = (reader, changes, context, command) =>
  SIGNED.has(command) || RECORDED_BEFORE.has(command)
    ? Promise.resolve([...changes])
    : recordFrom(reader, changes, context);

/** What a file says was corrected stands in it. */
const unlessTold: Reaction = (reader, changes, context, command) =>
  SIGNED.has(command) ? Promise.resolve([]) : traceCorrections(reader, changes, context);

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
  amendments: [fromPlaces],
  remark: remarkFrom,
  reactions: [collect, unlessTold],
  admit,
  // Whether somebody may is told before whether the days allow it.
  guards: [guardRights, unlessSigned(guardWays), unlessSigned(guardChecked)],
  doubts: [askAbout],
};
