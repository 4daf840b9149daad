import { createHash } from 'node:crypto';

/** Lanes are kept as hashes: they tell whom a submission is about. */
export function laneHash(lane: string): Buffer {
  return createHash('sha256').update(lane).digest().subarray(0, 16);
}
