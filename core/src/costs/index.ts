export * from './amounts';
export * from './match';
