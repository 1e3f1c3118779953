import type { Id } from '../model/ids';
import type { CostRate, Member } from '../model/records';
import type { Day } from '../time/day';

/** What members cost: the narrowest of member, role and anybody, of several dates the latest not after the day. */
export class CostRates {
  readonly #rows: readonly CostRate[];
  readonly #members: ReadonlyMap<Id, Pick<Member, 'role'>>;
  readonly #known = new Map<Id, readonly CostRate[]>();

  constructor(rows: readonly CostRate[], members: ReadonlyMap<Id, Pick<Member, 'role'>>) {
    this.#rows = rows;
    this.#members = members;
  }

  /** The cost rate of a member's work on a day, or null where none is set. */
  on(memberId: Id, day: Day): CostRate | null {
    return this.of(memberId).find((row) => row.from <= day) ?? null;
  }

  /** All rows that can hold for a member: narrowest first, within one the latest date first. */
  of(memberId: Id): readonly CostRate[] {
    let rows = this.#known.get(memberId);
    if (!rows) {
      const role = this.#members.get(memberId)?.role;
      rows = this.#rows
        .filter((row) => (row.memberId ?? memberId) === memberId && (row.role ?? role) === role)
        .sort((a, b) => narrowness(b) - narrowness(a) || (a.from < b.from ? 1 : a.from > b.from ? -1 : 0));
      this.#known.set(memberId, rows);
    }
    return rows;
  }
}

const narrowness = (row: CostRate): number => (row.memberId !== null ? 2 : row.role !== null ? 1 : 0);
