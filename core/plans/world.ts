import type { Verdict, Weighed } from '../recognition/index.ts';
import type { RecordState, Value, Values } from '../schema/index.ts';

/** An entity of a system. */
export interface Target {
  system: string;
  entity: string;
}

/** What a found record must have. `folded`: without regard to case. */
export interface Criterion {
  field: string;
  value: Value;
  folded: boolean;
}

/** What a step has made up its mind to do. */
export type Intent =
  | { kind: 'create'; target: Target; values: Values }
  | { kind: 'update'; target: Target; record: RecordState; values: Values }
  | { kind: 'delete'; target: Target; record: RecordState }
  | { kind: 'none'; record?: RecordState };

/** What came of an intent. */
export type Effect =
  | { state: 'written'; intent: Intent; record: RecordState }
  | { state: 'nothing to write'; intent: Intent; record?: RecordState }
  | { state: 'refused'; intent: Intent; refusal: Refusal }
  /** A record was made, or may have been, and it can't be told which: one of these may be it. */
  | { state: 'unclear'; intent: Intent; records: RecordState[] }
  /** Somebody else changed the record between our read and our write: decide again. */
  | { state: 'overtaken' };

/** A system's no, in its own words. */
export interface Refusal {
  kind: 'values' | 'rights' | 'missing' | 'conflict' | 'other';
  words: string;
  /** The fields it names, with its words about each. */
  fields: { field: string; words: string }[];
  status?: number;
}

const REFUSAL_KINDS: Record<number, Refusal['kind']> = {
  400: 'values',
  422: 'values',
  403: 'rights',
  404: 'missing',
  409: 'conflict',
};

/** What a refusal with this HTTP status is about (RFC 9110, 15.5). */
export const kindOfRefusal = (status: number): Refusal['kind'] => REFUSAL_KINDS[status] ?? 'other';

/**
 * Which effect of a run it is: that of a step, or of one of the rows it is done for. The same for every time the run is
 * begun again.
 */
export interface EffectKey {
  step: string;
  /** Counted from 0; absent where the step is done once. */
  row?: number;
}

/** What evidence says of who is meant. */
export interface Weighing {
  verdict: Verdict;
  /** The candidates as they are in the system now, the likeliest first; none where the verdict is `different`. */
  records: RecordState[];
  weighed: Weighed[];
}

/**
 * The world a plan is carried out in. The engine's talks to systems and writes the ledger; the rehearsal's reads the
 * same systems and keeps writes in memory.
 *
 * Invariants: `effect` has its effect at most once per key, however often it is called, also after a crash: where
 * an earlier call got as far as an intent, that intent is settled and `decide` isn't asked again. What `effect`
 * wrote is seen by every later `find` and `read`.
 */
export interface World {
  /** At most `limit` records that meet all criteria, in a stable order. */
  find(target: Target, criteria: Criterion[], limit: number): Promise<RecordState[]>;
  read(target: Target, id: string): Promise<RecordState | undefined>;
  /**
   * Weighs values against all known records of an entity. @returns undefined where nobody has said how its records
   * are recognised
   * @param besides records that count as they are given here, whether the system has them so or not; those of the
   * ids in `gone` don't count
   */
  weigh(
    target: Target,
    values: Values,
    limit: number,
    besides?: readonly RecordState[],
    gone?: ReadonlySet<string>,
  ): Promise<Weighing | undefined>;
  /**
   * Keeps everybody else from records known by these texts (as `lanesOf` gives them) until the run ends: for keys that
   * are known only now, by a lookup or from an earlier step.
   * @throws when somebody else is at work on one of them; the run is begun again when they are done
   */
  hold(lanes: readonly string[]): Promise<void>;
  effect(key: EffectKey, decide: () => Promise<Intent>): Promise<Effect>;
  /** Which rows of a step have been carried out before, e.g. by an attempt that a crash cut short. */
  settledRows(step: string): Promise<ReadonlySet<number>>;
  /** Takes back what an effect of this run wrote, as far as nobody has changed it since; in words what came of it. */
  undo(key: EffectKey): Promise<{ done: boolean; words: string }>;
}
