import type { ComparedEntity, DefinedField, DefinitionDocument } from '../definitions/index.ts';
import type { Oddity, SeenColumn } from '../forms/index.ts';
import type { ReferenceSeen, SheetEntity } from '../new-entities/index.ts';
import type { LinkedOptions } from '../option-sets/index.ts';
import type { FoundLine, PlaceStands } from '../one-field/index.ts';
import type { Option, Value } from '../schema/index.ts';
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

/** What a line would give of a record, or of what was sent. */
export interface FieldGives {
  /** Whose value it is, as people call it; absent: none holds one yet, and the value is assumed. */
  of?: string;
  came: Value;
  value?: Value;
  problem?: string;
}

/** A place as it stands. What is made there has the options that are wanted: nobody is told them once more for each place. */
export type PlaceTold = Omit<PlaceStands, 'made'> & { made?: Omit<DefinedField, 'options'> };

/** One field as it would be everywhere. */
export interface FieldPlanTold {
  places: PlaceTold[];
  lines: (FoundLine & { gives?: FieldGives })[];
  /** What it comes to, in words, step by step. */
  steps: string[];
}

/** What the records of an entity hold in one field. */
export interface FieldCounts {
  /** Records looked at, and those of them with a value. */
  of: number;
  filled: number;
  /** By value, the commonest first; of a field that isn't chosen from options none. */
  values: { value: string; count: number }[];
  /** There are more records than are looked at. */
  more: boolean;
}

/** What an intake would do otherwise with the new lines, over what it was tried with. */
export interface FieldRehearsed {
  id: string;
  name: string;
  /** What it was tried with, how many get the field's value, and how many would come out otherwise besides. */
  of: number;
  carried: number;
  otherwise: number;
  /** Values were assumed, since nothing holds one yet. */
  assumed: boolean;
  example?: { of: string; field: string; value: string };
  /** What of it wouldn't be taken, or couldn't be asked. */
  troubles: { of: string; words: string }[];
}

/** A field with options, as people know it. */
export interface OptionField {
  system: string;
  entity: string;
  field: string;
  label: string;
  entityLabel: string;
}

/** What is needed to put options of several fields side by side. */
export interface OptionsCompared {
  columns: (OptionField & { options: Option[]; adds: boolean; removes: boolean })[];
  linked: LinkedOptions[];
  /** Fields whose values come from these or go to them. */
  related: OptionField[];
}
