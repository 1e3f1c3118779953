import type { Id } from '../model/ids';

// Which invoices a payer names: by their numbers in a text, however they were typed, or by a reference in a field of its own.

/** An invoice as it may be named. */
export interface Numbered {
  id: Id;
  /** Its number: "SL-0131". */
  number: string;
  /** Its creditor reference (ISO 11649); empty where it has none. */
  reference: string;
}

const FIGURES = /\d+/g;

/** The last figures of a number without leading noughts, by which it is looked for. */
const lastFigures = (text: string): string => (text.match(FIGURES)?.at(-1) ?? '').replace(/^0+(?=\d)/, '');

const plain = (text: string): string => text.toUpperCase().replace(/[^A-Z0-9]/g, '');

/** Finds the invoices that are named in a text. */
export class QuotedNumbers {
  readonly #byFigures = new Map<string, { row: Numbered; pattern: RegExp }[]>();
  readonly #byReference = new Map<string, Numbered>();

  constructor(rows: readonly Numbered[]) {
    for (const row of rows) {
      const figures = lastFigures(row.number);
      if (figures !== '') {
        const same = this.#byFigures.get(figures) ?? [];
        this.#byFigures.set(figures, [...same, { row, pattern: patternOf(row.number) }]);
      }
      if (row.reference !== '') this.#byReference.set(plain(row.reference), row);
    }
  }

  /**
   * Invoices named in full, in the order in which they are named: "sl 131" and "SL/0131" name SL-0131, "SL-01310" does not.
   *
   * @param reference what stood in the field for a reference
   */
  in(text: string, reference = ''): Numbered[] {
    const found = new Set<Numbered>();
    const own = this.#byReference.get(plain(reference));
    if (own) found.add(own);
    const whole = `${reference} ${text}`;
    for (const [code] of whole.toUpperCase().matchAll(/\bRF\d{2}[A-Z0-9 ]{1,26}/g)) {
      // Banks print it in groups of four; it may run on into other words.
      for (let length = code.length; length > 4; length--) {
        const row = this.#byReference.get(plain(code.slice(0, length)));
        if (row) found.add(row);
        if (row) break;
      }
    }
    const upper = whole.toUpperCase();
    for (const [figures] of upper.matchAll(FIGURES)) {
      for (const { row, pattern } of this.#byFigures.get(figures.replace(/^0+(?=\d)/, '')) ?? []) {
        if (pattern.test(upper)) found.add(row);
      }
    }
    return [...found];
  }

  /** Invoices whose figures alone are named: "invoice 131". Somebody else's invoice may have the same. */
  looselyIn(text: string): Numbered[] {
    const found = new Set<Numbered>();
    for (const [figures] of text.matchAll(FIGURES)) {
      for (const { row } of this.#byFigures.get(figures.replace(/^0+(?=\d)/, '')) ?? []) found.add(row);
    }
    return [...found];
  }
}

/** A number with anything, or nothing, between its letters and figures, and its leading noughts left out or not. */
function patternOf(number: string): RegExp {
  const parts = number.toUpperCase().match(/[A-Z]+|\d+/g) ?? [];
  const written = parts.map((part) => (/\d/.test(part) ? `0*${part.replace(/^0+(?=\d)/, '')}` : part));
  return new RegExp(`(?<![A-Z0-9])${written.join('[^A-Z0-9]{0,3}')}(?![0-9])`);
}
