export * from './invariants';
export * from './need';
export * from './place';
export * from './refusal';
export * from './rights';
export * from './usual-sets';
export * from './words';
