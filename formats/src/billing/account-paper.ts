import type { AccountPaper } from '@half-penny/core/billing';

const line = { invoiceId: 'a', note: '' };
/** A made-up statement of account in two currencies, for tests. */
export const accountPaper: AccountPaper = {
  studio: {
    name: 'Saltmere Lighting',
    address: '14 Lantern Row',
    email: 'accounts@saltmere-lighting.example',
    paper: 'A4',
  },
  client: { name: 'Quayside <Playhouse>', address: '1 Harbour Steps\nSaltmere' },
  from: '2026-09-01',
  to: '2026-11-30',
  statements: [
    {
      currency: 'GBP',
      opening: 12_345,
      lines: [
        { ...line, day: '2026-09-02', move: 'invoice', number: 'SL-1', amount: 100_000, balance: 112_345 },
        {
          ...line,
          day: '2026-10-02',
          move: 'payment',
          number: 'SL-1',
          note: '=1+1',
          amount: -12_345,
          balance: 100_000,
        },
      ],
      closing: 100_000,
      open: [
        {
          invoiceId: 'a',
          number: 'SL-1',
          day: '2026-09-02',
          dueDay: '2026-10-02',
          owed: 90_000,
          held: 10_000,
          late: 59,
        },
      ],
      ahead: 0,
    },
    { currency: 'JPY', opening: 0, lines: [], closing: -500, open: [], ahead: 500 },
  ],
};
