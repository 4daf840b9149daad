import type { DifferenceTold } from '@zusammen/core/api';
import type { Difference } from '@zusammen/core/schema';
import type { Reach } from './reach.ts';

/** So many differences of a schema are told with what they concern: it may be another one altogether. */
const MOST_TOLD = 500;

/**
 * How a system differs from what it was, with what of ours each difference concerns; what stops something comes first, and
 * what concerns nothing last.
 */
export async function whatDiffers(
  reach: Pick<Reach, 'of'>,
  system: string,
  differences: readonly Difference[],
): Promise<DifferenceTold[]> {
  if (differences.length === 0) return [];
  const uses = new Map<string, DifferenceTold['uses'][number]>();
  const byPlace = new Map<string, Set<string>>();
  for (const { by, id, name, how, entity, field } of await reach.of({ system })) {
    const does = how === 'written' || how === 'kept in step' ? 'writes' : 'reads';
    for (const place of [entity, placeOf(entity, field)]) {
      const key = JSON.stringify([place, by, id]);
      if (uses.get(key)?.how !== 'writes') uses.set(key, { by, id, name, how: does });
      byPlace.set(place, (byPlace.get(place) ?? new Set()).add(key));
    }
  }
  const told = differences.slice(0, MOST_TOLD).map((each): DifferenceTold => {
    // What was renamed is still used by the name it had.
    const field = each.was ?? each.field;
    const place = field === undefined ? each.entity : placeOf(each.entity, field);
    const keys = each.harm === undefined ? [] : [...(byPlace.get(place) ?? [])];
    return { ...each, uses: keys.map((key) => uses.get(key)!) };
  });
  return told.sort((a, b) => weightOf(a) - weightOf(b));
}

const placeOf = (entity: string, field: string): string => JSON.stringify([entity, field]);

const weightOf = ({ harm, uses }: DifferenceTold): number =>
  uses.length === 0 ? 2 : harm === 'stops' ? 0 : harm === 'look' ? 1 : 2;
