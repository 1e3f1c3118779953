import { addDays, dayOf, instantAt, weekdayOf, type Day, type Instant } from '@half-penny/core/time';
import { Chance } from './chance';

/** A transaction of the simulated bookkeeping, as its service tells it. */
export interface Transaction {
  id: string;
  /** Counts up each time it is corrected. */
  revision: number;
  date: Day;
  payee: string;
  narrative: string;
  /** A plain decimal; spent is above nothing. */
  amount: string;
  currency: string;
  withdrawn: boolean;
}

/** A transaction and when the bookkeeping told it. */
export interface Told {
  at: Instant;
  transaction: Transaction;
}

const ZONE = 'Europe/London';
const DAYS_BACK = 42;

const PURCHASES = [
  { payee: 'Brightwater Supplies', narrative: 'CARD 4471 GALLERY 3 GEL', least: 1800, most: 9400 },
  { payee: 'Brightwater Supplies', narrative: 'CARD 4471 GALLERY 3 LAMPS', least: 2400, most: 18_000 },
  { payee: 'Saltmere Hardware', narrative: 'CARD 4471 GALLERY 3 FIXINGS', least: 420, most: 3800 },
  { payee: 'Saltmere Hardware', narrative: 'CARD 4471 CABLE TIES TAPE', least: 350, most: 2600 },
  { payee: 'Northline Rail', narrative: 'CARD 4471 FERNHILL RETURN', least: 1840, most: 4660 },
  { payee: 'Tidewell Parking', narrative: 'CARD 4498 PLAYHOUSE', least: 300, most: 1400 },
  { payee: 'Harbour Van Hire', narrative: 'CARD 4471 DAY HIRE', least: 6200, most: 9800 },
  { payee: 'Kettle and Crumb', narrative: 'CARD 4498 LUNCH', least: 640, most: 3100 },
  { payee: 'Lantern Press', narrative: 'CARD 4471 PLOTTING A1', least: 900, most: 4200 },
] as const;

/** Hours and minutes at which the bookkeeping hears of what was bought that day. */
const TOLD_AT = [9 * 60 + 40, 11 * 60 + 5, 13 * 60 + 30, 16 * 60 + 10] as const;

/**
 * Everything the bookkeeping told up to a moment, in the order it did: the same for the same days whenever it is asked. Some transactions are
 * corrected a few days later, and some withdrawn.
 */
export function toldUntil(now: Instant): Told[] {
  const today = dayOf(now, ZONE);
  const told: Told[] = [];
  for (let day = addDays(today, -DAYS_BACK); day <= today; day = addDays(day, 1)) {
    if (weekdayOf(day) <= 5) told.push(...toldOf(day));
  }
  return told.filter((each) => each.at <= now).sort((a, b) => a.at - b.at || (cursorOf(a) < cursorOf(b) ? -1 : 1));
}

/** Where a reader stands who has read up to this. */
export const cursorOf = ({ at, transaction }: Told): string =>
  `${String(at).padStart(14, '0')}-${transaction.id}-${transaction.revision}`;

function toldOf(day: Day): Told[] {
  const number = Math.round(Date.parse(`${day}T00:00:00Z`) / 86_400_000);
  const chance = new Chance(number * 7919);
  return TOLD_AT.flatMap((minute, index): Told[] => {
    if (!chance.happens(0.42)) return [];
    const { payee, narrative, least, most } = chance.pick(PURCHASES);
    const pence = chance.between(least, most);
    const first: Transaction = {
      id: `T${number}${index}`,
      revision: 1,
      date: day,
      payee,
      narrative,
      amount: decimal(pence),
      currency: 'GBP',
      withdrawn: false,
    };
    const at = instantAt(day, minute, ZONE);
    const later = instantAt(addDays(day, chance.between(2, 6)), 8 * 60 + 15 + index, ZONE);
    const told: Told[] = [{ at, transaction: first }];
    if (chance.happens(0.05)) {
      const amount = decimal(pence + chance.between(20, 240));
      told.push({ at: later, transaction: { ...first, revision: 2, amount } });
    } else if (chance.happens(0.03)) told.push({ at: later, transaction: { ...first, revision: 2, withdrawn: true } });
    return told;
  });
}

const decimal = (pence: number): string => `${Math.floor(pence / 100)}.${String(pence % 100).padStart(2, '0')}`;
