export * from './budget';
export * from './caps';
export * from './tally';
export * from './amounts';
export * from './match';
export * from './project-money';
export * from './headings';
