export * from './literals';
export * from './match';
export * from './rule';
export * from './sentence';
