export * from './catalogue';
export * from './check';
export * from './executor';
export type { HoursRow } from './hours';
export { ledgerLineSchema, type LedgerLine } from './ledger';
