export * from './generate';
export { cursorOf, toldUntil, type Told, type Transaction } from './bookkeeping';
