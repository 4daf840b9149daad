import type { ComparedEntity, DefinitionDocument } from '../definitions/index.ts';
import type { Oddity, SeenColumn } from '../forms/index.ts';
import type { ReferenceSeen, SheetEntity } from '../new-entities/index.ts';
import type { ChangeDirection, ChangeStep, StepOutcome } from '../schema-changes/index.ts';
import type { SubmissionState } from './submissions.ts';

/** What of a system's schema can be changed from here. */
export interface SchemaAbilities {
  entities: boolean;
  fields: boolean;
  options: boolean;
  /** What was made can be taken away again. */
  removing: boolean;
  /** Roles of its people, as its sets name them. */
  roles: string[];
}

/** What is told of a sheet, line by line as it becomes known. */
export type SheetTold =
  | {
      kind: 'read';
      name: string;
      columns: string[];
      rows: number;
      heading: number;
      sheet?: string;
      oddities: Oddity[];
      /** Its first rows; those that can't be read are left out. */
      sample: { line: number; cells: string[] }[];
    }
  | { kind: 'progress'; rows: number }
  | { kind: 'seen'; columns: SeenColumn[]; proposal: SheetEntity }
  | { kind: 'reference'; seen: ReferenceSeen };

/** A change of schemas, with how far it has come. */
export interface SchemaChangeTold {
  id: string;
  turn: number;
  title: string;
  steps: ChangeStep[];
  outcomes: StepOutcome[];
  direction: ChangeDirection;
  at: string;
  by: string;
  state: 'running' | 'paused' | 'done' | 'failed' | 'cancelled';
  words: string | null;
}

/** The same, with what has become of rows that it took in. */
export interface SchemaChangeDetail extends SchemaChangeTold {
  rows?: {
    import: string;
    intake: string;
    state: SchemaChangeTold['state'];
    total: number;
    done: number;
    totals: { [State in SubmissionState]?: number };
    /** Rows that couldn't be taken in. */
    problems: { row: number; what: string }[];
  };
}

export interface ReadDefinitionTold {
  document: DefinitionDocument;
  /** What of a JSON Schema could not be taken along. */
  left: string[];
  /** How it stands to what the system has. */
  compared: ComparedEntity[];
}
