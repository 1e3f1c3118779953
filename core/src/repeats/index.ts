export * from './repeat';
