import type { Id } from '../model/ids';
import type * as R from '../model/records';
import type { Decimal } from '../money/decimal';
import { fromScaled, toScaled } from '../money/decimal';
import { amountOfScaled, scaledWithMarkup, unitSeconds, type RateUnit } from '../money/price';
import type { RoundingRule } from '../money/rational';
import { minorPerMajor, type CurrencyCode } from '../money/currency';
import type { Minor } from '../money/amount';
import { RateResolver } from '../rates/resolver';
import type { RateDecision } from '../rates/rate-decision';
import type { WorkTree } from '../rates/tree';
import type { Seconds } from '../time/length';
import type { RoundingPolicy } from '../time/rounding';

/** Everything that prices depend on: the small tables of a workspace. */
export interface PriceBook {
  workspace: R.Workspace;
  members: readonly R.Member[];
  clients: readonly R.Client[];
  contacts: readonly R.Contact[];
  contracts: readonly R.Contract[];
  projects: readonly R.Project[];
  tasks: readonly R.Task[];
  stages: readonly R.Stage[];
  services: readonly R.Service[];
  kindsOfWork: readonly R.KindOfWork[];
  costCodes: readonly R.CostCode[];
  taxes: readonly R.Tax[];
  rateLines: readonly R.RateLine[];
  costRates: readonly R.CostRate[];
  markups: readonly R.Markup[];
  exchangeRates: readonly R.ExchangeRate[];
  /** Among them the estimates that are billed in place of what happened. */
  agreed: readonly R.Agreed[];
}

/** The tables of a {@link PriceBook}. */
export const bookTables = [
  'workspace',
  'members',
  'clients',
  'contacts',
  'contracts',
  'projects',
  'tasks',
  'stages',
  'services',
  'kindsOfWork',
  'costCodes',
  'taxes',
  'rateLines',
  'costRates',
  'markups',
  'exchangeRates',
  'agreed',
] as const;

/** What a unit of time sells for, with its figures as whole numbers; made once and used for every entry it holds for. */
export interface Price {
  /** What decided; null where the price was agreed for one entry alone. */
  decided: RateDecision | null;
  /** What stands on the invoice: the line's own price, or the cost with its markup, rounded to four places. */
  price: Decimal;
  unit: RateUnit;
  currency: CurrencyCode;
  /** Ten-thousandths of a major unit. */
  scaled: number;
  perSeconds: number;
  minorUnits: number;
  /** Percent that was added to the cost; null where the price stands by itself. */
  markup: Decimal | null;
  /** What a unit of it costs, where the price is that with a markup; in the price's currency. */
  costPrice: Decimal | null;
  /** Two lines of one price may stand on one invoice line. */
  key: string;
}

/** Looks up records by id and prices time. Made again when any of its tables changes. */
export class Pricer {
  readonly book: PriceBook;
  readonly rates: RateResolver;
  readonly tree: WorkTree;
  readonly project: ReadonlyMap<Id, R.Project>;
  readonly task: ReadonlyMap<Id, R.Task>;
  readonly client: ReadonlyMap<Id, R.Client>;
  readonly contract: ReadonlyMap<Id, R.Contract>;
  readonly member: ReadonlyMap<Id, R.Member>;
  readonly service: ReadonlyMap<Id, R.Service>;
  readonly kindOfWork: ReadonlyMap<Id, R.KindOfWork>;
  readonly stage: ReadonlyMap<Id, R.Stage>;
  readonly costCode: ReadonlyMap<Id, R.CostCode>;
  readonly tax: ReadonlyMap<Id, R.Tax>;
  readonly markup: ReadonlyMap<Id, R.Markup>;
  /** The one policy that holds for every job; null where some client or project has its own. */
  readonly onlyPolicy: RoundingPolicy | null;
  readonly #byKey = new Map<string, Price>();
  readonly #policies = new Map<Id, RoundingPolicy>();
  /** Estimates that are billed themselves, by project and heading. */
  readonly #estimates: ReadonlyMap<string, R.Agreed>;

