import { withNamesIn, withNamesInCondition } from '../expressions/index.ts';
import type { Step } from './model.ts';

/** A step in which fields of what comes in are called otherwise, wherever it goes by them. */
export function withNames(step: Step, now: (name: string) => string): Step {
  const next: Step = {
    ...step,
    lines: step.lines.map((line) => ({
      ...line,
      from: line.from.map(now),
      treatments: line.treatments.map((treatment) =>
        treatment.kind === 'compute' && treatment.expression !== undefined
          ? { ...treatment, expression: withNamesIn(treatment.expression, now) }
          : treatment,
      ),
    })),
  };
  if (step.repeat !== undefined) next.repeat = now(step.repeat);
  if (step.record?.field !== undefined) next.record = { ...step.record, field: now(step.record.field) };
  if (step.condition) next.condition = withNamesInCondition(step.condition, now);
  return next;
}
