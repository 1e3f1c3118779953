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

/** The version of what is worked out of the records and kept beside them, a tenth of theirs each. */
const WORKED_OUT = 0.1;

/** One workspace in this browser: the model's tables and the journal. */
export class WorkspaceDatabase extends Dexie {
  journal!: Table<JournalRow, [Id, number]>;
  /** The bytes of receipts, apart from the rows that tell of them. */
  files!: EntityTable<StoredBlob, 'sha256'>;
  /** Entries that are not settled; worked out of the tables, and in no file. */
  unsettled!: EntityTable<UnsettledEntry, 'id'>;

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
    this.version((steps.at(-1)?.from ?? 0) + 1 + WORKED_OUT).stores({ ...stores, unsettled: 'id, projectId' });
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
}

export class RegistryDatabase extends Dexie {
  folders!: EntityTable<Folder, 'key'>;
  workspaces!: EntityTable<WorkspaceEntry, 'id'>;
  doubts!: EntityTable<UnverifiedTime, 'id'>;
  settings!: EntityTable<Setting, 'key'>;
  keys!: EntityTable<KeptKeys, 'id'>;
  invitations!: EntityTable<AnsweredInvitation, 'id'>;

  constructor() {
    super('half-penny', DURABLE);
    this.version(1).stores({ workspaces: 'id', settings: 'key', doubts: 'id, memberId' });
    this.version(2).stores({ folders: 'key' });
    this.version(3).stores({ keys: 'id', invitations: 'id' });
  }
}
