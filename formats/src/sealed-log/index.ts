export * from './client';
export * from './meeting';
export * from './requests';
export * from './rows';
export * from './sealed-bytes';
export * from './sync';
export * from './writers';
