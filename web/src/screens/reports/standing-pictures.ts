import type { Pricer } from '@half-penny/core/billing';
import { nameOf, projectsUnder } from '@half-penny/core/costing';
import type { Member } from '@half-penny/core/model';
import { agedPicture, budgetPicture, owedByAge, toBillByAge, type SmallPicture } from '@half-penny/core/reports';
import { addDays, type Day } from '@half-penny/core/time';
import { useMemo } from 'react';
import { useInvoices, useToBill } from '../../data/billing';
import { useSession } from '../../data/session';
import { siftBookOf } from '../../parts/sift-book';
import { useAll } from '../../data/read';
import { useLookBack } from '../../data/use-look-back';
import { useStandings, useWorkRows } from '../../data/work';

const every = () => true;
const LATELY = 30;
const WORDS = 5;

/** Pictures of the reports on where things stand, from what those reports read. */
export function useStandingPictures(
  pricer: Pricer | undefined,
  member: Member | undefined,
  today: Day,
): ReadonlyMap<string, SmallPicture | null> {
  const { entry } = useSession();
  const book = useMemo(() => pricer && siftBookOf(pricer, entry.id), [pricer, entry.id]);
  const invoices = useInvoices();
  const toBill = useToBill(pricer, 'every client');
  const budgets = useAll('budgets');
  const projectIds = useMemo(
    () => (pricer ? [...new Set((budgets ?? []).flatMap((budget) => projectsUnder(pricer, budget)))] : []),
    [budgets, pricer],
  );
  const standings = useStandings(pricer, useWorkRows(projectIds), every);
  const looked = useLookBack(
    addDays(today, -LATELY),
    today,
    member?.zone ?? pricer?.book.workspace.zone ?? 'UTC',
    pricer?.book.workspace.weights ?? NO_WEIGHTS,
    book,
  );
  return useMemo(() => {
    const pictures = new Map<string, SmallPicture | null>();
    if (!pricer) return pictures;
    const home = pricer.book.workspace.currency;
    const put = (key: string, picture: SmallPicture | null) => pictures.set(`standing ${key}`, picture);
    if (invoices) put('owed', agedPicture(owedByAge(invoices, today), home, { ahead: true, measure: 'invoiced' }));
    if (toBill) put('to-bill', agedPicture(toBillByAge(toBill, today), home, { ahead: false, measure: 'to bill' }));
    if (budgets)
      put(
        'burn',
        budgetPicture(standings, ({ budget }) => nameOf(pricer, budget)),
      );
    put('closed', null);
    if (looked) {
      const points = looked.by.word.slice(0, WORDS).map(({ key, seen }) => ({ label: key, value: seen / 1000 }));
      put(
        'words',
        points.length === 0
          ? null
          : { measure: 'front', kind: 'length', overTime: false, points, whole: null, currency: home, others: false },
      );
    }
    return pictures;
  }, [pricer, invoices, toBill, budgets, standings, looked, today]);
}

const NO_WEIGHTS: never[] = [];
