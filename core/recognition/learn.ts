import type { LearnedLevel } from './document.ts';
import type { Compared } from './evidence.ts';
import { priorOf } from './matcher.ts';
import { levelKey } from './tuning.ts';

/** Two records compared by our defaults; where a person has decided about them, how. */
export interface LearningPair {
  compared: Compared;
  decided?: 'same' | 'different';
}

/** So many pairs' worth of our defaults count beside what is seen. */
const PRIOR_PAIRS = 25;
/** What a person decided counts as so many pairs that only look so. */
const DECIDED_COUNTS = 4;
const MOST_SHIFT = 3;
const ROUNDS = 40;
/** How far a decision may still pull a weight, as the standard deviation of what is thought likely beforehand, in bits. */
const SPREAD_BITS = 1;

interface Level {
  about: string;
  level: string;
  /** How likely the level is among two records of the same, by default. */
  byDefault: number;
}

/** A pair by the places of its levels, so that no round looks words up again. */
interface Indexed {
  weight: number;
  levels: number[];
  decided: 'same' | 'different' | undefined;
}

/**
 * Learns how much levels weigh among these records. How likely a level is in two records of the same (m) is estimated
 * by expectation-maximisation over pairs that come into question (Dempster, Laird, Rubin 1977; Winkler 1988), how
 * likely in any two (u) is counted in random pairs; then people's decisions pull the weights further, by penalised
 * logistic regression. Few pairs leave the defaults nearly as they are.
 * @param pairs that come into question, compared by defaults; @param random any two records, compared by defaults
 * @param known how many records are known
 */
export function learn(pairs: readonly LearningPair[], random: readonly Compared[], known: number): LearnedLevel[] {
  const byKey = levelsOf(pairs, random);
  const levels = [...byKey.values()];
  const places = new Map([...byKey.keys()].map((key, at) => [key, at]));
  // What a rule keeps apart is never the same, and has no part in what levels weigh in the same.
  const indexed = pairs.flatMap(({ compared, decided }): Indexed[] =>
    decided === undefined && compared.veto?.atMost === 'different'
      ? []
      : [
          {
            weight: compared.weight,
            levels: compared.evidence.map(({ about, level }) => places.get(levelKey(about, level))!),
            decided,
          },
        ],
  );
  const prior = priorOf(known);
  let shifts: Shifts = new Float64Array(levels.length);
  for (let round = 0; round < ROUNDS; round += 1) {
    const next = maximised(levels, indexed, shifts, prior);
    const moved = Math.max(0, ...next.map((shift, at) => Math.abs(shift - shifts[at]!)));
    shifts = next;
    if (moved < 0.01) break;
  }
  shifts = pulled(
    shifts,
    indexed.filter(({ decided }) => decided !== undefined),
    prior,
  );
  return levels.flatMap(({ about, level }, at) => {
    const shift = Math.round(shifts[at]! * 100) / 100;
    return Math.abs(shift) >= 0.05 ? [{ about, level, shift }] : [];
  });
}

/** By how many bits each level weighs more or less than by default. */
type Shifts = Float64Array;

/** How likely a pair is the same, as things are thought to be. */
function likelihood({ weight, levels }: Indexed, shifts: Shifts, prior: number): number {
  let bits = weight - prior;
  for (const at of levels) bits += shifts[at]!;
  return odds(bits);
}

const odds = (bits: number): number => 1 / (1 + 2 ** -bits);

/** Levels of full agreement, whose weight comes from how rare the value is: only their likelihood in the same is learned. */
const agrees = (level: string): boolean => /^(?:the )?same\b/.test(level);

function levelsOf(pairs: readonly LearningPair[], random: readonly Compared[]): Map<string, Level> {
  const seen = new Map<string, Map<string, { bits: number; count: number; u: number }>>();
  const at = (about: string, level: string) => {
    let mine = seen.get(about);
    if (!mine) seen.set(about, (mine = new Map()));
    let found = mine.get(level);
    if (!found) mine.set(level, (found = { bits: 0, count: 0, u: 0 }));
    return found;
  };
  for (const { compared } of pairs)
    for (const { about, level, bits } of compared.evidence) {
      const each = at(about, level);
      each.bits += bits;
      each.count += 1;
    }
  for (const { evidence } of random) for (const { about, level } of evidence) at(about, level).u += 1;
  const levels = new Map<string, Level>();
  for (const [about, mine] of seen) {
    const total = [...mine.values()].reduce((sum, { u }) => sum + u, 0);
    let rest = 1;
    for (const [level, { bits, count, u }] of mine) {
      if (agrees(level) || count === 0) continue;
      const byDefault = Math.min(0.4, ((u + 0.5) / (total + 1)) * 2 ** (bits / count));
      rest -= byDefault;
      levels.set(levelKey(about, level), { about, level, byDefault });
    }
    // What is left belongs to agreement, in the proportions in which it is seen.
    const agreeing = [...mine].filter(([level, { count }]) => agrees(level) && count > 0);
    const all = agreeing.reduce((sum, [, { count }]) => sum + count, 0);
    for (const [level, { count }] of agreeing)
      levels.set(levelKey(about, level), { about, level, byDefault: (Math.max(0.3, rest) * count) / all });
  }
  return levels;
}

/** One round: how likely each pair is the same, and from that how likely each level is in two of the same. */
function maximised(levels: readonly Level[], pairs: readonly Indexed[], shifts: Shifts, prior: number): Shifts {
  const mass = new Float64Array(levels.length);
  for (const pair of pairs) {
    const same = pair.decided === undefined ? likelihood(pair, shifts, prior) : Number(pair.decided === 'same');
    const counts = same * (pair.decided === undefined ? 1 : DECIDED_COUNTS);
    for (const at of pair.levels) mass[at]! += counts;
  }
  const ofField = new Map<string, number>();
  levels.forEach(({ about }, at) => ofField.set(about, (ofField.get(about) ?? 0) + mass[at]!));
  return Float64Array.from(levels, ({ about, byDefault }, at) => {
    const m = (mass[at]! + PRIOR_PAIRS * byDefault) / (ofField.get(about)! + PRIOR_PAIRS);
    return bounded(Math.log2(m / byDefault));
  });
}

const bounded = (shift: number): number => Math.max(-MOST_SHIFT, Math.min(MOST_SHIFT, shift));

/** Gradient steps of a logistic regression on decided pairs, held back towards where it starts from. */
function pulled(from: Shifts, decided: readonly Indexed[], prior: number): Shifts {
  const shifts = from.slice();
  const concerned = [...new Set(decided.flatMap(({ levels }) => levels))];
  for (let step = 0; step < 200 && decided.length > 0; step += 1) {
    const slope = new Float64Array(from.length);
    for (const pair of decided) {
      const missed = Number(pair.decided === 'same') - likelihood(pair, shifts, prior);
      for (const at of pair.levels) slope[at]! += missed;
    }
    for (const at of concerned) {
      const held = shifts[at]! - from[at]!;
      shifts[at] = bounded(shifts[at]! + 0.1 * (slope[at]! - held / SPREAD_BITS ** 2));
    }
  }
  return shifts;
}
