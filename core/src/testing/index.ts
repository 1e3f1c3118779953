export * from './contract';
export * from './fault';
export * from './studio';
export * from './runs';
