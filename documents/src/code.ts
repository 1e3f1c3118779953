import { create } from 'qrcode';

/** A QR code (ISO/IEC 18004) as one path of squares, each a unit wide. */
export interface DrawnCode {
  /** Units to a side, without the quiet zone around it. */
  size: number;
  /** SVG path data. */
  path: string;
}

/** Draws a text as a QR code of error correction level M, as EPC069-12 wants it. */
export function drawnCode(text: string): DrawnCode {
  const { modules } = create(text, { errorCorrectionLevel: 'M' });
  const { size } = modules;
  const runs: string[] = [];
  for (let row = 0; row < size; row++) {
    for (let column = 0; column < size; column++) {
      if (!modules.get(row, column)) continue;
      // Squares that touch are one, so that no hairline shows between them.
      const from = column;
      while (column + 1 < size && modules.get(row, column + 1)) column++;
      runs.push(`M${from} ${row}h${column + 1 - from}v1h-${column + 1 - from}z`);
    }
  }
  return { size, path: runs.join('') };
}
