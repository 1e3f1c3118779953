export * from './aho-corasick';
export * from './match';
export * from './rule';
export * from './sentence';
