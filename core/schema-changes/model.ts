import type { DefinedEntity, DefinedField } from '../definitions/index.ts';
import type { Treatment } from '../mapping/index.ts';
import type { SheetEntity } from '../new-entities/index.ts';
import type { CarriedLine } from '../one-field/index.ts';
import type { Option } from '../schema/index.ts';

/**
 * One thing that is done to a system's schema, or that follows from it. Names are the system's own, where it has them;
 * `called` is how people know the entity or field.
 */
export type ChangeStep =
  /** All of them or none. */
  | { kind: 'entities'; system: string; entities: DefinedEntity[] }
  | { kind: 'field'; system: string; entity: string; field: DefinedField; called?: string }
  | { kind: 'options'; system: string; entity: string; field: string; options: Option[]; called?: string }
  /** An intake or a pairing that names an option names another from then on, where it is live as well. */
  | {
      kind: 'follow';
      at: 'intake' | 'pairing';
      id: string;
      name: string;
      system: string;
      entity: string;
      field: string;
      from: Option;
      into: Option;
      /** Where it names the option, so that it can be taken back there and nowhere else. */
      touched: string[];
      called?: string;
    }
  /** An intake, a pairing or a recognition goes by a field's new name; what waited for that is carried out then. */
  | {
      kind: 'rename';
      at: 'intake' | 'pairing' | 'recognition';
      id: string;
      name: string;
      system: string;
      entity: string;
      was: string;
      is: string;
    }
  /** Records that hold one option hold another from then on; then the one goes. */
  | { kind: 'join'; system: string; entity: string; field: string; from: Option; into: Option; called?: string }
  /** Lines of an intake or a pairing, which carry a field on; they are live at once. */
  | { kind: 'carry'; at: 'intake' | 'pairing'; id: string; name: string; lines: CarriedLine[] }
  /** Lines of an intake, planned and live, treat what they bring as a field takes it by now. */
  | { kind: 'fit'; id: string; name: string; system: string; entity: string; field: string; lines: FittedLine[] }
  /** The rows of a sheet come into the entity that was made of it, through an intake of their own. */
  | { kind: 'rows'; system: string; sheet: SheetEntity; file: string; rows: number };

/** A line's treatments before and after. */
export interface FittedLine {
  step: string;
  line: string;
  was: Treatment[];
  is: Treatment[];
}

/** What became of a step: not begun, done, not taken by the system, undone again, or not to be undone from here. */
export const STEP_STATES = ['waiting', 'done', 'refused', 'taken back', 'stays'] as const;

export interface StepOutcome {
  state: (typeof STEP_STATES)[number];
  /** The system's words, or why it couldn't be undone. */
  words?: string;
  /** What the system calls what was made: entities, or the field. */
  made?: string[];
  /** Of a join: how many records were changed. */
  records?: number;
  /** Of what follows: where it named the option besides, by the time that it was done. */
  touched?: string[];
  /** Of rows: the intake through which they come, and the file on its way. */
  intake?: string;
  import?: string;
}

/** Whether a change is carried out, or undone. */
export type ChangeDirection = 'forth' | 'back';

/** A change of schemas: what is done, in order, and what has become of it. */
export interface SchemaChange {
  title: string;
  steps: ChangeStep[];
  outcomes: StepOutcome[];
  direction: ChangeDirection;
}

/** The place of the next step to be carried out, or undone; undefined: there is none left. */
export function nextStep({ steps, outcomes, direction }: SchemaChange): number | undefined {
  const states = steps.map((_, at) => outcomes[at]?.state ?? 'waiting');
  const found =
    direction === 'forth'
      ? states.findIndex((state) => state !== 'done')
      : states.findLastIndex((state) => state === 'done');
  return found < 0 ? undefined : found;
}
