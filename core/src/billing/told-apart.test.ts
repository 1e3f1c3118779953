import { expect, it } from 'vitest';
import { bookOf } from '../testing';
import { emptyLine, type DraftLine } from './draft-line';
import { Pricer } from './pricer';
import { textsToldApart } from './told-apart';
import type { Entry, Member } from '../model/records';

const pricer = new Pricer(
  bookOf({ members: [{ id: 'i', name: 'Imogen Vale' } as Member, { id: 'a', name: 'Asha Quill' } as Member] }),
);
let made = 0;
const line = (text: string, entries: [memberId: string, day: string][], more: Partial<DraftLine> = {}): DraftLine => ({
  ...emptyLine(`k${++made}`, null, ''),
  text,
  sources: entries.map(([memberId, day]) => ({
    entry: { id: `${memberId} ${day}`, memberId, day } as Entry,
    seconds: 1,
    billed: 1,
    price: null,
  })),
  ...more,
});

it('lines of one day each say their day; a line alone says nothing more', () => {
  const lines = [
    line('Meeting', [['i', '2026-11-02']]),
    line('Meeting', [['i', '2026-11-05']]),
    line('Plot', [['i', '2026-11-05']]),
  ];
  expect(textsToldApart(pricer, lines)).toEqual(['Meeting, 2 Nov 2026', 'Meeting, 5 Nov 2026', 'Plot']);
  expect(textsToldApart(pricer, lines, 'de')[0]).toBe('Meeting, 2. Nov. 2026');
});

it('lines of several days say whose work they are, or where that is the same their days, or both', () => {
  const days = (member: string, ...list: string[]) => list.map((day): [string, string] => [member, `2026-11-${day}`]);
  expect(textsToldApart(pricer, [line('Rig', days('i', '02', '04')), line('Rig', days('a', '02', '04'))])).toEqual([
    'Rig, Imogen Vale',
    'Rig, Asha Quill',
  ]);
  const ranges = textsToldApart(pricer, [line('Rig', days('i', '04', '02')), line('Rig', days('i', '05', '06'))]);
  expect(ranges.map((text) => text.replace(/\s/g, ' '))).toEqual(['Rig, 2 – 4 Nov 2026', 'Rig, 5 – 6 Nov 2026']);
  expect(
    textsToldApart(pricer, [
      line('Rig', days('i', '02', '04')),
      line('Rig', days('a', '02', '04')),
      line('Rig', days('i', '05')),
    ])[2],
  ).toBe('Rig, Imogen Vale, 5 Nov 2026');
});

it('what nothing tells apart, what stands under another heading and what was written by hand stay as they are', () => {
  const day: [string, string][] = [['i', '2026-11-02']];
  expect(textsToldApart(pricer, [line('Rig', day), line('Rig', day)])).toEqual(['Rig', 'Rig']);
  expect(
    textsToldApart(pricer, [
      line('Rig', day, { heading: 'One' }),
      line('Rig', [['i', '2026-11-03']], { heading: 'Two' }),
    ]),
  ).toEqual(['Rig', 'Rig']);
  expect(textsToldApart(pricer, [line('Rig', day), line('Rig', [['i', '2026-11-03']], { written: true })])).toEqual([
    'Rig',
    'Rig',
  ]);
});
