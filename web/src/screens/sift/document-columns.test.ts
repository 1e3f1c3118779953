// @vitest-environment jsdom
import { placeOn, readSentence } from '@half-penny/core/capture';
import { placingRule } from '@half-penny/core/testing';
import { describe, expect, it } from 'vitest';
import type { PlacedDocument } from '../../workers/capture';
import { documentJobs, rulesFor } from './document-columns';

const rig = placeOn({ workspaceId: 'w', projectId: 'rig', taskId: null, openedForId: 'drawing' });
const foyer = placeOn({ workspaceId: 'w', projectId: 'foyer', taskId: null });
const rule = (sentence: string, then = rig) => placingRule(sentence, then);
const document = (placed: typeof rig | null, ...names: string[]) =>
  ({ file: names.at(-1)!, files: names.map((file) => ({ file })), placed }) as PlacedDocument;

describe('where a document belongs', () => {
  const plot = document(foyer, '/work/rig/plot.lgp', '/work/rig/plot v2.lgp');
  const notes = document(null, '/texts/notes.txt');

  it('is by a rule for what comes, else where most of its time was placed', () => {
    const { placeOf } = documentJobs([plot, notes], [rule('folder begins with “/work/rig”')], []);
    expect([placeOf(plot), placeOf(notes)]).toEqual([rig, null]);
    expect(documentJobs([plot, notes], [], []).placeOf(plot)).toEqual(foyer);
  });

  it('holds for all names it had', () => {
    const { filesOf } = documentJobs([plot, notes], [], []);
    expect(filesOf(['/work/rig/plot v2.lgp'])).toEqual(['/work/rig/plot.lgp', '/work/rig/plot v2.lgp']);
    expect(filesOf(['/work/rig/plot.lgp'])).toEqual([]);
  });

  it('is opened for what the person said, else what the rule says', () => {
    const said = [{ file: '/work/rig/a.lgp', openedForId: 'copying' }];
    const { openedForOf } = documentJobs([], [rule('folder begins with “/work/rig”')], said);
    expect(['/work/rig/a.lgp', '/work/rig/b.lgp', '/texts/c.txt'].map(openedForOf)).toEqual(['copying', 'drawing', '']);
  });

  it('is made a rule of, file by file or once a folder, behind those there are', () => {
    const files = ['/work/rig/a.lgp', '/work/rig/b.lgp'];
    const before = [{ ...rule('title has “x”'), order: 7 }];
    expect(rulesFor(files, foyer, false, before).map(({ when, order }) => [when, order])).toEqual([
      [readSentence('file is “/work/rig/a.lgp”'), 8],
      [readSentence('file is “/work/rig/b.lgp”'), 9],
    ]);
    expect(rulesFor(files, foyer, true, before).map(({ when }) => when)).toEqual([
      readSentence('folder begins with “/work/rig”'),
    ]);
  });
});
