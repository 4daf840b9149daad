import type { FormField } from '@zusammen/core/forms';
import type { IntakeDocument, StepReport, Course } from '@zusammen/core/plans';
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
  recordPage: string | null;
  state: SystemState;
  stateWords: string | null;
  latencyMs: number | null;
  capabilities: { repeatability: boolean; batch: boolean; delta: boolean; etags: boolean };
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
  source: { page?: string };
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

export type SubmittedValues = Record<string, string | string[]>;
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
  effect: string;
  attempt: number;
  systemId: string;
  entity: string;
  recordId: string | null;
  action: 'create' | 'update' | 'delete';
  before: Values;
  after: Values;
  state: 'intended' | 'written' | 'refused' | 'overtaken';
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
    reason: string | null;
    dueAt: string;
  };
  intake?: { id: string; key: string; name: string };
  fields: FormField[];
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
}
