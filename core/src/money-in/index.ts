export * from './offers';
export * from './payer-names';
export * from './quoted';
