export * from './csv-headings';
export * from './harmless';
export * from './line';
export * from './map';
export * from './table';
export * from './write';
