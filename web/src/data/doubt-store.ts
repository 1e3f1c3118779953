import type { UnverifiedTime } from './database';
import { registry } from './registry';

/** Doubts that lie this close together are one. */
const NEAR = 90_000;
const KEPT = 14 * 86_400_000;

/** Notes a stretch in which nobody was there; one that an earlier doubt touches makes that one longer. */
export async function noteDoubt(doubt: Omit<UnverifiedTime, 'id' | 'left'>): Promise<void> {
  await registry.transaction('rw', registry.doubts, async () => {
    const own = await registry.doubts.where('memberId').equals(doubt.memberId).toArray();
    await registry.doubts.bulkDelete(own.filter((each) => each.to < doubt.to - KEPT).map((each) => each.id));
    const near = own.find(
      (each) =>
        !each.left &&
        each.cause !== 'beyond' &&
        each.workspaceId === doubt.workspaceId &&
        each.from <= doubt.to + NEAR &&
        doubt.from <= each.to + NEAR,
    );
    const from = Math.min(doubt.from, near?.from ?? doubt.from);
    const to = Math.max(doubt.to, near?.to ?? doubt.to);
    await registry.doubts.put({ ...doubt, id: near?.id ?? `${doubt.memberId} ${from}`, from, to, left: false });
  });
}

/** The doubt is settled: it is forgotten. */
export const forgetDoubt = (id: string): Promise<void> => registry.doubts.delete(id);
