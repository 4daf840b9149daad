import type { Value } from '../schema/index.ts';
import { isBlank, withoutQuoted } from '../values/index.ts';
import type { LineSettled, PairSettled, ReadyLine } from './pair.ts';
import { across, SIDES, type Side, type Sides } from './settle.ts';

/** What may become of a field of a pair. */
export const PAIR_OUTCOMES = ['same', 'to right', 'to left', 'undone', 'asked', 'stuck', 'left'] as const;
export type PairOutcome = (typeof PAIR_OUTCOMES)[number];

/** One pair of values, and what becomes of them. */
export interface OutcomeExample {
  ids: Sides<string | null>;
  outcome: PairOutcome;
  base: Sides<Value> | null;
  now: Sides<Value>;
  /** What is written, and on which side. */
  write?: { side: Side; value: Value };
  /** Why a value can't be had on the other side. */
  reason?: string;
}

/** What would happen to one field, over many pairs. */
export interface LineOutcomes {
  line: string;
  counts: Record<PairOutcome, number>;
  /** Pairs that hold different values now. */
  differ: number;
  /** Some of each outcome but the same. */
  examples: OutcomeExample[];
  /** What values lose on the way, in words, each with how often. */
  lost: { side: Side; words: string; count: number }[];
  /** Why values can't be had on the other side, each with how often. */
  stuck: { side: Side; words: string; count: number }[];
}

const EXAMPLES_OF_EACH = 4;
/** Characters that all examples may have together as JSON: values may be long, and lines many. */
const MOST_OF_EXAMPLES = 2_000_000;
const MOST_WORDS = 40;

/** Adds up what would happen over any number of pairs. */
export class Assessment {
  readonly lines: LineOutcomes[];
  pairs = 0;
  private told = 0;

  constructor(private readonly ready: readonly ReadyLine[]) {
    this.lines = ready.map(({ line }) => ({
      line: line.id,
      counts: Object.fromEntries(PAIR_OUTCOMES.map((outcome) => [outcome, 0])) as Record<PairOutcome, number>,
      differ: 0,
      ...{ examples: [], lost: [], stuck: [] },
    }));
  }

  add(settled: PairSettled, ids: Sides<string | null>): void {
    this.pairs += 1;
    settled.lines.forEach((each, at) => this.addLine(this.lines[at]!, this.ready[at]!, each, ids));
  }

  private addLine(sum: LineOutcomes, ready: ReadyLine, each: LineSettled, ids: Sides<string | null>): void {
    const outcome = outcomeOf(each);
    sum.counts[outcome] += 1;
    if (outcome !== 'same') sum.differ += 1;
    const side = SIDES.find((at) => each.write[at] !== undefined);
    if (side) {
      const from = across(side);
      const value = each.now[from];
      const carried = isBlank(value) ? undefined : ready.rule.carry[from](value);
      if (carried?.ok && carried.lost !== undefined) count(sum.lost, side, withoutQuoted(carried.lost));
    }
    if (each.stuck) count(sum.stuck, each.stuck.side, each.stuck.reason);
    if (outcome === 'same' || this.told > MOST_OF_EXAMPLES) return;
    if (sum.examples.filter((example) => example.outcome === outcome).length >= EXAMPLES_OF_EACH) return;
    const example: OutcomeExample = {
      ids,
      outcome,
      base: each.before ?? null,
      now: each.now,
      ...(side ? { write: { side, value: each.write[side]! } } : {}),
      ...(each.stuck ? { reason: each.stuck.reason } : {}),
    };
    this.told += JSON.stringify(example).length;
    if (this.told <= MOST_OF_EXAMPLES) sum.examples.push(example);
  }
}

/** What becomes of a field; what differs and stays so is left. */
function outcomeOf({ write, ask, stuck, undone, agreed }: LineSettled): PairOutcome {
  if (ask) return 'asked';
  if (stuck) return 'stuck';
  if (undone) return 'undone';
  if (write.right !== undefined) return 'to right';
  if (write.left !== undefined) return 'to left';
  return agreed ? 'same' : 'left';
}

/** Counts a sentence; of very many different ones the first are told. */
function count(list: { side: Side; words: string; count: number }[], side: Side, words: string): void {
  const known = list.find((each) => each.side === side && each.words === words);
  if (known) known.count += 1;
  else if (list.length < MOST_WORDS) list.push({ side, words, count: 1 });
}
