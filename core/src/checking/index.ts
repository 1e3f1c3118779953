export * from './checked-line';
export * from './guard';
export * from './invariants';
export * from './periods';
export * from './second-look';
export * from './standing';
