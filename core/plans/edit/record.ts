import { fieldOf, type Entity } from '../../schema/index.ts';
import type { Step } from '../model.ts';

/** Editing how a step finds its record. A step is about one that is recognised, given, or always new: never two of these. */

/** A step without a property of its own. */
function without<K extends keyof Step>(step: Step, ...keys: K[]): Step {
  const rest = { ...step };
  for (const key of keys) delete rest[key];
  return rest;
}

/** @param group a repeating group of the form; undefined: the step is done once */
export const repeatBy = (step: Step, group: string | undefined): Step =>
  group === undefined ? without(step, 'repeat') : { ...step, repeat: group };

/** Always a new record. */
export const alwaysAnew = (step: Step): Step => ({ ...without(step, 'record', 'evidence'), recognise: [] });

/** The record of an earlier step. */
export const recordOfStep = (step: Step, earlier: string): Step => ({
  ...alwaysAnew(step),
  record: { by: 'step', step: earlier },
});

/** The record whose id a field of the form holds. */
export const recordNamedBy = (step: Step, field: string): Step => ({
  ...alwaysAnew(step),
  record: { by: 'field', field },
});

/** Recognised by keys; @param work gives the keys to be tried, in order */
export const recogniseBy = (step: Step, work: (keys: Step['recognise']) => Step['recognise']): Step => ({
  ...without(step, 'record'),
  recognise: work(step.recognise),
});

/**
 * Whether all values together are weighed where no key has found anything. Keys that others may share are part of the
 * evidence then; they no longer decide alone.
 */
export function weighEvidence(step: Step, on: boolean, entity: Entity | undefined): Step {
  const bare = without(step, 'record', 'evidence');
  if (!on) return bare;
  const isUnique = (name: string): boolean => (entity && fieldOf(entity, name)?.unique) === true;
  return { ...bare, recognise: step.recognise.filter(({ fields }) => fields.some(isUnique)), evidence: true };
}

/** When the step is done; undefined: always. */
export const doneWhen = (step: Step, condition: Step['condition'] | undefined): Step =>
  condition === undefined ? without(step, 'condition') : { ...step, condition };
