export * from './csv';
export * from './html';
export * from './xlsx';
export * from './saved';
