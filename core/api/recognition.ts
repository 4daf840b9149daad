import type { KeyFacts } from '../checks/index.ts';
import type { Weighing } from '../plans/index.ts';
import type { Evidence, KeyMeasure, LearnedLevel, Part, Recognition, Survivor, Verdict } from '../recognition/index.ts';
import type { RecordState, Value, Values } from '../schema/index.ts';

/** A pair of known records near the lines, with what speaks for and against. */
export interface NearPair {
  a: string;
  b: string;
  weight: number;
  verdict: Verdict;
  evidence: Evidence[];
  why?: string;
}

/** What was measured on the known records under a version of their recognition. */
export interface Measure {
  revision: number;
  at: string;
  /** Records looked at, and pairs compared. */
  sampled: number;
  pairs: number;
  /** Pairs by weight: counts of bins of one bit, the first beginning at `from`. */
  bins: { from: number; counts: number[] };
  /** Pairs that a rule keeps apart whatever they weigh; they are not among the bins. */
  vetoed: number;
  near: NearPair[];
  keys: (KeyMeasure & {
    /** Of those sampled that share it, how many share it with somebody judged to be another. */
    apart: number;
    looked: number;
  })[];
  /** By level: how often it came up in pairs of the same, and its mean weight there. */
  levels: { about: string; level: string; count: number; bits: number }[];
}

export interface RecognitionState {
  scope: number;
  document: Recognition;
  revision: number;
  known: number;
  filledAt: string | null;
  measure: Measure | null;
  /** Values that only fill a field, in how many records. */
  ignored: { field: string; value: string; count: number }[] | null;
  words: string | null;
}

export type SearchState = 'running' | 'paused' | 'done' | 'failed' | 'cancelled';
export interface Search {
  id: string;
  state: SearchState;
  total: number;
  done: number;
  compared: number;
  words: string | null;
  startedAt: string;
  startedBy: string;
  endedAt: string | null;
}

export interface RecognitionDetail {
  recognition: RecognitionState | null;
  suggestion: Recognition | null;
  decided?: { same: number; of: number };
  uses?: string[];
  searches?: Search[];
  groups?: Partial<Record<GroupState, number>>;
  versions?: { number: number; savedAt: string; savedBy: string }[];
}

export interface EffectOfChange {
  pairs: { of: number; moves: Record<string, number> };
  /** Some of the pairs that would be judged otherwise, by their ids. */
  examples: { a: string; b: string; move: string }[];
  /** Of the newest submissions of live intakes that were weighed: how many, which would be judged otherwise, and how. */
  live: { of: number; moved: { submission: string; label: string; move: string }[] };
  decided: { of: number; agreed: number; wouldAgree: number; wrong: number; wouldBeWrong: number };
}
export interface Learning {
  learned: LearnedLevel[];
  effect: EffectOfChange;
  decided: number;
}

export type Tried = Weighing & { ignored: string[] };

export type GroupState = 'open' | 'merging' | 'merged' | 'apart' | 'taken back';
export interface GroupLine {
  id: number;
  members: string[];
  names: string[];
  weight: number;
  verdict: 'same' | 'unsure';
  state: GroupState;
  words: string | null;
  decidedAt: string | null;
  decidedBy: string | null;
}
export interface Doubles {
  searches: Search[];
  counts: Partial<Record<GroupState, number>>;
  groups: GroupLine[];
}
export interface GroupDetail {
  group: Omit<GroupLine, 'names'> & { merge: { survivor: string; values: Values; others: string[] } | null };
  system: string;
  entity: string;
  records: RecordState[];
  fields: string[];
  pairs: (NearPair & { record: string })[];
  survivor?: string;
  kept: Survivor[];
  /** A pair found between two entities: what both say, aligned. */
  across?: {
    label: string;
    link?: string;
    linkLabel?: string;
    rows: { part: Part; labels: (string | undefined)[]; values: (Value | null)[] }[];
  };
}

export interface RecognitionLine {
  system: string;
  systemName: string;
  entity: string;
  kind: string;
  revision: number;
  document: Recognition;
  known: number;
  filledAt: string | null;
  words: string | null;
  keys: KeyFacts[];
}
