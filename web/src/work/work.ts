import { startFrom, type Started, type StartingPoint } from '@zusammen/core/asking';
import { check, inputOf, type CheckInput, type Finding } from '@zusammen/core/checks';
import type { IntakeDocument } from '@zusammen/core/intake';
import {
  proposeSteps,
  rankEntities,
  stepsFor,
  suggestSteps,
  withStep,
  type ProposeInput,
  type RankedEntity,
  type Step,
  type SuggestInput,
} from '@zusammen/core/plans';

/** Functions don't travel between threads; ids are made here. */
type Input = Omit<SuggestInput, 'newId'>;
type Proposing = Omit<ProposeInput, 'newId'>;
const newId = (): string => crypto.randomUUID().slice(0, 8);

/** Heavier computation, off the main thread. */
export const work = {
  withStep: (input: Input, step: Step): Step[] => withStep({ ...input, newId }, step),
  suggestSteps: (input: Input, only: string | undefined): Step[] => suggestSteps({ ...input, newId }, { only }),
  rank: (input: Proposing): RankedEntity[] => rankEntities({ ...input, newId }),
  propose: (input: Proposing): Step[] => proposeSteps({ ...input, newId }),
  stepsFor: (input: Proposing, about: Pick<Step, 'system' | 'entity'>[]): Step[] =>
    stepsFor({ ...input, newId }, about),
  start: (point: StartingPoint, input: Omit<Proposing, 'fields'>): Started => startFrom(point, { ...input, newId }),
  check: (document: IntakeDocument, around: Pick<CheckInput, 'schemas' | 'samples' | 'facts'>): Finding[] =>
    check({ ...inputOf(document), ...around }),
};
export type Work = typeof work;
