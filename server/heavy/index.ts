export * from './pool.ts';
export type { Compared, Difference, Rehearsal, Rehearsed } from './rehearsal.ts';
export type { ReadMetadata } from './thread.ts';
export { Readings } from './remembered.ts';
