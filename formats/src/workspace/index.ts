export * from './manifest';
export { zipParts } from './parts';
export * from './read';
export * from './write';
