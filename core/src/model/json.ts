import { Fault } from '../faults/fault';

/** No record of ours is nested as deep. */
const DEEPEST = 64;
/** A text this short cannot be deep enough to hurt anything. */
const SHORT = 2000;

/**
 * Reads JSON that came from outside. What is nested deeper than anything of ours is refused before it is read: whoever walks through it
 * later does so by calling itself, and would run out of room.
 *
 * @param what it is, for the message: "This line"
 * @throws Fault in words of our own
 */
export function readJson(text: string, what = 'This'): unknown {
  if (text.length > SHORT && isTooDeep(text)) {
    throw new Fault(
      'too-deep',
      `${what} is nested deeper than ${DEEPEST} levels; it is nothing that Half Penny wrote.`,
    );
  }
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new Fault('unreadable', `${what} cannot be read as JSON.`);
  }
}

function isTooDeep(text: string): boolean {
  let depth = 0;
  let quoted = false;
  for (let at = 0; at < text.length; at++) {
    const sign = text.charCodeAt(at);
    if (quoted) {
      if (sign === 92) at++;
      else if (sign === 34) quoted = false;
    } else if (sign === 34) quoted = true;
    else if (sign === 91 || sign === 123) {
      if (++depth > DEEPEST) return true;
    } else if (sign === 93 || sign === 125) depth--;
  }
  return false;
}
