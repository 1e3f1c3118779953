import type { Id } from '../model/ids';
import type { Client, CostRate, ExchangeRate, Member, Project, RateLine, Task } from '../model/records';
import type { CurrencyCode } from '../money/currency';
import { showDayShort, type Day } from '../time/day';
import { CostRates } from './cost';
import type { RateDecision } from './rate-decision';
import { ExchangeRates } from './exchange';
import { TimelineCache, latestOn, NOTHING, numberOf, type Timeline } from './timeline-cache';
import { WorkTree } from './tree';

/** What a rate depends on. */
export interface RateQuestion {
  projectId: Id | null;
  taskId: Id | null;
  memberId: Id;
  serviceId: Id | null;
  day: Day;
}

export interface RateSources {
  rateLines: readonly RateLine[];
  costRates: readonly CostRate[];
  exchangeRates: readonly ExchangeRate[];
  projects: readonly Project[];
  tasks: readonly Task[];
  clients: readonly Client[];
  members: readonly Member[];
}

/** A rate line that could have decided, and why it did not. */
export interface Rejected {
  line: RateLine;
  why: string;
}

export interface RateAnswer {
  winner: RateLine | null;
  rejected: Rejected[];
}

/**
 * Finds the rate line for a piece of work: narrowest *where* first (task, project, the projects around it from the inside out, contract,
 * client, workspace), within it narrowest *who* (member, role, any), within it narrowest *what* (service, any); of several dates the
 * latest not after the day of the work. Only prices in the client's currency count; a markup counts in any.
 */
export class RateResolver {
  readonly tree: WorkTree;
  readonly costs: CostRates;
  readonly exchange: ExchangeRates;
  readonly #lines: readonly RateLine[];
  readonly #clients: Map<Id, Client>;
  readonly #members: Map<Id, Member>;
  // Asked for every entry, so kept once made: by small numbers in place of ids, one table a task or project.
  readonly #known = new TimelineCache();
  // place → who and what → the lines of just that, latest first.
  readonly #groups: ReadonlyMap<Id | null, ReadonlyMap<string, Group>>;
  // Work that the same groups fit is decided alike: most jobs, members and services share what decides.
  readonly #shared = new Map<string, Timeline>();
  readonly #plain = new Map<RateLine, RateDecision>();

  constructor(sources: RateSources) {
    this.#lines = sources.rateLines;
    this.tree = new WorkTree(sources.projects, sources.tasks);
    this.#clients = new Map(sources.clients.map((row) => [row.id, row]));
    this.#members = new Map(sources.members.map((row) => [row.id, row]));
    this.#groups = grouped(sources.rateLines);
    this.costs = new CostRates(sources.costRates, this.#members);
    this.exchange = new ExchangeRates(sources.exchangeRates);
  }

  /** The currency that work on a project is sold in; null for internal work. */
  currencyOf(projectId: Id | null): CurrencyCode | null {
    const project = projectId === null ? undefined : this.tree.project.get(projectId);
    if (!project || project.kind === 'internal') return null;
    return (project.clientId && this.#clients.get(project.clientId)?.currency) || null;
  }

  /** The winning rate line, or null: internal work, no job, or no line that fits. */
  resolve(question: RateQuestion): RateLine | null {
    return (
      this.resolveAt(question.projectId, question.taskId, question.memberId, question.serviceId, question.day)?.line ??
      null
    );
  }

  /** What decides for work on a project where nothing is said of task, person or service. */
  usualOn(projectId: Id, day: Day): RateLine | null {
    return this.resolve({ projectId, taskId: null, memberId: '', serviceId: null, day });
  }

  /** {@link resolve} with the cost behind it and without an object for the question, for long loops. */
  resolveAt(
    projectId: Id | null,
    taskId: Id | null,
    memberId: Id,
    serviceId: Id | null,
    day: Day,
  ): RateDecision | null {
    if (projectId === null) return null;
    const known = this.#known;
    const at = known.placeOf(this.tree.jobKey(projectId, taskId), memberId, serviceId);
    const timeline = known.at(at) ?? known.put(at, this.#timeline(projectId, taskId, memberId, serviceId));
    return latestOn(timeline, day);
  }

  /** The same winner with what it beat and why, strongest first. */
  explain(question: RateQuestion): RateAnswer {
    const { projectId, taskId, memberId, serviceId, day } = question;
    if (projectId === null) return { winner: null, rejected: [] };
    const winner = this.resolve(question);
    const currency = this.currencyOf(projectId);
    const places = this.tree.placesOf(projectId, taskId);
    const fitting = this.#fitting(projectId, taskId, memberId, serviceId);
    const beaten = fitting
      .filter((line) => line !== winner)
      .map((line) => ({ line, why: whyBeaten(line, winner, places, day) }));
    const foreign = this.#lines
      .filter((line) => line.currency !== null && line.currency !== currency)
      .filter((line) => places.includes(placeOf(line)) && this.#fits(line, memberId, serviceId))
      .map((line) => ({ line, why: `in ${line.currency}, the client is invoiced in ${currency ?? 'nothing'}` }));
    return { winner, rejected: [...beaten, ...foreign] };
  }

  /**
   * What decides by date, ascending. From the first day of the narrowest lines on, one of them is always in force; before it one of the
   * next narrower, and so on.
   */
  #timeline(projectId: Id, taskId: Id | null, memberId: Id, serviceId: Id | null): Timeline {
    const currency = this.currencyOf(projectId);
    if (currency === null) return NOTHING;
    const groups = this.#groupsFor(projectId, taskId, memberId, serviceId);
    const whose = groups.some((group) => group.marksUp) ? memberId : '';
    const key = `${currency} ${whose} ${groups.map((group) => group.key).join(' ')}`;
    let timeline = this.#shared.get(key);
    if (!timeline) {
      const decided = this.#decide(groups, memberId, currency);
      timeline = { froms: Int32Array.from(decided, (each) => numberOf(each.from)), decided };
      this.#shared.set(key, timeline);
    }
    return timeline;
  }

  #decide(groups: readonly Group[], memberId: Id, currency: CurrencyCode): RateDecision[] {
    const lines: RateLine[] = [];
    for (const group of groups) {
      const next = lines.at(-1)?.from;
      for (const line of linesIn(group, currency)) if (next === undefined || line.from < next) lines.push(line);
    }
    return lines.reverse().flatMap((line, index) => {
      if (line.markup === null) return [this.#plainOf(line)];
      const until = lines[index + 1]?.from;
      return this.#costDates(memberId, currency, line.from, until).map((from): RateDecision => {
        const cost = this.costs.on(memberId, from);
        const exchanged = cost && this.exchange.between(cost.currency, currency, from);
        return { from, line, currency, cost, exchanged, cachedPrice: undefined };
      });
    });
  }

  /** What a line with a price of its own decides, wherever it does. */
  #plainOf(line: RateLine): RateDecision {
    let decided = this.#plain.get(line);
    if (!decided) {
      decided = {
        from: line.from,
        line,
        currency: line.currency!,
        cost: null,
        exchanged: null,
        cachedPrice: undefined,
      };
      this.#plain.set(line, decided);
    }
    return decided;
  }

