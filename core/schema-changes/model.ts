import type { DefinedEntity, DefinedField } from '../definitions/index.ts';
import type { SheetEntity } from '../new-entities/index.ts';
import type { Option } from '../schema/index.ts';

/** One thing that is done to a system's schema, or that follows from it. Names are the system's own, where it has them. */
export type ChangeStep =
  /** All of them or none. */
  | { kind: 'entities'; system: string; entities: DefinedEntity[] }
  | { kind: 'field'; system: string; entity: string; field: DefinedField }
  | { kind: 'options'; system: string; entity: string; field: string; options: Option[] }
  /** The rows of a sheet come into the entity that was made of it, through an intake of their own. */
  | { kind: 'rows'; system: string; sheet: SheetEntity; file: string; rows: number };

/** What became of a step: not begun, done, not taken by the system, or undone again. */
export const STEP_STATES = ['waiting', 'done', 'refused', 'taken back'] as const;

export interface StepOutcome {
  state: (typeof STEP_STATES)[number];
  /** The system's words, or why it couldn't be undone. */
  words?: string;
  /** What the system calls what was made: entities, or the field. */
  made?: string[];
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
