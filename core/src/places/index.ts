export * from './distance';
export { placesOf } from './places-of';
export { recordFrom, remarkFrom } from './record-from';
