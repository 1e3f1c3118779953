export * from './dues';
export * from './payment-file';
export * from './pay-offers';
export * from './sources';
