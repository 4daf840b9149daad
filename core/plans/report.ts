import type { LineContext } from '../mapping/index.ts';
import type { Weighed } from '../recognition/index.ts';
import type { RecordState, Schema, Value, Values } from '../schema/index.ts';
import type { KnownRecords } from './known-records.ts';
import type { Plan, Step } from './model.ts';
import type { Recognitions } from './recognise.ts';
import type { Refusal, World } from './world.ts';

/** One submission to be carried out. */
export interface PlanRun {
  plan: Plan;
  /** The form's fields, which conditions, computed values and repeating groups read. */
  fields: LineContext['fields'];
  /** Where moments without a zone were meant. */
  zone?: string;
  /** Texts as a person typed them, read by the lines' settings; numbers, and yes or no, are taken as they are. */
  values: Values;
  /** Records that the run begins with, by a name that lines and steps refer to as they do to an earlier step. */
  given?: ReadonlyMap<string, RecordState>;
  /** A person's answers from Review, by `effectKey`. */
  answers?: Record<string, Answer>;
  /** Schemas by system id. */
  schemas: ReadonlyMap<string, Schema>;
  /** How records are recognised by evidence, by system and entity; needed where a step does. */
  recognitions?: Recognitions;
}

/**
 * What somebody decided, when (ISO 8601), and among which records, so that a decision that is undone takes back what came
 * of it only; or, once it is undone, that they are to be asked again, whatever would be decided without them by now.
 */
export type Answer = (({ record: string } | { anew: true }) & { at?: string; among?: string[] }) | { ask: string[] };

/** `unsure`: by the evidence it may be one of the candidates, or nobody known. */
export type Found = 'none' | 'one' | 'several' | 'unsure' | 'new';
export type Outcome =
  | 'created'
  | 'updated'
  | 'unchanged'
  | 'deleted'
  | 'left'
  | 'skipped'
  | 'asked'
  | 'stopped'
  | 'refused'
  | 'failed'
  | 'waits'
  | 'taken back';

export interface FieldChange {
  field: string;
  label: string;
  from: string[];
  /** The earlier step the value comes from. */
  fromStep?: string;
  before: Value;
  after: Value;
  losses: string[];
  ambiguous?: string;
  /** Why the value isn't written; absent when it is. */
  kept?: 'blank' | 'same' | 'kept' | 'new records only';
}

export interface StepReport {
  step: string;
  /** The row of the repeating group, counted from 0, where the step is done once per row. */
  row?: number;
  system: string;
  entity: string;
  verdict?: Found;
  /** The fields of the key that found it. */
  recognisedBy?: string[];
  outcome: Outcome;
  record?: { id: string; label?: string };
  candidates?: RecordState[];
  /** What the lines made of the values, by field, where somebody is asked which candidate is meant. */
  sent?: Values;
  /** What speaks for and against each candidate, where they were recognised by evidence; the likeliest first. */
  weighed?: Weighed[];
  changes: FieldChange[];
  /** What lookups found, by their question: ids of at most two records. */
  lookups?: Record<string, string[]>;
  /** Why it failed, was stopped or asks; in words. */
  why?: string;
  refusal?: Refusal;
}

export interface Course {
  state: 'applied' | 'in review' | 'refused' | 'failed';
  steps: StepReport[];
  /** It waits for the token of the person who acts: for them to come again, or somebody's word that it goes on without. */
  lacks?: 'person';
}

/** How many records a question shows at most. */
export const CANDIDATES = 10;

/** An effect's name, under which answers and records found are kept: the step's id, with `#row` where it repeats. */
export const effectKey = (step: string, row?: number): string => (row === undefined ? step : `${step}#${row}`);

/** One doing of a step: the whole of it, or one row. */
export interface Doing {
  step: Step;
  row: number | undefined;
  values: PlanRun['values'];
  run: PlanRun;
  world: World;
  /** What earlier steps found or made. */
  known: KnownRecords;
  /** The newest doing of this step that is about a record known by a late lane (`lateLanesOf`), by lane. */
  late: Map<string, Promise<unknown>>;
}
