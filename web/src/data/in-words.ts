import { messageOf } from '@half-penny/core/model';

/** What the browser's own faults mean, by their names (Web IDL, https://webidl.spec.whatwg.org/#idl-DOMException-error-names). */
const meanings: Record<string, string> = {
  QuotaExceededError: 'There is no room left for this. Nothing was changed; free some space and try again.',
  VersionError: 'What is kept here was written by a newer Half Penny. Load the page again to get the newer one.',
  InvalidStateError: 'The browser closed what it keeps for this page. Load the page again.',
  DatabaseClosedError: 'The browser closed what it keeps for this page. Load the page again.',
  AbortError: 'The browser broke off while it was writing. Nothing was changed; try again.',
  MissingAPIError: 'This browser keeps no data for pages. In a private window, allow it, or use another browser.',
  OpenFailedError: 'The browser could not open what it keeps for this page.',
  NotFoundError: 'Part of what the browser keeps for this page is not there.',
  UnknownError: 'The browser could not read what it keeps for this page: its files may be damaged, or the disk full.',
};

const PART = /dynamically imported module|importing a module script failed|module script/i;
/** Faults of the program itself; their words help only who mends it. */
const own = new Set([
  'TypeError',
  'RangeError',
  'ReferenceError',
  'SyntaxError',
  'EvalError',
  'URIError',
  'Invariant Violation',
]);

/** Whether there was no room: said by its name, within what Dexie makes of it, or only in its words, by when it was noticed. */
export function isFull(thrown: unknown): boolean {
  const { name, message, inner } = (thrown ?? {}) as { name?: string; message?: string; inner?: { name?: string } };
  return [name, inner?.name, message].some((each) => each?.includes('QuotaExceededError'));
}

/** What happened, for the person; and what of it only helps who mends it. */
export interface InWords {
  text: string;
  detail: string | null;
}

/** Says what was thrown in words of our own; what commands and importers throw is in such words already. */
export function inWords(thrown: unknown): InWords {
  const message = messageOf(thrown);
  if (PART.test(message))
    return {
      text: 'A part of the application could not be loaded: the server may have been ended or brought up to date. Load the page again.',
      detail: null,
    };
  const name = thrown instanceof Error || thrown instanceof DOMException ? thrown.name : '';
  // Dexie wraps what the browser threw.
  const inner = (thrown as { inner?: { name?: string } } | null)?.inner?.name ?? '';
  const meaning = meanings[isFull(thrown) ? 'QuotaExceededError' : inner] ?? meanings[name];
  if (meaning !== undefined) return { text: meaning, detail: `${name}: ${message}` };
  if (own.has(name) || thrown instanceof DOMException)
    return { text: 'Half Penny made a mistake of its own here.', detail: `${name}: ${message}` };
  return { text: message, detail: null };
}

/** The same in one sentence, where there is room for no more. */
export const wordsOf = (thrown: unknown): string => inWords(thrown).text;
