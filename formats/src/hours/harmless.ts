// A cell that begins with one of these is a formula to a spreadsheet; the wide ones count where wide signs are written.
const SIGNS = '=+\\-@＝＋－＠';
// A spreadsheet that parts columns by another sign than ours begins a cell after it, and one that does not follow quotes begins a row.
const PARTS = ';|\\t\\r\\n';

const LEADING = new RegExp(`^(?=['"\\s]*[${SIGNS}])`);
const INNER = new RegExp(`([${PARTS}] *)(?=['" ]*[${SIGNS}])`, 'g');
const LEADING_BACK = new RegExp(`^'(?=['"\\s]*[${SIGNS}])`);
const INNER_BACK = new RegExp(`([${PARTS}] *)'(?=['" ]*[${SIGNS}])`, 'g');

/**
 * Text in which no spreadsheet finds a formula, at its beginning or behind what may part columns there: an apostrophe goes before each.
 * Where there are some already one more is added, so that {@link unharmed} takes off just that.
 */
export const harmless = (text: string): string => text.replace(INNER, "$1'").replace(LEADING, "'");

/** Text as it was before {@link harmless}. */
export const unharmed = (text: string): string => text.replace(LEADING_BACK, '').replace(INNER_BACK, '$1');
