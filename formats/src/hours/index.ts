export * from './columns';
export * from './line';
export * from './map';
export * from './table';
export * from './write';
