import type { Pricer } from '@half-penny/core/billing';
import type { Entry, Member } from '@half-penny/core/model';
import { lazy, Suspense, useCallback, useMemo, useState } from 'react';
import { useChanges } from '../data/session';
import { barLook, quietBarLook } from './bar';
import { Button } from './button';
import { showKey, type KeyName } from './keys';
import type { RowKeys } from './ledger';

// Windows that ask for more come when they are first wanted.
const dialogs = () => import('./action-dialogs');
const SplitDialog = lazy(async () => ({ default: (await dialogs()).SplitDialog }));
const TagDialog = lazy(async () => ({ default: (await import('./tag-dialog')).TagDialog }));
const HistoryDialog = lazy(async () => ({ default: (await import('./history-dialog')).HistoryDialog }));
const MoveDialog = lazy(async () => ({ default: (await dialogs()).MoveDialog }));

export type Action = 'resume' | 'split' | 'join' | 'duplicate' | 'move' | 'tag' | 'history' | 'delete';

/** What opens a window. */
type Asking = 'split' | 'move' | 'tag' | 'history';

/** What can be done with entries, the keys that do it, and the windows that ask for more. */
export function useActions(pricer: Pricer, member: Member) {
  const { attempt } = useChanges();
  const [asking, setAsking] = useState<{ action: Asking; entries: readonly Entry[] } | null>(null);
  const act = useCallback(
    (action: Action, entries: readonly Entry[]) => {
      const ids = entries.map((entry) => entry.id);
      const [first] = entries;
      if (!first) return;
      if (action === 'resume') void attempt('timer.resume', { entryId: first.id });
      if (action === 'join') void attempt('entry.join', { ids });
      if (action === 'duplicate') void attempt('entry.duplicate', { ids });
      if (action === 'delete') void attempt('entry.remove', { ids });
      if (action === 'split' || action === 'move' || action === 'tag' || action === 'history')
        setAsking({ action, entries });
    },
    [attempt],
  );
  const close = () => setAsking(null);
  const windows = asking && (
    <Suspense>
      {asking.action === 'split' && <SplitDialog entry={asking.entries[0]!} member={member} onClose={close} />}
      {asking.action === 'tag' && <TagDialog entries={asking.entries} onClose={close} />}
      {asking.action === 'history' && (
        <HistoryDialog pricer={pricer} table="entries" id={asking.entries[0]!.id} zone={member.zone} onClose={close} />
      )}
      {asking.action === 'move' && <MoveDialog pricer={pricer} entries={asking.entries} onClose={close} />}
    </Suspense>
  );
  return { act, windows };
}

const actions: readonly { action: Action; key: KeyName; name: string; least: number; most: number }[] = [
  { action: 'resume', key: 'entry.resume', name: 'Go on', least: 1, most: 1 },
  { action: 'split', key: 'entry.split', name: 'Split', least: 1, most: 1 },
  { action: 'join', key: 'entry.join', name: 'Join', least: 2, most: Infinity },
  { action: 'duplicate', key: 'entry.duplicate', name: 'Duplicate', least: 1, most: Infinity },
  { action: 'move', key: 'entry.move', name: 'Move', least: 1, most: Infinity },
  { action: 'tag', key: 'entry.tag', name: 'Tag', least: 1, most: Infinity },
  { action: 'history', key: 'entry.history', name: 'History', least: 1, most: 1 },
  { action: 'delete', key: 'entry.delete', name: 'Delete', least: 1, most: Infinity },
];

/** The keys of a ledger of entries: each acts on what is selected, or on the row that has the focus. */
export const useActionKeys = <Row,>(
  act: (action: Action, entries: readonly Entry[]) => void,
  meant: (row: Row) => readonly Entry[],
): RowKeys<Row> =>
  useMemo(
    () =>
      Object.fromEntries(
        actions.map(({ action, key, least, most }) => [
          key,
          (row: Row) => {
            const entries = meant(row);
            if (entries.length >= least && entries.length <= most) act(action, entries);
          },
        ]),
      ),
    [act, meant],
  );

/** The actions as buttons over the Till, where they stay in view however long the ledger is. */
export function ActionBar({
  entries,
  ticked = false,
  act,
}: {
  entries: readonly Entry[];
  /** Whether somebody chose them; otherwise it is the row with the focus. */
  ticked?: boolean;
  act: (action: Action, entries: readonly Entry[]) => void;
}) {
  if (entries.length === 0) return null;
  return (
    <div role="toolbar" aria-label="With what is chosen" className={`${ticked ? barLook : quietBarLook} gap-x-2!`}>
      <span className="mr-1 text-soft">{entries.length === 1 ? 'This entry:' : `${entries.length} entries:`}</span>
      {actions.map(({ action, key, name, least, most }) => (
        <Button
          key={action}
          disabled={entries.length < least || entries.length > most}
          shortcut={showKey(key)}
          onClick={() => act(action, entries)}
          className="min-h-7! px-1.5! py-0! text-sm! max-md:min-h-11!"
        >
          {name}
        </Button>
      ))}
    </div>
  );
}
