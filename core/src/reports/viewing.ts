import { placeOfProject, isWithin, type Rights } from '../rights';
import type { Pricer } from '../billing/pricer';
import type { Id } from '../model/ids';
import type { Limit, Right } from '../model/records';
import { isMoney, type BaseMeasure } from './column-store/dimensions';
import type { Definition } from './definition';
import { measureOf, type MeasureName } from './measures';

// A report that is kept is one for everybody: what it shows each of them is what their rights allow.

/** Who looks at a report. */
export interface Viewer {
  rights: Rights;
  memberId: Id | null;
  pricer: Pick<Pricer, 'book' | 'project'>;
}

/** What of a report somebody may see, and what was left out for them. */
export interface Viewed {
  /** Null where nothing is left to measure. */
  definition: Definition | null;
  /** Measures that they may not see. */
  without: MeasureName[];
  /** Only what they recorded themselves. */
  ownOnly: boolean;
  /** Only this work; all where empty. */
  onlyFor: Limit[];
}

/** What is cost to the studio, and what is cost and price in one. */
const COST: ReadonlySet<BaseMeasure> = new Set<BaseMeasure>(['labourCost', 'otherCost', 'marked']);

/** The rights that a measure asks for: none for lengths and counts. */
export function rightsForMeasure(name: MeasureName): Right[] {
  const { needs } = measureOf(name);
  const rights: Right[] = [];
  if (needs.some((base) => isMoney(base) && (!COST.has(base) || base === 'marked'))) rights.push('see rates');
  if (needs.some((base) => COST.has(base))) rights.push('see cost');
  return rights;
}

/**
 * A report as somebody may see it: without money that they may not see, of their own work where they may not see that of others, and of
 * the clients and projects that their rights hold for.
 */
export function viewedBy(definition: Definition, { rights, memberId, pricer }: Viewer): Viewed {
  const hidden = (name: MeasureName) => rightsForMeasure(name).some((right) => !rights.has(right));
  const without = definition.measures.filter(hidden);
  const measures = definition.measures.filter((name) => !without.includes(name));
  const ownOnly = !rights.has('reports');
  const asked = [...new Set<Right>(['reports', ...measures.flatMap(rightsForMeasure)])];
  const onlyFor = asked.flatMap((right) => rights.limitOf(right) ?? []);
  if (measures.length === 0) return { definition: null, without, ownOnly, onlyFor };
  const { sortBy } = definition;
  return {
    definition: {
      ...definition,
      measures,
      sortBy: sortBy !== null && hidden(sortBy) ? null : sortBy,
      filters: [
        ...definition.filters,
        ...(ownOnly ? [{ field: 'member' as const, keys: [memberId ?? ''], without: false }] : []),
        ...onlyFor.map((only) => ({ field: 'whole project' as const, keys: projectsOf(pricer, only), without: false })),
      ],
    },
    without,
    ownOnly,
    onlyFor,
  };
}

const projectsOf = ({ book, project }: Viewer['pricer'], only: Limit): Id[] =>
  book.projects
    .filter((each) =>
      isWithin(
        placeOfProject(each, (id) => project.get(id)),
        only,
      ),
    )
    .map(({ id }) => id);
