export * from './journal';
export * from './register';
