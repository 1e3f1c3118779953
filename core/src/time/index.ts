export * from './day';
export * from './interval';
export * from './length';
export * from './read-length';
export * from './rounding';
export * from './periods';
export * from './keeping';
