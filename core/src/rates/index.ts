export * from './cost';
export * from './exchange';
export * from './markups';
export * from './resolver';
export * from './tree';
export * from './working';
