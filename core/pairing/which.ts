import type { Values } from '../schema/index.ts';
import { isBlank } from '../values/index.ts';
import type { Match } from './model.ts';
import { endOf, valueOf, type Around, type Reach } from './places.ts';
import type { Side, Sides } from './settle.ts';

/** A text by which a record finds its counterpart: both have the same. */
export type Key = string;

/**
 * The keys of a record, one per way in which it may be seen what it goes with; undefined where a part of it is blank.
 * Values are compared exactly, but for white space at the ends and the case of e-mail addresses.
 */
export function keysOf(
  matches: readonly Match[],
  side: Side,
  around: Sides<Around>,
  record: { id: string; values: Values },
  reach: Reach,
): (Key | undefined)[] {
  return matches.map(({ parts }) => {
    const texts: string[] = [];
    for (const part of parts) {
      const value = valueOf(part[side], around[side], record.id, record.values, reach);
      if (isBlank(value) || Array.isArray(value)) return undefined;
      const text = String(value).normalize('NFC').trim();
      texts.push(isFolded(part, around) ? text.toLowerCase() : text);
    }
    return JSON.stringify(texts);
  });
}

const isFolded = (part: Match['parts'][number], around: Sides<Around>): boolean =>
  (['left', 'right'] as const).some((side) => endOf(part[side], around[side])?.field.type === 'email');

/** Whether the way finds a record of this side by its own id. */
export const byOwnId = ({ parts }: Match, side: Side, around: Sides<Around>): boolean =>
  parts.length === 1 && parts[0]![side].length === 1 && parts[0]![side][0] === around[side].entity.key;

/** Which records go together: told apart surely, or with somebody to say. Records are named by their places in the lists. */
export interface Joined {
  pairs: { left: number; right: number; match: number }[];
  /** Several of one side have the same key as one or more of the other: never guessed. */
  unsure: { left: number[]; right: number[]; match: number }[];
  alone: Sides<number[]>;
}

/** Joins two lists of records by their keys: the first way in which a record has any counterpart decides. */
export function joined(keys: Sides<readonly (readonly (Key | undefined)[])[]>, matches: number): Joined {
  const free = { left: new Set(keys.left.keys()), right: new Set(keys.right.keys()) };
  const result: Joined = { pairs: [], unsure: [], alone: { left: [], right: [] } };
  for (let match = 0; match < matches; match += 1) {
    const right = byKey(keys.right, free.right, match);
    for (const [key, mine] of byKey(keys.left, free.left, match)) {
      const others = right.get(key);
      if (!others) continue;
      if (mine.length === 1 && others.length === 1) result.pairs.push({ left: mine[0]!, right: others[0]!, match });
      else result.unsure.push({ left: mine, right: others, match });
      for (const each of mine) free.left.delete(each);
      for (const each of others) free.right.delete(each);
    }
  }
  result.alone = { left: [...free.left], right: [...free.right] };
  return result;
}

function byKey(
  keys: readonly (readonly (Key | undefined)[])[],
  among: ReadonlySet<number>,
  match: number,
): Map<Key, number[]> {
  const found = new Map<Key, number[]>();
  for (const at of among) {
    const key = keys[at]![match];
    if (key === undefined) continue;
    const known = found.get(key);
    if (known) known.push(at);
    else found.set(key, [at]);
  }
  return found;
}

/** A way in words: "CRM id is Id", "E-mail is E-mail". */
export function matchInWords({ parts }: Match, around: Sides<Around>): string {
  const named = (side: Side, path: readonly string[]): string =>
    [
      around[side].entity.label,
      ...path.map((_, at) => endOf(path.slice(0, at + 1), around[side])?.field.label ?? path[at]!),
    ].join(' · ');
  return parts.map((part) => `${named('left', part.left)} is ${named('right', part.right)}`).join(' and ');
}
