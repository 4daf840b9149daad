import { v7 as uuid } from 'uuid';
import type { Sealer } from '../../access/index.ts';

/** What goes along with a form that is shown: when that was, and a key that makes sending it twice harmless. */
export interface Issued {
  key: string;
  /** In milliseconds since 1970. */
  at: number;
}

/** A form may lie open for so long; nobody's browser keeps one for longer. */
const GOOD_FOR_MS = 30 * 24 * 3_600_000;
const about = (intake: string): string => `form ${intake}`;

/** Something fresh to go along, sealed: whoever sends it back was shown the form. */
export const issue = (sealer: Sealer, intake: string, now = Date.now()): string =>
  sealer.seal(JSON.stringify([uuid(), now]), about(intake));

/** @returns undefined for what was never issued for this form, was altered, or is too old */
export function readIssued(sealer: Sealer, intake: string, sealed: unknown, now = Date.now()): Issued | undefined {
  if (typeof sealed !== 'string' || sealed.length > 400) return undefined;
  try {
    const [key, at] = JSON.parse(sealer.open(sealed, about(intake))) as [string, number];
    return now - at > GOOD_FOR_MS ? undefined : { key, at };
  } catch {
    return undefined;
  }
}
