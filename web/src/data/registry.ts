import { useLiveQuery } from 'dexie-react-hooks';
import { idSource, type Id } from '@half-penny/core/model';
import { RegistryDatabase, WorkspaceDatabase, type WorkspaceEntry } from './database';

export const registry = new RegistryDatabase();

/** Ids made in this browser. */
export const newId = idSource(
  () => Date.now(),
  (bytes) => crypto.getRandomValues(bytes as Uint8Array<ArrayBuffer>),
);

/** Every workspace of this browser; undefined while they are being read. */
export const useWorkspaces = (): WorkspaceEntry[] | undefined => useLiveQuery(() => registry.workspaces.toArray(), []);

/** The same, once. @throws what the browser says where its list cannot be read */
export const allWorkspaces = (): Promise<WorkspaceEntry[]> => registry.workspaces.toArray();

export async function currentWorkspace(): Promise<WorkspaceEntry | undefined> {
  const current = await registry.settings.get('current');
  return current ? registry.workspaces.get(current.value) : undefined;
}

/** Makes a workspace the one that is open, here and in every other tab. */
export async function openWorkspace(entry: WorkspaceEntry): Promise<void> {
  await registry.transaction('rw', registry.workspaces, registry.settings, async () => {
    await registry.workspaces.put(entry);
    await registry.settings.put({ key: 'current', value: entry.id });
  });
  channel.postMessage({ opened: entry.id });
}

/** Deletes a workspace that is not the open one, with all its data. */
export async function deleteWorkspace(entry: WorkspaceEntry): Promise<void> {
  await WorkspaceDatabase.delete(entry.database);
  await registry.shared.delete(entry.id);
  await registry.workspaces.delete(entry.id);
}

const channel = new BroadcastChannel('half-penny-workspace');

/** Calls back when another tab opens another workspace. */
export function onOtherWorkspace(callback: (id: Id) => void): void {
  channel.addEventListener('message', (event: MessageEvent<{ opened?: Id }>) => {
    if (event.data.opened) callback(event.data.opened);
  });
}
