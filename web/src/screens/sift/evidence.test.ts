import { Pricer } from '@half-penny/core/billing';
import { placeOn, subjectOf, type About, type Evidence, type SiftRow } from '@half-penny/core/capture';
import { bookOf, clientRow, projectRow, taskRow } from '@half-penny/core/testing';
import { describe, expect, it } from 'vitest';
import { gathered, minutesOf, nameOfEvidence, percentOf, reasonOf, showOutcome, sumOfEvidence } from './evidence';

const pricer = new Pricer(
  bookOf({
    clients: [clientRow('quayside', 'Quayside Playhouse')],
    projects: [projectRow('rig', 'Winter season rig', 'quayside')],
    tasks: [taskRow('plot', 'Plot sheets', 'rig')],
  }),
);
const seen = (about: About, minutes = 1, times = 1): Evidence => ({
  subject: subjectOf(about),
  seen: minutes * 60_000,
  hands: -1,
  times,
  first: 0,
});

describe('what was seen, in words', () => {
  it('is called by what it is, never by the jargon of a window', () => {
    expect(nameOfEvidence(seen({ kind: 'window', title: 'x - Plotting desk', file: '/work/rig/plot-4.lgp' }))).toBe(
      'plot-4.lgp',
    );
    expect(nameOfEvidence(seen({ kind: 'window', title: 'Hire list - Browser' }))).toBe('Hire list');
    expect(nameOfEvidence(seen({ kind: 'call', people: ['01632 960141'] }))).toBe('Call, 01632 960141');
    expect(nameOfEvidence(seen({ kind: 'call' }))).toBe('Call, nobody named');
    expect(nameOfEvidence(seen({ kind: 'window', address: 'https://hire-stock.example/a' }))).toBe(
      'hire-stock.example',
    );
    expect(nameOfEvidence(seen({ kind: 'window', program: 'Plotting desk' }))).toBe('Plotting desk');
    expect(nameOfEvidence(seen({ kind: 'window' }))).toBe('something without a name');
  });

  it('is one line a thing, however it was met', () => {
    const file = '/work/rig/plot-4.lgp';
    const evidence = [
      seen({ kind: 'window', program: 'Plotting desk', title: 'plot-4.lgp', file }, 20, 3),
      seen({ kind: 'kept', program: 'Plotting desk', file }, 0, 2),
      seen({ kind: 'window', program: 'Browser', title: 'Hire list - Browser' }, 5),
      seen({ kind: 'window', program: 'Post', title: 'Hire list - Post' }, 4),
    ];
    const lines = gathered({ stretch: { evidence } as SiftRow['stretch'], told: [false, true, false, false] });
    expect(lines.map((each) => [nameOfEvidence(each), each.seen / 60_000, each.times, each.told])).toEqual([
      ['plot-4.lgp', 20, 5, true],
      ['Hire list', 5, 1, false],
      ['Hire list', 4, 1, false],
    ]);
  });

  it('is summed up with how much of what, and who took part', () => {
    const mail = (title: string) => seen({ kind: 'mail', title, people: ['maud@quayside-playhouse.example'] });
    expect(sumOfEvidence([mail('Bar 6'), mail('Bar 6'), mail('Bar 7')])).toBe(
      '2 e-mails · maud@quayside-playhouse.example',
    );
    expect(
      sumOfEvidence([
        seen({ kind: 'window', file: '/work/rig/plot-4.lgp' }),
        seen({ kind: 'call', people: ['01632 960141', 'asha@saltmere-lighting.example'] }),
      ]),
    ).toBe('1 document, 1 call · 01632 960141 and 1 more');
    expect(sumOfEvidence([seen({ kind: 'window', program: 'Plotting desk' })])).toBe('Plotting desk');
  });

  it('has lengths in whole minutes', () => {
    expect([minutesOf(29_000), minutesOf(31_000), minutesOf(3_661_000)]).toEqual(['0:00', '0:01', '1:01']);
  });
});

describe('where it goes, in words', () => {
  const place = (more = {}) => placeOn({ workspaceId: 'w', projectId: 'rig', taskId: null, ...more });
  const row = (stretch: object, offer: SiftRow['offer'] = null) => ({ stretch, offer }) as unknown as SiftRow;

  it('is the job with its task, a job in words, or what is not to be billed at all', () => {
    expect(showOutcome(pricer, place())).toBe('Winter season rig');
    expect(showOutcome(pricer, place({ taskId: 'plot' }))).toBe('Winter season rig › Plot sheets');
    expect(showOutcome(pricer, place({ projectId: null, unlisted: 'EN-14 chapel' }))).toBe('EN-14 chapel');
    expect(showOutcome(pricer, place({ projectId: null }))).toBe('another studio');
    const others = (['private', 'not work', 'never record'] as const).map((act) => showOutcome(pricer, { act }));
    expect(others).toEqual(['Private', 'Not work', 'Never recorded']);
  });

  it('says who decided, or how likely an offer is and why', () => {
    expect(reasonOf(pricer, row({ outcome: place(), placing: { outcome: place() }, rule: null }))).toBe(
      'Placed by hand',
    );
    expect(reasonOf(pricer, row({ outcome: place(), placing: null, rule: {} }))).toBe('Placed by a rule');
    expect(reasonOf(pricer, row({ outcome: null }))).toBe('Nothing like it yet');
    const offer = { outcome: place(), confidence: 0.874, reasons: ['files under rig', 'the word “plot”'] };
    expect(reasonOf(pricer, row({ outcome: null }, offer))).toBe(
      'Likely Winter season rig · 87 %: files under rig, the word “plot”',
    );
    expect(reasonOf(pricer, row({ outcome: null }, { ...offer, confidence: null }))).not.toContain('%');
  });
});

it('is never said to be certain where it was guessed', () => {
  expect([0.4, 0.905, 0.997, 1].map(percentOf)).toEqual([40, 91, 99, 99]);
});
