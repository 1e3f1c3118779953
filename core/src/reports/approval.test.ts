import { expect, it } from 'vitest';
import { DAY, freshStudio, work, ZONE } from '../testing';
import { figureAt, OpenReport } from './answer';
import { plainDefinition, type Definition } from './definition';
import { FactStore } from './fact-store';

it('time is grouped and narrowed by its approval, and by who gave it', async () => {
  const { store, test, run, added, at } = await freshStudio();
  const wren = await added('member.add', {
    name: 'Wren Okafor',
    role: '',
    zone: ZONE,
    owed: [0, 0, 0, 0, 0, 0, 0],
    checkerId: at.member,
  });
  await run('project.edit', { id: at.gallery, secondLook: true });
  test.memberId = wren;
  const approved = await added('entry.add', work(at.rig, 3600));
  const once = await added('entry.add', work(at.gallery, 1800));
  const back = await added('entry.add', work(at.rig, 600));
  await run('entry.add', work(at.rig, 60));
  await run('period.handIn', { memberId: wren, day: DAY });
  test.memberId = at.member;
  await run('period.approve', { ids: [], entryIds: [approved, once], costIds: [] });
  await run('period.sendBack', { ids: [], entryIds: [back], costIds: [], reason: 'Which room?' });
  const facts = await FactStore.read(store, DAY);
  const said = (asked: Partial<Definition>) => {
    const definition: Definition = { ...plainDefinition, measures: ['recorded'], when: { kind: 'all' }, ...asked };
    const report = new OpenReport(facts.words, facts.days, { definition, runOn: DAY });
    for (const _ of report.run(facts.table));
    const answer = report.answer();
    return answer.rows.map(({ label }, index) => [label, figureAt(answer, 'recorded', index)]);
  };
  expect(said({ rows: ['approval'] })).toEqual([
    ['All', 6060],
    ['Not approved', 60],
    ['Sent back', 600],
    ['Looked at', 1800],
    ['Approved', 3600],
  ]);
  expect(said({ rows: ['approved by'] })).toEqual([
    ['All', 6060],
    ['Imogen Vale', 5400],
    ['Nobody yet', 660],
  ]);
  expect(said({ rows: [], filters: [{ field: 'approval', keys: ['approved'], without: false }] })).toEqual([
    ['All', 3600],
  ]);
});