  constructor(book: PriceBook) {
    this.book = book;
    this.rates = new RateResolver(book);
    const byId = <T extends { id: Id }>(rows: readonly T[]) => new Map(rows.map((row) => [row.id, row]));
    this.tree = this.rates.tree;
    this.project = this.tree.project;
    this.task = this.tree.task;
    this.client = byId(book.clients);
    this.contract = byId(book.contracts);
    this.member = byId(book.members);
    this.service = byId(book.services);
    this.kindOfWork = byId(book.kindsOfWork);
    this.stage = byId(book.stages);
    this.costCode = byId(book.costCodes);
    this.tax = byId(book.taxes);
    this.markup = byId(book.markups);
    this.#estimates = new Map(
      book.agreed
        .filter((row) => row.kind === 'estimate' && row.billed)
        .map((row) => [headingKey(row.projectId, row.costCodeId), row]),
    );
    const own = [...book.clients, ...book.projects].some((each) => each.rounding !== null);
    this.onlyPolicy = own ? null : book.workspace.rounding;
  }

  /** The client behind a project; undefined for work for nobody and for no job. */
  clientOf(projectId: Id | null): R.Client | undefined {
    const clientId = projectId === null ? null : this.project.get(projectId)?.clientId;
    return clientId ? this.client.get(clientId) : undefined;
  }

  /** Whether a project's hours are put on invoices by the hour: not those of internal work, nor those of a fixed price. */
  billsHours(projectId: Id | null): boolean {
    const kind = projectId === null ? undefined : this.project.get(projectId)?.kind;
    return kind === 'hourly' || kind === 'cost-plus';
  }

  /**
   * The estimate that is billed in place of hours and costs under a heading: one of the project itself, or of the nearest around it.
   * What stands under no heading is covered by an estimate without one.
   */
  estimateOver(projectId: Id | null, costCodeId: Id | null): R.Agreed | null {
    if (projectId === null || this.#estimates.size === 0) return null;
    for (const project of this.tree.upFrom(projectId)) {
      const found = this.#estimates.get(headingKey(project.id, costCodeId));
      if (found) return found;
    }
    return null;
  }

  /** Whether an entry goes on invoices by the hour: its project does, and no estimate is billed in its place. */
  billsEntry({ projectId, serviceId }: Pick<R.Entry, 'projectId' | 'serviceId'>): boolean {
    if (!this.billsHours(projectId)) return false;
    const costCodeId = serviceId === null ? null : (this.service.get(serviceId)?.costCodeId ?? null);
    return this.estimateOver(projectId, costCodeId) === null;
  }

  /** How time on a project is rounded: by its own policy, that of a project around it, its client's, or the workspace's. */
  policyOf(projectId: Id | null): RoundingPolicy {
    if (projectId === null || this.onlyPolicy) return this.book.workspace.rounding;
    let policy = this.#policies.get(projectId);
    if (!policy) {
      const own = this.tree.upFrom(projectId).find((project) => project.rounding !== null)?.rounding;
      policy = own ?? this.clientOf(projectId)?.rounding ?? this.book.workspace.rounding;
      this.#policies.set(projectId, policy);
    }
    return policy;
  }

  /** What an entry's time sells for, or null where no rate fits or a markup has no cost to stand on. */
  priceOf(entry: Pick<R.Entry, 'projectId' | 'taskId' | 'memberId' | 'serviceId' | 'day' | 'rate'>): Price | null {
    if (entry.rate !== null) return this.#agreed(entry.projectId, entry.rate);
    const decided = this.rates.resolveAt(entry.projectId, entry.taskId, entry.memberId, entry.serviceId, entry.day);
    if (decided === null) return null;
    return decided.cachedPrice === undefined ? this.#price(decided) : (decided.cachedPrice as Price | null);
  }

  /**
   * What an entry's time sells for with a markup of one invoice's own on what the member costs; null where no cost rate, or no exchange rate
   * for it, is known.
   */
  priceMarkedUp(entry: Pick<R.Entry, 'projectId' | 'memberId' | 'day'>, markup: Decimal): Price | null {
    const currency = this.rates.currencyOf(entry.projectId);
    const cost = this.rates.costs.on(entry.memberId, entry.day);
    const exchanged = cost && currency && this.rates.exchange.between(cost.currency, currency, entry.day);
    if (!cost || !currency || !exchanged) return null;
    const rule = this.book.workspace.amountRounding;
    const { costPrice, scaled } = markedUp(cost.price, markup, exchanged, rule);
    const by = `${[cost, ...exchanged.used].map((row) => row.id).join(' ')} +${markup} ${currency}`;
    return this.#made(by, fromScaled(scaled), cost.unit, currency, null, markup, costPrice);
  }

  /** A price that was agreed outside the rate cards. */
  priceFor(price: Decimal, unit: RateUnit, currency: CurrencyCode): Price {
    return this.#made(`${price} ${unit} ${currency}`, price, unit, currency, null);
  }

  /** A length at a price, rounded once by the workspace's rule. */
  amount(seconds: Seconds, price: Price): Minor {
    return amountOfScaled(
      seconds,
      price.scaled,
      price.perSeconds,
      price.minorUnits,
      this.book.workspace.amountRounding,
    );
  }

  /** What a length of a member's work costs the studio on a day, in the currency of the cost rate; null where none is set. */
  costOf(
    memberId: Id,
    day: string,
    seconds: Seconds,
  ): { amount: Minor; currency: CurrencyCode; rate: R.CostRate } | null {
    const rate = this.rates.costs.on(memberId, day);
    if (!rate) return null;
    const { amountRounding, daySeconds } = this.book.workspace;
    const perSeconds = unitSeconds(rate.unit, daySeconds);
    const minorUnits = minorPerMajor(rate.currency);
    const amount = amountOfScaled(seconds, toScaled(rate.price), perSeconds, minorUnits, amountRounding);
    return { amount, currency: rate.currency, rate };
  }

  /** {@link costOf} in another currency, by the exchange rate of the day; null where that is not known. */
  costIn(memberId: Id, day: string, seconds: Seconds, currency: CurrencyCode): Minor | null {
    const cost = this.costOf(memberId, day, seconds);
    const rule = this.book.workspace.amountRounding;
    return cost && this.rates.exchange.convert(cost.amount, cost.currency, currency, day, rule);
  }

  #price(decided: RateDecision): Price | null {
    const price = this.#priceOfDecided(decided);
    decided.cachedPrice = price;
    return price;
  }

  #priceOfDecided(decided: RateDecision): Price | null {
    const { line, cost, exchanged, currency } = decided;
    if (line.price !== null) return this.#made(line.id, line.price, line.unit, currency, decided);
    if (!cost || !exchanged) return null;
    const { costPrice, scaled } = markedUp(cost.price, line.markup!, exchanged, this.book.workspace.amountRounding);
    const by = [line, cost, ...exchanged.used].map((row) => row.id).join(' ');
    return this.#made(`${by} ${currency}`, fromScaled(scaled), cost.unit, currency, decided, line.markup, costPrice);
  }

  #agreed(projectId: Id | null, rate: NonNullable<R.Entry['rate']>): Price | null {
    const currency = this.rates.currencyOf(projectId);
    if (currency === null) return null;
    return this.#made(`${rate.price} ${rate.unit} ${currency}`, rate.price, rate.unit, currency, null);
  }

  /** One object for one price, so that drafts see at a glance that entries share it. */
  #made(
    by: string,
    price: Decimal,
    unit: RateUnit,
    currency: CurrencyCode,
    decided: RateDecision | null,
    markup: Decimal | null = null,
    costPrice: Decimal | null = null,
  ): Price {
    let made = this.#byKey.get(by);
    if (!made) {
      made = {
        decided,
        price,
        unit,
        currency,
        scaled: toScaled(price),
        perSeconds: unitSeconds(unit, this.book.workspace.daySeconds),
        minorUnits: minorPerMajor(currency),
        markup,
        costPrice,
        key: `${price}/${unit}`,
      };
      this.#byKey.set(by, made);
    }
    return made;
  }
}

