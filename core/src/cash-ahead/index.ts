export * from './ahead';
export * from './chance';
export * from './held-out';
export * from './late-days';
export * from './facts';
