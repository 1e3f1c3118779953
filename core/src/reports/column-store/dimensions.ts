/** What a fact is told by, as it stands in the columns. Everything else that reports group by is looked up from one of these. */
export const dimensions = [
  'what',
  'client',
  'project',
  'task',
  /** The task's own; else that of the project, or of the nearest around it that has one. */
  'stage',
  'service',
  'kindOfWork',
  'member',
  'costCode',
  'costType',
  /** Days since 1970-01-01; 0 for none. */
  'day',
  /** Hour of the day it began in, from 1; 0 where that is not known. */
  'hour',
  'billable',
  'standing',
  /** How far it is in being checked. */
  'approval',
  /** Who looked last of those who approved it. */
  'approver',
  'note',
  /** All tags of it in one word, with commas between. */
  'tags',
  'reason',
  'currency',
  'source',
  'program',
  'site',
  'folder',
  'document',
  'opened for',
] as const;
export type Dimension = (typeof dimensions)[number];

/** Whole seconds, or how many. */
export const countedMeasures = [
  'count',
  'recorded',
  /** The billable part before rounding. */
  'exact',
  /** The billable part after rounding. */
  'billed',
  /** What rounding adds to lengths that a client pays by the hour. */
  'gainedLength',
  /** Of what was written down or is never to be billed, as it would have been billed. */
  'downLength',
  'break',
  'owed',
  'planned',
  /** In front, by the trail. */
  'front',
  /** Of documents: in view, worked in, and how often they were saved. */
  'inView',
  'hands',
  'kept',
  /** In front for a group of jobs that has a weight: seconds, and seconds by percent. */
  'grouped',
  'weighted',
] as const;

/** Minor units of the fact's currency. */
export const moneyMeasures = [
  /** What the billable part is worth at its rate. */
  'worth',
  /** Of that, what rounding adds to the length is worth. */
  'gained',
  'labourCost',
  'otherCost',
  /** Agreed beforehand. */
  'estimated',
  /** What time and agreed amounts sell for. */
  'fees',
  /** What costs are charged on for. */
  'onCharged',
  /** What was added to cost. */
  'marked',
  'invoiced',
  /** Of what was invoiced, for time alone. */
  'invoicedTime',
  'paid',
  'toBill',
  /** Worth of what was written down or is never to be billed; negative where it was written up. */
  'writtenDown',
  /** Invoiced, and given up. */
  'writtenOff',
] as const;

/** All that is added up, a column each. */
export const measures = [...countedMeasures, ...moneyMeasures] as const;
export type BaseMeasure = (typeof measures)[number];

const money: ReadonlySet<string> = new Set(moneyMeasures);
/** Whether a measure counts money, in minor units, rather than time or rows. */
export const isMoney = (measure: BaseMeasure): boolean => money.has(measure);
