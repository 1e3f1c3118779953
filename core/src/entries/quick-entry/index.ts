export { folded } from './named-jobs';
export { readLine } from './read';
export { readDay } from './read-day';
export * from './said';
export { writeLine } from './write';
