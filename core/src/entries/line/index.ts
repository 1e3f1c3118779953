export { readDay, readLine } from './read';
export * from './said';
export { writeLine } from './write';
