import type { Activity } from '@half-penny/core/capture';

/** The page in front, as the browser tells it. */
export interface Page {
  title: string;
  address: string;
}

/** What is followed at the moment; it outlives the background page, which the browser ends whenever it likes. */
export interface Following {
  page: Page;
  from: number;
  /** Until when it was surely in front. */
  seen: number;
}

export interface FollowerState {
  following: Following | null;
  /** Since when nobody touched anything; null while somebody does. */
  awayFrom: number | null;
}
export const NOTHING: FollowerState = { following: null, awayFrom: null };

/** What goes on is told of so often, so that little is lost when the browser ends. */
const AT_LEAST_EVERY = 60_000;
/** Looked at twice a minute: what was not for longer was not there, as when the computer slept. */
const LONGEST_UNSEEN = 150_000;

/**
 * Follows the page in front from one look to the next.
 *
 * @param front the page that is in front now; null where the browser is not, or it is a page of its own
 * @returns what is to be followed from now on, and what there is to tell
 */
export function follow(
  state: FollowerState,
  front: Page | null,
  now: number,
  program: string,
): { state: FollowerState; told: Activity[] } {
  const { following } = state;
  const same = following && front && following.page.title === front.title && following.page.address === front.address;
  const slept = following !== null && now - following.seen > LONGEST_UNSEEN;
  if (same && !slept && now - following.from < AT_LEAST_EVERY)
    return { state: { ...state, following: { ...following, seen: now } }, told: [] };
  const end = following && (slept ? following.seen : now);
  const told: Activity[] =
    following && end! > following.from
      ? [
          {
            kind: 'window',
            from: following.from,
            to: end!,
            program,
            ...(following.page.title ? { title: following.page.title } : {}),
            address: following.page.address,
          },
        ]
      : [];
  return { state: { ...state, following: front ? { page: front, from: now, seen: now } : null }, told };
}

/** Follows whether anybody is there. `since` is when something was last touched. */
export function followAway(
  state: FollowerState,
  isThere: boolean,
  since: number,
): { state: FollowerState; told: Activity[] } {
  const { awayFrom } = state;
  if (!isThere) return { state: { ...state, awayFrom: awayFrom ?? since }, told: [] };
  const told: Activity[] = awayFrom === null ? [] : [{ kind: 'away', from: awayFrom, to: Math.max(awayFrom, since) }];
  return { state: { ...state, awayFrom: null }, told };
}

/** Addresses of pages that are told: of sites, and of files that are looked at. */
export const isTold = (address: string): boolean => /^(?:https?|file):/.test(address);

/** What a page is called; nothing until it has come, as browsers call it by its address till then. */
export function titleOf(title: string, address: string): string {
  const bare = (text: string) => text.replace(/^(?:[a-z]+:\/\/)?(?:www\.)?/, '');
  const host = /^[^/?#]+[/?#]/.exec(bare(address))?.[0];
  return host !== undefined && `${bare(title)}/`.startsWith(host) ? '' : title;
}
