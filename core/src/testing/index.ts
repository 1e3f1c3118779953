export * from './contract';
export * from './studio';
export * from './runs';
