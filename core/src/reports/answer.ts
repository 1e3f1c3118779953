import { Fault } from '../faults/fault';
import type { Day } from '../time/day';
import type { Dimension, BaseMeasure } from './column-store/dimensions';
import type { FactTable } from './column-store/fact-table';
import { Aggregator, type Level, type FilterMask } from './column-store/aggregator';
import type { Definition, ReportFilter } from './definition';
import { dayNumber } from './facts';
import { placeEntries, sayEntry } from './entries';
import { fields, wordOf, type FieldName } from './fields';
import { baseMeasuresOf, measureOf, measures as allMeasures, type MeasureName } from './measures';
import { rangeBefore, rangeOf, rangeYearBefore, type Range } from './when';
import type { Dictionaries } from './dictionaries';

/** A line of a report: a group with all that is in it. The first is the whole. */
export interface AnswerRow {
  /** 0 for the whole. */
  depth: number;
  key: string;
  label: string;
}

export interface AnswerColumn {
  key: string;
  label: string;
}

/** What a report says. */
export interface ReportResult {
  definition: Definition;
  range: Range | null;
  /** The days it is compared with. */
  against: Range | null;
  /** Each group before the groups in it. */
  rows: AnswerRow[];
  /** The last is all of them together; it is the only one where rows are not split by a period. */
  columns: AnswerColumn[];
  /** Currencies that money is in, the studio's first. Sums of different ones are never put together. */
  currencies: string[];
  baseMeasures: BaseMeasure[];
  /** Sums of base measures: by row, column, currency and measure, in that order. */
  sums: Float64Array;
  /** The same of the days it is compared with, in the column of all. */
  before: Float64Array | null;
}

/** Figures of a report at most: what no screen shows and no memory should hold. */
const MOST_FIGURES = 20_000_000;

/** A level with what its codes stand for. */
interface NamedLevel extends Level {
  field: FieldName;
  keys: string[];
  labels: string[];
  /** Place of each code in the order that groups stand in. */
  ranks: Int32Array;
}

const collator = new Intl.Collator('en', { numeric: true });

const sizeOf = (words: Dictionaries, dimension: Dimension): number =>
  dimension === 'day' || dimension === 'hour' ? 0 : words.of(dimension).size;

/** A field's groups among the codes there are now. */
export function levelOf(words: Dictionaries, name: FieldName, days: Range | null): NamedLevel {
  const { dimension, key: keyOf, show, none, rank } = fields[name];
  const isDay = dimension === 'day';
  const count = isDay ? dayNumber(days?.to ?? '') + 1 : dimension === 'hour' ? 25 : words.of(dimension).size;
  const first = isDay ? dayNumber(days?.from ?? '') : 1;
  const byKey = new Map<string, number>([['', 0]]);
  const keys = [''];
  const map = new Int32Array(count);
  for (let code = first; code < count; code++) {
    const key = keyOf(words, wordOf(words, dimension, code));
    let own = byKey.get(key);
    if (own === undefined) {
      own = keys.push(key) - 1;
      byKey.set(key, own);
    }
    map[code] = own;
  }
  const labels = keys.map((key) => (key === '' ? none : show(words, key)));
  const places = keys.map((key, code) => ({ code, place: key === '' ? null : (rank?.(words, key) ?? labels[code]!) }));
  // What has none comes last.
  places.sort((a, b) => {
    if (a.place === null || b.place === null) return a.place === null ? 1 : -1;
    return typeof a.place === 'number' && typeof b.place === 'number'
      ? a.place - b.place
      : collator.compare(String(a.place), String(b.place));
  });
  const ranks = new Int32Array(keys.length);
  places.forEach(({ code }, index) => (ranks[code] = index));
  const plain = map.every((own, code) => own === code);
  return { field: name, dimension, map: plain ? null : map, size: keys.length, keys, labels, ranks };
}

/** What can be asked of a field in a filter, in the order that its groups stand in. */
export function choicesOf(words: Dictionaries, field: FieldName, days: Range | null): { key: string; label: string }[] {
  const { keys, labels, ranks } = levelOf(words, field, days);
  const { within } = fields[field];
  const groups = keys
    .map((key, code) => ({ key, label: labels[code]!, rank: ranks[code]! }))
    .sort((a, b) => a.rank - b.rank)
    .map(({ key, label }) => ({ key, label }));
  if (!within) return groups;
  const parts = new Set(groups.flatMap(({ key }) => (key === '' ? [] : within(key))));
  return [
    ...[...parts].sort(collator.compare).map((key) => ({ key, label: key })),
    ...groups.filter(({ key }) => key === ''),
  ];
}

