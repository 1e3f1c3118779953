export * from './hours-back';
export * from './task-name';
export * from './told';
