import type { KeyFacts } from '@zusammen/core/checks';
import type { FormField, SubmittedValue, SubmittedValues } from '@zusammen/core/forms';
import type { IntakeDocument } from '@zusammen/core/intake';
import type { StepReport, Course } from '@zusammen/core/plans';
import type { Recognition } from '@zusammen/core/recognition';
import type { RecordState, Schema, Values } from '@zusammen/core/schema';
import type { Refusal } from '@zusammen/core/plans';

/** What the API sends. Moments come as ISO 8601 texts. */
export type Role = 'administrator' | 'specialist' | 'viewer';
export interface User {
  id: string;
  email: string;
  name: string;
  role: Role;
  active: boolean;
}

export type SystemState =
  | 'answers'
  | 'silent'
  | 'in trouble'
  | 'token refused'
  | 'not understood'
  | 'asks for patience';
export interface System {
  id: string;
  name: string;
  address: string;
  practice: boolean;
  /** Marked for keeping values about people. */
  personal: boolean;
  recordPage: string | null;
  state: SystemState;
  stateWords: string | null;
  latencyMs: number | null;
  capabilities: {
    repeatability: boolean;
    batch: boolean;
    delta: boolean;
    etags: boolean;
    filter?: boolean;
    byKey?: boolean;
    maxVersion?: '4.0';
    /** What was tried when it was read; `able` is null where it couldn't be tried. */
    tried?: {
      what: 'filter' | 'types' | 'folding' | 'order' | 'select' | 'links' | 'byKey' | 'listsAlike' | 'etags' | 'batch';
      able: boolean | null;
      said?: string;
    }[];
  };
  checkedAt: string;
}
export interface Difference {
  kind: string;
  entity: string;
  field?: string;
  what: string;
}
export interface SystemDetail {
  system: System;
  schema: Schema;
  readAt?: string;
  differences: Difference[];
}

export interface Figures {
  perDay: number[];
  today: number;
  recognised: number;
  applied: number;
  refused: number;
  inReview: number;
  last: string | null;
}
export type IntakeState = 'draft' | 'open' | 'closed';
export interface IntakeLine {
  id: string;
  key: string;
  name: string;
  state: IntakeState;
  source: { page?: string; kind: 'page' | 'events' | 'file' | 'program' };
  liveVersion: number | null;
  fields: number;
  steps: number;
  figures?: Figures;
}
export interface Intake {
  id: string;
  key: string;
  state: IntakeState;
  draft: IntakeDocument;
  revision: number;
  liveVersion: number | null;
  /** What arrives must be signed with a valid key. */
  signed: boolean;
}
export interface Version {
  number: number;
  publishedAt: string;
  publishedBy: string | null;
  accepted: { id: string; sentence: string }[];
}
export interface Change {
  id: number;
  at: string;
  userName: string;
  what: string;
  details: string | null;
}
export interface IntakeDetail {
  intake: Intake;
  versions: Version[];
  live?: IntakeDocument;
  figures?: Figures;
  changes: Change[];
}

export interface Sample {
  id: string;
  values: SubmittedValues;
  createdAt: string;
}
export interface Past {
  id: string;
  label: string;
  values: SubmittedValues;
  receivedAt: string;
}
export interface Rehearsed {
  course?: Course;
  trouble?: string;
  present: Record<string, RecordState>;
}

/** One field that would come out differently by the draft. */
export interface FieldDifference {
  step: string;
  field: string;
  label: string;
  live: string;
  draft: string;
}
export interface Compared {
  id: string;
  label: string;
  differences: FieldDifference[];
  trouble?: string;
}
export interface Secret {
  id: string;
  ending: string;
  createdAt: string;
  goodUntil: string | null;
}
export interface UploadedFile {
  file: { id: string; name: string; rows: number; columns: string[]; bytes: number };
  fields: FormField[];
  oddities: { row: number; what: string }[];
  facts: { format: 'csv' | 'xlsx'; delimiter?: string; encoding?: string; sheet?: string };
  sample: string[][];
}
export interface ImportLine {
  id: string;
  intakeId: string;
  fileId: string;
  fileName: string;
  state: 'running' | 'paused' | 'done' | 'failed';
  rows: number;
  done: number;
  accepted: number;
  again: number;
  problems: { row: number; what: string }[];
  words: string | null;
  startedAt: string;
  startedBy: string;
  endedAt: string | null;
}
export interface ImportRow {
  row: number;
  submission: string;
  state: SubmissionState;
  label: string;
  words: string | null;
}
export interface ReachedUse {
  intakeId: string;
  intake: string;
  live: boolean;
  system: string;
  entity: string;
  field: string;
  how: 'written' | 'recognised by' | 'evidence' | 'looked up by';
  from: string[];
  treatments: string[];
  ifBoth?: string;
  suggested?: true;
}

export type SubmissionState = 'received' | 'applied' | 'in review' | 'refused' | 'failed' | 'set aside' | 'taken back';
export interface SubmissionLine {
  seq: number;
  id: string;
  intakeId: string;
  intakeKey: string;
  version: number;
  state: SubmissionState;
  label: string;
  via: string;
  receivedAt: string;
  settledAt: string | null;
  attempts: number;
  words: string | null;
  outcome: string | null;
}
export interface LedgerChange {
  id: number;
  turn: number;
  step: string;
  /** The row of a step that is done once per row, counted from 1; 0: the step is done once. */
  row: number;
  attempt: number;
  systemId: string;
  entity: string;
  recordId: string | null;
  action: 'create' | 'update' | 'delete';
  before: Values;
  after: Values;
  state: 'intended' | 'written' | 'refused' | 'overtaken' | 'unclear';
  refusal: Refusal | null;
  intendedAt: string;
  settledAt: string | null;
  actor: string;
  undoes: number | null;
  undoneBy: number | null;
  page?: string;
}
export interface LedgerLine extends LedgerChange {
  /** What the fields are called, by name. */
  labels: Record<string, string>;
  submissionId: string;
  label: string;
}
export interface SubmissionPath {
  submission: Omit<SubmissionLine, 'outcome' | 'intakeKey'> & {
    values: SubmittedValues;
    /** Decisions from Review, by effect. */
    answers: Record<string, unknown> | null;
    /** Former values of what somebody put right, newest last. */
    amended: { at: string; by: string; before: Record<string, SubmittedValue | null> }[] | null;
    /** Its values are gone, as its intake says. */
    forgottenAt: string | null;
    reason: string | null;
    dueAt: string;
  };
  intake?: { id: string; key: string; name: string };
  fields: FormField[];
  /** The repeating group of each step that is done once per row. */
  repeats: Record<string, string>;
  steps: (StepReport & { page?: string })[];
  treatments: { step: string; field: string; from: string[]; treatments: string[] }[];
  changes: LedgerChange[];
}

export type Range = '24h' | '7d' | '30d';
export interface Today {
  arrived: number;
  arrivedBefore: number;
  created: number;
  updated: number;
  systems: number;
  median: number | null;
  p95: number | null;
  bars: { at: string; created: number; updated: number; other: number; review: number; refused: number }[];
  needs: { state: SubmissionState; intakeId: string; words: string | null; count: number; oldest: string }[];
  /** Open intakes that refuse everything: no key for signed events is good. */
  withoutKey: string[];
}
