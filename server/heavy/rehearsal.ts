import { runOf, type IntakeDocument } from '@zusammen/core/intake';
import {
  carryOut,
  effectKey,
  RehearsalWorld,
  type FieldChange,
  type PlanRun,
  type ReadOnlyWorld,
  type StepReport,
} from '@zusammen/core/plans';
import type { Compared as ToldOfOne, FieldDifference, Rehearsed } from '@zusammen/core/api';
import type { SubmittedValues } from '@zusammen/core/forms';
import type { RecordState } from '@zusammen/core/schema';
import { sameValue } from '@zusammen/core/values';
import { OutsideTrouble } from './outside.ts';
import { remembered } from './remembered.ts';

/** What is rehearsed, with all that the interpreter has to know. */
export interface Rehearsal extends Pick<PlanRun, 'schemas' | 'recognitions'> {
  document: IntakeDocument;
}

/** Keeps the records it lets through, as they are in the system now. */
function remembering(reading: ReadOnlyWorld, seen: Map<string, RecordState>): ReadOnlyWorld {
  const keep = (target: { system: string; entity: string }, record: RecordState): RecordState => {
    seen.set(`${target.system}/${target.entity}/${record.id}`, record);
    return record;
  };
  return {
    find: async (target, criteria, limit) =>
      (await reading.find(target, criteria, limit)).map((record) => keep(target, record)),
    read: async (target, id) => {
      const record = await reading.read(target, id);
      return record && keep(target, record);
    },
    weigh: async (target, ...asked) => {
      const weighing = await reading.weigh(target, ...asked);
      weighing?.records.forEach((record) => keep(target, record));
      return weighing;
    },
  };
}

/**
 * Rehearses a document on samples, in their order, by the same interpreter as the real run; nothing is written.
 * What an earlier sample would have written is found by the later ones.
 * @param told hears of each result as soon as it stands
 */
export async function rehearseWith(
  { document, schemas, recognitions }: Rehearsal,
  samples: readonly SubmittedValues[],
  reading: ReadOnlyWorld,
  told: (result: Rehearsed, at: number) => void = () => undefined,
): Promise<Rehearsed[]> {
  const seen = new Map<string, RecordState>();
  const world = new RehearsalWorld(remembering(reading, seen), schemas);
  const results: Rehearsed[] = [];
  for (const [at, values] of samples.entries()) {
    const present: Record<string, RecordState> = {};
    try {
      const course = await carryOut(
        { ...runOf(document), values, schemas, ...(recognitions ? { recognitions } : {}) },
        world,
      );
      for (const step of course.steps) {
        const record = step.record && seen.get(`${step.system}/${step.entity}/${step.record.id}`);
        if (record && step.verdict === 'one') present[effectKey(step.step, step.row)] = record;
      }
      results.push({ course, present });
    } catch (error) {
      if (!(error instanceof OutsideTrouble)) throw error;
      results.push({ trouble: error.message, present });
    }
    told(results[at]!, at);
  }
  return results;
}

/** What would come out differently of one submission. */
export type Compared = Pick<ToldOfOne, 'differences' | 'trouble'>;

/**
 * Rehearses two documents on the same submissions, each submission by itself, and tells what would come out
 * differently. The systems are asked each question once for both.
 */
export async function compareWith(
  live: Rehearsal,
  draft: Rehearsal,
  submissions: readonly SubmittedValues[],
  outside: ReadOnlyWorld,
): Promise<Compared[]> {
  const reading = remembered(outside);
  const compared: Compared[] = new Array<Compared>(submissions.length);
  let next = 0;
  const turn = async (): Promise<void> => {
    for (let at = next++; at < submissions.length; at = next++) {
      const values = [submissions[at]!];
      const [asLive] = await rehearseWith(live, values, reading);
      const [asDraft] = await rehearseWith(draft, values, reading);
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

function outcomeDifference(step: string, a?: StepReport, b?: StepReport): FieldDifference[] {
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

function fieldDifferences(step: string, a?: StepReport, b?: StepReport): FieldDifference[] {
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
