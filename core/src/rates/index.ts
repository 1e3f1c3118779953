export * from './cost';
export type { Decided } from './decided';
export * from './exchange';
export * from './markups';
export * from './resolver';
export * from './tree';
export * from './working';
