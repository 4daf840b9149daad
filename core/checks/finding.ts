import { standingLines, type IntakeDocument, type Step } from '../plans/index.ts';
import type { Entity, Schema } from '../schema/index.ts';

/** Something that would go wrong, found before it does harm. */
export interface Finding {
  id: string;
  severity: 'stops' | 'look';
  place: { step?: string; line?: string; field?: string };
  /** One sentence: what would go wrong. */
  sentence: string;
  /** How many of the samples it concerns, and which. */
  samples?: { hit: number; of: number; which: number[] };
}

/** What a check may look at. */
export interface CheckInput {
  document: IntakeDocument;
  schemas: ReadonlyMap<string, Schema>;
  /** Values of past or made-up submissions. */
  samples: readonly Record<string, string | string[]>[];
}

/** A check is a plain function; a sound configuration yields no finding at all. */
export type Check = (input: CheckInput) => Finding[];

/** A step with its entity, for checks that look at steps one by one. */
export interface StepInput extends CheckInput {
  step: Step;
  entity: Entity;
}

export function counted(which: number[], of: number): Finding['samples'] {
  return { hit: which.length, of, which };
}

/** Runs a check on each step whose entity is known, on its lines that count. */
export function onSteps(check: (input: StepInput) => Finding[]): Check {
  return (input) =>
    input.document.plan.steps.flatMap((step) => {
      const entity = input.schemas.get(step.system)?.entities.find((each) => each.name === step.entity);
      return entity ? check({ ...input, step: { ...step, lines: standingLines(step) }, entity }) : [];
    });
}
