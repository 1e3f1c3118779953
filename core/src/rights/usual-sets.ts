import { rightNames, type Right, type RightSet } from '../model/records';

/** The sets that a studio usually starts with; each may be changed, and others added. */
export const usualSets: readonly (Pick<RightSet, 'name'> & { rights: readonly Right[] })[] = [
  { name: 'Principal', rights: rightNames },
  {
    name: 'Checker',
    rights: ['record own', 'record others', 'see rates', 'billable part', 'approve', 'work', 'reports'],
  },
  {
    name: 'Bookkeeper',
    rights: ['record own', 'see rates', 'see cost', 'close', 'costs', 'billing', 'reports'],
  },
  { name: 'Member', rights: ['record own'] },
  { name: 'Finance reader', rights: ['see rates', 'see cost', 'reports'] },
];

/** The usual sets as rows hold them, for all work. */
export const usualSetRows = (): Omit<RightSet, 'id'>[] =>
  usualSets.map(({ name, rights }) => ({ name, grants: rights.map((right) => ({ right, only: null })) }));
