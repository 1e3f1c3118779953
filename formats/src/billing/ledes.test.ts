import { Pricer, type TaskLine } from '@half-penny/core/billing';
import { bookOf, clientRow, frozenInvoice, frozenLine, projectRow } from '@half-penny/core/testing';
import { memberDefaults } from '@half-penny/core/model';
import { expect, it } from 'vitest';
import { ledes1998b } from './ledes';

const member = (id: string, name: string) => ({
  ...memberDefaults,
  id,
  name,
  role: 'principal',
  zone: 'Europe/London',
  owed: [],
});
const pricer = new Pricer(
  bookOf({
    clients: [clientRow('museum', 'Fernhill Folk Museum', { code: 'C 02' })],
    projects: [{ ...projectRow('gallery', 'Museum gallery 3', 'museum'), jobNumber: '2607' }],
    members: [member('a', 'Imogen Vale'), member('b', 'Iris Vane'), member('c', 'Teodor Lund')] as never,
  }),
);
const line = (more: Partial<TaskLine>): TaskLine => ({
  kind: 'fee',
  day: '2026-11-03',
  units: '1.5',
  unitCost: 8500,
  adjustment: 0,
  amount: 12_750,
  projectId: 'gallery',
  memberId: 'a',
  taskCode: 'L110',
  activityCode: 'A101',
  expenseCode: '',
  text: 'Plot',
  ...more,
});
const frozen = frozenInvoice([frozenLine(12_750)], [], {
  purchaseOrder: 'PO|7',
  period: { from: '2026-11-01', to: '2026-11-30' },
});
const rowsOf = (lines: TaskLine[]) =>
  ledes1998b(pricer, frozen, 'museum', lines)
    .split('[]\r\n')
    .map((row) => row.split('|'));

it('has the form’s name, its 24 fields, and a line of as many values for each entry', () => {
  const [name, head, first, second, ...rest] = rowsOf([
    line({}),
    line({ kind: 'expense', memberId: null, expenseCode: 'E124', taskCode: 'x', units: '1', amount: -5, text: 'Gel' }),
  ]);
  expect(name).toEqual(['LEDES1998B']);
  expect(head).toHaveLength(24);
  expect(rest).toEqual([['']]);
  const values = (row: string[]) => Object.fromEntries(head!.map((field, index) => [field, row[index]]));
  expect(first).toHaveLength(24);
  expect(values(first!)).toMatchObject({
    INVOICE_DATE: '20261101',
    CLIENT_ID: 'C 02',
    LAW_FIRM_MATTER_ID: '2607',
    INVOICE_TOTAL: '127.45',
    BILLING_END_DATE: '20261130',
    'EXP/FEE/INV_ADJ_TYPE': 'F',
    LINE_ITEM_NUMBER_OF_UNITS: '1.5',
    LINE_ITEM_UNIT_COST: '85.00',
    LINE_ITEM_TOTAL: '127.50',
    LINE_ITEM_TASK_CODE: 'L110',
    LINE_ITEM_ACTIVITY_CODE: 'A101',
    TIMEKEEPER_ID: 'IV1',
    TIMEKEEPER_NAME: 'Imogen Vale',
    // What parts fields stands in none of them.
    CLIENT_MATTER_ID: 'PO/7',
  });
  expect(values(second!)).toMatchObject({
    'EXP/FEE/INV_ADJ_TYPE': 'E',
    LINE_ITEM_EXPENSE_CODE: 'E124',
    LINE_ITEM_TASK_CODE: '',
    TIMEKEEPER_ID: '',
    LINE_ITEM_TOTAL: '-0.05',
  });
});

it('is plain ASCII, whatever was written', () => {
  const text = ledes1998b(pricer, frozen, 'museum', [line({ memberId: 'c', text: 'Café “rig” – [plan]|\n»日本' })]);
  expect(text).toMatch(/^[\x20-\x7e\r\n]*$/);
  expect(text).toContain('|Cafe "rig" - (plan)/ ???|');
  expect(text).toContain('|TL|');
});
