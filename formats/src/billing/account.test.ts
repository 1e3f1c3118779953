import { readSheet } from 'read-excel-file/universal';
import { describe, expect, it } from 'vitest';
import { accountHtml, accountXlsx } from '.';
import { accountPaper as paper } from './account-paper';

describe('a statement of account', () => {
  it('is read back from XLSX with days, amounts and what is open', async () => {
    const file = await (await accountXlsx(paper)).arrayBuffer();
    const account = await readSheet(file, 'Account GBP');
    expect(account.slice(2)).toEqual([
      ['Date', 'What', 'Number', 'Charged', 'Received', 'Balance, GBP'],
      [new Date('2026-09-01'), 'Brought forward', null, null, null, 123.45],
      [new Date('2026-09-02'), 'Invoice SL-1', 'SL-1', 1000, null, 1123.45],
      [new Date('2026-10-02'), 'Paid, SL-1: =1+1', 'SL-1', null, 123.45, 1000],
      [new Date('2026-11-30'), 'Balance', null, null, null, 1000],
    ]);
    expect((await readSheet(file, 'Open GBP')).at(-1)).toEqual([
      'SL-1',
      new Date('2026-09-02'),
      new Date('2026-10-02'),
      59,
      100,
      900,
    ]);
    expect((await readSheet(file, 'Account JPY')).at(-1)!.at(-1)).toBe(-500);
  });

  it('says so where nothing moved', async () => {
    const empty = { ...paper, statements: [] };
    expect(accountHtml(empty, '')).toContain('Nothing was invoiced or paid up to 30 Nov 2026.');
    expect((await readSheet(await (await accountXlsx(empty)).arrayBuffer())).at(-1)).toEqual([
      null,
      'Nothing was invoiced or paid.',
    ]);
  });
});
