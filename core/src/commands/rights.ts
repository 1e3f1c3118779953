import * as z from 'zod';
import { command, Plan } from '../engine/command';
import { plainCommands } from '../engine/crud';
import { Fault } from '../faults/fault';
import * as R from '../model/records';
import { usualSetRows } from '../rights';

// What a set is checked by stands beside its record; a form of it is read field by field.
/** Sets of rights, which members have by name. */
export const rightSets = plainCommands('rightSets', 'rightSet', 'Rights', z.strictObject(R.rightSetSchema.shape));

/** Adds the usual sets that are not there yet, told by their names. */
export const addUsualSets = command({
  name: 'rightSet.usual',
  title: 'The usual rights added',
  input: z.strictObject({}),
  async plan(reader, _input, { newId }) {
    const names = new Set((await reader.all('rightSets')).map(({ name }) => name));
    const missing = usualSetRows().filter(({ name }) => !names.has(name));
    if (missing.length === 0) throw new Fault('already', 'The usual sets of rights are all there.');
    const plan = new Plan();
    for (const row of missing) {
      const id = newId();
      plan.put('rightSets', { ...row, id });
    }
    return plan;
  },
});
