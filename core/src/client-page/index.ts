export * from './answer';
export * from './check';
export * from './page';
export * from './seal';