  /** The days of a span on which what a member costs may change, its first day among them. */
  #costDates(memberId: Id, currency: CurrencyCode, from: Day, until: Day | undefined): Day[] {
    const days = new Set([from]);
    for (const cost of this.costs.of(memberId)) {
      days.add(cost.from);
      for (const day of this.exchange.datesBetween(cost.currency, currency)) days.add(day);
    }
    return [...days].filter((day) => day >= from && (until === undefined || day < until)).sort();
  }

  /** Lines that count, narrowest first, within one group the latest date first. */
  #fitting(projectId: Id, taskId: Id | null, memberId: Id, serviceId: Id | null): RateLine[] {
    const currency = this.currencyOf(projectId);
    if (currency === null) return [];
    return this.#groupsFor(projectId, taskId, memberId, serviceId).flatMap((group) => linesIn(group, currency));
  }

  /** Groups of lines that fit, the narrowest first. */
  #groupsFor(projectId: Id, taskId: Id | null, memberId: Id, serviceId: Id | null): Group[] {
    const role = this.#members.get(memberId)?.role ?? null;
    const fitting: Group[] = [];
    for (const place of this.tree.placesOf(projectId, taskId)) {
      const groups = this.#groups.get(place);
      if (!groups) continue;
      for (const who of [`member ${memberId}`, `role ${role}`, '']) {
        for (const what of serviceId === null ? [''] : [serviceId, '']) {
          const group = groups.get(`${who}/${what}`);
          if (group) fitting.push(group);
        }
      }
    }
    return fitting;
  }

  #fits(line: RateLine, memberId: Id, serviceId: Id | null): boolean {
    return (
      (line.memberId === null || line.memberId === memberId) &&
      (line.role === null || line.role === this.#members.get(memberId)?.role) &&
      (line.serviceId === null || line.serviceId === serviceId)
    );
  }
}

/** The place that a rate line stands at; null = the workspace. */
export const placeOf = (line: Pick<RateLine, 'taskId' | 'projectId' | 'contractId' | 'clientId'>): Id | null =>
  line.taskId ?? line.projectId ?? line.contractId ?? line.clientId;

/** The lines of one place, who and what: they differ by their dates, and by currency. */
interface Group {
  key: number;
  /** Latest first. */
  lines: RateLine[];
  marksUp: boolean;
}

const linesIn = (group: Group, currency: CurrencyCode): RateLine[] =>
  group.lines.filter((line) => line.currency === null || line.currency === currency);

function grouped(lines: readonly RateLine[]): Map<Id | null, Map<string, Group>> {
  const places = new Map<Id | null, Map<string, Group>>();
  const all: Group[] = [];
  for (const line of lines) {
    const who = line.memberId !== null ? `member ${line.memberId}` : line.role !== null ? `role ${line.role}` : '';
    const name = `${who}/${line.serviceId ?? ''}`;
    let groups = places.get(placeOf(line));
    if (!groups) places.set(placeOf(line), (groups = new Map()));
    let group = groups.get(name);
    if (!group) {
      group = { key: all.length, lines: [], marksUp: false };
      groups.set(name, group);
      all.push(group);
    }
    group.lines.push(line);
    group.marksUp ||= line.markup !== null;
  }
  for (const group of all) group.lines.sort((a, b) => (a.from < b.from ? 1 : a.from > b.from ? -1 : 0));
  return places;
}

const who = (line: RateLine): number => (line.memberId !== null ? 2 : line.role !== null ? 1 : 0);
const what = (line: RateLine): number => (line.serviceId !== null ? 1 : 0);

function whyBeaten(line: RateLine, winner: RateLine | null, places: readonly (Id | null)[], day: Day): string {
  if (line.from > day) return `only from ${showDayShort(line.from)}`;
  if (!winner) return '';
  if (places.indexOf(placeOf(line)) > places.indexOf(placeOf(winner))) return 'less specific about where';
  if (who(line) < who(winner)) return 'less specific about who';
  if (what(line) < what(winner)) return 'less specific about what';
  return `replaced from ${showDayShort(winner.from)}`;
}
