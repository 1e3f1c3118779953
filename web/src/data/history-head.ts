import { headOf, showHead } from '@half-penny/core/engine';
import type { JournalRow } from '@half-penny/core/model';
import Dexie, { liveQuery } from 'dexie';
import { useObservable } from 'dexie-react-hooks';
import { useMemo } from 'react';
import type { WorkspaceDatabase } from './database';
import { useSession } from './session';

/** The last row of each device, found by a look-up each. */
async function lastRows({ journal }: WorkspaceDatabase): Promise<JournalRow[]> {
  const rows: JournalRow[] = [];
  let last = await journal.orderBy('[device+seq]').last();
  while (last) {
    rows.push(last);
    last = await journal.where('[device+seq]').below([last.device, Dexie.minKey]).last();
  }
  return rows;
}

/** How far the history of this workspace is, as it is written down; undefined until it is read. */
export function useHead(): string | undefined {
  const { database } = useSession();
  const head = useMemo(() => liveQuery(async () => showHead(headOf(await lastRows(database)))), [database]);
  return useObservable(head);
}
