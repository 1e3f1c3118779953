import { MemoryExecutor } from '@half-penny/core/commands';
import { MemoryStore } from '@half-penny/core/engine';
import { idSource, type Id, type Invoice } from '@half-penny/core/model';
import { addDays, boundsOfDay, dayOf, instantAt, weekdayOf, type Day, type Instant } from '@half-penny/core/time';
import { showAmount, shareOut } from '@half-penny/core/money';
import { owedOn } from '@half-penny/core/billing';
import { Chance } from './chance';
import { makeChecked } from './checked';
import { Purchases } from './purchases';
import * as studio from './studio';
import { workingDaysBefore } from './watched';
import type { DemoProject, MemberKey } from './studio';

export interface DemoOptions {
  /** The moment the demo is started; its dates are relative to this day. */
  now: Instant;
  seed?: number;
  /** 250,000 entries over five years instead of some nine hundred over three months. */
  large?: boolean;
  /** The device that the made-up history is written by. */
  device?: Id;
}

export const DEMO_SEED = 1971;
const MONTHS_BACK = 3;
const LARGE_ENTRIES = 250_000;
const LARGE_DAYS = 5 * 365;
const MINUTE = 60_000;
/** How long the demo's timer has been running when it is opened. */
const RUNNING = 42 * MINUTE + 10_000;
/** How long before it is opened its today has begun at the latest. */
const EARLIEST = RUNNING + 130 * MINUTE;

interface Event {
  at: Instant;
  run: () => Promise<unknown>;
}

interface Job {
  projectId: Id;
  clientId: Id | null;
  project: DemoProject;
  taskIds: Id[];
  weight: number;
}

/** Time as the demo's people record it: with times, or by hand as a length alone. */
interface DemoEntry {
  day: Day;
  job: Job;
  taskId: Id | null;
  serviceId: Id;
  kindOfWorkId: Id | null;
  note: string;
  seconds: number;
  span: { start: Instant; end: Instant } | null;
  billableSeconds: number | null;
  /** When it is recorded. */
  end: Instant;
}

/**
 * Makes the demo studio by running the same commands a person would, at the times they would have: three months of three people's
 * work, invoiced each month and mostly paid, with a timer running now. The same options give the same workspace.
 */
export async function makeDemo(options: DemoOptions): Promise<MemoryStore> {
  return (await makeDemoWithFiles(options)).store;
}

/** {@link makeDemo} with the bytes of its receipts, by their SHA-256 in hex. */
export async function makeDemoWithFiles(
  options: DemoOptions,
): Promise<{ store: MemoryStore; files: ReadonlyMap<string, Uint8Array> }> {
  const demo = new Demo(options);
  return { store: await demo.make(), files: demo.files };
}

class Demo {
  readonly #options: DemoOptions;
  readonly #chance: Chance;
  readonly #store = new MemoryStore();
  readonly #executor: MemoryExecutor;
  readonly #today: Day;
  readonly #firstDay: Day;
  #clock: Instant;
  #memberId: Id | null = null;

