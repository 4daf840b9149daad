import {
  priorOf,
  tunedWeight,
  tuningOf,
  untuned,
  verdictAlone,
  type Compared,
  type Recogniser,
  type Verdict,
  type Weighed,
} from '@zusammen/core/recognition';
import type { DecidedPair } from '../../store/index.ts';
import type { Sampled } from './measure.ts';

/** How many verdicts would become others, by what they are and what they would be. */
export type Moves = Record<`${Verdict} to ${Verdict}`, number>;

/** What another recognition would make of the same pairs. */
export interface EffectOfChange {
  /** Pairs of known records. */
  pairs: { of: number; moves: Partial<Moves> };
  /** Some of the pairs that would be judged otherwise. */
  examples: { a: string; b: string; move: keyof Moves }[];
  /** The newest submissions that were weighed: how many, and which would be judged otherwise. */
  live: { of: number; moved: { submission: string; label: string; move: keyof Moves }[] };
  /** Pairs that somebody has decided: how many verdicts agree with them, before and after; unsure counts as neither. */
  decided: { of: number; agreed: number; wouldAgree: number; wrong: number; wouldBeWrong: number };
}

/** A submission that was weighed against the known records: what spoke for the likeliest of them. */
export interface WeighedSubmission {
  id: string;
  label: string;
  likeliest: Weighed;
}

/** So many submissions that would be judged otherwise are named. */
const MOST_MOVED = 100;
/** So many pairs of each move are shown. */
const EXAMPLES = 3;

/** Compares what a recognition says with what another would, before it is saved. */
export function effectOfChange(
  before: Recogniser,
  after: Recogniser,
  { pairs }: Sampled,
  decided: readonly DecidedPair[],
  submissions: readonly WeighedSubmission[] = [],
): EffectOfChange {
  const moves: Partial<Moves> = {};
  const examples: EffectOfChange['examples'] = [];
  const [verdictBefore, verdictAfter] = [verdictsBy(before), verdictsBy(after)];
  for (const { a, b, compared } of pairs) {
    const [was, would] = [verdictBefore(compared), verdictAfter(compared)];
    if (was === would) continue;
    const move = `${was} to ${would}` as const;
    const many = (moves[move] ?? 0) + 1;
    moves[move] = many;
    if (many <= EXAMPLES) examples.push({ a: a.id, b: b.id, move });
  }
  const tuning = tuningOf(before.recognition);
  const moved = submissions.flatMap(({ id, label, likeliest }) => {
    // What a rule has decided stays so, whatever it weighs.
    if (likeliest.why !== undefined) return [];
    const evidence = untuned(likeliest.evidence, tuning);
    const compared = { evidence, weight: evidence.reduce((sum, { bits }) => sum + bits, 0) };
    const [was, would] = [verdictBefore(compared), verdictAfter(compared)];
    return was === would ? [] : [{ submission: id, label, move: `${was} to ${would}` as const }];
  });
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
  const live = { of: submissions.length, moved: moved.slice(0, MOST_MOVED) };
  return { pairs: { of: pairs.length, moves }, examples, live, decided: counted };
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
