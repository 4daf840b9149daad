import type { FormField, SubmittedValue, SubmittedValues } from '../forms/index.ts';
import type { Refusal, StepReport } from '../plans/index.ts';
import type { Values } from '../schema/index.ts';

export const SUBMISSION_STATES = [
  /** It waits to be paid; nothing is done with it before. */
  'unpaid',
  'received',
  'applied',
  'in review',
  'refused',
  'failed',
  'set aside',
  'taken back',
] as const;
export type SubmissionState = (typeof SUBMISSION_STATES)[number];

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
  /** What its first step came to, e.g. `created`. */
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
  action: 'create' | 'update' | 'delete' | 'schema';
  before: Values;
  after: Values;
  state: 'intended' | 'written' | 'refused' | 'overtaken' | 'unclear';
  refusal: Refusal | null;
  intendedAt: string;
  settledAt: string | null;
  actor: string;
  /** Whom the system took for acting, where somebody acted as themselves. */
  actingPerson: string | null;
  undoes: number | null;
  undoneBy: number | null;
  intakeId: string | null;
  page?: string;
}

export interface LedgerLine extends LedgerChange {
  /** What the fields are called, by name. */
  labels: Record<string, string>;
  submissionId: string;
  label: string;
  /** The pairing that brought it into step, and the record it came from. */
  pairing?: { id: string; from: string | null };
  /** The change of a schema that it is part of. */
  schemaChange?: string;
}

/** How a payment stands. */
export interface PaymentTold {
  /** By it people find it: with the payment service it is told along. */
  number: string;
  state: 'due' | 'paid' | 'refused' | 'lapsed' | 'differs' | 'refunded';
  minor: number;
  currency: string;
  /** No money was moved. */
  test: boolean;
  /** The service it goes through, where it is still there. */
  service: string | null;
  words: string | null;
  begunAt: string;
  changedAt: string;
}

export interface SubmissionPath {
  submission: Omit<SubmissionLine, 'outcome' | 'intakeKey'> & {
    values: SubmittedValues;
    /** Of what it waits for, as `get /review` names it. */
    cause: string | null;
    /** Who acts as themselves in a system; `by`: whom the connection acts for since. */
    acting: { system: string; person: string; name: string; by?: 'connection' } | null;
    /** It waits for the person who acts. */
    lacks?: 'person';
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
  /** Where what was filled in is to be had as a PDF, of a form of ours. */
  paper?: string;
  /** What had to be paid for it; amounts in the currency's smallest unit. */
  payment?: PaymentTold;
  fields: FormField[];
  /** The repeating group of each step that is done once per row. */
  repeats: Record<string, string>;
  /** `pages`: where the record's page and those of the candidates are in their system, by id. */
  steps: (StepReport & { page?: string; pages?: Record<string, string> })[];
  treatments: { step: string; field: string; from: string[]; treatments: string[] }[];
  /** The lines of the plan by which it was carried out. */
  lines: { step: string; id: string; field: string }[];
  changes: LedgerChange[];
}

/** Submissions of an intake that wait for somebody over the same. */
export interface ReviewCause {
  intakeId: string;
  intakeKey: string;
  /** Names the cause; '' where none could be told. */
  cause: string;
  state: 'in review' | 'refused' | 'failed';
  count: number;
  oldest: string;
  /** The newest of them: its id, what it is called, and what is said of it. */
  newest: string;
  label: string;
  words: string | null;
  system?: string;
  entity?: string;
}

/** One of those that wait for the same, at a glance. */
export interface AlikeLine {
  id: string;
  label: string;
  values: SubmittedValues;
  /** What it asks, where it asks which record is meant. */
  asked?: {
    /** What the step's lines made of its values, by the record's fields. */
    sent: Values;
    /** The ids of the records it may mean. */
    candidates: string[];
    /** The one that the evidence speaks for most, with its values of the fields sent. */
    best?: { id: string; weight: number; values: Values };
  };
}

/** A question that was answered; by it the answer is undone. */
export interface Decided {
  submission: string;
  step: string;
  row?: number;
}

export type Range = '24h' | '7d' | '30d';

export interface Today {
  arrived: number;
  arrivedBefore: number;
  created: number;
  updated: number;
  systems: number;
  /** Milliseconds from arrival to applied: half of them, and 95 of 100. */
  median: number | null;
  p95: number | null;
  bars: { at: string; created: number; updated: number; other: number; review: number; refused: number }[];
  needs: { state: SubmissionState; intakeId: string; words: string | null; count: number; oldest: string }[];
  /** Open intakes that refuse everything: no key for signed events is good. */
  withoutKey: string[];
}
