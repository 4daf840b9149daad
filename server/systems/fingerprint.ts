import { createHash } from 'node:crypto';
import type { Values } from '@zusammen/core/schema';

/** An ETag longer than this can't be kept; the record's fingerprint is. */
export const LONGEST_TAG = 200;
const SEEN = 'seen:';

/** Whether a tag is a fingerprint of ours and none that the system gave. */
export const isFingerprint = (etag: string | undefined): boolean => etag?.startsWith(SEEN) === true;

/** What a record held as we last saw it, in short: what is blank may be left out of an answer, and says nothing. */
export function fingerprintOf(values: Values): string {
  const said = Object.entries(values)
    .filter(([, value]) => value !== null && value !== '' && !(Array.isArray(value) && value.length === 0))
    .sort(([a], [b]) => (a < b ? -1 : 1));
  return SEEN + createHash('sha256').update(JSON.stringify(said)).digest('base64url');
}
