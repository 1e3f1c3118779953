export * from './catalogue';
export * from './check-workspace';
export * from './executor';
export type { HoursRow } from './import-hours';
export { ledgerLineSchema, type LedgerLine } from './ledger';
export { addressesIn } from './letters';
export { moneyInLineSchema, type MoneyInLine } from './money-in';
export type { OutPart } from './payouts';
export { onlineSource, type OnlineEvent } from './online';
