import type { SealingKey } from '@half-penny/formats/sealed';
import type { LineKeys } from '@half-penny/formats/sealed-lines';
import type { CaptureSettings, Heard, KeptActivity, PlacingRule, Placing, Switch } from '@half-penny/core/capture';
import Dexie, { type EntityTable, type Table } from 'dexie';
import { trailMigrations } from './trail-migrations';
import { DURABLE } from './database';

/** Why a document was open, as the person said. */
export interface DocumentOpenedFor {
  file: string;
  openedForId: string;
}

/** Which of several files a window's title means, as the person said. */
export interface MeantFile {
  title: string;
  file: string;
}

/** Times in which nothing was recorded, as the person wished; the last one may be open. */
export interface Pause {
  from: number;
  to: number | null;
}

interface Setting {
  key: 'capture' | 'pauses';
  value: CaptureSettings | Pause[];
}

/** That the trail is backed up, by the person's choice. */
export interface TrailBackup {
  key: 'chosen';
  /** By which the backups of this trail are known where they lie. */
  id: string;
  sealing: SealingKey;
  /** The last that was taken: when, how large, and of what. */
  last: { at: number; bytes: number; mark: string } | null;
}

/** Backups of a trail that was wiped, which are still to be removed. */
interface ToRemove {
  key: 'to remove';
  ids: string[];
}

/** What a calendar that is followed has planned. */
export interface PlannedEvent {
  title: string;
  start: number;
  end: number;
}

/** What was last read of a calendar that is followed. */
export interface ReadFeed {
  version: number;
  read: number;
  /** What is to come of it. */
  planned: PlannedEvent[];
  /** Events that could not be read, in words. */
  faults: string[];
}

/**
 * What is of this browser alone: the keys that open what devices seal for it, when the trail was last wiped, and what was read of each
 * calendar that is followed.
 */
export type OwnRow =
  { key: 'line keys'; keys: LineKeys } | { key: 'wiped'; at: number } | { key: string; feed: ReadFeed };

/**
 * What the computer noticed, and what was said of it: the business of the person at this machine alone. It is a database apart from any
 * workspace, has no journal, and goes into no file.
 */
export class TrailDatabase extends Dexie {
  activities!: Table<KeptActivity, [string, number]>;
  placings!: EntityTable<Placing, 'id'>;
  rules!: EntityTable<PlacingRule, 'id'>;
  switches!: Table<Switch, [string, number]>;
  openedFor!: EntityTable<DocumentOpenedFor, 'file'>;
  meant!: EntityTable<MeantFile, 'title'>;
  settings!: EntityTable<Setting, 'key'>;
  backup!: Table<TrailBackup | ToRemove, string>;
  own!: Table<OwnRow, string>;
  devices!: EntityTable<Heard, 'device'>;

  constructor(name = 'half-penny.trail') {
    super(name, DURABLE);
    for (const { version, stores, upgrade } of trailMigrations) {
      const step = this.version(version).stores(stores);
      if (upgrade) step.upgrade(upgrade);
    }
  }
}
