export * from './catalogue';
export * from './check';
export type { Circumstances, Command } from './command';
export type { HoursRow } from './hours';
export * from './journal';
export * from './memory';
export * from './perform';
export * from './store';
export { ledgerLineSchema, type LedgerLine } from './ledger';
