import type { HoursBack } from '@half-penny/core/outside';
import { fault } from '@half-penny/core/testing';
import { describe, expect, it } from 'vitest';
import { readCsv } from '../hours';
import {
  hoursMessage,
  readClientPage,
  readClientTable,
  readHoursTaken,
  readTaskPage,
  readTaskTable,
  readTodos,
  writeHoursBack,
} from '.';

const task = {
  id: 'board-1',
  project: { id: 'p', name: 'Winter season rig' },
  number: 'WSR-21',
  title: 'Refocus\n the bridge',
  assignee: null,
  state: 'To do',
  estimate: 0,
  closed: false,
  address: 'https://board.saltmere-lighting.example/wsr/21',
};

describe('an answer of a tracker', () => {
  it('is read as tasks and clients, with where to go on', () => {
    expect(readTaskPage({ tasks: [task], cursor: '7', more: true })).toEqual({
      told: [
        {
          ...{ source: 'board-1', project: { source: 'p', name: 'Winter season rig' }, number: 'WSR-21' },
          ...{ title: 'Refocus the bridge', assignee: '', state: 'To do', estimate: null, closed: false },
          address: task.address,
        },
      ],
      cursor: '7',
      more: true,
    });
    const client = {
      id: 'c',
      name: ' Quayside ',
      address: '2 Quayside\nSaltmere',
      email: '',
      taxNumber: '',
      gone: true,
    };
    expect(readClientPage({ clients: [client], cursor: '1', more: false }).told).toEqual([
      { source: 'c', name: 'Quayside', address: '2 Quayside\nSaltmere', email: '', taxNumber: '', gone: true },
    ]);
  });

  it('does not open what is no page', () => {
    const told = (address: string) => readTaskPage({ tasks: [{ ...task, address }], cursor: '', more: false }).told;
    expect(told('javascript:alert(1)')[0]!.address).toBe('');
  });

  it('is refused as a whole with its place where it cannot be read', () => {
    expect(() => readTaskPage({ tasks: [task, { ...task, id: null }], cursor: '', more: false })).toThrow(
      'The tracker answered something that cannot be read, at tasks/1/id',
    );
    expect(() => readTaskPage('no')).toThrow(fault('unreadable'));
    expect(() => readClientPage({ clients: [{ id: 'c', name: ' ' }], cursor: '', more: false })).toThrow(
      'at clients/0/name: A client has a name.',
    );
  });
});

describe('hours that go back', () => {
  const hours: HoursBack = {
    ...{ entryId: 'e1', source: 'board-1', task: 'WSR-21 Refocus', revision: 3, day: '2026-11-12', seconds: 5430 },
    ...{ member: 'Asha Quill', note: '=cues, "first" half', before: null },
  };

  it('are told by id and revision', () => {
    expect(hoursMessage([hours])).toEqual({
      hours: [
        {
          ...{ id: 'e1', revision: 3, task: 'board-1', day: '2026-11-12', seconds: 5430 },
          ...{ member: 'Asha Quill', note: '=cues, "first" half' },
        },
      ],
    });
    expect(readHoursTaken({ taken: ['e1'], refused: [{ id: 'e2', why: 'No task.' }] })).toEqual({
      taken: new Set(['e1']),
      refused: [{ id: 'e2', why: 'No task.' }],
    });
    expect(() => readHoursTaken({ taken: 'all' })).toThrow(fault('unreadable'));
  });

  it('stand in a table that a spreadsheet takes for text', () => {
    const table = readCsv(writeHoursBack([hours]));
    expect(table.head).toEqual(['Id', 'Revision', 'Task', 'Title', 'Day', 'Seconds', 'Hours', 'Member', 'Note']);
    expect(table.rows).toEqual([
      ['e1', '3', 'board-1', 'WSR-21 Refocus', '2026-11-12', '5430', '1.5083', 'Asha Quill', '=cues, "first" half'],
    ]);
    expect(writeHoursBack([hours])).toContain(`"'=cues, ""first"" half"`);
  });
});

