export * from './budget';
export * from './caps';
export * from './contract-money';
export * from './headings';
export * from './project-band';
export * from './project-money';
export * from './tally';
