export * from './invoice-view';
export * from './picture';
