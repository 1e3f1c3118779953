export * from './client-page';
export * from './contract';
export * from './fault';
export * from './frozen';
export * from './studio';
export * from './runs';
export * from './rule';
