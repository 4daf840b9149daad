import { suggestLines } from './suggest.ts';
import { learnedKey, type SourceField, type TargetEntity } from './suggestion.ts';
import type { Line } from './line.ts';

/** One decision of a specialist about a pair of fields. */
export interface Lesson {
  from: string;
  entity: string;
  field: string;
  right: boolean;
}

export interface Mapped {
  entity: string;
  lines: readonly Pick<Line, 'from' | 'field' | 'origin'>[];
}

/**
 * What publishing teaches: lines that stand are right, suggestions that were passed over are wrong. What an earlier
 * version taught already isn't counted again.
 * @param steps what is published; `before` what was live until now, if anything
 */
export function lessonsOf(
  fields: readonly SourceField[],
  entities: readonly TargetEntity[],
  steps: readonly Mapped[],
  before: readonly Mapped[] | undefined,
): Lesson[] {
  const keyOf = (name: string): string | undefined => {
    const field = fields.find((each) => each.name === name);
    return field && learnedKey(field);
  };
  const pairsOf = (all: readonly Mapped[]): Map<string, Omit<Lesson, 'right'>> => {
    const pairs = new Map<string, Omit<Lesson, 'right'>>();
    for (const { entity, lines } of all) {
      for (const { from, field, origin } of lines) {
        const key = from.length === 1 && origin === 'set' ? keyOf(from[0]!) : undefined;
        if (key !== undefined) pairs.set(JSON.stringify([key, entity, field]), { from: key, entity, field });
      }
    }
    return pairs;
  };
  const chosen = pairsOf(steps);
  const known = pairsOf(before ?? []);
  const right = [...chosen].filter(([id]) => !known.has(id)).map(([, pair]) => ({ ...pair, right: true }));
  if (before) return right;
  const wrong = suggestLines(fields, entities).flatMap(({ from, entity, field }): Lesson[] => {
    const key = from.length === 1 ? keyOf(from[0]!) : undefined;
    if (key === undefined || chosen.has(JSON.stringify([key, entity, field]))) return [];
    return [{ from: key, entity, field, right: false }];
  });
  return [...right, ...wrong];
}
