import type { Settlement } from '../engine/scratch';
import type { Transaction } from '../engine/store';
import type { Share } from './share';

/** A transaction on a workspace that may be shared: the workspace and where it stands in the log change together or not at all. */
export interface SharedTransaction extends Transaction {
  /** Null where the workspace is not shared. */
  share(): Promise<Share | null>;
  /** Makes the workspace what it has to become, and keeps where it stands. One call ends a transaction. */
  settle(settlement: Settlement | null, share: Share): Promise<void>;
}

/** @throws Error where the workspace is not shared */
export async function needShare(tx: SharedTransaction): Promise<Share> {
  const share = await tx.share();
  if (!share) throw new Error('This workspace is not shared.');
  return share;
}
