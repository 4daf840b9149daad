import type { LedgerChange } from '@zusammen/core/api';

/** Whose doing a change was: where somebody acted as themselves, they, by whatever connects to the system. */
export const actorsOf = ({ actor, actingPerson }: Pick<LedgerChange, 'actor' | 'actingPerson'>): string =>
  actingPerson === null ? actor : `${actingPerson}, by the ${actor}`;
