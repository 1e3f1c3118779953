import { Pricer } from '@half-penny/core/billing';
import { bookOf, clientRow, projectRow, freshStudio } from '@half-penny/core/testing';
import { readBook } from '@half-penny/core/billing';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { destinationOf, stepOf, treeRows, type Step } from './project-tree';
import { runs } from '@half-penny/core/testing';

const project = (id: string, order: number, parentId: string | null = null, clientId = 'quayside') =>
  projectRow(id, id, clientId, { order, parentId });
const pricer = new Pricer(
  bookOf({
    clients: [clientRow('quayside', 'Quayside Playhouse'), clientRow('museum', 'Fernhill Folk Museum')],
    projects: [
      project('rig', 0),
      project('plots', 0, 'rig'),
      project('sheets', 0, 'plots'),
      project('call-outs', 1, 'rig'),
      project('foyer', 1),
      project('gallery', 0, null, 'museum'),
    ],
  }),
);
const of = (id: string) => pricer.project.get(id)!;
const shown = (folded: string[] = [], parentId: string | null = null) =>
  treeRows(pricer, { clientId: 'quayside', parentId }, new Set(folded)).map(
    ({ project: { name }, depth, hasParts }) => `${'  '.repeat(depth)}${name}${hasParts ? ' +' : ''}`,
  );

describe('a client’s projects as rows', () => {
  it('stand each before its parts, and folded ones without theirs', () => {
    expect(shown()).toEqual(['rig +', '  plots +', '    sheets', '  call-outs', 'foyer']);
    expect(shown(['plots'])).toEqual(['rig +', '  plots +', '  call-outs', 'foyer']);
    expect(shown(['rig'])).toEqual(['rig +', 'foyer']);
    expect(shown([], 'rig')).toEqual(['plots +', '  sheets', 'call-outs']);
  });

  it('are moved by steps: past a neighbour, into the one above, out of the one around', () => {
    expect(stepOf(pricer, of('foyer'), 'up', null)).toEqual({ parentId: null, before: 'rig' });
    expect(stepOf(pricer, of('rig'), 'down', null)).toEqual({ parentId: null, before: null });
    expect(stepOf(pricer, of('foyer'), 'in', null)).toEqual({ parentId: 'rig', before: null });
    expect(stepOf(pricer, of('sheets'), 'out', null)).toEqual({ parentId: 'rig', before: 'call-outs' });
    expect(stepOf(pricer, of('rig'), 'up', null)).toBeNull();
    expect(stepOf(pricer, of('foyer'), 'down', null)).toBeNull();
    expect(stepOf(pricer, of('rig'), 'in', null)).toBeNull();
    // Not out of the project whose page it is, nor out of nothing.
    expect(stepOf(pricer, of('plots'), 'out', 'rig')).toBeNull();
    expect(stepOf(pricer, of('rig'), 'out', null)).toBeNull();
  });

  it('go where they are dropped', () => {
    expect(destinationOf(pricer, of('plots'), 'before')).toEqual({ parentId: 'rig', before: 'plots' });
    expect(destinationOf(pricer, of('plots'), 'after')).toEqual({ parentId: 'rig', before: 'call-outs' });
    expect(destinationOf(pricer, of('call-outs'), 'after')).toEqual({ parentId: 'rig', before: null });
    expect(destinationOf(pricer, of('foyer'), 'into')).toEqual({ parentId: 'foyer', before: null });
  });

  it('are all still there after any steps, and a step back undoes one', async () => {
    const steps = fc.array(fc.record({ pick: fc.nat(20), step: fc.constantFrom<Step>('up', 'down', 'in', 'out') }), {
      maxLength: 25,
    });
    await fc.assert(
      fc.asyncProperty(steps, async (list) => {
        const { store, run, added, at } = await freshStudio();
        for (const name of ['Plots', 'Foyer refresh', 'Call-outs'])
          await added('project.add', { name, clientId: at.playhouse });
        const book = async () => new Pricer(await readBook(store));
        const order = (now: Pricer) =>
          treeRows(now, { clientId: at.playhouse, parentId: null }, new Set()).map(
            (row) => `${row.project.id} ${row.depth}`,
          );
        for (const { pick, step } of list) {
          const now = await book();
          const own = now.book.projects.filter((each) => each.clientId === at.playhouse);
          const moved = own[pick % own.length]!;
          const where = stepOf(now, moved, step, null);
          if (!where) continue;
          const before = order(now);
          await run('project.move', { id: moved.id, ...where });
          const after = await book();
          expect(order(after)).toHaveLength(before.length);
          expect(order(after)).not.toEqual(before);
          const back = { up: 'down', down: 'up' }[step as string] as Step | undefined;
          const home = back && stepOf(after, after.project.get(moved.id)!, back, null);
          if (!home) continue;
          await run('project.move', { id: moved.id, ...home });
          expect(order(await book())).toEqual(before);
        }
      }),
      { numRuns: runs(25) },
    );
  });
});
