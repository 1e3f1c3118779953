import {
  migrations,
  tableNames,
  tables,
  type Id,
  type JournalRow,
  type Migration,
  type Rows,
  type TableName,
} from '@half-penny/core/model';
import type { Share } from '@half-penny/core/shared-log';
import type { Invitation, PrivateKeys } from '@half-penny/formats/sealed-files';
import Dexie, { type EntityTable, type Table } from 'dexie';

/** "memberId+day" of the model is "[memberId+day]" in the database; a list's "*" is said when it is made, not when it is asked. */
export const indexName = (index: string): string => (index.includes('+') ? `[${index}]` : index.replace('*', ''));
const declared = (index: string): string => (index.startsWith('*') ? index : indexName(index));

/** Before a workspace's id, the name of its database. */
export const DATABASE_PREFIX = 'half-penny-';

/** Bytes kept once, whatever refers to them. */
export interface StoredBlob {
  sha256: string;
  blob: Blob;
}

/** What was acknowledged is on the disk, not only on its way there: a power cut right after takes nothing. */
export const DURABLE = { chromeTransactionDurability: 'strict' } as const;
/** For the filling of a database that nobody relies on before all of it is there: what is written last is written durably. */
export const FILLING = { chromeTransactionDurability: 'relaxed' } as const;

/** An entry with billable time that is neither on an issued invoice nor given up. */
export interface UnsettledEntry {
  id: Id;
  projectId: Id;
}

/** The version of what is kept beside the records and is in no file, a tenth of theirs each. */
const BESIDE = 0.2;

/** One workspace in this browser: the model's tables and the journal. */
export class WorkspaceDatabase extends Dexie {
  journal!: Table<JournalRow, [Id, number]>;
  /** The bytes of receipts, apart from the rows that tell of them. */
  files!: EntityTable<StoredBlob, 'sha256'>;
  /** Entries that are not settled; worked out of the tables, and in no file. */
  unsettled!: EntityTable<UnsettledEntry, 'id'>;
  /** Where this device stands in the shared log: one row, or none where the workspace is not shared. */
  share!: EntityTable<Share, 'book'>;
  /** Receipts whose bytes the relay has. */
  carried!: EntityTable<{ sha256: string }, 'sha256'>;

  constructor(
    name: string,
    steps: readonly Migration[] = migrations,
    durability: typeof DURABLE | typeof FILLING = DURABLE,
  ) {
    super(name, durability);
    const stores: Record<string, string> = { journal: '[device+seq]', files: 'sha256' };
    for (const table of tableNames) stores[table] = ['id', ...tables[table].indexes.map(declared)].join(', ');
    this.version(1).stores(stores);
    // The database follows the version of the records: rows of an older one are brought forward as it opens, step by step.
    for (const { from, row, tables: changed = [...tableNames, 'journal'] as const } of steps) {
      this.version(from + 1)
        .stores(stores)
        .upgrade(async (transaction) => {
          for (const table of changed) {
            await transaction
              .table(table)
              .toCollection()
              .modify((stored, reference) => {
                reference.value = row(table, stored);
              });
          }
        });
    }
    this.version((steps.at(-1)?.from ?? 0) + 1 + BESIDE).stores({
      ...stores,
      unsettled: 'id, projectId',
      share: 'book',
      carried: 'sha256',
    });
  }

  rows<T extends TableName>(table: T): EntityTable<Rows[T], 'id'> {
    return this.table(table);
  }
}

/** Registered workspaces and what belongs to this browser alone; never part of a workspace file. */
export interface WorkspaceEntry {
  id: Id;
  database: string;
  name: string;
  demo: boolean;
  createdAt: number;
  /** Who is working in this browser. */
  memberId: Id | null;
  /** Under which this browser keeps its chain of changes to this workspace; a copy of it begins a chain of its own. */
  device: Id;
  /** The last file of all of it that was saved: when, and how many changes it held. */
  exported?: { at: number; changes: number };
  /** The last backup that was taken by itself, likewise. */
  backedUp?: { at: number; changes: number };
}

interface Setting {
  key: 'current';
  value: string;
}

