import type { Pricer, TaskLine } from '@half-penny/core/billing';
import type { FrozenInvoice } from '@half-penny/core/model';
import { plainAmount, sumExact } from '@half-penny/core/money';

/** The fields of LEDES 1998B in their order (field list of the LEDES Oversight Committee, as remembered). */
const FIELDS = [
  'INVOICE_DATE',
  'INVOICE_NUMBER',
  'CLIENT_ID',
  'LAW_FIRM_MATTER_ID',
  'INVOICE_TOTAL',
  'BILLING_START_DATE',
  'BILLING_END_DATE',
  'INVOICE_DESCRIPTION',
  'LINE_ITEM_NUMBER',
  'EXP/FEE/INV_ADJ_TYPE',
  'LINE_ITEM_NUMBER_OF_UNITS',
  'LINE_ITEM_ADJUSTMENT_AMOUNT',
  'LINE_ITEM_TOTAL',
  'LINE_ITEM_DATE',
  'LINE_ITEM_TASK_CODE',
  'LINE_ITEM_EXPENSE_CODE',
  'LINE_ITEM_ACTIVITY_CODE',
  'TIMEKEEPER_ID',
  'LINE_ITEM_DESCRIPTION',
  'LAW_FIRM_ID',
  'LINE_ITEM_UNIT_COST',
  'TIMEKEEPER_NAME',
  'TIMEKEEPER_CLASSIFICATION',
  'CLIENT_MATTER_ID',
] as const;

const TYPES: Readonly<Record<TaskLine['kind'], string>> = { fee: 'F', expense: 'E', 'invoice adjustment': 'IF' };

/** Dates are written without marks between their parts. */
const bare = (day: string): string => day.replaceAll('-', '');

/** The form is ASCII, and a bar and brackets part its fields and lines: accents are left out, and what else cannot stand is put plainly. */
const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[‘’]/g, "'")
    .replace(/[“”]/g, '"')
    .replace(/[–—−]/g, '-')
    .replace(/›/g, '>')
    .replace(/\|/g, '/')
    .replace(/\[/g, '(')
    .replace(/\]/g, ')')
    .replace(/\s+/g, ' ')
    .replace(/[^\x20-\x7e]/g, '?')
    .trim();

/**
 * An issued invoice as LEDES 1998B: a line of text for each entry and cost, for clients whose billing systems read that. Amounts are without
 * tax, which the form has no field for. The matter is the project, by its job number where it has one; codes are those of Setup.
 *
 * @param lines as `taskLines` makes them
 */
export function ledes1998b(
  pricer: Pricer,
  frozen: FrozenInvoice,
  clientId: string,
  lines: readonly TaskLine[],
): string {
  const { currency } = frozen;
  const amount = (minor: number) => plainAmount(minor, currency);
  const client = pricer.client.get(clientId);
  const total = sumExact(lines.map((line) => line.amount));
  const rows = lines.map((line, index) => {
    const project = pricer.project.get(line.projectId ?? '');
    const member = pricer.member.get(line.memberId ?? '');
    const values: Record<(typeof FIELDS)[number], string> = {
      INVOICE_DATE: bare(frozen.day),
      INVOICE_NUMBER: frozen.number,
      CLIENT_ID: client?.code || frozen.client.name,
      LAW_FIRM_MATTER_ID: project ? project.jobNumber || project.name : '',
      INVOICE_TOTAL: amount(total),
      BILLING_START_DATE: bare(frozen.period?.from ?? frozen.day),
      BILLING_END_DATE: bare(frozen.period?.to ?? frozen.day),
      INVOICE_DESCRIPTION: frozen.note,
      LINE_ITEM_NUMBER: String(index + 1),
      'EXP/FEE/INV_ADJ_TYPE': TYPES[line.kind],
      LINE_ITEM_NUMBER_OF_UNITS: line.units,
      LINE_ITEM_ADJUSTMENT_AMOUNT: amount(line.adjustment),
      LINE_ITEM_TOTAL: amount(line.amount),
      LINE_ITEM_DATE: bare(line.day),
      LINE_ITEM_TASK_CODE: line.kind === 'fee' ? line.taskCode : '',
      LINE_ITEM_EXPENSE_CODE: line.kind === 'expense' ? line.expenseCode : '',
      LINE_ITEM_ACTIVITY_CODE: line.kind === 'fee' ? line.activityCode : '',
      TIMEKEEPER_ID: member ? timekeeperId(pricer, member.id) : '',
      LINE_ITEM_DESCRIPTION: line.text,
      LAW_FIRM_ID: frozen.studio.taxNumber || frozen.studio.companyNumber,
      LINE_ITEM_UNIT_COST: amount(line.unitCost),
      TIMEKEEPER_NAME: member?.name ?? '',
      TIMEKEEPER_CLASSIFICATION: member?.role ?? '',
      CLIENT_MATTER_ID: frozen.purchaseOrder,
    };
    return FIELDS.map((field) => plain(values[field])).join('|');
  });
  return ['LEDES1998B', FIELDS.join('|'), ...rows].map((row) => `${row}[]\r\n`).join('');
}

/** Initials, and a figure behind them where two members have the same. */
function timekeeperId(pricer: Pricer, memberId: string): string {
  const initials = (name: string) =>
    plain(name)
      .split(' ')
      .map((part) => part[0] ?? '')
      .join('')
      .toUpperCase();
  const own = initials(pricer.member.get(memberId)!.name);
  const alike = pricer.book.members.filter((each) => initials(each.name) === own);
  return alike.length === 1 ? own : `${own}${alike.findIndex((each) => each.id === memberId) + 1}`;
}
