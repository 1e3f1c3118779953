export * from './amount';
export * from './currency';
export * from './decimal';
export * from './price';
export * from './rational';
export * from './share';
export * from './tax';
export * from './written';
