export * from './code';
export * from './designs';
export * from './invoice-view';
export * from './picture';
