import { wordsOf } from './in-words';
import { useCallback } from 'react';
import { changedIn } from '../state/shell';
import { store } from '../state/store';
import { noticed } from '../state/notices';
import { useAppDispatch } from '../state/store';
import { trail } from './trail';

type TrailTable = 'placings' | 'rules' | 'switches' | 'openedFor' | 'meant';
type Key = string | [string, number];

/** Rows to put and keys to delete, by table. */
export type TrailChange = { readonly [Name in TrailTable]?: { put?: readonly object[]; remove?: readonly Key[] } };

interface Taken {
  number: number;
  back: () => Promise<void>;
}

// The trail has no journal, so that wiping it really wipes: what was changed last is remembered while the page is open.
const taken: Taken[] = [];
const MOST = 50;
let last = 0;

const keyOf = (table: TrailTable, row: object): Key => {
  const { file, at, id, title } = row as { file: string; at: number; id: string; title: string };
  if (table === 'switches') return [file, at];
  if (table === 'openedFor') return file;
  return table === 'meant' ? title : id;
};

/** Changes the trail in one piece, and remembers how it was. */
async function change(changes: TrailChange): Promise<number> {
  const tables = Object.keys(changes) as TrailTable[];
  const before: { table: TrailTable; put: object[]; remove: Key[] }[] = [];
  await trail.transaction(
    'rw',
    tables.map((name) => trail.table(name)),
    async () => {
      for (const name of tables) {
        const table = trail.table<object, Key>(name);
        const { put = [], remove = [] } = changes[name]!;
        const keys = [...put.map((row) => keyOf(name, row)), ...remove];
        const rows = await table.bulkGet(keys);
        before.push({
          table: name,
          put: rows.filter((row) => row !== undefined),
          remove: keys.filter((_, index) => rows[index] === undefined),
        });
        await table.bulkDelete([...remove]);
        await table.bulkPut([...put]);
      }
    },
  );
  const back = () =>
    trail.transaction(
      'rw',
      tables.map((name) => trail.table(name)),
      async () => {
        for (const { table, put, remove } of before) {
          await trail.table<object, Key>(table).bulkDelete(remove);
          await trail.table<object, Key>(table).bulkPut(put);
        }
      },
    );
  taken.push({ number: ++last, back });
  store.dispatch(changedIn('trail'));
  if (taken.length > MOST) taken.shift();
  return last;
}

/** Takes the last change of the trail back, or a given one with those after it. */
export async function undoTrail(number = last): Promise<void> {
  while (taken.length > 0 && taken.at(-1)!.number >= number) await taken.pop()!.back();
  // What is left to take back is of the workspace.
  if (taken.length === 0) store.dispatch(changedIn('workspace'));
}

/** How components change the trail: said in a notice with "Undo". */
export function useTrailChanges() {
  const dispatch = useAppDispatch();
  return useCallback(
    async (text: string, changes: TrailChange): Promise<boolean> => {
      try {
        const number = await change(changes);
        dispatch(noticed({ text, fault: false, undo: number, trail: true }));
        return true;
      } catch (thrown) {
        dispatch(noticed({ text: wordsOf(thrown), fault: true, undo: null }));
        return false;
      }
    },
    [dispatch],
  );
}
