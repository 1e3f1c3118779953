/** A time-ordered UUID (RFC 9562, version 7), lower case. */
export type Id = string;

/** A UUID of version 7 (RFC 9562), in lower case. */
export const idPattern = /^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/;

/** Hands out the next id. */
export type IdSource = () => Id;

/**
 * Ids that sort by time; within one millisecond they count upwards, so rows made together keep their order.
 *
 * @param now epoch milliseconds
 * @param random fills and returns ten random bytes
 */
export function idSource(now: () => number, random: (bytes: Uint8Array) => Uint8Array): IdSource {
  let last = 0;
  let count = 0;
  return () => {
    const bytes = random(new Uint8Array(10));
    const time = Math.max(now(), last);
    count = time === last ? (count + 1) & 0xfff : 0;
    // A full counter borrows the next millisecond.
    const stamp = time === last && count === 0 ? time + 1 : time;
    last = stamp;
    const hex = (value: number, length: number) => value.toString(16).padStart(length, '0');
    const tail = [...bytes.subarray(2)];
    tail[0] = (tail[0]! & 0x3f) | 0x80;
    const rest = tail.map((byte) => hex(byte, 2)).join('');
    const head = hex(stamp, 12);
    return `${head.slice(0, 8)}-${head.slice(8)}-7${hex(count, 3)}-${rest.slice(0, 4)}-${rest.slice(4)}`;
  };
}

/** When an id was handed out, in epoch milliseconds (RFC 9562, 5.7). @example momentOfId('01a1cfaa-35a2-7000-9e89-7a26c300fda9') // → 1794485400994 */
export const momentOfId = (id: Id): number => parseInt(id.replaceAll('-', '').slice(0, 12), 16);
