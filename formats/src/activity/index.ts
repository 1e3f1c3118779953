export * from './calls';
export * from './lines';
export * from './mail';
export * from './phone';