/**
 * What a unit costs in the client's currency, and with its markup: each rounded to the four places of a price, so that whoever adds the
 * markup to the printed cost gets the printed price.
 */
function markedUp(
  price: Decimal,
  markup: Decimal,
  exchanged: { numerator: bigint; denominator: bigint },
  rule: RoundingRule,
): { costPrice: Decimal; scaled: number } {
  const cost = scaledWithMarkup(toScaled(price), 0, exchanged, rule);
  const scaled = scaledWithMarkup(cost, toScaled(markup), { numerator: 1n, denominator: 1n }, rule);
  return { costPrice: fromScaled(cost), scaled };
}

/** "Winter season rig · Quayside Playhouse", a job in words as it was written, "No job yet". */
export function jobName(pricer: Pricer, projectId: Id | null, unlisted = ''): string {
  if (projectId === null || !pricer.project.has(projectId)) return unlisted || 'No job yet';
  const client = pricer.clientOf(projectId);
  return client ? `${projectName(pricer, projectId)} · ${client.name}` : projectName(pricer, projectId);
}

/** "Spring double bill › Extras": a project with those around it, outermost first. */
export const projectName = (pricer: Pricer, projectId: Id): string => pricer.tree.pathOf(projectId);

const headingKey = (projectId: Id, costCodeId: Id | null): string => `${projectId} ${costCodeId ?? ''}`;
