import { createHash } from 'node:crypto';

/** A text by 16 bytes of its SHA-256: short enough for an index, and nobody meets another by chance. */
export const hashed = (text: string): Buffer => createHash('sha256').update(text).digest().subarray(0, 16);
