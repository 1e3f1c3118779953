export * from './contract';
export * from './studio';
