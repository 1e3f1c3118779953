export * from './aho-corasick';
export * from './match';
export * from './rule';
export * from './sentence';
export * from './known-by';
