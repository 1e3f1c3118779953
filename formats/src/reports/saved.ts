import { Fault, messageOf, readJson } from '@half-penny/core/model';
import { readDefinition, type Definition, type ReadDefinition } from '@half-penny/core/reports';

const FORMAT = 'half-penny report';

/** A report to be given to somebody: what it asks and what it is called, never what it says. */
export function writeReport(name: string, note: string, definition: Definition): string {
  return `${JSON.stringify({ format: FORMAT, version: 1, name, note, definition }, null, 2)}\n`;
}

/**
 * Reads a report that was given as a file.
 *
 * @throws Fault when it is none
 */
export function readReport(text: string): { name: string; note: string } & ReadDefinition {
  let raw: { format?: unknown; version?: unknown; name?: unknown; note?: unknown; definition?: unknown };
  try {
    raw = (readJson(text, 'This file') ?? {}) as typeof raw;
  } catch (thrown) {
    throw new Fault('unreadable', `${messageOf(thrown)} A report of Half Penny is a small JSON file.`, 'report');
  }
  if (raw.format !== FORMAT) throw new Fault('other-file', 'This is not a report of Half Penny.', 'format');
  if (raw.version !== 1)
    throw new Fault('newer-version', 'This report was written by a newer version of Half Penny.', 'version');
  const name = typeof raw.name === 'string' && raw.name.trim() ? raw.name.trim().slice(0, 200) : 'Report';
  return { name, note: typeof raw.note === 'string' ? raw.note.slice(0, 1000) : '', ...readDefinition(raw.definition) };
}
