export * from './budget';
export * from './caps';
export * from './tally';
