/** How figures are written: how thousands are parted, and what stands before the decimals. */
export const numberStyles = ['1,234.50', '1.234,50', '1 234,50', '1’234.50'] as const;
export type NumberStyle = (typeof numberStyles)[number];

const MARKS: Record<NumberStyle, { group: string; point: string }> = {
  '1,234.50': { group: ',', point: '.' },
  '1.234,50': { group: '.', point: ',' },
  // A narrow space that no line breaks at.
  '1 234,50': { group: '\u202f', point: ',' },
  '1’234.50': { group: '’', point: '.' },
};

let current: NumberStyle = '1,234.50';

/** Says how figures are written from now on, wherever nothing else is said: for reading only, never in files. */
export function writeNumbersAs(style: NumberStyle): void {
  current = style;
}

/** A figure written as "1,234.50", with whatever stands around it, in a style. */
export function inStyle(figure: string, style: NumberStyle = current): string {
  if (style === '1,234.50') return figure;
  const { group, point } = MARKS[style];
  return figure.replace(/(?<=\d)[,.](?=\d)/g, (mark) => (mark === ',' ? group : point));
}

/** A figure as it is typed in a style, with its decimals behind a point: "1.250,5" → "1250.5". What is no figure stays as it is. */
export function fromStyle(typed: string, style: NumberStyle = current): string {
  if (MARKS[style].point === '.') return typed.replace(/(?<=\d)[’'](?=\d{3})/g, '');
  // "78.50" is understood as well, as long as it cannot be a thousand.
  if (!typed.includes(',') && !/\d\.\d{3}(?!\d)/.test(typed))
    return typed.replace(/(?<=\d)[\s\u202f\u00a0](?=\d{3})/g, '');
  return typed.replace(/(?<=\d)[.\s\u202f\u00a0](?=\d{3})/g, '').replace(',', '.');
}
