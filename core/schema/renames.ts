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
  const valuesOf = (was: Field, is: Field): ValuesAlike | undefined =>
    said.size === 0 ? undefined : said.get(JSON.stringify([was.name, is.name]));
  const pairs = candidates(gone, fresh, alike)
    .map(([was, is]) => ({ was, is, ...likeness(was, is, valuesOf(was, is)) }))
    .filter(({ weight }) => weight >= LIKELY)
    .sort((a, b) => b.weight - a.weight);
  const ofWas = groupedBy(pairs, ({ was }) => was);
  const ofIs = groupedBy(pairs, ({ is }) => is);
  const taken = new Set<Field>();
  const renames: Rename[] = [];
  for (const pair of pairs) {
    const { was, is, weight, why } = pair;
    if (taken.has(was) || taken.has(is)) continue;
    const rival = [...ofWas.get(was)!, ...ofIs.get(is)!].some(
      (other) => other !== pair && !taken.has(other.was) && !taken.has(other.is) && other.weight > weight - CLEARLY,
    );
    if (rival) continue;
    taken.add(was).add(is);
    renames.push({ was, is, why });
  }
  return renames;
}

/** So many pairs are all weighed. Of more, a whole schema of others, only those that something rare speaks for. */
const MOST_PAIRS = 10_000;
/** What so many of the new fields have in common tells none of them. */
const COMMON = 20;
/** Options by which two fields may be told to be alike, of each list. */
const MOST_MARKED = 50;

/** Which pairs come into question: in time linear in the number of fields, once there are many. */
function candidates(gone: readonly Field[], fresh: readonly Field[], alike: readonly ValuesAlike[]): [Field, Field][] {
  if (gone.length * fresh.length <= MOST_PAIRS)
    return gone.flatMap((was) => fresh.map((is): [Field, Field] => [was, is]));
  const marks = fresh.flatMap((is) => marksOf(is).map((mark) => ({ mark, is })));
  const marked = groupedBy(marks, ({ mark }) => mark);
  const named = new Map(fresh.map((is) => [is.name, is]));
  const byValues = groupedBy(alike, ({ was }) => was);
  return gone.flatMap((was) => {
    const found = new Set<Field>();
    for (const mark of marksOf(was)) {
      const those = marked.get(mark) ?? [];
      if (those.length <= COMMON) for (const { is } of those) found.add(is);
    }
    for (const { is } of byValues.get(was.name) ?? []) if (named.has(is)) found.add(named.get(is)!);
    return [...found].map((is): [Field, Field] => [was, is]);
  });
}

function groupedBy<T, K>(all: readonly T[], keyOf: (each: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const each of all) {
    const key = keyOf(each);
    const known = groups.get(key);
    if (known) known.push(each);
    else groups.set(key, [each]);
  }
  return groups;
}

/** What two fields can have in common: their label, the words of their name in whatever order, their options. */
function marksOf(field: Field): string[] {
  const { label, nameWords } = wordsIn(field);
  const options = bareOf(field.options ?? []);
  return [
    `label ${label}`,
    `name ${[...nameWords].sort().join(' ')}`,
    ...(options.length === 0 ? [] : [`options ${options.slice(0, MOST_MARKED).sort().join(' ')}`]),
  ];
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
  const [before, now] = [wordsIn(was), wordsIn(is)];
  if (before.label === now.label) add(4, 'the same label');
  else add(2 * shareOf(before.labelWords, now.labelWords), 'a label alike');
  add(3 * shareOf(before.nameWords, now.nameWords), 'a name alike');
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
  return Math.max(shareOf(new Set(a), new Set(b)), few.length < 2 ? 0 : (0.6 * held) / few.length);
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
/** A field's label and its words: many fields are each compared with many. */
const WORDS = new WeakMap<Field, { label: string; labelWords: ReadonlySet<string>; nameWords: ReadonlySet<string> }>();
function wordsIn(field: Field) {
  let known = WORDS.get(field);
  if (!known) {
    const label = fold(field.label);
    known = { label, labelWords: wordsOf(label), nameWords: wordsOf(fold(field.name.replaceAll('_', ' '))) };
    WORDS.set(field, known);
  }
  return known;
}
const wordsOf = (folded: string): ReadonlySet<string> => new Set(folded.split(' ').filter((word) => word !== ''));

/** The share of what both have among all that either has (Jaccard 1901). */
function shareOf(left: ReadonlySet<string>, right: ReadonlySet<string>): number {
  let both = 0;
  for (const each of left) if (right.has(each)) both += 1;
  const all = left.size + right.size - both;
  return all === 0 ? 0 : both / all;
}
