import type { FormField, SubmittedValues } from '../forms/index.ts';
import type { IntakeDocument } from '../intake/index.ts';
import type { Course } from '../plans/index.ts';
import type { RecordState } from '../schema/index.ts';
import type { Change } from './people.ts';
import type { SubmissionState } from './submissions.ts';

export interface Figures {
  /** Submissions a day, the last fourteen days, today last. */
  perDay: number[];
  today: number;
  /** Of those applied in the last 30 days: how many were recognised. */
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
  source: { page?: string; kind: 'page' | 'ours' | 'events' | 'file' | 'program' | 'record' };
  liveVersion: number | null;
  fields: number;
  steps: number;
  createdAt: string;
  /** Since when it is out of sight. */
  putAwayAt: string | null;
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
  putAwayAt: string | null;
}

export interface Version {
  number: number;
  publishedAt: string;
  publishedBy: string | null;
  accepted: { id: string; sentence: string }[];
}

/** What became of one record that was to be converted. */
export type ConvertedTold = { record: string; submission: string; again: boolean } | { record: string; why: string };

/** A record that could be converted: what tells it from others, and what of it comes in. */
export interface RecordTold {
  id: string;
  label: string;
  shown: string[];
  values: SubmittedValues;
}

/** Many records that are converted by a condition. */
export interface BulkTold {
  id: string;
  where: { field: string; test: string; value?: string }[];
  /** How many there are is known; all of them have been taken in. */
  counted: boolean;
  taken: boolean;
  /** Records that had been converted before. */
  before: number;
  /** How many could not be taken in, and why the first of them. */
  wrong: number;
  problems: { record: string; what: string }[];
  state: 'running' | 'paused' | 'done' | 'failed' | 'cancelled';
  total: number;
  done: number;
  words: string | null;
  startedAt: string;
  startedBy: string;
  endedAt: string | null;
  /** How its submissions stand, by state. */
  ends: Partial<Record<SubmissionState, number>>;
}

/** Where a panel was seen last, and why it was last refused. */
export interface PanelTold {
  /** The line that a page of a record carries. */
  line: string;
  seenAt: string | null;
  seenBy: string | null;
  seenOn: string | null;
  refusedAt: string | null;
  refusedWhy: string | null;
  refusedFrom: string | null;
}

export interface IntakeDetail {
  intake: Intake;
  versions: Version[];
  live?: IntakeDocument;
  figures?: Figures;
  changes: Change[];
  /** Of a form that stands on pages of records. */
  panel?: PanelTold;
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

/** What one sample would come to; `trouble` when a system couldn't be read. */
export interface Rehearsed {
  course?: Course;
  trouble?: string;
  /** The records that were found, as they are now, by effect: the step's id, with `#row` where it repeats. */
  present: Record<string, RecordState>;
}

/** One field that would come out differently by the draft. */
export interface FieldDifference {
  step: string;
  /** A field of the record; '' for what is done with the record itself. */
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
  /** Its first rows; of one that can't be read, why. */
  sample: (string[] | { bad: string })[];
}

/** What a row of a file would come to, or why it isn't taken in; `row` as people count, the heading being 1. */
export type RehearsedRow = { row: number; label: string } & ({ what: string } | Rehearsed);

/** What taking a file in would do, told before anything is written. */
export interface FileRehearsal {
  /** Data rows in the file; `results` are its first ones. */
  rows: number;
  /** The version it was rehearsed by; absent: the draft, since none is published. */
  version?: number;
  results: RehearsedRow[];
}

export interface ImportLine {
  id: string;
  intakeId: string;
  fileId: string;
  fileName: string;
  state: 'running' | 'paused' | 'done' | 'failed' | 'cancelled';
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

/** How many rows of a file came to which state. */
export type ImportTotals = Partial<Record<SubmissionState, number>>;

export interface ImportRow {
  row: number;
  submission: string;
  state: SubmissionState;
  label: string;
  words: string | null;
}

export interface ReachedUse {
  /** What does so, and what it is called. */
  by: 'intake' | 'pairing';
  id: string;
  name: string;
  live: boolean;
  system: string;
  entity: string;
  field: string;
  how:
    | 'written'
    | 'recognised by'
    | 'evidence'
    | 'looked up by'
    | 'read by a form'
    | 'begins a question'
    | 'converted'
    | 'starts a conversion'
    | 'kept in step'
    | 'read by a pairing'
    | 'goes together by';
  from: string[];
  treatments: string[];
  ifBoth?: string;
  suggested?: true;
}

/** A service that takes payments for forms of ours. Its keys are never told. */
export interface PaymentServiceTold {
  id: string;
  name: string;
  address: string;
  test: boolean;
  /** Where its events go. */
  events: string;
}
