const DATED = /^(?:DTSTART|DTEND|RECURRENCE-ID|EXDATE)[;:]/i;
const MOMENTS = /^\d{8}(?:T\d{6}Z?)?(?:,\d{8}(?:T\d{6}Z?)?)*$/;

/** Something in a calendar file that cannot be read, and where. */
export interface CalendarFault {
  line: number;
  column: number;
  message: string;
}

/** The text of one component and where it begins. */
export interface Component {
  kind: 'VEVENT' | 'VTIMEZONE' | 'VTODO';
  text: string;
  /** Number of its first line. */
  line: number;
}

/** Whether a line is "NAME:…" or "NAME;PARAM=…:…", where a colon within quotes is no end of the name. Each sign is looked at once. */
function isContentLine(line: string): boolean {
  const name = /^[A-Za-z0-9-]+/.exec(line)?.[0].length ?? 0;
  if (name === 0 || (line[name] !== ':' && line[name] !== ';')) return false;
  let quoted = false;
  for (let at = name; at < line.length; at++) {
    if (line[at] === '"') quoted = !quoted;
    else if (line[at] === ':' && !quoted) return true;
  }
  return false;
}

/**
 * Cuts a calendar file into its events and time zones, or what else is asked for, without reading into them, so that a long file can be read piece by piece.
 * Faults are of the file as a whole; those of single lines are found when a piece is read.
 */
export function* componentsOf(
  text: string,
  fault: (fault: CalendarFault) => void,
  kinds: readonly Component['kind'][] = ['VEVENT', 'VTIMEZONE'],
): Generator<Component & { end: number }> {
  const begin = new RegExp(`^BEGIN:(${kinds.join('|')})[ \\t]*\\r?$`, 'gim');
  let line = 1;
  let counted = 0;
  const lineAt = (at: number) => {
    for (let next = text.indexOf('\n', counted); next >= 0 && next < at; next = text.indexOf('\n', next + 1)) {
      line++;
      counted = next + 1;
    }
    return line;
  };
  for (let match = begin.exec(text); match; match = begin.exec(text)) {
    const kind = match[1]!.toUpperCase() as Component['kind'];
    const end = new RegExp(`^END:${kind}[ \\t]*\\r?$`, 'gim');
    end.lastIndex = match.index;
    const last = end.exec(text);
    const start = lineAt(match.index);
    if (!last) {
      fault({ line: start, column: 1, message: `This ${kind} has no end: the file is cut off.` });
      return;
    }
    const stop = last.index + last[0].length;
    yield { kind, text: text.slice(match.index, stop), line: start, end: stop };
    begin.lastIndex = stop;
  }
}

/**
 * The first line of a component that is no content line of RFC 5545, or the component itself where none is.
 *
 * @param hint what else names the value that is wrong, by which its line is found
 */
export function faultIn({ text, line }: Component, message: string, hint = message): CalendarFault {
  const lines = text.split(/\r?\n/);
  for (const [index, each] of lines.entries()) {
    if (each === '' || /^[ \t]/.test(each) || isContentLine(each)) continue;
    const column = (/^[A-Za-z0-9-]*/.exec(each)?.[0].length ?? 0) + 1;
    return { line: line + index, column, message: `“${each.slice(0, 60)}” is not a line of a calendar: ${message}` };
  }
  for (const [index, each] of lines.entries()) {
    const value = DATED.test(each) ? each.slice(each.indexOf(':') + 1) : null;
    if (value === null || MOMENTS.test(value.trim())) continue;
    const column = each.indexOf(':') + 2;
    return { line: line + index, column, message: `“${value.slice(0, 40)}” is not a date or time.` };
  }
  const dated = lines.findIndex(
    (each) => /^(?:DTSTART|DTEND|RRULE|DURATION|RECURRENCE-ID)/i.test(each) && mentions(hint, each),
  );
  const at = dated < 0 ? 0 : dated;
  return { line: line + at, column: dated < 0 ? 1 : lines[at]!.indexOf(':') + 2, message };
}

const mentions = (message: string, line: string): boolean => message.includes(line.slice(line.indexOf(':') + 1).trim());
