export * from './cost';
export type { RateDecision } from './rate-decision';
export * from './exchange';
export * from './markups';
export * from './resolver';
export * from './tree';
export * from './working';
