import { expect, it } from 'vitest';
import { Pricer } from '../billing';
import { serviceDefaults } from '../model/defaults';
import type { CostCode, Member, Stage } from '../model/records';
import { bookOf, clientRow, projectRow, taskRow } from '../testing/studio';
import { isOpenJob, servicesFor, whyClosed, whyTaskClosed } from '.';

const stage = (id: string, name: string, finished: boolean): Stage => ({ id, name, finished, order: 0 });
const pricer = new Pricer(
  bookOf({
    stages: [stage('hand', 'In hand', false), stage('over', 'Handed over', true)],
    clients: [
      clientRow('playhouse', 'Quayside Playhouse', { costCodeIds: ['design'] }),
      clientRow('gone', 'Summer Company', { archived: true }),
    ],
    costCodes: [{ id: 'design', code: '10', name: 'Design', costType: 'labour' } as CostCode],
    projects: [
      projectRow('rig', 'Winter season rig', 'playhouse', { stageId: 'hand' }),
      projectRow('old', 'Summer rig', 'playhouse', { finished: true }),
      projectRow('part', 'Front of house', 'playhouse', { parentId: 'old' }),
      projectRow('done', 'Foyer', 'playhouse', { stageId: 'over' }),
      projectRow('tent', 'Tent', 'gone'),
      projectRow('studio', 'Studio', null),
    ],
    tasks: [
      { ...taskRow('plot', 'Plot', 'rig'), finished: true },
      { ...taskRow('focus', 'Focus', 'rig'), stageId: 'over' },
      taskRow('notes', 'Notes', 'part'),
      taskRow('cues', 'Cues', 'rig'),
    ],
    services: [
      { ...serviceDefaults, id: 'design', name: 'Lighting design', costCodeId: 'design' },
      { ...serviceDefaults, id: 'site', name: 'Site and focus', kinds: ['hourly'] },
      { ...serviceDefaults, id: 'radio', name: 'Radio', archived: true },
    ],
  }),
);

it('time goes to what is open; what is not says why', () => {
  const why = (id: string) => whyClosed(pricer, pricer.project.get(id)!);
  expect([why('rig'), why('old'), why('part'), why('done'), why('tent')]).toEqual([
    null,
    'finished',
    'Summer rig, which it is part of, is finished',
    'at the stage “Handed over”',
    'its client is archived',
  ]);
  const whyTask = (id: string) => whyTaskClosed(pricer, pricer.task.get(id)!);
  expect([whyTask('plot'), whyTask('focus'), whyTask('notes'), whyTask('cues')]).toEqual([
    'finished',
    'at the stage “Handed over”',
    'Summer rig, which it is part of, is finished',
    null,
  ]);
  expect(isOpenJob(pricer, { projectId: 'rig', taskId: 'plot' })).toBe(false);
  expect(isOpenJob(pricer, { projectId: null, taskId: null })).toBe(true);
});

it('services are offered by the kind of project, the client’s cost codes and what the member uses', () => {
  const member = { id: 'imogen', name: 'Imogen Vale', hiddenServices: ['design'] } as unknown as Member;
  const names = (projectId: string | null, who?: Member) => {
    const { offered, hidden } = servicesFor(pricer, who, projectId);
    return [offered.map((each) => each.id), Object.fromEntries(hidden.map((each) => [each.service.id, each.why]))];
  };
  expect(names('rig')).toEqual([
    ['design'],
    { site: 'not among the cost codes of Quayside Playhouse', radio: 'archived in Setup' },
  ]);
  expect(names('studio')).toEqual([
    ['design'],
    { site: 'not for work of the kind “internal”', radio: 'archived in Setup' },
  ]);
  expect(names(null, member)).toEqual([
    ['site'],
    { design: 'hidden by Imogen Vale in Setup', radio: 'archived in Setup' },
  ]);
});
