export * from './hours-file';
export * from './service';
export * from './tables';
export * from './todos';
