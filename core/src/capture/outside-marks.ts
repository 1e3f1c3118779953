import type { Id } from '../model/ids';
import { siteOf, type Subject } from './subject';

/** A task that follows one from elsewhere, and what that is known by in titles and addresses. */
export interface OutsideMark {
  projectId: Id;
  taskId: Id;
  /** "QP-31"; empty where it has none. */
  number: string;
  /** Its page; empty where it has none. */
  address: string;
}

/** What was touched, and by what it is told. */
export interface Touched {
  mark: OutsideMark;
  why: string;
}

/** "QP-31" with its mark, or "#31". */
const NUMBERS = /#\d+|[\p{L}\p{N}]+(?:[-_/.][\p{L}\p{N}]+)*/gu;

/** Tells which task from elsewhere something was about, by its number or its page. What several are known by tells of none. */
export class OutsideMarks {
  readonly #numbers = new Map<string, OutsideMark | null>();
  readonly #pages = new Map<string, OutsideMark | null>();

  constructor(marks: readonly OutsideMark[]) {
    for (const mark of marks) {
      put(this.#numbers, numberKey(mark.number), mark);
      put(this.#pages, pageKey(mark.address), mark);
    }
  }

  /** The task whose page or number is in what was looked at; null where there is none, or several. */
  of({ title, thread, file, address }: Subject): Touched | null {
    if (this.#numbers.size + this.#pages.size === 0) return null;
    const page = address ? this.#ofPage(address) : null;
    if (page) return { mark: page, why: `it is the page of ${page.number || 'this task'}` };
    const found = new Set<OutsideMark>();
    for (const word of `${thread || title} ${file} ${address}`.toLowerCase().match(NUMBERS) ?? []) {
      // "QP-31.lgp" and "qp-31/plan" have the number in a longer word.
      for (const part of word.split(/[/.]/)) {
        const mark = this.#numbers.get(part);
        if (mark) found.add(mark);
      }
    }
    const [mark, other] = found;
    return mark && !other ? { mark, why: `${mark.number} stands in it` } : null;
  }

  /** By the address itself, or by one that it lies under. */
  #ofPage(address: string): OutsideMark | null {
    for (let key = pageKey(address); key.includes('/'); key = key.slice(0, Math.max(key.lastIndexOf('/'), 0))) {
      const mark = this.#pages.get(key);
      if (mark !== undefined) return mark;
      const bare = key.replace(/\?.*$/, '');
      const plain = bare === key ? undefined : this.#pages.get(bare);
      if (plain !== undefined) return plain;
    }
    return null;
  }
}

function put(marks: Map<string, OutsideMark | null>, key: string, mark: OutsideMark): void {
  if (key === '') return;
  const known = marks.get(key);
  marks.set(key, known === undefined || known?.taskId === mark.taskId ? mark : null);
}

/** A number is told apart from any other figures by letters, or by the sign in front: "#31". Of bare figures only that is looked for. */
function numberKey(number: string): string {
  const bare = number.trim().toLowerCase();
  if (/^#?\d+$/.test(bare)) return `#${bare.replace('#', '')}`;
  return /\d/.test(bare) && /^[\p{L}\p{N}_-]+$/u.test(bare) ? bare : '';
}

/** An address without what differs between two visits of one page. */
function pageKey(address: string): string {
  if (address.trim() === '') return '';
  const path = address.trim().replace(/^[a-z]+:\/\/[^/?#]*/i, '');
  return `${siteOf(address.trim())}${path.replace(/#.*$/, '').replace(/\/+$/, '')}`.toLowerCase();
}