/** What passes a filter. Keys that nothing has any more pass nothing. */
export function maskOf(words: Dictionaries, { field, keys, without }: ReportFilter, days: Range | null): FilterMask {
  const level = levelOf(words, field, days);
  const wanted = new Set(keys);
  const { within } = fields[field];
  const isWanted = (key: string) => (within ? within(key).some((each) => wanted.has(each)) : wanted.has(key));
  const passes = new Uint8Array(level.map?.length ?? level.size);
  for (let code = 0; code < passes.length; code++) {
    passes[code] = isWanted(level.keys[level.map ? level.map[code]! : code]!) !== without ? 1 : 0;
  }
  return { dimension: level.dimension, passes };
}

function dayMask(range: Range, last: number): FilterMask {
  const passes = new Uint8Array(last + 1);
  passes.fill(1, Math.max(0, dayNumber(range.from)), Math.min(last, dayNumber(range.to)) + 1);
  // What has no day lies in no period.
  passes[0] = 0;
  return { dimension: 'day', passes };
}

export interface ReportQuery {
  definition: Definition;
  /** The day it is run on. */
  runOn: Day;
}

/** The first and last day that facts are of. */
export function daysOf(table: FactTable): Range | null {
  let [first, last] = [Infinity, 0];
  for (const { codes, length } of table.chunks) {
    const days = codes.day;
    if (!days) continue;
    for (let i = 0; i < length; i++) {
      const day = days[i]!;
      if (day === 0) continue;
      if (day < first) first = day;
      if (day > last) last = day;
    }
  }
  if (last === 0) return null;
  const text = (day: number) => new Date(day * 86_400_000).toISOString().slice(0, 10);
  return { from: text(first), to: text(last) };
}

/**
 * A report that is open: what it asks, made ready for the columns, and the sums so far. It follows changes by taking off what was there
 * and adding what is there now.
 */
export class OpenReport {
  readonly definition: Definition;
  readonly range: Range | null;
  readonly against: Range | null;
  readonly #words: Dictionaries;
  readonly #levels: NamedLevel[];
  readonly #measures: BaseMeasure[];
  readonly #tally: Aggregator;
  readonly #before: Aggregator | null;
  /** The facts it was run over. */
  #table: FactTable | null = null;
  /** How many words there were of each kind that it asks about, and the days there were facts of. */
  readonly #made: { sizes: ReadonlyMap<Dimension, number>; days: Range | null };

