import { Fault, messageOf } from '@half-penny/core/model';
import type { ToldClient, ToldTask } from '@half-penny/core/outside';
import { columnName, type Cell, type Table, type TableFault } from '../hours/table';
import { oneLine } from '../ledger/lines';
import { readEstimate } from '../work/estimate';

/** What a table of tasks or clients tells, and the rows that could not be read. */
export interface ListReading<Told> {
  told: Told[];
  faults: TableFault[];
}

type Heads = readonly (readonly [field: string, telling: RegExp])[];

/** Words in a head that tell what a column of tasks means; the earlier field takes a column first. */
const TASK_HEADS: Heads = [
  ['id', /^(?:id|uid|key|reference)$/i],
  ['address', /address|url|link/i],
  ['number', /^(?:#|no\.?|nr\.?)$|number/i],
  ['assignee', /assign|owner|who|member/i],
  ['estimate', /estimate|planned/i],
  ['closed', /closed|done|completed|finished/i],
  ['state', /state|status|stage/i],
  ['project', /project|list|board|group/i],
  ['title', /title|task|name|summary|subject/i],
];

const CLIENT_HEADS: Heads = [
  ['id', /^(?:id|uid|key|reference|(?:client|customer) (?:no\.?|number|code))$/i],
  ['email', /mail/i],
  ['address', /address|street/i],
  ['taxNumber', /\b(?:tax|vat)\b/i],
  ['gone', /archived|gone|inactive/i],
  ['name', /name|client|customer|company/i],
];

const NO = /^(?:|0|no|false|n|open|-)$/i;
/** States that say by themselves that nothing is left to do. */
const OVER = /^(?:closed|done|completed?|finished|resolved|cancell?ed|won.t do)$/i;

/**
 * Reads tasks of a table by its heads: Id, Project, Number, Title, Assignee, State, Estimate (hours), Closed, Address; of these Title is
 * needed. A task without an id is told apart by its project and its number, or its title.
 */
export function readTaskTable(table: Table): ListReading<ToldTask> {
  const cells = new Cells(table, TASK_HEADS);
  if (!cells.has('title')) return cells.lacking('No column is called Title, so nobody knows what the tasks are.');
  return cells.read((at) => {
    const title = at('title', 500);
    if (!title) throw new At('title', 'This task has no title.');
    const number = at('number', 60);
    const project = at('project') || 'Tasks';
    const state = at('state', 100);
    let estimate: number | null;
    try {
      estimate = readEstimate(at('estimate'));
    } catch (thrown) {
      throw new At('estimate', messageOf(thrown));
    }
    const address = at('address', 2000);
    return {
      source: at('id') || oneLine(`${project} / ${number || title}`),
      project: { source: project, name: project },
      ...{ number, title, assignee: at('assignee'), state, estimate },
      closed: cells.has('closed') ? !NO.test(at('closed')) : OVER.test(state),
      address: /^https?:\/\//i.test(address) ? address : '',
    };
  });
}

/**
 * Reads clients of a table by its heads: Id, Name, Address, E-mail, Tax number, Archived; of these Name is needed. A client without an id
 * is told apart by its name.
 */
export function readClientTable(table: Table): ListReading<ToldClient> {
  const cells = new Cells(table, CLIENT_HEADS);
  if (!cells.has('name')) return cells.lacking('No column is called Name, so nobody knows who the clients are.');
  return cells.read((at) => {
    const name = at('name', 500);
    if (!name) throw new At('name', 'This client has no name.');
    return {
      source: at('id') || oneLine(name),
      name,
      address: cells.lines('address'),
      email: at('email', 500),
      taxNumber: at('taxNumber', 100),
      gone: cells.has('gone') && !NO.test(at('gone')),
    };
  });
}

/** A fault of the row that is being read, in the column of a field. */
class At extends Error {
  readonly field: string;
  constructor(field: string, message: string) {
    super(message);
    this.field = field;
  }
}

/** The cells of a table by what their heads mean. */
class Cells {
  readonly #table: Table;
  readonly #at = new Map<string, number>();
  #row: readonly Cell[] = [];

  constructor(table: Table, heads: Heads) {
    this.#table = table;
    const taken = new Set<number>();
    for (const [field, telling] of heads) {
      const at = table.head.findIndex((head, index) => !taken.has(index) && telling.test(head.trim()));
      if (at < 0) continue;
      taken.add(at);
      this.#at.set(field, at);
    }
  }

  has = (field: string): boolean => this.#at.has(field);

  lacking<Told>(message: string): ListReading<Told> {
    return { told: [], faults: [{ row: Math.max(1, this.#table.firstRow - 1), column: 'A', message }] };
  }

  /** Reads row by row; of two rows with one source the later is a fault. */
  read<Told extends { source: string }>(
    row: (at: (field: string, most?: number) => string) => Told,
  ): ListReading<Told> {
    const told = new Map<string, Told>();
    const faults: TableFault[] = [];
    this.#table.rows.forEach((cells, index) => {
      if (cells.every((cell) => cell === null || cell === '')) return;
      this.#row = cells;
      const number = this.#table.firstRow + index;
      try {
        const each = row((field, most) => oneLine(this.#cell(field), most));
        if (told.has(each.source))
          throw new Fault('twice', `“${each.source.slice(0, 60)}” stands in this table twice; give each an id.`);
        told.set(each.source, each);
      } catch (thrown) {
        const at = thrown instanceof At ? this.#at.get(thrown.field) : (this.#at.get('id') ?? 0);
        faults.push({ row: number, column: columnName(at ?? 0), message: messageOf(thrown) });
      }
    });
    return { told: [...told.values()], faults };
  }

  /** A cell of several lines. */
  lines = (field: string): string => this.#cell(field).trim().slice(0, 10_000);

  #cell(field: string): string {
    const at = this.#at.get(field);
    const cell = at === undefined ? null : (this.#row[at] ?? null);
    if (cell === null) return '';
    return cell instanceof Date ? cell.toISOString().slice(0, 10) : String(cell);
  }
}
