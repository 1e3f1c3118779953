export * from './basics';
export * from './clients';
export * from './days';
export * from './rates';
export * from './costs';
export * from './keeping';
