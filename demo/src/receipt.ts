/** A receipt of the demo as a PDF of one small page: lines of typewriter text. The same lines give the same bytes. */
export function receiptPdf(lines: readonly string[]): Uint8Array {
  const safe = (line: string) => line.replace(/[^\x20-\x7e]/g, '-').replace(/[\\()]/g, '\\$&');
  const text = lines.map((line, index) => `${index === 0 ? '' : 'T* '}(${safe(line)}) Tj`).join('\n');
  const stream = `BT\n/F1 11 Tf\n15 TL\n30 ${40 + lines.length * 15} Td\n${text}\nET`;
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 280 ${80 + lines.length * 15}] /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> >> >>`,
    `<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Courier >>',
  ];
  let body = '%PDF-1.4\n';
  const offsets = objects.map((object, index) => {
    const offset = body.length;
    body += `${index + 1} 0 obj\n${object}\nendobj\n`;
    return offset;
  });
  const start = body.length;
  body += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n`;
  for (const offset of offsets) body += `${String(offset).padStart(10, '0')} 00000 n \n`;
  body += `trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${start}\n%%EOF\n`;
  return new TextEncoder().encode(body);
}
