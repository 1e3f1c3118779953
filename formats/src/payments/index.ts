export * from './pain001';
