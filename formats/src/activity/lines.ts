import { writeLine, type Activity, type LineFault, type TrailArrays } from '@half-penny/core/capture';

const MOST_FAULTS = 100;
/** No line is longer: a title has at most 100,000 characters, and there are few such fields. */
const LONGEST_LINE = 2_000_000;
const NEWLINE = 10;
const CARRIAGE_RETURN = 13;

export interface LinesRead {
  /** Lines that were taken. */
  taken: number;
  /** Lines that could not be, the first hundred of them; the others were taken all the same. */
  faults: LineFault[];
  refused: number;
}

/**
 * Reads activity as JSON Lines (one activity a line, UTF-8) out of a stream, whatever its length; docs/capture.md tells the fields.
 * A line that cannot be read is refused with its number, and reading goes on.
 */
export async function readActivityLines(
  chunks: AsyncIterable<Uint8Array>,
  columns: TrailArrays,
  onProgress?: (bytes: number) => void,
): Promise<LinesRead> {
  const decoder = new TextDecoder();
  const decode = (bytes: Uint8Array) => decoder.decode(bytes);
  const lines: LinesRead = { taken: 0, faults: [], refused: 0 };
  let line = 0;
  let rest: Uint8Array = new Uint8Array(0);
  let bytes = 0;
  const take = (text: Uint8Array, from: number, to: number) => {
    line++;
    const end = to > from && text[to - 1] === CARRIAGE_RETURN ? to - 1 : to;
    if (end === from) return;
    const message = end - from > LONGEST_LINE ? 'This line is too long.' : columns.addLine(text, from, end, decode);
    if (message === null) lines.taken++;
    else {
      lines.refused++;
      if (lines.faults.length < MOST_FAULTS) lines.faults.push({ line, message });
    }
  };
  for await (const read of chunks) {
    // Whatever kind of bytes a stream gives, those looked at are of one kind, which is quicker to look at.
    const chunk = new Uint8Array(read.buffer, read.byteOffset, read.byteLength);
    bytes += chunk.length;
    let from = 0;
    // A line that the chunks before began.
    if (rest.length > 0) {
      const end = chunk.indexOf(NEWLINE);
      const whole = joined(rest, end < 0 ? chunk : chunk.subarray(0, end));
      if (end < 0) {
        rest = whole;
        onProgress?.(bytes);
        continue;
      }
      take(whole, 0, whole.length);
      from = end + 1;
    }
    for (;;) {
      let end = columns.addKnown(chunk, from, chunk.length);
      if (end >= 0) {
        line++;
        lines.taken++;
      } else {
        end = chunk.indexOf(NEWLINE, from);
        if (end < 0) break;
        take(chunk, from, end);
      }
      from = end + 1;
    }
    rest = chunk.slice(from);
    onProgress?.(bytes);
  }
  if (rest.length > 0) take(rest, 0, rest.length);
  return lines;
}

function joined(first: Uint8Array, second: Uint8Array): Uint8Array {
  const whole = new Uint8Array(first.length + second.length);
  whole.set(first);
  whole.set(second, first.length);
  return whole;
}

/** Activities as JSON Lines, as they are read again. */
export const writeActivityLines = (activities: readonly Activity[]): string =>
  activities.map((each) => `${writeLine(each)}\n`).join('');
