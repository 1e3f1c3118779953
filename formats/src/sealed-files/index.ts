export * from './content';
export * from './envelope';
export * from './fault';
export * from './invitation';
export * from './keys';
