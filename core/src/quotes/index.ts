export * from './quote';
