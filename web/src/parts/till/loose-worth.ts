import type { Pricer } from '@half-penny/core/billing';
import { blankEntry } from '@half-penny/core/entries';
import type { Entry, Member } from '@half-penny/core/model';
import { showAbout, sumExact } from '@half-penny/core/money';
import type { Day } from '@half-penny/core/time';
import type { WorthSeen } from '../../data/worth-seen';

/** What loose stretches are worth if they are what is offered, in the workspace's currency; to whoever may see it. */
export function worthOfLoose(
  pricer: Pricer,
  seen: WorthSeen,
  member: Member,
  workspaceId: string,
  rows: readonly {
    stretch: { id: string; day: Day; seen: number; spans: Entry['spans'] };
    offer: { outcome: object } | null;
  }[],
): string {
  const { currency } = pricer.book.workspace;
  const offered = rows.flatMap(({ stretch, offer }) => {
    const outcome = offer?.outcome as { act: string; workspaceId?: string; projectId?: string | null } | undefined;
    if (outcome?.act !== 'place' || outcome.workspaceId !== workspaceId) return [];
    const seconds = Math.max(1, Math.floor(stretch.seen / 1000));
    const { id, day } = stretch;
    return [blankEntry({ id, memberId: member.id, day, seconds, projectId: outcome.projectId ?? null })];
  });
  const own = seen.of(pricer, offered).filter((each) => each.price?.currency === currency);
  const sum = sumExact(own.map((each) => each.amount));
  return sum > 0 ? showAbout(sum, currency) : '';
}
