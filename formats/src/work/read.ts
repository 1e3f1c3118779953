import {
  clientDefaults,
  messageOf,
  projectColours,
  projectDefaults,
  projectKinds,
  serviceDefaults,
  taskDefaults,
  type Client,
  type Id,
  type Project,
  type ProjectKind,
  type Service,
  type Stage,
  type Task,
} from '@half-penny/core/model';
import { isCurrency } from '@half-penny/core/money';
import { MOST_LEVELS, WorkTree } from '@half-penny/core/rates';
import { columnName, type Cell, type Table, type TableFault } from '../hours/table';
import type { WorkField, WorkMapping } from './csv-headings';
import { readEstimate } from './estimate';

/** What rows are matched against: what is there already, by name, stays as it is. */
export interface WorkBook {
  clients: readonly Client[];
  projects: readonly Project[];
  tasks: readonly Task[];
  services: readonly Service[];
  stages: readonly Stage[];
  /** Of new clients, where the table does not say. */
  currency: string;
  taxId: Id | null;
}

/** What a list would add. */
export interface WorkReading {
  clients: Client[];
  projects: Project[];
  tasks: Task[];
  services: Service[];
  faults: TableFault[];
  /** Rows that name only what is there already. */
  known: number;
}

/** Between the names of a project and the one it is a part of. */
const PART = /\s*[›>]\s*/;

const key = (text: string): string => text.trim().toLowerCase().replace(/\s+/g, ' ');

/**
 * Reads a list of clients, projects ("Spring double bill › Extras" is a part of another), tasks and services, any of them on a row. What is
 * there already by its name is left as it is; nothing is guessed: what cannot be read is a fault with its row and column.
 */
export function mapWork(table: Table, mapping: WorkMapping, book: WorkBook, newId: () => Id): WorkReading {
  return new WorkReader(mapping, book, newId).read(table);
}

class WorkReader {
  readonly #mapping: WorkMapping;
  readonly #book: WorkBook;
  readonly #newId: () => Id;
  readonly #clients: Map<string, Client>;
  readonly #projects = new Map<string, Project>();
  readonly #tasks: Map<string, Task>;
  readonly #services: Map<string, Service>;
  readonly #stages: Map<string, Stage>;
  readonly #reading: WorkReading = { clients: [], projects: [], tasks: [], services: [], faults: [], known: 0 };
  readonly #places = new Map<string, number>();
  #row = 0;
  #cells: readonly Cell[] = [];

  constructor(mapping: WorkMapping, book: WorkBook, newId: () => Id) {
    this.#mapping = mapping;
    this.#book = book;
    this.#newId = newId;
    this.#clients = new Map(book.clients.map((row) => [key(row.name), row]));
    const tree = new WorkTree(book.projects, []);
    for (const row of book.projects) this.#projects.set(projectKey(row.clientId, tree.pathOf(row.id)), row);
    this.#tasks = new Map(book.tasks.map((row) => [`${row.projectId} ${key(row.name)}`, row]));
    this.#services = new Map(book.services.map((row) => [key(row.name), row]));
    this.#stages = new Map(book.stages.map((row) => [key(row.name), row]));
  }

  read(table: Table): WorkReading {
    const sums = () => {
      const { clients, projects, tasks, services, faults } = this.#reading;
      return clients.length + projects.length + tasks.length + services.length + faults.length;
    };
    table.rows.forEach((cells, index) => {
      this.#row = table.firstRow + index;
      this.#cells = cells;
      const before = sums();
      this.#readRow();
      if (sums() === before) this.#reading.known++;
    });
    return this.#reading;
  }

