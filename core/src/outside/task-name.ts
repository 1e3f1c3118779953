/** What the studio calls a task from elsewhere: "QP-31 Refocus the bridge". */
export const taskNameOf = ({ number, title }: { number: string; title: string }): string =>
  [number, title]
    .map((part) => part.trim())
    .filter(Boolean)
    .join(' ') || 'Task without a title';

/**
 * What a field of the studio's own record becomes after what it follows changed. What somebody set otherwise meanwhile stays.
 *
 * @param own as it stands here
 * @param before what the list told last
 * @param after what it tells now
 */
export const followed = <T>(own: T, before: T, after: T): T => (own === before ? after : own);
