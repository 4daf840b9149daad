import type { Course, StepReport } from './report.ts';
import { withoutValues } from '../values/index.ts';

/** What a text says apart from the values quoted in it. */

/**
 * What a submission waits for or failed over, apart from its own values: the step, what is asked and by what, or the kind
 * of refusal and the fields named. Submissions with the same text can be settled alike. Undefined where nothing waits.
 */
export function causeSignature({ state, steps, lacks }: Course): string | undefined {
  if (lacks !== undefined) return JSON.stringify([lacks]);
  if (state === 'in review') return askedSignature(steps.find(({ outcome }) => outcome === 'asked'));
  const step = steps.find(({ outcome }) => outcome === 'refused' || outcome === 'failed');
  if (!step) return undefined;
  const about = step.refusal
    ? [step.refusal.kind, ...step.refusal.fields.map(({ field }) => field).sort()]
    : [withoutValues(step.why ?? '')];
  const words = step.refusal && step.refusal.fields.length === 0 ? [withoutValues(step.refusal.words)] : [];
  return JSON.stringify([step.step, step.outcome, ...about, ...words]);
}

function askedSignature(step: StepReport | undefined): string | undefined {
  if (!step) return undefined;
  const by = step.recognisedBy ?? [step.weighed ? 'evidence' : withoutValues(step.why ?? '')];
  return JSON.stringify([step.step, step.outcome, step.verdict ?? '', ...by]);
}

/**
 * The record that the evidence speaks for most, of those a step asks about.
 * @returns its id; undefined where nothing was weighed, nothing speaks for any of them, or two weigh the same
 */
export function bestOf({ weighed }: Pick<StepReport, 'weighed'>): string | undefined {
  const [first, second] = [...(weighed ?? [])].sort((a, b) => b.weight - a.weight);
  return first && first.verdict !== 'different' && first.weight !== second?.weight ? first.record : undefined;
}
