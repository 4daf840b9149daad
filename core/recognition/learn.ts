import type { LearnedLevel } from './document.ts';
import type { Compared } from './evidence.ts';
import { priorOf } from './matcher.ts';
import { levelKey, tuned, type Tuning } from './tuning.ts';

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

/**
 * Learns how much levels weigh among these records. How likely a level is in two records of the same (m) is estimated
 * by expectation-maximisation over pairs that come into question (Dempster, Laird, Rubin 1977; Winkler 1988), how
 * likely in any two (u) is counted in random pairs; then people's decisions pull the weights further, by penalised
 * logistic regression. Few pairs leave the defaults nearly as they are.
 * @param pairs that come into question, compared by defaults; @param random any two records, compared by defaults
 * @param known how many records are known
 */
export function learn(pairs: readonly LearningPair[], random: readonly Compared[], known: number): LearnedLevel[] {
  const levels = levelsOf(pairs, random);
  let tuning: Tuning = new Map();
  for (let round = 0; round < ROUNDS; round += 1) {
    const next = maximise(levels, pairs, expect(pairs, tuning, known));
    const moved = Math.max(0, ...[...next].map(([key, shift]) => Math.abs(shift - (tuning.get(key) ?? 0))));
    tuning = next;
    if (moved < 0.01) break;
  }
  const decided = pairs.filter(({ decided: answer }) => answer !== undefined);
  tuning = pulled(tuning, decided, known);
  return [...levels.values()].flatMap(({ about, level }) => {
    const shift = Math.round((tuning.get(levelKey(about, level)) ?? 0) * 100) / 100;
    return Math.abs(shift) >= 0.05 ? [{ about, level, shift }] : [];
  });
}

/** How likely each pair is the same, as things are thought to be. */
function expect(pairs: readonly LearningPair[], tuning: Tuning, known: number): number[] {
  const prior = priorOf(known);
  return pairs.map(({ compared, decided }) => {
    if (decided) return decided === 'same' ? 1 : 0;
    if (compared.veto?.atMost === 'different') return 0;
    return odds(tuned(compared, tuning).weight - prior);
  });
}

const odds = (bits: number): number => 1 / (1 + 2 ** -bits);

/** Levels of full agreement, whose weight comes from how rare the value is: only their likelihood in the same is learned. */
const agrees = (level: string): boolean => /^(?:the )?same\b/.test(level);

function levelsOf(pairs: readonly LearningPair[], random: readonly Compared[]): Map<string, Level> {
  const seen = new Map<string, { about: string; level: string; bits: number; count: number; u: number }>();
  const known = new Map<string, number>();
  for (const { evidence } of random) for (const { about } of evidence) known.set(about, (known.get(about) ?? 0) + 1);
  const at = (about: string, level: string) => {
    const key = levelKey(about, level);
    const found = seen.get(key) ?? { about, level, bits: 0, count: 0, u: 0 };
    seen.set(key, found);
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
  for (const about of new Set([...seen.values()].map((each) => each.about))) {
    const mine = [...seen.values()].filter((each) => each.about === about);
    const total = known.get(about) ?? 0;
    let rest = 1;
    for (const { level, bits, count, u } of mine) {
      if (agrees(level) || count === 0) continue;
      const byDefault = Math.min(0.4, ((u + 0.5) / (total + 1)) * 2 ** (bits / count));
      rest -= byDefault;
      levels.set(levelKey(about, level), { about, level, byDefault });
    }
    // What is left belongs to agreement, in the proportions in which it is seen.
    const agreeing = mine.filter(({ level, count }) => agrees(level) && count > 0);
    const all = agreeing.reduce((sum, { count }) => sum + count, 0);
    for (const { level, count } of agreeing)
      levels.set(levelKey(about, level), { about, level, byDefault: (Math.max(0.3, rest) * count) / all });
  }
  return levels;
}

function maximise(levels: ReadonlyMap<string, Level>, pairs: readonly LearningPair[], same: readonly number[]): Tuning {
  const mass = new Map<string, number>();
  const ofField = new Map<string, number>();
  pairs.forEach(({ compared, decided }, at) => {
    const counts = same[at]! * (decided ? DECIDED_COUNTS : 1);
    if (counts === 0) return;
    for (const { about, level } of compared.evidence) {
      const key = levelKey(about, level);
      mass.set(key, (mass.get(key) ?? 0) + counts);
      ofField.set(about, (ofField.get(about) ?? 0) + counts);
    }
  });
  const shifts = new Map<string, number>();
  for (const [key, { about, byDefault }] of levels) {
    const m = ((mass.get(key) ?? 0) + PRIOR_PAIRS * byDefault) / ((ofField.get(about) ?? 0) + PRIOR_PAIRS);
    shifts.set(key, bounded(Math.log2(m / byDefault)));
  }
  return shifts;
}

const bounded = (shift: number): number => Math.max(-MOST_SHIFT, Math.min(MOST_SHIFT, shift));

/** Gradient steps of a logistic regression on decided pairs, held back towards where it starts from. */
function pulled(from: Tuning, decided: readonly LearningPair[], known: number): Tuning {
  if (decided.length === 0) return from;
  const prior = priorOf(known);
  const shifts = new Map(from);
  for (let step = 0; step < 200; step += 1) {
    const slope = new Map<string, number>();
    for (const { compared, decided: answer } of decided) {
      const missed = (answer === 'same' ? 1 : 0) - odds(tuned(compared, shifts).weight - prior);
      for (const { about, level } of compared.evidence) {
        const key = levelKey(about, level);
        slope.set(key, (slope.get(key) ?? 0) + missed);
      }
    }
    for (const [key, towards] of slope) {
      const held = (shifts.get(key) ?? 0) - (from.get(key) ?? 0);
      shifts.set(key, bounded((shifts.get(key) ?? 0) + 0.1 * (towards - held / SPREAD_BITS ** 2)));
    }
  }
  return shifts;
}
