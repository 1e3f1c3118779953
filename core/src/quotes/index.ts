export * from './quote';
export * from './task-lines';
