import { describe, expect, it } from 'vitest';
import { readContacts } from '.';
import { fault } from '@half-penny/core/testing';

const card = (...lines: string[]) => ['BEGIN:VCARD', 'VERSION:4.0', ...lines, 'END:VCARD', ''].join('\r\n');

describe('contact cards', () => {
  // The values are the examples of RFC 6350, sections 6.2.1, 6.4.1, 6.4.2, 6.6.1, 6.6.2 and 6.7.2, from memory.
  it('are read with the examples of RFC 6350', () => {
    const text = card(
      'FN:Mr. John Q. Public\\, Esq.',
      'N:Public;John;Quinlan;Mr.;Esq.',
      'TEL;VALUE=uri;PREF=1;TYPE="voice,home":tel:+1-555-555-5555;ext=5555',
      'EMAIL;TYPE=work:jqpublic@xyz.example.com',
      'TITLE:Research Scientist',
      'ROLE:Project Leader',
      'NOTE:This fax number is operational 0800 to 1715',
      '  EST\\, Mon-Fri.',
    );
    expect(readContacts(text)).toEqual([
      {
        name: 'Mr. John Q. Public, Esq.',
        role: 'Research Scientist',
        email: 'jqpublic@xyz.example.com',
        telephone: '+1-555-555-5555 ext. 5555',
        note: 'This fax number is operational 0800 to 1715 EST, Mon-Fri.',
      },
    ]);
  });

  it('are several to a file, of the older version too, with whatever line ends', () => {
    const old = ['BEGIN:VCARD', 'VERSION:3.0', 'N:Ferrier;Maud;;;', 'TEL;TYPE=WORK:01632 960 141', 'END:VCARD'].join(
      '\n',
    );
    const cards = readContacts(`\ufeff${old}\n${card('FN:Stage door')}`);
    expect(cards.map((each) => [each.name, each.telephone])).toEqual([
      ['Maud Ferrier', '01632 960 141'],
      ['Stage door', ''],
    ]);
  });

  it('that cannot be read are named by their line', () => {
    expect(() => readContacts('name,mail\nMaud,maud@quayside-playhouse.example')).toThrow(fault('other-file'));
    expect(() => readContacts(`${card('FN:Stage door')}BEGIN:VCARD\r\nFN:Maud`)).toThrow(
      'Line 5: this card has no end',
    );
    expect(() => readContacts(`${card('FN:Stage door')}${card('TEL:1')}`)).toThrow('The card of line 5 has no name');
  });
});
