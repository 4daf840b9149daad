import type { Course } from './report.ts';

/** What a text says apart from the values quoted in it. */
const withoutValues = (words: string): string => words.replace(/[“"][^“”"]*[”"]/g, '“…”').replace(/\d+/g, '0');

/**
 * What a submission failed over, apart from its own values: the step, the kind of refusal and the fields named.
 * Submissions with the same text can be mended alike. Undefined where nothing went wrong.
 */
export function failureSignature({ steps }: Course): string | undefined {
  const step = steps.find(({ outcome }) => outcome === 'refused' || outcome === 'failed');
  if (!step) return undefined;
  const about = step.refusal
    ? [step.refusal.kind, ...step.refusal.fields.map(({ field }) => field).sort()]
    : [withoutValues(step.why ?? '')];
  const words = step.refusal && step.refusal.fields.length === 0 ? [withoutValues(step.refusal.words)] : [];
  return JSON.stringify([step.step, step.outcome, ...about, ...words]);
}
