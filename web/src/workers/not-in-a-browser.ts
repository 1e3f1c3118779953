// What the writing library of electronic invoices asks of Node, of spreadsheets, and of its own check of input, which makes code from text
// and is therefore done in the tests. Nothing of it is reached from here: paper is given as PDF, and terms are not read from tables.

const missing = (): never => {
  throw new Error('This is not there in a browser.');
};

export const spawn = missing;
export const promises = {};
export const resolve = missing;
export const parse = missing;
export const join = missing;
export const pathToFileURL = missing;
export const tmpName = missing;
export const file = missing;
export const dir = missing;
export const read = missing;
export const utils = {};
export class ValidationError extends Error {}
export default class NoCheck {
  compile = missing;
}

/** Its catalogues of translations; ours are English until the client's language is asked for, and a worker has no window to ask. */
export class Textdomain {
  static locale = '';
  static getInstance = (): Textdomain => new Textdomain();
  resolve = (): Promise<void> => Promise.resolve();
  _ = (text: string): string => text;
  _x = (text: string, values: Record<string, string>): string =>
    text.replace(/\{(\w+)\}/g, (whole, name: string) => values[name] ?? whole);
}
