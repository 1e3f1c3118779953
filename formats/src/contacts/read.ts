import { Fault, type Contact } from '@half-penny/core/model';
import ICAL from 'ical.js';

export type ReadContact = Omit<Contact, 'id' | 'clientId'>;

interface Card {
  /** Where it begins, counted from 1. */
  line: number;
  text: string;
}

/**
 * Reads contact cards (RFC 6350, and the older 3.0): name, title or role, first mail address, first telephone number, note.
 *
 * @throws Fault that names the line of the card that cannot be read; nothing of the file is taken then
 */
export function readContacts(text: string): ReadContact[] {
  const cards = cardsOf(text.replace(/^\ufeff/, ''));
  if (cards.length === 0)
    throw new Fault('other-file', 'There is no contact card in it: one begins with BEGIN:VCARD.', 'file');
  return cards.map(readCard);
}

function cardsOf(text: string): Card[] {
  const cards: Card[] = [];
  let open: Card | null = null;
  text.split(/\r\n|\r|\n/).forEach((line, index) => {
    if (/^BEGIN:VCARD\s*$/i.test(line)) {
      if (open)
        throw new Fault(
          'broken-file',
          `Line ${index + 1}: a card begins before the one of line ${open.line} ends.`,
          'file',
        );
      open = { line: index + 1, text: '' };
    }
    if (open) open.text += `${line}\r\n`;
    if (open && /^END:VCARD\s*$/i.test(line)) {
      cards.push(open);
      open = null;
    }
  });
  const left = open as Card | null;
  if (left) throw new Fault('broken-file', `Line ${left.line}: this card has no end. The file may be cut off.`, 'file');
  return cards;
}

function readCard({ line, text }: Card): ReadContact {
  let card: ICAL.Component;
  try {
    card = new ICAL.Component(ICAL.parse(text) as never);
  } catch {
    throw new Fault(
      'broken-file',
      `The card of line ${line} cannot be read: it does not follow the form of a contact card (RFC 6350).`,
      'file',
      { line },
    );
  }
  const first = (name: string): string => flat(card.getFirstPropertyValue(name)).trim();
  // N is family, given, further, before, after: a name is said the other way round.
  const parts = card.getFirstPropertyValue('n');
  const [family = '', given = ''] = Array.isArray(parts) ? parts.map(flat) : [flat(parts)];
  const name = first('fn') || `${given} ${family}`.trim() || first('org') || first('email');
  if (!name) throw new Fault('incomplete', `The card of line ${line} has no name (FN).`, 'file', { line });
  return {
    name,
    role: first('title') || first('role'),
    email: first('email').replace(/^mailto:/i, ''),
    telephone: first('tel').replace(/^tel:/i, '').replace(/;ext=/i, ' ext. '),
    note: first('note'),
  };
}

const flat = (value: unknown): string =>
  value === null || value === undefined
    ? ''
    : Array.isArray(value)
      ? value.map(flat).join(' ')
      : String(value as string);
