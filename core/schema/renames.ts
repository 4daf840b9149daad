import { fold } from '../values/index.ts';
import type { ValuesAlike } from './alike.ts';
import type { Field } from './model.ts';

/** A field that is likely another's new name, and what speaks for it. */
export interface Rename {
  was: Field;
  is: Field;
  /** In words, the strongest first. */
  why: string[];
}

/** So much has to speak for two fields' being the same, and so much more than for any other: a wrong mend is worse than none. */
export const LIKELY = 3;
const CLEARLY = 1;
/** Kinds that a system may tell apart otherwise from one day to the next. */
const TEXTS = new Set<string>(['text', 'long text', 'email', 'phone', 'web address']);

/**
 * Which of the fields that are gone are there under another name: by label, name, kind, options, limits and values, each
 * pair weighed, and taken where it is the best for both by a clear margin. Greedy, the likeliest first.
 * @param alike what values of these fields say, where any are known
 */
export function renamesAmong(
  gone: readonly Field[],
  fresh: readonly Field[],
  alike: readonly ValuesAlike[] = [],
): Rename[] {
  const said = new Map(alike.map((each) => [JSON.stringify([each.was, each.is]), each]));
  const pairs = gone
    .flatMap((was) =>
      fresh.map((is) => ({ was, is, ...likeness(was, is, said.get(JSON.stringify([was.name, is.name]))) })),
    )
    .filter(({ weight }) => weight >= LIKELY)
    .sort((a, b) => b.weight - a.weight);
  const taken = new Set<Field>();
  const renames: Rename[] = [];
  for (const { was, is, weight, why } of pairs) {
    if (taken.has(was) || taken.has(is)) continue;
    const rival = pairs.find(
      (other) =>
        (other.was === was) !== (other.is === is) &&
        !taken.has(other.was) &&
        !taken.has(other.is) &&
        other.weight > weight - CLEARLY,
    );
    if (rival) continue;
    taken.add(was).add(is);
    renames.push({ was, is, why });
  }
  return renames;
}

/** What speaks for it that two fields are the same: how much, and in words. */
export function likeness(was: Field, is: Field, values?: ValuesAlike): { weight: number; why: string[] } {
  const sameKind = was.type === is.type || (TEXTS.has(was.type) && TEXTS.has(is.type));
  if (!sameKind || was.relation !== is.relation) return { weight: 0, why: [] };
  let weight = 0;
  const why: { more: number; words: string }[] = [];
  const add = (more: number, words: string): void => {
    if (more <= 0) return;
    weight += more;
    why.push({ more, words });
  };
  if (fold(was.label) === fold(is.label)) add(4, 'the same label');
  else add(2 * shared(was.label, is.label), 'a label alike');
  add(3 * shared(was.name.replaceAll('_', ' '), is.name.replaceAll('_', ' ')), 'a name alike');
  if (was.options && is.options) {
    // Spelt a little otherwise, they are the same here.
    const same = sharedOptions(bareOf(was.options), bareOf(is.options));
    if (same === 0) weight -= 3;
    add(5 * same, same === 1 ? 'the same options' : 'options alike');
  }
  if (was.relation !== undefined) add(1, `leads to ${was.relation}`);
  if (was.unique && is.unique) add(1.5, 'unique as well');
  if (was.maxLength !== undefined && was.maxLength === is.maxLength) add(0.5, 'the same limit');
  if (values && values.of >= FEWEST_VALUES) {
    // The more records say so, the surer; after a few they don't say much more.
    add((5 * values.beyondChance * values.of) / (values.of + 2), `the same in ${values.equal} of ${values.of} records`);
    // Values may have been written otherwise on the way: that few are the same speaks against it, and doesn't settle it.
    if (values.equal < values.of * FEW) weight -= 1;
  }
  return { weight, why: why.sort((a, b) => b.more - a.more).map(({ words }) => words) };
}

/** So many records have to hold something before and after for their values to say anything. */
const FEWEST_VALUES = 3;
/** A share of the same values that is hardly any. */
const FEW = 0.2;

/** A list that another holds whole is alike, however much longer that one is; a single option says little. */
function sharedOptions(a: readonly string[], b: readonly string[]): number {
  const [few, many] = a.length < b.length ? [a, new Set(b)] : [b, new Set(a)];
  const held = few.filter((each) => many.has(each)).length;
  return Math.max(sharedOf(a, b), few.length < 2 ? 0 : (0.6 * held) / few.length);
}
/** Long lists are compared with every field that has one: their bare letters are worked out once. */
const BARE = new WeakMap<readonly object[], string[]>();
function bareOf(options: readonly { label: string }[]): string[] {
  const known = BARE.get(options);
  if (known) return known;
  const bare = options.map(({ label }) => fold(label).replace(/[^\p{L}\p{N}]/gu, ''));
  BARE.set(options, bare);
  return bare;
}
const wordsOf = (text: string): string[] =>
  fold(text)
    .split(' ')
    .filter((word) => word !== '');
const shared = (a: string, b: string): number => sharedOf(wordsOf(a), wordsOf(b));

/** The share of what both have among all that either has (Jaccard 1901). */
function sharedOf(a: readonly string[], b: readonly string[]): number {
  const [left, right] = [new Set(a), new Set(b)];
  const both = [...left].filter((each) => right.has(each)).length;
  const all = left.size + right.size - both;
  return all === 0 ? 0 : both / all;
}
