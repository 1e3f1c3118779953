import { describe, expect, it } from 'vitest';
import { currentDefinition, currentImage, migrateRow } from './migrations';

const forward = (table: Parameters<typeof migrateRow>[0], row: Record<string, unknown>) => migrateRow(table, row, 3);

describe('records of version 3', () => {
  it('keep what documents were opened for under its own name', () => {
    const list = [{ id: 'p1', name: 'Research' }];
    expect(forward('workspace', { id: 'workspace', purposes: list })).toMatchObject({
      id: 'workspace',
      openedFor: list,
    });
    expect(forward('workspace', { id: 'workspace', openedFor: list })).toMatchObject({
      id: 'workspace',
      openedFor: list,
    });
  });

  it('give each tax the category that it had in words', () => {
    const category = (percent: string, reverseCharge = false, note = '') =>
      forward('taxes', { percent, reverseCharge, note }).category;
    expect(category('20')).toBe('S');
    expect(category('0')).toBe('Z');
    expect(category('0', true, 'Reverse charge')).toBe('AE');
    expect(category('0', true, 'Outside the scope of UK VAT')).toBe('O');
    expect(forward('taxes', { percent: '0', category: 'E' }).category).toBe('E');
  });

  it('leave an issued invoice with every figure that it had', () => {
    const frozen = {
      number: 'SL-0001',
      total: 102_000,
      lines: [{ net: 85_000 }],
      taxes: [{ percent: '20', tax: 17_000 }],
      deductions: [{ kind: 'retention', amount: 4250 }],
      credits: { number: 'SL-0000' },
    };
    const row = forward('invoices', { id: 'i', byHand: [{ text: 'Sundries' }], frozen });
    expect(row).toMatchObject({ id: 'i', grossedUp: false, retentionDue: null, frozen });
    expect(row).toMatchObject({ byHand: [{ text: 'Sundries', projectId: null }], frozen: { rounding: 0 } });
    expect(forward('invoices', { id: 'i', byHand: [], frozen: null }).frozen).toBeNull();
    expect(forward('allocations', { id: 'a', seconds: 60 })).toEqual({ id: 'a', seconds: 60, billed: null });
  });

  it('ask the same in a report, whose words were others', () => {
    const when = { kind: 'moving', name: 'last month' };
    const old = {
      rows: ['purpose', 'member'],
      columns: 'purpose',
      measures: ['well spent', 'worth'],
      sortBy: 'well spent',
      filters: [{ field: 'purpose', values: ['purpose'] }],
      when,
      title: 'purpose',
    };
    expect(currentDefinition(old)).toEqual({
      rows: ['opened for', 'member'],
      columns: 'opened for',
      measures: ['weighted share', 'worth'],
      sortBy: 'weighted share',
      filters: [{ field: 'opened for', values: ['purpose'] }],
      when,
      title: 'purpose',
    });
    expect(forward('reports', { id: 'r', definition: old })).toEqual({ id: 'r', definition: currentDefinition(old) });
  });

  it('are understood in the history as well, whatever version an image is of', () => {
    expect(currentImage('workspace', { purposes: [] })).toMatchObject({ openedFor: [] });
    expect(currentImage('workspace', { openedFor: [] })).toMatchObject({ openedFor: [] });
    expect(currentImage('entries', null)).toBeNull();
  });
});

describe('records of version 4', () => {
  it('say nothing of what invoices did not print then, and keep the accounts they have', () => {
    const forward = (table: 'workspace' | 'clients' | 'taxes' | 'invoices', row: object) =>
      migrateRow(table, row as Record<string, unknown>, 4);
    expect(forward('workspace', { accounts: { sales: '1', purchases: '6000' } })).toEqual({
      companyNumber: '',
      registeredOffice: '',
      bankAccounts: [],
      accounts: {
        sales: '1',
        purchases: '6000',
        inputTax: '2201',
        payables: '2100',
        members: '2120',
        charges: '7900',
        exchange: '7950',
      },
    });
    expect(forward('clients', { name: 'A' })).toEqual({ name: 'A', code: '' });
    expect(forward('taxes', { name: 'VAT', code: 'T1' })).toEqual({ name: 'VAT', code: 'T1' });
    expect(forward('invoices', { frozen: null })).toEqual({ taxPoint: null, frozen: null });
    const frozen = { number: 'SL-1', studio: { name: 'S' }, taxes: [{ id: 't' }] };
    expect(forward('invoices', { frozen })).toEqual({
      taxPoint: null,
      frozen: {
        number: 'SL-1',
        taxPoint: null,
        home: null,
        studio: { name: 'S', companyNumber: '', registeredOffice: '', account: null },
        taxes: [{ id: 't', home: null }],
      },
    });
  });
});
