import { evaluateLine, type Line, type LineValue } from '../mapping/index.ts';
import { rowsOf, type Step } from '../plans/index.ts';
import type { Field, Values } from '../schema/index.ts';
import { sameValue } from '../values/index.ts';
import type { IntakeDocument } from './model.ts';
import { runOf } from './run.ts';

/** What a changed line does to samples that the live version would do otherwise. */
export interface Otherwise {
  /** Samples, or their rows, that either of the two can be told of without asking a system. */
  of: number;
  differing: number;
  /** The first that differs, by the live version and by the draft. */
  example?: { live: LineValue; draft: LineValue };
}

/** The line of a document that fills the same field of the same step. */
const lineLike = ({ plan }: IntakeDocument, step: string, field: string): Line | undefined =>
  plan.steps.find(({ id }) => id === step)?.lines.find((line) => line.field === field && line.origin === 'set');

/**
 * How a line of a draft differs from the one that is live, by what both make of the samples.
 * @returns undefined where the line is as it is live, or where only a system can tell what it comes to
 */
export function comesOutOtherwise(
  { live, draft }: { live: IntakeDocument; draft: IntakeDocument },
  step: Step,
  line: Line,
  field: Field,
  samples: readonly Values[],
): Otherwise | undefined {
  const before = lineLike(live, step.id, line.field);
  if (
    line.origin !== 'set' ||
    line.fromStep ||
    before?.fromStep ||
    (before && same(before, line) && sameSettings(live, draft))
  )
    return undefined;
  const names = draft.fields.map(({ name }) => name);
  const rows = samples.flatMap((values) =>
    step.repeat === undefined ? [values] : rowsOf(step.repeat, names, values).map((row) => row.values),
  );
  const found: Otherwise = { of: 0, differing: 0 };
  for (const values of rows) {
    const now = evaluateLine(line, values, field, runOf(draft));
    const then = before
      ? evaluateLine(before, values, field, runOf(live))
      : { line, came: [], treated: null, sent: null, losses: [] };
    if (now.asks || then.asks) continue;
    found.of += 1;
    if (now.problem === then.problem && sameValue(now.sent, then.sent)) continue;
    found.differing += 1;
    found.example ??= { live: then, draft: now };
  }
  return found.of === 0 ? undefined : found;
}

/** Two lines do the same as far as their values go. */
const same = (a: Line, b: Line): boolean =>
  JSON.stringify([a.from, a.treatments, a.constant, a.unreadable]) ===
  JSON.stringify([b.from, b.treatments, b.constant, b.unreadable]);

const sameSettings = (a: IntakeDocument, b: IntakeDocument): boolean => a.settings.zone === b.settings.zone;
