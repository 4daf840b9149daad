/**
 * The outcome of reading a value: what it means, or why it can't be read. `ambiguous` lists the other
 * readings that were possible; a guess is never made in silence. `lost` names what was dropped on the way.
 */
export type Reading<T> = { ok: true; value: T; ambiguous?: string; lost?: string } | { ok: false; reason: string };

export const read = <T>(value: T, ambiguous?: string): Reading<T> =>
  ambiguous === undefined ? { ok: true, value } : { ok: true, value, ambiguous };

export const unreadable = <T>(reason: string): Reading<T> => ({ ok: false, reason });

/** A reading that dropped something, in words. */
export const readLosing = <T>(value: T, lost: string): Reading<T> => ({ ok: true, value, lost });
