import {
  priorOf,
  tunedWeight,
  tuningOf,
  verdictAlone,
  type Compared,
  type Recogniser,
  type Verdict,
} from '@zusammen/core/recognition';
import type { DecidedPair } from '../../store/index.ts';
import type { Sampled } from './measure.ts';

/** How many verdicts would become others, by what they are and what they would be. */
export type Moves = Record<`${Verdict} to ${Verdict}`, number>;

/** What another recognition would make of the same pairs. */
export interface EffectOfChange {
  /** Pairs of known records. */
  pairs: { of: number; moves: Partial<Moves> };
  /** Pairs that somebody has decided: how many verdicts agree with them, before and after; unsure counts as neither. */
  decided: { of: number; agreed: number; wouldAgree: number; wrong: number; wouldBeWrong: number };
}

/** Compares what a recognition says with what another would, before it is saved. */
export function effectOfChange(
  before: Recogniser,
  after: Recogniser,
  { pairs }: Sampled,
  decided: readonly DecidedPair[],
): EffectOfChange {
  const moves: Partial<Moves> = {};
  const [verdictBefore, verdictAfter] = [verdictsBy(before), verdictsBy(after)];
  for (const { compared } of pairs) {
    const [was, would] = [verdictBefore(compared), verdictAfter(compared)];
    if (was !== would) moves[`${was} to ${would}`] = (moves[`${was} to ${would}`] ?? 0) + 1;
  }
  const counted = { of: decided.length, agreed: 0, wouldAgree: 0, wrong: 0, wouldBeWrong: 0 };
  for (const { evidence, same } of decided) {
    const compared = { evidence, weight: evidence.reduce((sum, { bits }) => sum + bits, 0) };
    const [was, would] = [verdictBefore(compared), verdictAfter(compared)];
    const truth: Verdict = same ? 'same' : 'different';
    counted.agreed += Number(was === truth);
    counted.wouldAgree += Number(would === truth);
    counted.wrong += Number(was !== truth && was !== 'unsure');
    counted.wouldBeWrong += Number(would !== truth && would !== 'unsure');
  }
  return { pairs: { of: pairs.length, moves }, decided: counted };
}

/** What a recognition says of pairs that were compared by defaults. */
function verdictsBy({ recognition, known }: Recogniser): (plain: Compared) => Verdict {
  const [tuning, prior] = [tuningOf(recognition), priorOf(known)];
  // Most pairs are kept apart by a rule, whatever they weigh.
  return (plain) =>
    plain.veto?.atMost === 'different'
      ? 'different'
      : verdictAlone({ weight: tunedWeight(plain, tuning) - prior, compared: plain }, recognition.thresholds);
}
