import { describe, expect, it } from 'vitest';
import { OutsideMarks, type OutsideMark } from './outside-marks';
import { Leads } from './leads';
import { Likeness } from './likeness';
import { offerDay } from './sift';
import type { Stretch } from './stretch';
import { subjectOf } from './subject';

const mark = (number: string, address = ''): OutsideMark => ({
  projectId: 'rig',
  taskId: `task ${number || address}`,
  number,
  address,
});
const bridge = mark('QP-31', 'https://office.quayside.example/board/31');
const marks = new OutsideMarks([
  bridge,
  mark('QP-3'),
  mark('44'),
  mark('', 'https://office.quayside.example/notes?of=9'),
]);
const page = (title: string, address = '') => subjectOf({ kind: 'window', title, address });
const numberIn = (title: string, address = '') => marks.of(page(title, address))?.mark.taskId ?? null;

describe('a task from elsewhere', () => {
  it('is told by its number as a word of its own', () => {
    expect(numberIn('Refocus the bridge · QP-31 · Office')).toBe('task QP-31');
    expect(numberIn('[qp-31] Refocus')).toBe('task QP-31');
    expect(numberIn('plots/QP-31.lgp')).toBe('task QP-31');
    expect(numberIn('QP-312 and QP-310')).toBeNull();
    expect(numberIn('Room 44')).toBeNull();
    expect(numberIn('Fix #44')).toBe('task 44');
  });

  it('is told by its page, and by what lies under it', () => {
    expect(numberIn('Office', 'https://office.quayside.example/board/31#comment-2')).toBe('task QP-31');
    expect(numberIn('Office', 'http://www.office.quayside.example/board/31/edit?tab=time')).toBe('task QP-31');
    expect(numberIn('Office', 'https://office.quayside.example/board/312')).toBeNull();
    expect(numberIn('Office', 'https://office.quayside.example/notes?of=9')).toBe(
      'task https://office.quayside.example/notes?of=9',
    );
    expect(numberIn('Office', 'https://office.quayside.example/notes?of=10')).toBeNull();
  });

  it('is none where several are named, or two are known by one number', () => {
    expect(numberIn('QP-31 blocks QP-3')).toBeNull();
    const twice = new OutsideMarks([bridge, { ...mark('QP-31'), taskId: 'another' }]);
    expect(twice.of(page('QP-31'))).toBeNull();
  });
});

describe('what was touched of it in the trail', () => {
  const minute = 60_000;
  const stretch = (...titles: string[]): Stretch => ({
    id: 's',
    day: '2026-11-12',
    spans: [{ start: 0, end: titles.length * minute }],
    seen: titles.length * minute,
    evidence: titles.map((title, index) => ({
      subject: page(title),
      seen: minute,
      hands: -1,
      times: 1,
      first: index * minute,
    })),
    placing: null,
    outcome: null,
    rule: null,
    second: null,
  });
  const project = { id: 'rig', clientId: null, name: 'Winter season rig', jobNumber: 'Q-1', finished: false };
  const book = {
    ...{ workspaceId: 'w', members: [], studio: { name: '', email: '' }, clients: [], contacts: [] },
    projects: [project] as never[],
    outside: [bridge],
  };
  const offered = (given: Stretch) => offerDay([given], new Likeness([], new Leads(book)), 'Europe/London')[0]!.offer;

  it('is offered first, with the task and the reason', () => {
    expect(offered(stretch('Winter season rig: call sheet', 'Refocus the bridge QP-31'))).toMatchObject({
      outcome: { act: 'place', workspaceId: 'w', projectId: 'rig', taskId: bridge.taskId },
      reasons: ['QP-31 stands in it'],
    });
    expect(offered(stretch('Winter season rig: call sheet'))).toMatchObject({ outcome: { taskId: null } });
  });

  it('is not offered once its project is finished', () => {
    project.finished = true;
    expect(offered(stretch('Refocus the bridge QP-31'))).toBeNull();
    project.finished = false;
  });
});
