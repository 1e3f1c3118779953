import { accountWords, closingWords, type AccountPaper, type AccountStatement } from '@half-penny/core/billing';
import { currencyDigits, showAmount, spreadsheetAmount } from '@half-penny/core/money';
import { showDayShort } from '@half-penny/core/time';
import { escaped, lines as broken } from '../html';
import { writeTables, type Table } from '../sheet';

/** A client's statement of account as a spreadsheet (XLSX): for each currency what moved, and what is open. */
export function accountXlsx({ studio, client, from, to, statements }: AccountPaper): Promise<Blob> {
  const title = [
    `${studio.name}: statement of account`,
    `${client.name} · ${showDayShort(from)} to ${showDayShort(to)}`,
  ];
  const tables = statements.flatMap((statement) => [
    movesTable(statement, title, from, to),
    ...(statement.open.length > 0 ? [openTable(statement, title)] : []),
  ]);
  return writeTables(tables.length > 0 ? tables : [emptyTable(title)]);
}

const text = (value: string) => (value === '' ? null : ({ value, type: String } as const));
const day = (value: string) => ({ value: new Date(`${value}T00:00:00Z`), type: Date, format: 'd mmm yyyy' }) as const;
const amountIn = (currency: string) => {
  const digits = currencyDigits(currency);
  const format = digits === 0 ? '#,##0' : `#,##0.${'0'.repeat(digits)}`;
  return (minor: number) => ({ value: spreadsheetAmount(minor, currency), type: Number, format }) as const;
};

function movesTable(
  { currency, opening, lines, closing }: AccountStatement,
  title: string[],
  from: string,
  to: string,
): Table {
  const amount = amountIn(currency);
  return {
    name: `Account ${currency}`,
    title,
    head: ['Date', 'What', 'Number', 'Charged', 'Received', `Balance, ${currency}`],
    widths: [12, 44, 14, 14, 14, 16],
    rows: [
      [day(from), text('Brought forward'), null, null, null, amount(opening)],
      ...lines.map((line) => [
        day(line.day),
        text(accountWords(line)),
        text(line.number),
        line.amount > 0 ? amount(line.amount) : null,
        line.amount < 0 ? amount(-line.amount) : null,
        amount(line.balance),
      ]),
      [day(to), text('Balance'), null, null, null, { ...amount(closing), fontWeight: 'bold' as const }],
    ],
    sums: 1,
  };
}

function openTable({ currency, open }: AccountStatement, title: string[]): Table {
  const amount = amountIn(currency);
  return {
    name: `Open ${currency}`,
    title,
    head: ['Invoice', 'Date', 'Due', 'Days late', 'Held back', `Owed, ${currency}`],
    widths: [14, 12, 12, 10, 14, 16],
    rows: open.map((item) => [
      text(item.number),
      day(item.day),
      day(item.dueDay),
      item.late > 0 ? ({ value: item.late, type: Number } as const) : null,
      amount(item.held),
      amount(item.owed),
    ]),
  };
}

const emptyTable = (title: string[]): Table => ({
  name: 'Account',
  title,
  head: ['Date', 'What'],
  widths: [12, 44],
  rows: [[null, text('Nothing was invoiced or paid.')]],
});

/** A statement of account as one page of HTML that needs nothing else. @param logo as a data address, or empty */
export function accountHtml({ studio, client, from, to, statements }: AccountPaper, logo: string): string {
  const period = `${showDayShort(from)} to ${showDayShort(to)}`;
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; img-src data:">
<title>${escaped(`Statement of account, ${client.name}`)}</title>
<style>
body{font:15px/1.45 system-ui,sans-serif;color:#13222b;background:#fff;max-width:56rem;margin:2rem auto;padding:0 1rem}
header{display:flex;justify-content:space-between;gap:2rem;margin-bottom:1.5rem}header img{max-height:56px;max-width:160px}
h1{font-size:1.5rem;margin:0}h2{font-size:1.05rem;margin:1.6rem 0 .3rem}.soft{color:#566873}
table{border-collapse:collapse;width:100%}th{text-align:left;font-weight:400}td.sum,th.sum{text-align:right;white-space:nowrap}
thead th{font-size:.8rem;color:#566873;border-bottom:1px solid #13222b;padding:.3em .4em}
tbody td{border-bottom:1px solid #dde5e4;padding:.3em .4em;vertical-align:top}td.sum{font-family:ui-monospace,monospace;font-size:.92em}
tfoot td{font-weight:700;border-top:1px solid #13222b;border-bottom:3px double #9b4518;padding:.4em}
@media print{body{margin:0;max-width:none}tr{break-inside:avoid}thead{display:table-header-group}}
</style>
</head>
<body>
<header><div><h1>Statement of account</h1><p class="soft">${escaped(period)}</p><p><strong>${escaped(client.name)}</strong><br><span class="soft">${broken(client.address)}</span></p></div>
<div>${logo ? `<img alt="" src="${escaped(logo)}">` : ''}<p><strong>${escaped(studio.name)}</strong><br><span class="soft">${broken([studio.address, studio.email].filter(Boolean).join('\n'))}</span></p></div></header>
${statements.length === 0 ? `<p>Nothing was invoiced or paid up to ${escaped(showDayShort(to))}.</p>` : ''}
${statements.map((statement) => accountPart(statement, from, to)).join('\n')}
</body>
</html>
`;
}

function accountPart(
  { currency, opening, lines, closing, open, ahead }: AccountStatement,
  from: string,
  to: string,
): string {
  const money = (minor: number) => escaped(showAmount(minor, currency));
  const sum = (minor: number | null) => `<td class="sum">${minor === null ? '' : money(minor)}</td>`;
  const row = (when: string, what: string, charged: number | null, received: number | null, balance: number) =>
    `<tr><td>${escaped(showDayShort(when))}</td><td>${escaped(what)}</td>${sum(charged)}${sum(received)}${sum(balance)}</tr>`;
  const moved = lines.map((line) =>
    row(
      line.day,
      accountWords(line),
      line.amount > 0 ? line.amount : null,
      line.amount < 0 ? -line.amount : null,
      line.balance,
    ),
  );
  const items = open.map(
    (item) =>
      `<tr><td>${escaped(item.number)}</td><td>${escaped(showDayShort(item.day))}</td><td>${escaped(showDayShort(item.dueDay))}${item.late > 0 ? `, ${item.late} ${item.late === 1 ? 'day' : 'days'} late` : ''}</td>${sum(item.held === 0 ? null : item.held)}${sum(item.owed)}</tr>`,
  );
  return `<h2>In ${escaped(currency)}</h2>
<table>
<thead><tr><th scope="col">Date</th><th scope="col">What</th><th scope="col" class="sum">Charged</th><th scope="col" class="sum">Received</th><th scope="col" class="sum">Balance</th></tr></thead>
<tbody>
${[row(from, 'Brought forward', null, null, opening), ...moved].join('\n')}
</tbody>
<tfoot><tr><td>${escaped(showDayShort(to))}</td><td>${closingWords(closing)}</td><td></td><td></td>${sum(Math.abs(closing))}</tr></tfoot>
</table>
${
  items.length === 0
    ? ''
    : `<h2>Open</h2>
<table>
<thead><tr><th scope="col">Invoice</th><th scope="col">Date</th><th scope="col">Due</th><th scope="col" class="sum">Held back</th><th scope="col" class="sum">Owed</th></tr></thead>
<tbody>
${items.join('\n')}
</tbody>
</table>`
}
${ahead === 0 ? '' : `<p>Paid ahead and not taken by an invoice yet: ${money(ahead)}</p>`}`;
}
