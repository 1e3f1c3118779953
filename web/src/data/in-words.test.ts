import { Fault } from '@half-penny/core/model';
import { describe, expect, it } from 'vitest';
import { inWords, isFull } from './in-words';

const named = (name: string, message: string, more: object = {}) =>
  Object.assign(new Error(message), { name, ...more });

describe('what was thrown, in words', () => {
  it('is what commands and importers say, as they say it', () => {
    expect(inWords(new Fault('negative', 'A length cannot be negative.'))).toEqual({
      text: 'A length cannot be negative.',
      detail: null,
    });
  });

  it('is no word of the browser or of a library, which stand beside it for who mends it', () => {
    for (const thrown of [
      new TypeError("Cannot read properties of undefined (reading 'id')"),
      new RangeError('Maximum call stack size exceeded'),
      named('VersionError', 'The requested version (50) is less than the existing version (60).'),
      named('AbortError', 'Transaction aborted', { inner: { name: 'UnknownError' } }),
      new DOMException('The operation is insecure.', 'HierarchyRequestError'),
    ]) {
      const { text, detail } = inWords(thrown);
      expect(text).not.toMatch(/undefined|stack|version \(|aborted|insecure/);
      expect(detail).toContain(thrown.message);
    }
  });

  it('tells a full disk by name, within what was made of it, and by its message alone', () => {
    for (const thrown of [
      new DOMException('full', 'QuotaExceededError'),
      named('AbortError', 'Transaction aborted', { inner: { name: 'QuotaExceededError' } }),
      named('AbortError', 'QuotaExceededError'),
    ]) {
      expect(isFull(thrown)).toBe(true);
      expect(inWords(thrown).text).toContain('no room left');
    }
    expect(isFull(null)).toBe(false);
  });

  it('says that a part could not be loaded, and what to do', () => {
    const thrown = new TypeError('Failed to fetch dynamically imported module: http://127.0.0.1:4350/assets/week.js');
    expect(inWords(thrown)).toEqual({ text: expect.stringMatching(/Load the page again/) as string, detail: null });
  });
});
