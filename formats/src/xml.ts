import { Fault } from '@half-penny/core/model';
import { XMLParser, XMLValidator } from 'fast-xml-parser';

/** What a parsed element holds: text, or elements by name. */
export type Node = { [name: string]: Node | Node[] | string | undefined };

const ENCODINGS: Readonly<Record<string, string>> = {
  'utf-8': 'utf-8',
  utf8: 'utf-8',
  unicode: 'utf-8',
  'utf-16': 'utf-16le',
  'iso-8859-1': 'windows-1252',
  'windows-1252': 'windows-1252',
  usascii: 'utf-8',
  'us-ascii': 'utf-8',
};

/**
 * The text of an XML file in the encoding that it states.
 *
 * @throws Fault when it states one that is not known, or its bytes are not in it
 */
export function textOf(bytes: Uint8Array, name: string): string {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 200));
  const stated = (/<\?xml[^>]*encoding=["']([^"']+)["']/i.exec(head)?.[1] ?? 'UTF-8').trim();
  const encoding = ENCODINGS[stated.toLowerCase()];
  if (!encoding)
    throw new Fault('unknown-encoding', `${name}: its encoding “${stated.slice(0, 30)}” is not known here.`, 'file');
  try {
    return new TextDecoder(encoding, { fatal: true }).decode(bytes).replace(/^\ufeff/, '');
  } catch {
    throw new Fault(
      'unknown-encoding',
      `${name} says that it is written in ${stated}, and ${placeOfFault(bytes)} is not. Export it again, or save it as ${stated}.`,
      'file',
    );
  }
}

/** Where bytes stop being UTF-8, as a line. */
function placeOfFault(bytes: Uint8Array): string {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let line = 1;
  let start = 0;
  for (let at = 0; at <= bytes.length; at++) {
    if (at < bytes.length && bytes[at] !== 0x0a) continue;
    try {
      decoder.decode(bytes.subarray(start, at));
    } catch {
      return `line ${line}`;
    }
    start = at + 1;
    line++;
  }
  return 'its text';
}

/** @throws Fault with line and column of what is no XML */
export function parseXml(text: string, name: string): Node {
  if (/<!DOCTYPE/i.test(text))
    throw new Fault('document-type', `${name} declares a document type; files of this kind have none.`, 'file');
  const valid = XMLValidator.validate(text);
  if (valid !== true) {
    const { line, col } = valid.err as { line?: number; col?: number };
    const place = [name, line === undefined ? [] : `line ${line}`, col === undefined ? [] : `column ${col}`].flat();
    throw new Fault(
      'broken-file',
      `${place.join(', ')}: here it stops being XML; something is not closed, or a sign is out of place.`,
      'file',
      { line, col },
    );
  }
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    removeNSPrefix: true,
    parseTagValue: false,
    parseAttributeValue: false,
    trimValues: true,
  });
  try {
    return parser.parse(text) as Node;
  } catch {
    // What the look before let pass, such as an instruction that is not closed.
    throw new Fault('broken-file', `${name} is not XML to its end: something in it is not closed.`, 'file');
  }
}

/** The element at a path; undefined where one of it is missing. */
export function at(node: Node | undefined, ...path: string[]): Node | undefined {
  let found: Node | Node[] | string | undefined = node;
  for (const name of path) {
    const one: Node | string | undefined = Array.isArray(found) ? found[0] : found;
    if (one === undefined || typeof one === 'string') return undefined;
    found = one[name];
  }
  if (Array.isArray(found)) found = found[0];
  return typeof found === 'object' ? found : found === undefined ? undefined : { '#text': found };
}

/** The text of the element at a path; empty where it is missing. */
export function textAt(node: Node | undefined, ...path: string[]): string {
  const found = at(node, ...path)?.['#text'];
  return typeof found === 'string' ? found : '';
}

/** All elements of a name. */
export function all(node: Node | undefined, name: string): Node[] {
  const found = node?.[name];
  const list = Array.isArray(found) ? found : found === undefined ? [] : [found];
  return list.map((each) => (typeof each === 'string' ? { '#text': each } : each));
}
