export * from './account';
export * from './journal';
export * from './register';
export * from './ledes';
