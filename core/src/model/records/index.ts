export * from './invoices';
export * from './journal';
export * from './rates';
export * from './rounding';
export * from './studio';
export * from './time';
export * from './work';
