import type { ReportSheet, SheetLine } from '@half-penny/core/reports';
import { escaped, lines } from '../html';

/** Who a report comes from. */
export interface ReportHead {
  studio: string;
  address: string;
  email: string;
  /** The studio's picture as a data address; none where empty. */
  logo: string;
}

/** A report as one HTML page that needs nothing else: no script, no font, no address. It prints as it stands. */
export function reportHtml(sheet: ReportSheet, head: ReportHead): string {
  const depth = sheet.levels.length;
  const row = (line: SheetLine, name: string, tag: string) =>
    `<tr class="${tag}"><th scope="row" style="padding-left:${(Math.max(1, line.depth) - 1) * 1.2}em">${escaped(name)}</th>${line.cells
      .map((cell) => `<td>${lines(cell.text)}</td>`)
      .join('')}</tr>`;
  const body = sheet.lines
    .map((line) => row(line, line.path.at(-1)!, line.depth < depth ? 'group' : 'leaf'))
    .join('\n');
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escaped(sheet.title)}</title>
<style>
body{font:15px/1.45 system-ui,sans-serif;color:#13222b;background:#fff;max-width:60rem;margin:2rem auto;padding:0 1rem}
header{display:flex;justify-content:space-between;gap:2rem;margin-bottom:1.5rem}header img{max-height:56px;max-width:160px}
h1{font-size:1.5rem;margin:0}.soft{color:#566873}table{border-collapse:collapse;width:100%}
th{text-align:left;font-weight:400}td,thead th{text-align:right;white-space:nowrap}thead th:first-child{text-align:left}
thead th{font-size:.8rem;color:#566873;border-bottom:1px solid #13222b}tbody td,tbody th{border-bottom:1px solid #dde5e4;padding:.3em .4em}
td{font-family:ui-monospace,monospace;font-size:.92em}.group th,.group td{font-weight:600;background:#f3f6f5}
tfoot th,tfoot td{font-weight:700;border-top:1px solid #13222b;border-bottom:3px double #9b4518;padding:.4em}
@media print{body{margin:0;max-width:none}tr{break-inside:avoid}thead{display:table-header-group}}
</style>
</head>
<body>
<header><div><h1>${escaped(sheet.title)}</h1><p class="soft">${escaped(sheet.period)}</p>${sheet.note ? `<p>${lines(sheet.note)}</p>` : ''}</div>
<div>${head.logo ? `<img alt="" src="${escaped(head.logo)}">` : ''}<p><strong>${escaped(head.studio)}</strong><br><span class="soft">${lines([head.address, head.email].filter(Boolean).join('\n'))}</span></p></div></header>
<table>
<thead><tr><th scope="col">${escaped(sheet.levels.join(' / '))}</th>${sheet.heads.map(({ label }) => `<th scope="col">${escaped(label)}</th>`).join('')}</tr></thead>
<tbody>
${body}
</tbody>
<tfoot>${row(sheet.total, 'All', 'total')}</tfoot>
</table>
</body>
</html>
`;
}