  /** @throws Fault for a period that ends before it starts */
  constructor(words: Dictionaries, days: Range | null, { definition, runOn }: ReportQuery) {
    const { workspace } = words.pricer.book;
    this.#words = words;
    this.definition = definition;
    this.range = rangeOf(definition.when, runOn, workspace);
    this.against =
      definition.compare === null || !this.range
        ? null
        : definition.compare === 'before'
          ? rangeBefore(this.range)
          : rangeYearBefore(this.range);
    const bounds = this.range && !this.against ? this.range : days;
    const all = definition.columns === null ? definition.rows : [...definition.rows, definition.columns];
    // Days beyond the last are of no fact; a level of days needs no more room than there are.
    // Where all money is of one currency there is nothing to keep apart.
    const currency = words.of('currency').size > 2 ? (['currency'] as const) : [];
    this.#levels = [...all, ...currency].map((name) => levelOf(words, name, widest(days, bounds)));
    this.#measures = baseMeasuresOf(
      definition.sortBy ? [...definition.measures, definition.sortBy] : definition.measures,
    );
    const filters = definition.filters.map((filter) => maskOf(words, filter, days));
    const asked = [...this.#levels, ...filters].map((each) => each.dimension);
    this.#made = { sizes: new Map(asked.map((dimension) => [dimension, sizeOf(words, dimension)])), days };
    const last = dayNumber(days?.to ?? '');
    const tally = (range: Range | null) =>
      new Aggregator(this.#levels, [...(range ? [dayMask(range, last)] : []), ...filters], this.#measures);
    this.#tally = tally(this.range);
    this.#before = this.against && tally(this.against);
  }

  /** Whether there are words or days now that it knows nothing of: then it has to be asked again. */
  isStale(days: Range | null): boolean {
    const { sizes, days: known } = this.#made;
    if (days?.from !== known?.from || days?.to !== known?.to) return true;
    return [...sizes].some(([dimension, size]) => sizeOf(this.#words, dimension) !== size);
  }

  /** The base measures that it adds up. */
  get baseMeasures(): readonly BaseMeasure[] {
    return this.#measures;
  }

  /** Adds up all facts, telling the share done after each part. */
  *run(table: FactTable): Generator<number, void> {
    this.#table = table;
    for (const level of this.#levels) if (level.field === 'entry') placeEntries(level, this.#words, table);
    const half = this.#before ? 0.5 : 1;
    for (const share of this.#tally.addAll(table)) yield share * half;
    if (this.#before) for (const share of this.#before.addAll(table)) yield 0.5 + share / 2;
  }

  /** Adds rows that came, or takes off rows that are about to go. */
  follow(table: FactTable, rows: readonly number[], sign: 1 | -1): void {
    this.#tally.addRows(table, rows, sign);
    this.#before?.addRows(table, rows, sign);
  }

  /** Rows of the facts behind a line, all of a column or all in all. */
  behind(table: FactTable, path: readonly string[], column: string | null, most: number): number[] {
    const wanted = [...path.map((key, index) => [index, key] as const)];
    if (column !== null) wanted.push([this.definition.rows.length, column]);
    const codes = wanted.map(([index, key]) => [index, this.#levels[index]!.keys.indexOf(key)] as const);
    // Groups that the rows of this question fall in and no sum has met yet cannot be: it was run before.
    const fits = (group: number) => {
      const own = this.#tally.codesOf(group);
      return codes.every(([index, code]) => own[index] === code);
    };
    const known = new Map<number, boolean>();
    const cached = (group: number) => {
      let answer = known.get(group);
      if (answer === undefined) known.set(group, (answer = fits(group)));
      return answer;
    };
    return this.#tally.rowsIn(table, cached, most);
  }

  /**
   * The lines and figures as they are now.
   *
   * @throws Fault when there are more figures than can be shown
   */
  answer(): ReportResult {
    const { definition } = this;
    const depth = definition.rows.length;
    const split = definition.columns !== null;
    const [rowLevels, columnLevel] = [this.#levels.slice(0, depth), split ? this.#levels[depth]! : null];
    const currencies = this.#currencies();
    const tree = new RowTree(rowLevels);
    const columns = columnLevel ? this.#columns(columnLevel) : { list: [], places: new Map<number, number>() };
    const list = [...columns.list, { key: '', label: 'All' }];
    const width = list.length * currencies.codes.length * this.#measures.length;
    const leaves = this.#leaves(this.#tally, tree);
    const leavesBefore = this.#before ? this.#leaves(this.#before, tree) : null;
    if ((tree.count + 1) * width > MOST_FIGURES) {
      throw new Fault(
        'too-large',
        `This report has ${tree.count} lines of ${list.length} columns each, more than can be shown. Leave out a level, or split it by a longer period.`,
        'rows',
        { rows: tree.count, columns: list.length },
      );
    }
    const shape = {
      width,
      ofColumn: currencies.codes.length * this.#measures.length,
      ofCurrency: this.#measures.length,
      last: list.length - 1,
      columnOf: (codes: readonly number[]) => (columnLevel ? columns.places.get(codes[depth]!) : undefined),
      currencyOf: (codes: readonly number[]) => currencies.places.get(codes[codes.length - 1]!) ?? 0,
    };
    const sums = summed(this.#tally, leaves, tree, shape);
    const before = this.#before && leavesBefore ? summed(this.#before, leavesBefore, tree, shape) : null;
    const rest = { definition, range: this.range, against: this.against, columns: list, baseMeasures: this.#measures };
    const unordered: ReportResult = { ...rest, rows: [], currencies: currencies.list, sums, before };
    const order = tree.ordered(this.#worthShowing(unordered, tree.count), this.#sortKey(unordered));
    return {
      ...unordered,
      rows: order.map((node) => this.#named(tree.rowOf(node))),
      sums: picked(sums, order, width),
      before: before && picked(before, order, width),
    };
  }

  /** A single entry is told by its day and what it says, which its facts know. */
  #named(row: AnswerRow): AnswerRow {
    if (row.key === '' || this.definition.rows[row.depth - 1] !== 'entry' || !this.#table) return row;
    return { ...row, label: sayEntry(this.#words, this.#table, row.key) };
  }

  #leaves(tally: Aggregator, tree: RowTree): Leaf[] {
    const found: Leaf[] = [];
    for (let group = 0; group < tally.count; group++) {
      if (tally.facts[group] === 0) continue;
      const codes = tally.codesOf(group);
      found.push({ group, codes, node: tree.nodeOf(codes) });
    }
    return found;
  }

  /** Currencies that figures are in; that of the studio first. */
  #currencies(): { list: string[]; codes: number[]; places: Map<number, number> } {
    const own = this.#words.pricer.book.workspace.currency;
    const level = this.#levels.at(-1);
    const isMoneyAsked = this.definition.measures.some((name) => measureOf(name).kind.startsWith('money'));
    // Without money in it, a report needs no currencies to tell figures apart.
    if (level?.field !== 'currency' || !isMoneyAsked) {
      const only = this.#words.of('currency').size === 2 ? this.#words.of('currency').word(1) : own;
      return { list: [only], codes: [0], places: new Map() };
    }
    const used = this.#codesAt(this.#levels.length - 1, [this.#tally, this.#before]).filter((code) => code !== 0);
    const place = (code: number) => (level.keys[code] === own ? '' : level.keys[code]!);
    const codes = used.sort((a, b) => (place(a) < place(b) ? -1 : 1));
    if (codes.length === 0) return { list: [own], codes: [0], places: new Map() };
    const places = new Map(codes.map((code, index) => [code, index]));
    return { list: codes.map((code) => level.keys[code]!), codes, places };
  }

  /** Codes of a level in which anything that is asked for is something. */
  #codesAt(level: number, tallies: readonly (Aggregator | null)[]): number[] {
    const used = new Set<number>();
    for (const tally of tallies) {
      for (let group = 0; tally && group < tally.count; group++) {
        const isAny = tally.facts[group] !== 0 && tally.sums.some((sums) => sums[group] !== 0);
        if (isAny) used.add(tally.codesOf(group)[level]!);
      }
    }
    return [...used];
  }

  #columns(level: NamedLevel) {
    // Columns are those of the period itself: what it is compared with has others, and stands beside the whole alone.
    const codes = this.#codesAt(this.definition.rows.length, [this.#tally]).sort(
      (a, b) => level.ranks[a]! - level.ranks[b]!,
    );
    return {
      list: codes.map((code) => ({ key: level.keys[code]!, label: level.labels[code]! })),
      places: new Map(codes.map((code, index) => [code, index])),
    };
  }

  /** Lines in which nothing that was asked for is anything are left out. */
  #worthShowing(answer: ReportResult, count: number): Uint8Array {
    const { baseMeasures, sums, before, definition } = answer;
    const places = answer.columns.length * answer.currencies.length;
    // Most measures are sums as they stand, and can be looked at without computing.
    const plain = definition.measures.filter((each) => measureOf(each).needs.length === 1);
    const own = plain.map((each) => baseMeasures.indexOf(measureOf(each).needs[0]!));
    const others = definition.measures.filter((each) => !plain.includes(each));
    const shown = new Uint8Array(count);
    shown[0] = 1;
    for (let node = 1; node < count; node++) {
      for (let place = node * places; place < (node + 1) * places && !shown[node]; place++) {
        for (let m = 0; m < own.length; m++) {
          const at = place * baseMeasures.length + own[m]!;
          if (sums[at] !== 0 || (before !== null && before[at] !== 0)) shown[node] = 1;
        }
      }
      if (!shown[node] && others.some((each) => isAnything(answer, each, node))) shown[node] = 1;
    }
    return shown;
  }

  #sortKey(answer: ReportResult): ((node: number) => number) | null {
    const { sortBy } = this.definition;
    if (sortBy === null) return null;
    return (node) => figureAt(answer, sortBy, node, answer.columns.length - 1, 0) ?? -Infinity;
  }
}

/** How the figures of a line stand one after the other. */
interface Shape {
  width: number;
  ofColumn: number;
  ofCurrency: number;
  /** The column of all. */
  last: number;
  columnOf(codes: readonly number[]): number | undefined;
  currencyOf(codes: readonly number[]): number;
}

/** The sums of every line: each group's figures put on its own line and all those it is in. */
function summed(tally: Aggregator, leaves: readonly Leaf[], tree: RowTree, shape: Shape): Float64Array {
  const sums = new Float64Array(tree.count * shape.width);
  const { parents } = tree;
  for (const { group, node, codes } of leaves) {
    const column = shape.columnOf(codes);
    const inLine = shape.currencyOf(codes) * shape.ofCurrency;
    for (let m = 0; m < shape.ofCurrency; m++) {
      const value = tally.sums[m]![group]!;
      if (value === 0) continue;
      for (let at = node; at >= 0; at = parents[at]!) {
        const place = at * shape.width + inLine + m;
        sums[place + shape.last * shape.ofColumn]! += value;
        if (column !== undefined) sums[place + column * shape.ofColumn]! += value;
      }
    }
  }
  return sums;
}

interface Leaf {
  group: number;
  codes: number[];
  node: number;
}

const widest = (a: Range | null, b: Range | null): Range | null =>
  a && b ? { from: a.from < b.from ? a.from : b.from, to: a.to } : (a ?? b);

function picked(sums: Float64Array, order: readonly number[], width: number): Float64Array {
  const kept = new Float64Array(order.length * width);
  order.forEach((node, index) => kept.set(sums.subarray(node * width, (node + 1) * width), index * width));
  return kept;
}

/** Groups within groups; the whole is node 0. */
class RowTree {
  readonly parents: number[] = [-1];
  readonly #codes: number[] = [0];
  readonly #depths: number[] = [0];
  /** Null for those that nothing lies under. */
  readonly #nodes: (Map<number, number> | null)[] = [new Map()];
  readonly #levels: readonly NamedLevel[];

  constructor(levels: readonly NamedLevel[]) {
    this.#levels = levels;
  }

  get count(): number {
    return this.parents.length;
  }

  nodeOf(codes: readonly number[]): number {
    let node = 0;
    for (let depth = 0; depth < this.#levels.length; depth++) {
      const under = this.#nodes[node]!;
      let next = under.get(codes[depth]!);
      if (next === undefined) {
        next = this.parents.push(node) - 1;
        this.#codes.push(codes[depth]!);
        this.#depths.push(depth + 1);
        this.#nodes.push(depth + 1 < this.#levels.length ? new Map<number, number>() : null);
        under.set(codes[depth]!, next);
      }
      node = next;
    }
    return node;
  }

  rowOf(node: number): AnswerRow {
    const depth = this.#depths[node]!;
    if (depth === 0) return { depth, key: '', label: 'All' };
    const level = this.#levels[depth - 1]!;
    const code = this.#codes[node]!;
    return { depth, key: level.keys[code]!, label: level.labels[code]! };
  }

  /** Nodes that are shown, each before those under it. */
  ordered(shown: Uint8Array, sortKey: ((node: number) => number) | null): number[] {
    const order: number[] = [];
    const visit = (node: number) => {
      order.push(node);
      const nodes = this.#nodes[node];
      if (!nodes) return;
      const under = [...nodes.values()].filter((each) => shown[each]);
      const ranks = this.#levels[this.#depths[node]!]?.ranks;
      const byRank = (a: number, b: number) => ranks![this.#codes[a]!]! - ranks![this.#codes[b]!]!;
      under.sort(sortKey ? (a, b) => sortKey(b) - sortKey(a) || byRank(a, b) : byRank);
      for (const each of under) visit(each);
    };
    visit(0);
    return order;
  }
}

/** Whether a measure is anything in a line, in any column and currency, now or before. */
function isAnything(answer: ReportResult, measure: MeasureName, node: number): boolean {
  for (let column = answer.columns.length - 1; column >= 0; column--) {
    for (let currency = 0; currency < answer.currencies.length; currency++) {
      if (figureAt(answer, measure, node, column, currency)) return true;
      if (figureAt(answer, measure, node, column, currency, answer.before)) return true;
    }
  }
  return false;
}

/** A figure of a report: of a row, a column and a currency. */
export function figureAt(
  answer: ReportResult,
  measure: MeasureName,
  row: number,
  column = answer.columns.length - 1,
  currency = 0,
  sums: Float64Array | null = answer.sums,
): number | null {
  if (!sums) return null;
  const { baseMeasures, currencies, columns } = answer;
  const { kind, of } = measureOf(measure);
  const isMoney =
    kind === 'money' || kind === 'money an hour' || measure === 'realisation' || measure === 'margin percent';
  return of((measured) => {
    const m = baseMeasures.indexOf(measured);
    if (m < 0) return 0;
    const at = (c: number) => ((row * columns.length + column) * currencies.length + c) * baseMeasures.length + m;
    // Hours are of no currency, and those of all are one sum; but a price an hour is of the hours that were priced in its money.
    if (isMoney && (kind === 'money an hour' || allMoney.has(measured))) return sums[at(currency)]!;
    let sum = 0;
    for (let c = 0; c < currencies.length; c++) sum += sums[at(c)]!;
    return sum;
  });
}

const allMoney: ReadonlySet<string> = new Set(
  Object.values(allMeasures)
    .flatMap((each) => (each.kind === 'money' ? each.needs : []))
    .concat(['invoicedTime']),
);
