import { showFigure, type MeasureKind } from '@half-penny/core/reports';
import type { LengthStyle } from '@half-penny/core/time';

/** A figure as it stands in a picture: lengths without their seconds, which the table has. */
export const showShort = (value: number, kind: MeasureKind, currency: string, style: LengthStyle): string =>
  showFigure(value, kind, currency, style).replace(/^(−?\d+:\d\d):\d\d$/, '$1');
