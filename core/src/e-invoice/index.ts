export * from './e-invoice';
export * from './kinds';
export * from './lacking';
export * from './party';
export * from './read-invoice';
export * from './rules';
export * from './supplier-bill';
export * from './pay-code';
