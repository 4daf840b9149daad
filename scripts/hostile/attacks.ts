import type { Attack } from './arena.ts';
import { AT_THE_DOOR } from './at-the-door.ts';
import { FROM_WITHIN } from './from-within.ts';
import { forms } from './forms.ts';
import { pairings } from './pairings.ts';
import { contexts, conversions, issuers } from './panels.ts';
import { renaming, schemas } from './schemas.ts';
import { visitors } from './visitors.ts';

/** Everything a stranger, a viewer or a system can be meant to do harm with, as far as we could think of it. */
export const ATTACKS: readonly Attack[] = [
  ...AT_THE_DOOR,
  ...FROM_WITHIN,
  pairings,
  forms,
  visitors,
  contexts,
  issuers,
  conversions,
  schemas,
  renaming,
];