/** A stretch of running time in which nobody was there, as far as this browser could tell. Nobody else's business: never leaves it. */
export interface UnverifiedTime {
  id: string;
  workspaceId: Id;
  memberId: Id;
  from: number;
  to: number;
  cause: 'asleep' | 'away' | 'closed' | 'beyond';
  /** The person said to leave it as it is. */
  left: boolean;
}

/** A folder of the person's that this browser may write into. */
interface Folder {
  key: 'backups';
  folder: FileSystemDirectoryHandle;
}

/** Private keys of a workspace, by its public signing key: so a workspace that is brought back here finds them. Never part of a file as they are. */
export interface KeptKeys {
  id: string;
  keys: PrivateKeys;
}

/** An invitation that was answered here, until the first job sheet comes. */
export interface AnsweredInvitation {
  /** The member's. */
  id: Id;
  invitation: Invitation;
  keys: PrivateKeys;
  /** The reply went to the studio's mailbox. */
  posted?: true;
}

/** How a shared workspace stands with the relay. */
export type Standing =
  | { kind: 'together'; at: number }
  /** The relay was not reached. */
  | { kind: 'off line'; since: number }
  /** It was, and something is in the way that does not pass by itself. */
  | { kind: 'stopped'; since: number; why: string };

/** A workspace that is on several devices: what this one needs for that, and how it stands. Never part of a file. */
export interface SharedBook {
  /** The workspace's. */
  id: Id;
  book: Id;
  /** Where the relay is. */
  relay: string;
  /** This device's own. */
  keys: PrivateKeys;
  /** The workspace's keys by epoch, each 32 bytes in hex. */
  epochs: [epoch: number, key: string][];
  standing: Standing;
  /** Every receipt is fetched in advance, or each when it is looked at. */
  receipts: 'all' | 'when looked at';
  /** A device was removed, and the key is to be changed. */
  changesKey?: true;
  /** The workspace was begun afresh in this epoch: what is here is older, and is replaced. */
  afreshIn?: number;
  /** This device was removed by another. */
  removed?: true;
  /** Timers that a later start on another device ended, until whoever they were of has seen it. */
  ended?: EndedTimer[];
}

/** A timer that ran here until somebody went on elsewhere. */
export interface EndedTimer {
  /** What it left. */
  entryId: Id;
  /** Where another was started. */
  device: Id;
}

/** Something that came to a mailbox or went from it. */
export interface Travelled {
  at: number;
  /** In a sentence. */
  said: string;
  fault: boolean;
  /** What was refused, so that it is not lost. */
  file?: MadeFile;
}

/** A file that is ready to be sent. */
export interface MadeFile {
  name: string;
  blob: Blob;
}

/** Where a relay keeps sealed files for keys that are in this browser, and how that stands. Never part of a file. */
export interface Mailbox {
  /** The public signing key that it is of. */
  id: string;
  relay: string;
  /** What went last, by what it was about: the same does not go twice. */
  sent: Record<string, string>;
  /** What went and came, the latest first. */
  lately: Travelled[];
  standing: Standing;
  /** When somebody asked to look at once. */
  asked?: number;
}

export class RegistryDatabase extends Dexie {
  folders!: EntityTable<Folder, 'key'>;
  workspaces!: EntityTable<WorkspaceEntry, 'id'>;
  doubts!: EntityTable<UnverifiedTime, 'id'>;
  settings!: EntityTable<Setting, 'key'>;
  keys!: EntityTable<KeptKeys, 'id'>;
  invitations!: EntityTable<AnsweredInvitation, 'id'>;
  shared!: EntityTable<SharedBook, 'id'>;
  mailboxes!: EntityTable<Mailbox, 'id'>;

  constructor() {
    super('half-penny', DURABLE);
    this.version(1).stores({ workspaces: 'id', settings: 'key', doubts: 'id, memberId' });
    this.version(2).stores({ folders: 'key' });
    this.version(3).stores({ keys: 'id', invitations: 'id' });
    this.version(4).stores({ shared: 'id' });
    this.version(5).stores({ mailboxes: 'id' });
  }
}