const calendar = (...lines: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//a//b//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n');

describe('to-dos of a calendar file', () => {
  // The examples of RFC 5545, 3.6.2 and 4.
  const examples = calendar(
    'BEGIN:VTODO',
    'UID:20070313T123432Z-456553@example.com',
    'DTSTAMP:20070313T123432Z',
    'DUE;VALUE=DATE:20070501',
    'SUMMARY:Submit Quebec Income Tax Return for 2006',
    'CLASS:CONFIDENTIAL',
    'CATEGORIES:FAMILY,FINANCE',
    'STATUS:NEEDS-ACTION',
    'END:VTODO',
    'BEGIN:VTODO',
    'UID:20070514T103211Z-123404@example.com',
    'DTSTAMP:20070514T103211Z',
    'DTSTART:20070514T110000Z',
    'DUE:20070709T130000Z',
    'COMPLETED:20070707T100000Z',
    'SUMMARY:Submit Revised Internet-Draft',
    'PRIORITY:1',
    'STATUS:NEEDS-ACTION',
    'END:VTODO',
    'BEGIN:VTODO',
    'DTSTAMP:19980130T134500Z',
    'SEQUENCE:2',
    'UID:uid4@example.com',
    'ORGANIZER:mailto:unclesam@example.com',
    'ATTENDEE;PARTSTAT=ACCEPTED:mailto:jqpublic@example.com',
    'DUE:19980415T000000',
    'STATUS:NEEDS-ACTION',
    'SUMMARY:Submit Income Taxes',
    'BEGIN:VALARM',
    'ACTION:AUDIO',
    'TRIGGER:19980403T120000Z',
    'ATTACH;FMTTYPE=audio/basic:http://example.com/pub/audio-files/ssbanner.aud',
    'REPEAT:4',
    'DURATION:PT1H',
    'END:VALARM',
    'END:VTODO',
  );

  it('are read as the examples of the RFC stand there', () => {
    const { tasks, faults } = readTodos(examples);
    expect(faults).toEqual([]);
    expect(
      tasks.map(({ title, closed, state, assignee, project, estimate }) => [
        title,
        closed,
        state,
        assignee,
        project.name,
        estimate,
      ]),
    ).toEqual([
      ['Submit Quebec Income Tax Return for 2006', false, 'To do', '', 'FAMILY', null],
      ['Submit Revised Internet-Draft', true, 'To do', '', 'To do', null],
      // The length of an alarm is none of the task.
      ['Submit Income Taxes', false, 'To do', 'jqpublic@example.com', 'To do', null],
    ]);
    expect(tasks[0]!.source).toBe('20070313T123432Z-456553@example.com');
  });

  const todo = (uid: string, ...lines: string[]) => ['BEGIN:VTODO', `UID:${uid}`, ...lines, 'END:VTODO'];

  it('have numbers, estimates, people and the project of their calendar', () => {
    const { tasks } = readTodos(
      calendar(
        'X-WR-CALNAME:Gallery 3',
        ...todo('a', 'SUMMARY:[GAL-21] Lux readings', 'DURATION:PT2H30M', 'STATUS:IN-PROCESS'),
        ...todo(
          'b',
          'SUMMARY:GAL-22: Drawing',
          'ATTENDEE;CN="Teodor Lund":mailto:t@saltmere.example',
          'URL:https://a.example/22',
        ),
        ...todo('c', 'SUMMARY:Strike', 'STATUS:CANCELLED', 'URL:javascript:alert(1)'),
      ),
    );
    expect(tasks).toMatchObject([
      { number: 'GAL-21', title: 'Lux readings', estimate: 9000, state: 'In progress', project: { name: 'Gallery 3' } },
      { number: 'GAL-22', title: 'Drawing', assignee: 'Teodor Lund', address: 'https://a.example/22' },
      { number: '', title: 'Strike', closed: true, address: '' },
    ]);
  });

  it('of one UID are one: the highest sequence, and of a series the whole', () => {
    const { tasks } = readTodos(
      calendar(
        ...todo('a', 'SEQUENCE:2', 'SUMMARY:Newer'),
        ...todo('a', 'SEQUENCE:1', 'SUMMARY:Older'),
        ...todo('b', 'RECURRENCE-ID:20261112T090000Z', 'SUMMARY:One of them'),
        ...todo('b', 'RRULE:FREQ=WEEKLY', 'DTSTART:20261112T090000Z', 'SUMMARY:All of them'),
      ),
    );
    expect(tasks.map(({ title }) => title)).toEqual(['Newer', 'All of them']);
  });

  it('that cannot be read are named with their lines, and the others read', () => {
    const { tasks, faults } = readTodos(calendar(...todo('a'), ...todo('b', 'SUMMARY:Fine'), 'BEGIN:VTODO', 'UID:c'));
    expect(tasks.map(({ title }) => title)).toEqual(['Fine']);
    expect(faults).toEqual([
      { line: 4, column: 1, message: 'The task has no SUMMARY, so nobody knows what it is.' },
      { line: 11, column: 1, message: 'This VTODO has no end: the file is cut off.' },
    ]);
    expect(readTodos('Dear all').faults[0]!.message).toContain('does not begin with BEGIN:VCALENDAR');
    expect(readTodos(calendar()).faults[0]!.message).toContain('There is no task in it');
  });
});

describe('tables', () => {
  it('of tasks are read by their heads', () => {
    const { told, faults } = readTaskTable(
      readCsv(
        [
          'Key,List,No.,Task,Assigned to,Status,Planned hours,Link',
          'k1,Rig,7,Refocus,Asha Quill,In progress,2:30,https://a.example/7',
          ',Rig,8,Strike,,Done,,',
          '',
          ',,,Loose,,Open,1.5,ftp://a',
        ].join('\n'),
      ),
    );
    expect(faults).toEqual([]);
    expect(told).toEqual([
      {
        ...{ source: 'k1', project: { source: 'Rig', name: 'Rig' }, number: '7', title: 'Refocus' },
        ...{ assignee: 'Asha Quill', state: 'In progress', estimate: 9000, closed: false },
        address: 'https://a.example/7',
      },
      expect.objectContaining({ source: 'Rig / 8', closed: true, estimate: null }),
      expect.objectContaining({ source: 'Tasks / Loose', closed: false, estimate: 5400, address: '' }),
    ]);
  });

  it('of tasks name the cell that cannot be read, and what is missing as a whole', () => {
    const read = (text: string) => readTaskTable(readCsv(text)).faults;
    expect(read('Id,Title,Estimate,Closed\na,One,soon,no\na2,,1,no\nb,Two,1,yes\nb,Three,1,')).toEqual([
      { row: 2, column: 'C', message: '“soon” is not a number of hours, such as 40 or 12.5.' },
      { row: 3, column: 'B', message: 'This task has no title.' },
      { row: 5, column: 'A', message: '“b” stands in this table twice; give each an id.' },
    ]);
    expect(read('Id,Colour\na,red')).toEqual([
      { row: 1, column: 'A', message: 'No column is called Title, so nobody knows what the tasks are.' },
    ]);
  });

  it('of clients are read by their heads, addresses with their lines', () => {
    const { told } = readClientTable(
      readCsv(
        'Customer number,Name,E-mail,Address,VAT number,Archived\n17,Quayside,a@b.example,"1 Quay\nSaltmere",GB1,no\n18,Old,,,,yes',
      ),
    );
    expect(told).toEqual([
      {
        source: '17',
        name: 'Quayside',
        address: '1 Quay\nSaltmere',
        email: 'a@b.example',
        taxNumber: 'GB1',
        gone: false,
      },
      { source: '18', name: 'Old', address: '', email: '', taxNumber: '', gone: true },
    ]);
    expect(readClientTable(readCsv('Id\n1')).faults[0]!.message).toContain('No column is called Name');
  });
});
