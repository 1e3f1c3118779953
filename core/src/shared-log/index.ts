export * from './device';
export * from './log';
export * from './share';
export { needShare, type SharedTransaction } from './transaction';
