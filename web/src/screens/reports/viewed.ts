import type { Pricer } from '@half-penny/core/billing';
import type { Limit } from '@half-penny/core/model';
import { measureOf, viewedBy, type Definition, type Viewed } from '@half-penny/core/reports';
import { useMemo } from 'react';
import { useRights } from '../../data/rights';
import { useSession } from '../../data/session';

/** Shows a report as whoever works here may see it; undefined until the book is read. */
export function useViewer(pricer: Pricer | undefined): ((definition: Definition) => Viewed) | undefined {
  const rights = useRights();
  const { memberId } = useSession();
  return useMemo(
    () => pricer && ((definition: Definition) => viewedBy(definition, { rights, memberId, pricer })),
    [rights, memberId, pricer],
  );
}

/** "without Worth and Cost; only your own time": what was left out for whoever looks; empty where nothing was. */
export function sayLeftOut({ without, ownOnly, onlyFor }: Viewed, pricer: Pricer): string {
  const names = without.map((name) => measureOf(name).label);
  return [
    names.length > 0 ? `without ${list(names)}` : '',
    ownOnly ? 'only what you recorded yourself' : '',
    ...onlyFor.map((only) => `only ${list(namesOf(only, pricer))}`),
  ]
    .filter(Boolean)
    .join('; ');
}

const list = (names: readonly string[]): string =>
  names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : (names[0] ?? 'work that is not there');

const namesOf = ({ clientIds, projectIds }: Limit, pricer: Pricer): string[] => [
  ...clientIds.flatMap((id) => pricer.client.get(id)?.name ?? []),
  ...projectIds.flatMap((id) => pricer.project.get(id)?.name ?? []),
];