  constructor(options: DemoOptions) {
    this.#options = options;
    this.#chance = new Chance(options.seed ?? DEMO_SEED);
    this.#today = dayOf(options.now, studio.workspace.zone);
    this.#firstDay = options.large ? addDays(this.#today, -LARGE_DAYS) : firstOfMonth(this.#today, -MONTHS_BACK);
    this.#clock = boundsOfDay(addDays(this.#firstDay, -1), studio.workspace.zone).start;
    const newId = idSource(() => this.#clock, this.#chance.bytes);
    const device = options.device ?? newId();
    this.#executor = new MemoryExecutor(this.#store, () => ({
      now: this.#clock,
      memberId: this.#memberId,
      newId,
      device,
    }));
  }

  async make(): Promise<MemoryStore> {
    const { clientIds, jobs, memberIds } = await this.#setUp();
    const events: Event[] = [];
    for (const [key, memberId] of Object.entries(memberIds) as [MemberKey, Id][])
      this.#work(events, key, memberId, jobs);
    this.#invoicing(events, clientIds);
    events.sort((a, b) => a.at - b.at);
    for (const event of events) {
      this.#clock = event.at;
      await event.run();
    }
    if (!this.#options.large) {
      await this.#surroundings(memberIds, jobs);
      await this.#writeDown(clientIds);
      await this.#keeping();
      await this.#purchases(memberIds);
      await this.#checking(memberIds);
    }
    await this.#setBudgets();
    await this.#startTimer(memberIds.imogen, jobs);
    return this.#store;
  }

  async #setUp() {
    const { run } = this.#bound();
    await run('workspace.create', {
      workspace: {
        ...studio.workspace,
        bankAccounts: [...studio.workspace.bankAccounts],
        latePayment: { ...studio.workspace.latePayment, baseRates: [...studio.workspace.latePayment.baseRates] },
      },
      member: { ...studio.members.imogen, owed: [...studio.members.imogen.owed] },
      taxes: [],
    });
    const memberIds = { imogen: this.#store.rows('members')[0]!.id } as Record<MemberKey, Id>;
    this.#memberId = memberIds.imogen;
    for (const key of ['teodor', 'asha'] as const) {
      memberIds[key] = await this.#added('member.add', {
        ...studio.members[key],
        owed: [...studio.members[key].owed],
        checkerId: memberIds.imogen,
      });
    }
    for (const { name, finished } of studio.stages) {
      const order = this.#stageIds.size;
      this.#stageIds.set(name, await this.#added('stage.add', { name, finished, order }));
    }
    await this.#services();
    const clientIds: Record<string, Id> = {};
    const jobs: Job[] = [];
    const taxIds = this.#taxIds;
    for (const [key, tax] of Object.entries(studio.taxes)) taxIds[key] = await this.#added('tax.add', tax);
    for (const [key, { tax, projects, contacts, contract, ...client }] of Object.entries(studio.clients)) {
      const clientId = await this.#added('client.add', { ...client, taxId: taxIds[tax]!, archived: false });
      clientIds[key] = clientId;
      if (key === studio.latePayer) this.#latePayerId = clientId;
      let contractId: Id | null = null;
      if (contract) {
        // Five years of busy days would pass any cap.
        const cap = this.#options.large ? null : contract.cap * 100;
        contractId = await this.#added('contract.add', { clientId, ...contract, cap });
        this.#contractIds.set(key, contractId);
      }
      for (const project of projects) await this.#project(project, { clientId, contractId, parentId: null }, jobs);
      for (const { answersFor = [], ...contact } of contacts) {
        const projectIds = answersFor.map((name) => this.#projectIds.get(name)!);
        await run('contact.add', { clientId, ...contact, ...(projectIds.length > 0 ? { projectIds } : {}) });
      }
    }
    await this.#project(studio.internal, { clientId: null, contractId: null, parentId: null }, jobs);
    await this.#rates(clientIds, memberIds);
    return { clientIds, jobs, memberIds };
  }
  readonly #serviceIds: Record<string, Id> = {};
  readonly #kindIds = new Map<string, Id[]>();
  readonly #stageIds = new Map<string, Id>();
  readonly #contractIds = new Map<string, Id>();
  readonly #projectIds = new Map<string, Id>();
  readonly #taskIds = new Map<string, Id>();
  readonly #milestoneIds = new Map<string, Id>();
  readonly #budgets: ({ projectId: Id } & NonNullable<DemoProject['budget']>)[] = [];
  #costCodeIds: Record<string, Id> = {};
  #taxIds: Record<string, Id> = {};
  /** Bytes of receipts by their hash. */
  files: ReadonlyMap<string, Uint8Array> = new Map();

  async #services(): Promise<void> {
    const codeIds = this.#costCodeIds;
    for (const [key, code] of Object.entries(studio.costCodes)) codeIds[key] = await this.#added('costCode.add', code);
    for (const [key, service] of Object.entries<studio.DemoService>(studio.services)) {
      const { costCode, kindsOfWork = [], ...fields } = service;
      const serviceId = await this.#added('service.add', { ...fields, costCodeId: codeIds[costCode]! });
      this.#serviceIds[key] = serviceId;
      const kindIds: Id[] = [];
      for (const name of kindsOfWork) kindIds.push(await this.#added('kindOfWork.add', { serviceId, name }));
      this.#kindIds.set(key, kindIds);
    }
  }

  async #project(
    project: DemoProject,
    place: { clientId: Id | null; contractId: Id | null; parentId: Id | null },
    jobs: Job[],
  ): Promise<void> {
    const { name, jobNumber, colour, kind, fixedPrice, stage, budget } = project;
    const projectId = await this.#added('project.add', {
      ...place,
      name,
      jobNumber,
      colour,
      ...(kind ? { kind } : {}),
      fixedPrice: fixedPrice === undefined ? null : fixedPrice * 100,
      stageId: this.#stageOf(stage),
      ...(project.tags ? { tags: [...project.tags] } : {}),
    });
    this.#projectIds.set(name, projectId);
    const taskIds: Id[] = [];
    for (const task of project.tasks ?? []) {
      const taskId = await this.#added('task.add', {
        projectId,
        name: task.name,
        estimate: task.estimate === null ? null : task.estimate * 3600,
        stageId: this.#stageOf(task.stage),
      });
      this.#taskIds.set(task.name, taskId);
      taskIds.push(taskId);
    }
    for (const { name: reached, inDays } of project.milestones ?? []) {
      const day = addDays(this.#today, inDays);
      const id = await this.#added('milestone.add', { projectId, name: reached, day, reached: inDays < 0 });
      this.#milestoneIds.set(reached, id);
    }
    if (budget) this.#budgets.push({ projectId, ...budget });
    jobs.push({ projectId, clientId: place.clientId, project, taskIds, weight: project.weight });
    const { clientId } = place;
    for (const part of project.parts ?? [])
      await this.#project(part, { clientId, contractId: null, parentId: projectId }, jobs);
  }

  async #setBudgets(): Promise<void> {
    for (const { projectId, hours, money, used, noticeAt } of this.#budgets) {
      const worked = used === undefined ? 0 : this.#workedOn(projectId);
      const seconds = used === undefined ? (hours === undefined ? null : hours * 3600) : roundFigure(worked / used);
      await this.#executor.run('budget.add', {
        projectId,
        seconds,
        money: money === undefined ? null : money * 100,
        ...(noticeAt === undefined ? {} : { noticeAt }),
      });
    }
  }

  /** Seconds on a project and its parts. */
  #workedOn(projectId: Id): number {
    const under = new Set([projectId]);
    // A part comes after what it is a part of.
    for (const { id, parentId } of this.#store.rows('projects'))
      if (parentId !== null && under.has(parentId)) under.add(id);
    return this.#store
      .rows('entries')
      .reduce((sum, entry) => sum + (entry.projectId !== null && under.has(entry.projectId) ? entry.seconds : 0), 0);
  }

  #stageOf(name: string | undefined): Id | null {
    return name === undefined ? null : this.#stageIds.get(name)!;
  }

  async #rates(clientIds: Record<string, Id>, memberIds: Record<MemberKey, Id>): Promise<void> {
    const { run } = this.#bound();
    const since = (daysAgo: number) => addDays(this.#options.large ? this.#firstDay : this.#today, -daysAgo);
    for (const { client, contract, project, task, role, member, service, daysAgo, ...rate } of studio.rates) {
      await run('rate.add', {
        clientId: client ? clientIds[client]! : null,
        contractId: contract ? this.#contractIds.get(contract)! : null,
        projectId: project ? this.#projectIds.get(project)! : null,
        taskId: task ? this.#taskIds.get(task)! : null,
        memberId: member ? memberIds[member] : null,
        role: role ?? null,
        serviceId: service ? this.#serviceIds[service]! : null,
        from: since(daysAgo),
        price: rate.price?.amount ?? null,
        unit: rate.price?.unit ?? 'hour',
        currency: rate.price?.currency ?? null,
        markup: rate.markup ?? null,
        sentence: rate.sentence ?? '',
        printed: Boolean(rate.sentence),
      });
    }
    for (const { role, daysAgo, price } of studio.costRates) {
      await run('costRate.add', { role, from: since(daysAgo), price, unit: 'hour', currency: 'GBP' });
    }
    for (const { project, costType, daysAgo, percent, sentence } of studio.markups) {
      const projectId = project ? this.#projectIds.get(project)! : null;
      const printed = sentence !== '';
      await run('markup.add', { projectId, costType, from: since(daysAgo), percent, sentence, printed });
    }
    for (const { currency, daysAgo, rate } of studio.exchangeRates) {
      await run('exchange.add', { base: 'EUR', currency, from: since(daysAgo), rate, source: 'by hand' });
    }
  }

  /** A member's entries from the first day to now. */
  #work(events: Event[], key: MemberKey, memberId: Id, jobs: Job[]): void {
    const days: Day[] = [];
    for (let day = this.#firstDay; day <= this.#today; day = addDays(day, 1)) {
      if (day === this.#today || studio.members[key].owed[weekdayOf(day) - 1]! > 0) days.push(day);
    }
    const members = Object.keys(studio.members).length;
    const perDay = this.#options.large ? Math.ceil(LARGE_ENTRIES / members / days.length) : null;
    if (perDay === null) {
      // What Imogen's computer noticed of one day waits to be sifted; she wrote down how it began.
      const [waiting] = workingDaysBefore(this.#today, 2);
      // Nobody was away in the last two weeks but those who said so.
      const recent = addDays(this.#today, -14);
      for (const day of days) {
        if (day !== this.#today && this.#chance.happens(0.04) && day < recent) continue;
        const entries = this.#ordinaryDay(day, jobs);
        const written = key === 'imogen' && day === waiting ? entries.slice(0, 1) : entries;
        for (const entry of written) events.push({ at: entry.end, run: () => this.#add(memberId, entry) });
      }
      return;
    }
    // So many come in by the month, as they would from another program: a history of single additions would tell nothing more.
    for (const month of new Set(days.map((day) => day.slice(0, 7)))) {
      const entries = days.filter((day) => day.startsWith(month)).flatMap((day) => this.#busyDay(day, jobs, perDay));
      const at = entries.at(-1)?.end;
      if (at !== undefined) events.push({ at, run: () => this.#takeIn(memberId, entries) });
    }
  }

  #ordinaryDay(day: Day, jobs: Job[]): DemoEntry[] {
    const chance = this.#chance;
    const { zone } = studio.workspace;
    const entries: DemoEntry[] = [];
    let at = instantAt(day, chance.between(8 * 60 + 12, 9 * 60 + 10), zone) + chance.between(0, 59) * 1000;
    // Whoever looks around early in the day meets early risers: there is something of today at any hour that allows it.
    if (day === this.#today) at = Math.min(at, Math.max(boundsOfDay(day, zone).start, this.#options.now - EARLIEST));
    const lunch = instantAt(day, chance.between(12 * 60 + 20, 13 * 60 + 15), zone);
    const home = instantAt(day, chance.between(16 * 60 + 50, 17 * 60 + 45), zone);
    let eaten = false;
    while (at < home) {
      const length = chance.between(16, day === this.#today ? 58 : 104) * MINUTE + chance.between(0, 59) * 1000;
      const end = Math.min(at + length, home);
      entries.push(this.#entry(day, jobs, at, end, chance.happens(0.12)));
      at = end + (chance.happens(0.35) ? chance.between(3, 22) * MINUTE : 0);
      if (!eaten && at > lunch) {
        at += chance.between(30, 55) * MINUTE;
        eaten = true;
      }
    }
    return entries.filter(this.#isOver);
  }

  #busyDay(day: Day, jobs: Job[], count: number): DemoEntry[] {
    const start = instantAt(day, 8 * 60, studio.workspace.zone);
    const step = Math.floor((9.5 * 60 * MINUTE) / count);
    return Array.from({ length: count }, (_, i) => {
      const at = start + i * step;
      return this.#entry(day, jobs, at, at + step - this.#chance.between(1, 60) * 1000, false);
    }).filter(this.#isOver);
  }

  /** Nothing is recorded beyond the moment at which the timer was started, nor what is hardly anything. */
  readonly #isOver = ({ end, seconds }: DemoEntry): boolean => end <= this.#options.now - RUNNING && seconds >= 60;

  #entry(day: Day, jobs: Job[], start: Instant, end: Instant, byHand: boolean): DemoEntry {
    const chance = this.#chance;
    const job = chance.weighted(jobs);
    const { service, notes } = chance.pick(job.project.notes);
    const note = chance.pick(notes);
    const worked = Math.floor((end - start) / 1000);
    // By hand, people write round figures and no times.
    const seconds = byHand ? Math.max(900, worked - (worked % 900)) : worked;
    const billableSeconds = chance.happens(0.06) ? 0 : chance.happens(0.08) ? Math.floor((seconds * 2) / 3) : null;
    const span = byHand ? null : { start, end: start + seconds * 1000 };
    const kindIds = this.#kindIds.get(service) ?? [];
    return {
      ...{ day, job, note, seconds, span, billableSeconds, end },
      taskId: job.taskIds.length > 0 && chance.happens(0.6) ? chance.pick(job.taskIds) : null,
      serviceId: this.#serviceIds[service]!,
      kindOfWorkId: kindIds.length > 0 && chance.happens(0.7) ? chance.pick(kindIds) : null,
    };
  }

  async #add(memberId: Id, { job, span, end: _end, ...entry }: DemoEntry): Promise<void> {
    this.#memberId = memberId;
    const tags = studio.tagsOfNote(entry.note);
    const input = {
      memberId,
      projectId: job.projectId,
      ...entry,
      spans: span ? [span] : [],
      ...(tags.length > 0 ? { tags } : {}),
    };
    this.#await(job, entry, await this.#added('entry.add', input));
  }

  async #takeIn(memberId: Id, entries: readonly DemoEntry[]): Promise<void> {
    this.#memberId = memberId;
    const rows = entries.map(({ job: { projectId }, end: _end, ...entry }) => ({
      memberId,
      projectId,
      ...entry,
      source: '',
    }));
    const { changes } = await this.#executor.run('hours.import', { rows, services: [], mapping: null });
    entries.forEach((entry, index) => this.#await(entry.job, entry, changes[index]!.id));
  }

  /** What can be billed waits for its client's next invoice. */
  #await(
    { clientId, project }: Job,
    { billableSeconds, day }: Pick<DemoEntry, 'billableSeconds' | 'day'>,
    id: Id,
  ): void {
    if (clientId === null || billableSeconds === 0 || project.kind === 'fixed price') return;
    const waiting = this.#unbilled.get(clientId);
    if (waiting) waiting.push({ id, day });
    else this.#unbilled.set(clientId, [{ id, day }]);
  }

  /** On the second of each month everything of the month before goes onto invoices; most are paid within their terms. */
  #invoicing(events: Event[], clientIds: Record<string, Id>): void {
    const { zone } = studio.workspace;
    for (let month = firstOfMonth(this.#firstDay, 1); month <= this.#today; month = firstOfMonth(month, 1)) {
      Object.values(clientIds).forEach((clientId, index) => {
        const at = instantAt(addDays(month, 1), 9 * 60 + 20 + index, zone);
        // The museum's last month waits for its costs.
        const waits = clientId === clientIds.fernhill && firstOfMonth(month, 1) > this.#today && !this.#options.large;
        if (at < this.#options.now && !waits) events.push({ at, run: () => this.#invoice(clientId, month) });
      });
      for (const [days, late] of [
        [16, false],
        [31, false],
        [44, true],
      ] as const) {
        const at = instantAt(addDays(month, days), 11 * 60, zone);
        if (at < this.#options.now) events.push({ at, run: () => this.#payments(late) });
      }
    }
    const drafting = this.#options.now - 3 * 60 * MINUTE;
    events.push({ at: drafting, run: () => this.#openDraft(clientIds.otterbourne!) });
  }

  /** Takes a client's entries from before a day off those that wait for an invoice. */
  #takeUnbilled(clientId: Id, before: Day): Id[] {
    const waiting = this.#unbilled.get(clientId) ?? [];
    this.#unbilled.set(
      clientId,
      waiting.filter((each) => each.day >= before),
    );
    return waiting.filter((each) => each.day < before).map((each) => each.id);
  }
  readonly #unbilled = new Map<Id, { id: Id; day: Day }[]>();

  async #invoice(clientId: Id, month: Day): Promise<void> {
    const entryIds = this.#takeUnbilled(clientId, month);
    if (entryIds.length === 0) return;
    const id = await this.#added('invoice.draft', { clientId, entryIds });
    await this.#executor.run('invoice.issue', { id });
  }

  async #payments(late: boolean): Promise<void> {
    for (const invoice of this.#store.rows('invoices')) {
      if (!invoice.frozen || invoice.voided) continue;
      const payments = await this.#store.by('payments', 'invoiceId', [invoice.id]);
      const owed = owedOn({ invoice, payments, credits: [] });
      const day = dayOf(this.#clock, studio.workspace.zone);
      const inTime = invoice.frozen.dueDay <= addDays(day, 14);
      if (owed <= 0 || !(late || inTime) || this.#chance.happens(late ? 0.3 : 0.18)) continue;
      if (this.#isKeptWaiting(invoice)) continue;
      const amount = payments.length === 0 && this.#chance.happens(0.12) ? shareOut(owed, [1, 1])[0]! : owed;
      const note =
        amount < owed ? `First part of ${showAmount(invoice.frozen.total, invoice.currency)}` : 'Bank transfer';
      await this.#executor.run('payment.add', { invoiceId: invoice.id, day, amount, note });
    }
  }

  /** There is somebody who pays a month late: of theirs, what fell due in the last month is still owed. */
  #isKeptWaiting({ clientId, frozen }: Invoice): boolean {
    if (this.#options.large || clientId !== this.#latePayerId) return false;
    return frozen!.dueDay < this.#today && addDays(frozen!.dueDay, 31) >= this.#today;
  }
  #latePayerId: Id | null = null;

  async #openDraft(clientId: Id): Promise<void> {
    const entryIds = this.#takeUnbilled(clientId, addDays(this.#today, -6)).slice(-24);
    if (entryIds.length > 0) await this.#executor.run('invoice.draft', { clientId, entryIds });
  }

  /** What is planned, who is away, enquiries that are no projects yet, and a late night. */
  async #surroundings(memberIds: Record<MemberKey, Id>, jobs: Job[]): Promise<void> {
    const { zone } = studio.workspace;
    this.#clock = this.#options.now - 2 * RUNNING;
    const projectOf = (name: string) => jobs.find((job) => job.project.name === name)!.projectId;
    for (const { member, inDays, days, hours, name } of studio.absences) {
      this.#memberId = memberIds.imogen;
      const from = addDays(this.#today, inDays);
      await this.#executor.run('absence.add', {
        memberId: member && memberIds[member],
        name,
        from,
        to: addDays(from, days - 1),
        seconds: hours === null ? null : hours * 3600,
      });
    }
    for (const { words, member, daysAgo, hours, note } of studio.enquiries) {
      this.#memberId = memberIds[member];
      await this.#executor.run('entry.add', {
        day: addDays(this.#today, -daysAgo),
        projectId: null,
        unlisted: words,
        serviceId: this.#serviceIds.site!,
        note,
        seconds: hours * 3600,
      });
    }
    for (const { member, project, service, inDays, hours, note, at } of studio.plans) {
      this.#memberId = memberIds[member];
      const day = addDays(this.#today, inDays);
      await this.#executor.run('plan.add', {
        days: [day],
        projectId: projectOf(project),
        serviceId: this.#serviceIds[service]!,
        note,
        seconds: hours * 3600,
        start: at === undefined ? null : instantAt(day, at * 60, zone),
      });
    }
    // Agreed on the telephone, for this once.
    this.#memberId = memberIds.imogen;
    await this.#executor.run('entry.add', {
      day: addDays(this.#today, -4),
      projectId: projectOf('Summer series plot'),
      serviceId: this.#serviceIds.design!,
      note: 'Second opinion on the rain cover rig',
      seconds: 1.5 * 3600,
      rate: { price: '140', unit: 'hour' },
    });
    const night = addDays(this.#today, -2);
    const start = instantAt(night, 22 * 60 + 10, zone);
    this.#memberId = memberIds.asha;
    await this.#executor.run('entry.add', {
      day: night,
      projectId: projectOf('Spring double bill'),
      serviceId: this.#serviceIds.programming!,
      note: 'Night focus in the house',
      seconds: 2.5 * 3600,
      spans: [{ start, end: start + 2.5 * 3_600_000 }],
    });
  }

  async #writeDown(clientIds: Record<string, Id>): Promise<void> {
    const spoken = new Set<Id>();
    for (const { client, minutes, reason } of studio.writtenDown) {
      const waiting = this.#unbilled.get(clientIds[client]!) ?? [];
      const entries = (
        await this.#store.many(
          'entries',
          waiting.map((each) => each.id),
        )
      ).filter((row) => row !== undefined);
      // What is longer than that, so that something of it is left to bill.
      const entry = entries.find(
        (row) => !spoken.has(row.id) && row.billableSeconds === null && row.seconds > minutes * 90,
      );
      if (!entry) continue;
      spoken.add(entry.id);
      await this.#executor.run('bill.adjust', {
        kind: 'written down',
        reason,
        entryIds: [entry.id],
        parts: { [entry.id]: minutes * 60 },
      });
    }
  }

  /** What documents are opened for, how much an hour of what counts, and reports that are looked at each month. */
  async #keeping(): Promise<void> {
    const { openedFor, weights, reports } = studio;
    await this.#executor.run('workspace.edit', {
      openedFor: openedFor.map(({ name, id }) => ({ id, name })),
      weights: weights.map(({ id, name, percent, projects }) => ({
        ...{ id, name, percent },
        projectIds: projects.map((project) => this.#projectIds.get(project)!),
      })),
    });
    for (const { name, note, readyOn, definition } of reports)
      await this.#executor.run('report.add', { name, note, readyOn, definition: { ...definition } });
  }

  async #purchases(memberIds: Record<MemberKey, Id>): Promise<void> {
    this.#memberId = memberIds.imogen;
    const purchases = new Purchases(
      this.#executor,
      {
        project: (name) => this.#projectIds.get(name)!,
        costCode: (key) => this.#costCodeIds[key]!,
        member: memberIds,
        tax: this.#taxIds.standard!,
        milestone: (name) => this.#milestoneIds.get(name)!,
      },
      this.#options.now,
      this.#options.seed ?? DEMO_SEED,
    );
    await purchases.make();
    this.files = purchases.files;
  }

  #checking(member: Record<MemberKey, Id>): Promise<void> {
    const as = (memberId: Id, at: Instant) => {
      this.#memberId = memberId;
      this.#clock = at;
    };
    return makeChecked({
      executor: this.#executor,
      store: this.#store,
      as,
      member,
      now: this.#options.now,
      firstDay: this.#firstDay,
    });
  }

  async #startTimer(memberId: Id, jobs: Job[]): Promise<void> {
    this.#memberId = memberId;
    this.#clock = this.#options.now - RUNNING;
    const job = jobs.find((each) => each.project.name === 'Spring double bill')!;
    const { programming } = this.#serviceIds;
    await this.#executor.run('timer.start', {
      projectId: job.projectId,
      serviceId: programming!,
      note: 'Cue list clean-up',
    });
    this.#clock = this.#options.now;
  }

  #bound() {
    return { run: this.#executor.run.bind(this.#executor) };
  }

  /** Runs a command that adds one row, and returns the row's id. */
  async #added(...args: Parameters<MemoryExecutor['run']>): Promise<Id> {
    return (await this.#executor.run(...args)).changes[0]!.id;
  }
}

/** As people set budgets: in steps of five hours. */
const roundFigure = (seconds: number): number => Math.ceil(seconds / FIVE_HOURS) * FIVE_HOURS;
const FIVE_HOURS = 5 * 3600;

/** The first day of the month that lies `months` away from the day's own. */
function firstOfMonth(day: Day, months: number): Day {
  const [year, month] = day.split('-').map(Number) as [number, number];
  return new Date(Date.UTC(year, month - 1 + months, 1)).toISOString().slice(0, 10);
}
