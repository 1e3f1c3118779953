import type { Id } from '../model/ids';
import type { Day } from '../time/day';
import type { RateDecision } from './rate-decision';

/** What decides by date, ascending, with the dates as numbers: they are searched for every entry. */
export interface Timeline {
  froms: Int32Array;
  decided: readonly RateDecision[];
}

const SERVICES = 16;

/**
 * Timelines by place, member and service. Ids are numbered as they are met, and each place has one flat table: for a million entries a
 * walk through maps of maps would wait for the memory most of the time.
 */
export class TimelineCache {
  readonly #placeNumbers = new Map<Id, number>();
  readonly #memberNumbers = new Map<Id, number>();
  readonly #serviceNumbers = new Map<Id | null, number>();
  #services = SERVICES;
  #tables: (Int32Array | undefined)[] = [];
  readonly #timelines: Timeline[] = [];
  #table = 0;

  /** The cell of a place, member and service; valid until the next one is asked for. */
  placeOf(placeId: Id, memberId: Id, serviceId: Id | null): number {
    const service = numbered(this.#serviceNumbers, serviceId);
    if (service >= this.#services) {
      // More services than a row has room for: begin again with wider rows.
      this.#services *= 2;
      this.#tables = [];
    }
    this.#table = numbered(this.#placeNumbers, placeId);
    return numbered(this.#memberNumbers, memberId) * this.#services + service;
  }

  at(cell: number): Timeline | undefined {
    const table = this.#tables[this.#table];
    return table && cell < table.length ? this.#timelines[table[cell]! - 1] : undefined;
  }

  put(cell: number, timeline: Timeline): Timeline {
    let table = this.#tables[this.#table];
    if (!table || cell >= table.length) {
      const wider = new Int32Array(Math.max(cell + 1, this.#memberNumbers.size * this.#services));
      if (table) wider.set(table);
      this.#tables[this.#table] = table = wider;
    }
    this.#timelines.push(timeline);
    table[cell] = this.#timelines.length;
    return timeline;
  }
}

function numbered<Key>(numbers: Map<Key, number>, key: Key): number {
  let number = numbers.get(key);
  if (number === undefined) numbers.set(key, (number = numbers.size));
  return number;
}

/** The timeline of what has no rate on any day. */
export const NOTHING: Timeline = { froms: new Int32Array(0), decided: [] };

/** "2026-11-12" → 20261112. */
export function numberOf(day: Day): number {
  let number = 0;
  for (let i = 0; i < 10; i++) {
    if (i !== 4 && i !== 7) number = number * 10 + day.charCodeAt(i) - 48;
  }
  return number;
}

/** The last that is not after a day, by halving: there may be one for every day that currencies are quoted on. */
export function latestOn({ froms, decided }: Timeline, day: Day): RateDecision | null {
  let high = froms.length;
  if (high === 0) return null;
  const number = numberOf(day);
  let low = froms[high - 1]! <= number ? high : 0;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (froms[middle]! <= number) low = middle + 1;
    else high = middle;
  }
  return low === 0 ? null : decided[low - 1]!;
}
