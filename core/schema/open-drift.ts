import { drift, renamesOver, type Difference, type OpenRename } from './drift.ts';
import {
  lostOver,
  newlyRequiredOver,
  takenOtherwiseOver,
  type Lost,
  type NewlyRequired,
  type TakesOtherwise,
} from './lost.ts';
import type { Schema } from './model.ts';

/** What has become otherwise over a system's last readings, and still is. */
export interface OpenDrift {
  /** How the newest reading differs from the one before. */
  differences: Difference[];
  renames: OpenRename[];
  lost: Lost[];
  required: NewlyRequired[];
  otherwise: TakesOtherwise[];
}

/** @param readings the newest first */
export const openDriftOf = (readings: readonly Schema[]): OpenDrift => {
  const [now, before] = readings;
  return {
    differences: now && before ? drift(before, now) : [],
    renames: renamesOver(readings),
    lost: lostOver(readings),
    required: newlyRequiredOver(readings),
    otherwise: takenOtherwiseOver(readings),
  };
};
