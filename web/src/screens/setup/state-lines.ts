import { invoiceNumber, showRate, type Pricer } from '@half-penny/core/billing';
import { placeOf } from '@half-penny/core/rates';
import { showPolicy, WEEKDAY_NAMES, type Day } from '@half-penny/core/time';
import { showAmount } from '@half-penny/core/money';
import type { Id } from '@half-penny/core/model';
import type { SetupPart } from './settings';

/** What the lines of state are made of, beside the book. */
export interface SetupState {
  pricer: Pricer;
  today: Day;
  memberId: Id | null;
  /** The place in the numbering that the next invoice takes; null until it is read. */
  nextSeq: number | null;
  /** "Dark", "As the system". */
  theme: string;
  keys: number;
  /** Lists from elsewhere that are followed. */
  lists: number;
  /** Devices that the workspace is on; null where it is in this browser alone, undefined while that is read. */
  devices: number | null | undefined;
  /** How many changes no file or backup holds; null where there is neither, undefined while it is counted. */
  unsaved: number | null | undefined;
}

const counted = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;

/** How each part of Setup stands, in one line. */
export function stateLines(state: SetupState): Record<SetupPart, string> {
  const { pricer, today, memberId, nextSeq } = state;
  const { book } = pricer;
  const { workspace } = book;
  const here = book.members.find(({ id }) => id === memberId);
  const studioRates = book.rateLines.filter((line) => placeOf(line) === null);
  const usual = studioRates.find((line) => line.memberId === null && line.role === null && line.serviceId === null);
  const limit = workspace.receiptOver === null ? '' : showAmount(workspace.receiptOver, workspace.currency);
  return {
    studio: list(workspace.name, workspace.currency, workspace.zone.replaceAll('_', ' ')),
    people: list(counted(book.members.length, 'member'), here ? `${here.name} works here` : 'nobody works here yet'),
    rates: list(
      usual ? `${showRate(usual)} for anybody` : studioRates.length === 0 ? 'no rate of the studio yet' : '',
      book.rateLines.length > 0 && counted(book.rateLines.length, 'rate'),
      book.exchangeRates.length > 0 && counted(book.exchangeRates.length, 'exchange rate'),
    ),
    services:
      list(
        book.services.length > 0 && counted(book.services.length, 'service'),
        book.costCodes.length > 0 && counted(book.costCodes.length, 'cost code'),
        book.stages.length > 0 && counted(book.stages.length, 'stage'),
      ) || 'none yet',
    elsewhere: state.lists > 0 ? `${counted(state.lists, 'list')} followed` : 'no list is followed',
    recording: list(
      `weeks end on ${WEEKDAY_NAMES[workspace.cutOff - 1]}`,
      workspace.breakRule ? 'breaks by rule' : 'no break by rule',
    ),
    rounding: showPolicy(workspace.rounding),
    invoicing: list(
      nextSeq === null ? '' : `${invoiceNumber(workspace, nextSeq, today)} next`,
      counted(workspace.termsDays, 'day'),
      workspace.paper,
      counted(book.taxes.length, 'tax', 'taxes'),
    ),
    post: Object.values(workspace.letters ?? {}).some((own) => Object.keys(own).length > 0)
      ? 'letters of your own'
      : 'letters as they come',
    bookkeeping: list(
      `sales on ${workspace.accounts.sales}`,
      limit ? `receipts from ${limit} on` : 'no receipt is asked for',
    ),
    looks: list(workspace.numberStyle, workspace.clockStyle, `theme: ${state.theme.toLowerCase()}`),
    keys: `${counted(state.keys, 'thing')} to do without the mouse`,
    devices: devicesLine(state.devices),
    data: savedLine(state.unsaved),
  };
}

function devicesLine(devices: SetupState['devices']): string {
  if (devices === undefined) return '';
  return devices === null ? 'this browser alone' : `on ${counted(devices, 'device')}`;
}

function savedLine(unsaved: SetupState['unsaved']): string {
  if (unsaved === undefined) return '';
  if (unsaved === null) return 'in this browser only';
  return unsaved === 0 ? 'all of it is in a file or backup' : `${counted(unsaved, 'change')} since the last copy`;
}

const list = (...parts: readonly (string | false)[]): string => parts.filter(Boolean).join(', ');
