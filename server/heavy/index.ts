export type { Makes } from './fields.ts';
export { pack, type Packed } from './packed.ts';
export type { KeptPairs, LookedOver, PackedSample, PackedSide } from './pairings.ts';
export * from './pool.ts';
export type { Compared, Rehearsal } from './rehearsal.ts';
export type { ReadMetadata } from './thread.ts';
export { Readings } from './remembered.ts';
