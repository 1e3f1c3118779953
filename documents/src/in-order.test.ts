import { describe, expect, it } from 'vitest';
import { inOrder } from './in-order';

describe('texts on paper', () => {
  it('turn nothing around them, wherever in a document they stand', () => {
    const document = {
      note: 'Rig \u202eGBP 00.001\u202c',
      lines: [{ text: '\u2067plot\u2069', amount: 1250 }],
      paid: null,
    };
    expect(inOrder(document)).toEqual({ note: 'Rig GBP 00.001', lines: [{ text: 'plot', amount: 1250 }], paid: null });
  });

  it('have no space that there is no glyph of', () => {
    expect(inOrder('2\u202f512,50')).toBe('2\u00a0512,50');
  });

  it('keep every other sign', () => {
    const text = 'שלום مرحبا · 👩🏽‍🎨 £1,250.00\u00a0\u200dß';
    expect(inOrder(text)).toBe(text);
  });
});
