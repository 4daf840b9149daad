import type { Value } from '../schema/index.ts';
import { isBlank, lengthInBytes, lengthInCharacters, quoted, read, unreadable, type Reading } from '../values/index.ts';

/** What a field that gathers all values can hold. */
export interface Bounds {
  /** Bytes of UTF-8, or characters (code points), of the whole text; absent: no limit is known. */
  bytes?: number;
  characters?: number;
  /** It holds a list rather than a text. */
  list: boolean;
}

/** Between the values in a text. */
const BETWEEN = '; ';
/** Values gathered at most: what is longer is no use to anybody. */
const MOST = 1_000;

/**
 * What a field holds when a value is added to what it has gathered: every value once, the newest last. Where that is
 * more than the field takes, the oldest go.
 * @returns unreadable where the value alone is too long
 */
export function collected(held: Value, value: Value, bounds: Bounds): Reading<Value> {
  const added = entriesOf(value);
  if (added.length === 0) return read(held);
  const before = entriesOf(held).filter((each) => !added.includes(each));
  const all = [...before, ...added].slice(-MOST);
  const kept = bounds.list ? all : newestThatFit(all, bounds);
  if (kept.length === 0) return unreadable(`“${quoted(all.at(-1)!)}” alone is longer than the field takes`);
  return read(bounds.list ? kept : kept.join(BETWEEN));
}

/** As many of the last as fit together. */
function newestThatFit(entries: readonly string[], { bytes = Infinity, characters = Infinity }: Bounds): string[] {
  const left = { bytes: bytes + BETWEEN.length, characters: characters + BETWEEN.length };
  let first = entries.length;
  while (first > 0) {
    const text = entries[first - 1]! + BETWEEN;
    left.bytes -= lengthInBytes(text);
    left.characters -= lengthInCharacters(text);
    if (left.bytes < 0 || left.characters < 0) break;
    first -= 1;
  }
  return entries.slice(first);
}

function entriesOf(value: Value): string[] {
  if (isBlank(value)) return [];
  const texts = Array.isArray(value) ? value : typeof value === 'string' ? value.split(';') : [String(value)];
  // The mark between values can't be part of one.
  return [...new Set(texts.map((text) => text.replace(/;/g, ',').trim()))].filter((text) => text !== '');
}