  #readRow(): void {
    const client = this.#text('client') ? this.#client(this.#text('client')) : null;
    const named = this.#text('project');
    const task = this.#text('task');
    const service = this.#text('service');
    if (!client && !named && !service) {
      return this.#fault(task ? 'task' : 'client', 'This row names no client, project or service.');
    }
    const project = named ? this.#project(client, named) : null;
    if (task && !named) this.#fault('task', 'A task needs its project on the same row.');
    else if (task && project) this.#task(project, task);
    if (service) this.#service(service);
  }

  #client(name: string): Client {
    const there = this.#clients.get(key(name));
    if (there) return there;
    const currency = this.#text('currency').toUpperCase() || this.#book.currency;
    if (!isCurrency(currency)) this.#fault('currency', `“${currency.slice(0, 20)}” is not a currency, such as GBP.`);
    const client: Client = {
      ...clientDefaults,
      id: this.#newId(),
      name,
      address: this.#text('address'),
      email: this.#text('email'),
      taxNumber: this.#text('taxNumber'),
      currency,
      taxId: this.#book.taxId,
      termsDays: null,
      archived: false,
    };
    this.#clients.set(key(name), client);
    this.#reading.clients.push(client);
    return client;
  }

  #project(client: Client | null, named: string): Project | null {
    const names = named.split(PART, MOST_LEVELS + 1).filter(Boolean);
    if (names.length > MOST_LEVELS) {
      this.#fault('project', `A project is part of at most ${MOST_LEVELS - 1} others; this names more.`);
      return null;
    }
    let parent: Project | null = null;
    names.forEach((name, depth) => {
      const path = names.slice(0, depth + 1).join(' › ');
      const where = projectKey(client?.id ?? null, path);
      const there = this.#projects.get(where);
      parent = there ?? this.#newProject(client, parent, name, depth === names.length - 1, where);
    });
    return parent;
  }

  /** A project of a path; only the last name of it is what the row's other columns are about. */
  #newProject(client: Client | null, parent: Project | null, name: string, isLast: boolean, where: string): Project {
    const colours = projectColours.length;
    const count = this.#book.projects.length + this.#reading.projects.length;
    const beside = `${client?.id ?? ''} ${parent?.id ?? ''}`;
    const order = this.#places.get(beside) ?? this.#book.projects.length;
    this.#places.set(beside, order + 1);
    const project: Project = {
      ...projectDefaults,
      id: this.#newId(),
      clientId: client?.id ?? null,
      parentId: parent?.id ?? null,
      order,
      name,
      colour: parent?.colour ?? projectColours[count % colours]!,
      kind: isLast ? this.#kind(client) : client ? 'hourly' : 'internal',
      jobNumber: isLast ? this.#text('jobNumber') : '',
      stageId: isLast && !this.#text('task') ? this.#stage() : null,
    };
    this.#projects.set(where, project);
    this.#reading.projects.push(project);
    return project;
  }

  #kind(client: Client | null): ProjectKind {
    const text = this.#text('kind').toLowerCase();
    if (!client) return 'internal';
    if (text === '') return 'hourly';
    const kind = projectKinds.find((each) => each === text);
    if (!kind) this.#fault('kind', `“${text.slice(0, 30)}” is no kind of project: ${projectKinds.join(', ')}.`);
    return kind ?? 'hourly';
  }

  #stage(): Id | null {
    const text = this.#text('stage');
    if (text === '') return null;
    const stage = this.#stages.get(key(text));
    if (!stage)
      this.#fault(
        'stage',
        `There is no stage “${text.slice(0, 40)}”. Name it in Setup → Services and stages, or leave the column out.`,
      );
    return stage?.id ?? null;
  }

  #task(project: Project, name: string): void {
    const where = `${project.id} ${key(name)}`;
    if (this.#tasks.has(where)) return;
    const beside = `tasks ${project.id}`;
    const order = this.#places.get(beside) ?? this.#book.tasks.length;
    this.#places.set(beside, order + 1);
    const task: Task = {
      ...taskDefaults,
      id: this.#newId(),
      projectId: project.id,
      name,
      order,
      estimate: this.#estimate(),
      stageId: this.#stage(),
    };
    this.#tasks.set(where, task);
    this.#reading.tasks.push(task);
  }

  #estimate(): number | null {
    try {
      return readEstimate(this.#text('estimate'));
    } catch (thrown) {
      this.#fault('estimate', thrown);
      return null;
    }
  }

  #service(name: string): void {
    if (this.#services.has(key(name))) return;
    const service: Service = { ...serviceDefaults, id: this.#newId(), name, code: this.#text('code').slice(0, 40) };
    this.#services.set(key(name), service);
    this.#reading.services.push(service);
  }

  #text(field: WorkField): string {
    const at = this.#mapping[field];
    const cell = at === undefined ? null : (this.#cells[at] ?? null);
    if (cell === null) return '';
    return (cell instanceof Date ? cell.toISOString().slice(0, 10) : String(cell)).trim();
  }

  #fault(field: WorkField, thrown: unknown): void {
    const at = this.#mapping[field];
    const message = typeof thrown === 'string' ? thrown : messageOf(thrown);
    this.#reading.faults.push({ row: this.#row, column: at === undefined ? '' : columnName(at), message });
  }
}

const projectKey = (clientId: Id | null, path: string): string => `${clientId ?? ''} ${key(path)}`;
