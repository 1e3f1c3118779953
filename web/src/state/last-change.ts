/** Where the last change was made, which is what Ctrl Z takes back: in the workspace or in the trail. */
let where: 'workspace' | 'trail' = 'workspace';

export const changedIn = (place: typeof where): void => void (where = place);
export const lastChangedIn = (): typeof where => where;
