import type { FieldChange, IntakeDocument, StepReport } from '@zusammen/core/plans';
import { sameValue } from '@zusammen/core/values';
import type { Systems } from '../systems/index.ts';
import type { LiveView } from './live.ts';
import { readingOf, rehearseWith, type Rehearsed } from './rehearse.ts';
import { remembered } from './remembered.ts';

/** One field that would come out differently. */
export interface Difference {
  step: string;
  /** A field of the record; '' for what is done with the record itself. */
  field: string;
  label: string;
  live: string;
  draft: string;
}

export interface Compared {
  differences: Difference[];
  trouble?: string;
}

/**
 * Rehearses two documents on the same submissions, each submission by itself, and tells what would come out
 * differently. The systems are asked each question once for both.
 */
export async function compareDocuments(
  live: IntakeDocument,
  draft: IntakeDocument,
  submissions: readonly Record<string, string | string[]>[],
  systems: Pick<Systems, 'client'>,
  view: LiveView,
): Promise<Compared[]> {
  const [schemas, recognitions] = await Promise.all([view.allSchemas(), view.known.recognitions()]);
  const reading = remembered(readingOf(systems, schemas, view.known));
  const known = { schemas, recognitions };
  const compared: Compared[] = new Array<Compared>(submissions.length);
  let next = 0;
  const turn = async (): Promise<void> => {
    for (let at = next++; at < submissions.length; at = next++) {
      const values = [submissions[at]!];
      const [asLive] = await rehearseWith(live, values, reading, known);
      const [asDraft] = await rehearseWith(draft, values, reading, known);
      compared[at] = differencesOf(asLive!, asDraft!);
    }
  };
  // Submissions don't see one another here, so a few may be asked about at once.
  await Promise.all(Array.from({ length: 6 }, turn));
  return compared;
}

function differencesOf(live: Rehearsed, draft: Rehearsed): Compared {
  const trouble = live.trouble ?? draft.trouble;
  if (trouble !== undefined) return { differences: [], trouble };
  const before = live.course?.steps ?? [];
  const after = draft.course?.steps ?? [];
  const ids = [...new Set([...before, ...after].map(({ step }) => step))];
  const differences = ids.flatMap((id) => {
    const [a, b] = [before.find(({ step }) => step === id), after.find(({ step }) => step === id)];
    return [...outcomeDifference(id, a, b), ...fieldDifferences(id, a, b)];
  });
  return { differences };
}

function outcomeDifference(step: string, a?: StepReport, b?: StepReport): Difference[] {
  // Whether a known record changes is told field by field.
  const done = ({ outcome }: StepReport): string =>
    outcome === 'updated' || outcome === 'unchanged' ? 'stays with' : outcome;
  const said = (report?: StepReport): string =>
    report === undefined
      ? 'no such step'
      : `${done(report)}${report.record ? ` ${report.record.id.replace(/^new \d+$/, 'a new one')}` : ''}`;
  if (said(a) === said(b)) return [];
  return [{ step, field: '', label: b?.entity ?? a?.entity ?? '', live: said(a), draft: said(b) }];
}

function fieldDifferences(step: string, a?: StepReport, b?: StepReport): Difference[] {
  const written = (report?: StepReport): Map<string, FieldChange> =>
    new Map((report?.changes ?? []).filter(({ kept }) => kept === undefined).map((change) => [change.field, change]));
  const [left, right] = [written(a), written(b)];
  return [...new Set([...left.keys(), ...right.keys()])].flatMap((field) => {
    const [was, becomes] = [left.get(field), right.get(field)];
    if (was && becomes && sameValue(was.after, becomes.after)) return [];
    const label = becomes?.label ?? was!.label;
    return [
      {
        step,
        field,
        label,
        live: was ? shown(was.after) : 'not written',
        draft: becomes ? shown(becomes.after) : 'not written',
      },
    ];
  });
}

const shown = (value: FieldChange['after']): string =>
  value === null ? 'blank' : Array.isArray(value) ? value.join(', ') : String(value);
