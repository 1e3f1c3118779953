// @vitest-environment jsdom
import { expect, it } from 'vitest';
import { accountHtml } from '.';
import { accountPaper } from './account-paper';

it('is a page that asks nothing of anybody and says what was written as it was written', () => {
  const document = new DOMParser().parseFromString(accountHtml(accountPaper, ''), 'text/html');
  expect(document.querySelector('title')!.textContent).toBe('Statement of account, Quayside <Playhouse>');
  expect(document.querySelectorAll('script, link, img, iframe')).toHaveLength(0);
  const rows = [...document.querySelectorAll('tr')].map((row) =>
    [...row.children].map((cell) => cell.textContent).join('|'),
  );
  expect(rows).toEqual([
    'Date|What|Charged|Received|Balance',
    '1 Sep 2026|Brought forward|||£123.45',
    '2 Sep 2026|Invoice SL-1|£1,000.00||£1,123.45',
    '2 Oct 2026|Paid, SL-1: =1+1||£123.45|£1,000.00',
    '30 Nov 2026|Owed|||£1,000.00',
    'Invoice|Date|Due|Held back|Owed',
    'SL-1|2 Sep 2026|2 Oct 2026, 59 days late|£100.00|£900.00',
    'Date|What|Charged|Received|Balance',
    '1 Sep 2026|Brought forward|||¥0',
    '30 Nov 2026|In your favour|||¥500',
  ]);
  expect(document.body.textContent).toContain('Paid ahead and not taken by an invoice yet: ¥500');
});
