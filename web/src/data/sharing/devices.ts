import type { Device, Id, JournalRow } from '@half-penny/core/model';
import { useRead } from '../read';
import { useSession } from '../session';
import Dexie from 'dexie';

/** A device with when it was last heard. */
export interface DeviceHeard {
  device: Device;
  /** Whether it is the one that this is. */
  isThis: boolean;
  /** When it did something last that is here; null where it has not yet. */
  heard: number | null;
}

/** The devices that share this workspace, this one first. */
export function useDevices(): DeviceHeard[] | undefined {
  const { database, entry } = useSession();
  return useRead(
    async (reader) => {
      const found: DeviceHeard[] = [];
      for (const device of await reader.all('devices')) {
        if (device.left !== null) continue;
        const last = await lastOf(database.journal, device.id);
        found.push({ device, isThis: device.id === entry.device, heard: last?.at ?? null });
      }
      return found.sort((a, b) => Number(b.isThis) - Number(a.isThis) || a.device.since - b.device.since);
    },
    [database, entry.device],
  );
}

const lastOf = (journal: Dexie.Table<JournalRow, [Id, number]>, device: Id): Promise<JournalRow | undefined> =>
  journal.where('[device+seq]').between([device, Dexie.minKey], [device, Dexie.maxKey]).last();
