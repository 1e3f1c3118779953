import { writeLine, type Activity, type LineFault, type TrailColumns } from '@half-penny/core/capture';

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
 * Reads activity as JSON Lines (one activity a line, UTF-8) out of a stream, whatever its length; docs/activity.md tells the fields.
 * A line that cannot be read is refused with its number, and reading goes on.
 */
export async function readActivityLines(
  chunks: AsyncIterable<Uint8Array>,
  columns: TrailColumns,
  onProgress?: (bytes: number) => void,
): Promise<LinesRead> {
  const decoder = new TextDecoder();
  const decode = (bytes: Uint8Array) => decoder.decode(bytes);
  const read: LinesRead = { taken: 0, faults: [], refused: 0 };
  let line = 0;
  let rest: Uint8Array = new Uint8Array(0);
  let bytes = 0;
  const take = (text: Uint8Array, from: number, to: number) => {
    line++;
    const end = to > from && text[to - 1] === CARRIAGE_RETURN ? to - 1 : to;
    if (end === from) return;
    const message = end - from > LONGEST_LINE ? 'This line is too long.' : columns.addLine(text, from, end, decode);
    if (message === null) read.taken++;
    else {
      read.refused++;
      if (read.faults.length < MOST_FAULTS) read.faults.push({ line, message });
    }
  };
  for await (const chunk of chunks) {
    bytes += chunk.length;
    let from = 0;
    let end = chunk.indexOf(NEWLINE);
    // A line that the chunks before began.
    if (rest.length > 0 && end >= 0) {
      const whole = joined(rest, chunk.subarray(0, end));
      take(whole, 0, whole.length);
      from = end + 1;
      end = chunk.indexOf(NEWLINE, from);
      rest = new Uint8Array(0);
    }
    for (; end >= 0; end = chunk.indexOf(NEWLINE, from)) {
      take(chunk, from, end);
      from = end + 1;
    }
    rest = joined(rest, chunk.subarray(from));
    onProgress?.(bytes);
  }
  if (rest.length > 0) take(rest, 0, rest.length);
  return read;
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
