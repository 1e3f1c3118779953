export * from './csv-headings';
export * from './read';
export * from './write';
export { readTable, TableError, type Table, type TableFault } from '../hours/table';
