import * as z from 'zod';

export const FORMAT = 'half-penny workspace';
export const MANIFEST = 'manifest.json';
export const JOURNAL = 'journal';
/** Where the bytes of a receipt stand, by their hash. */
export const receiptFile = (sha256: string): string => `files/${sha256}`;
export const tableFile = (table: string): string => `tables/${table}.jsonl`;

const hash = z.string().regex(/^[0-9a-f]{64}$/);

/** What a workspace file says of itself; written last, read first. */
export const manifestSchema = z.strictObject({
  format: z.literal(FORMAT),
  /** Version of the records. */
  version: z.int().min(1),
  tables: z.record(z.string(), z.strictObject({ count: z.int().min(0), sha256: hash })),
  files: z.record(z.string(), z.strictObject({ bytes: z.int().min(0) })),
});
export type Manifest = z.infer<typeof manifestSchema>;

/** Stands in a fault for the file as a whole. */
export const WHOLE_FILE = 'file';

/** A place in a workspace file and what is wrong there. */
export interface FileFault {
  file: string;
  /** Counted from 1; null where the fault is not on a line. */
  line: number | null;
  path: string;
  message: string;
}

/** "tables/entries.jsonl:12 seconds: A length is in whole seconds." */
export function showFault({ file, line, path, message }: FileFault): string {
  const place = line === null ? file : `${file}:${line}`;
  return `${place}${path ? ` ${path}` : ''}: ${message}`;
}

/** A file that cannot be imported, with each of its faults. */
export class WorkspaceFileError extends Error {
  readonly faults: readonly FileFault[];
  /** All there were; `faults` stops at the first few hundred. */
  readonly count: number;
  /** All that is wrong is that the bytes of receipts are missing: everything else can be taken in without them. */
  readonly onlyReceipts: boolean;

  constructor(faults: readonly FileFault[], count = faults.length, onlyReceipts = false) {
    super(faults.length === 1 ? faults[0]!.message : `This file has ${count} faults.`);
    this.name = 'WorkspaceFileError';
    this.faults = faults;
    this.count = count;
    this.onlyReceipts = onlyReceipts;
  }
}
