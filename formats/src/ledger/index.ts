export * from './camt';
export * from './csv';
export type { Statement, StatementOptions } from './lines';
export * from './ofx';
export * from './service';
