import { effectKey, rowsOf, type Step, type StepReport } from '@zusammen/core/plans';
import type { RecordState } from '@zusammen/core/schema';
import { useMemo } from 'react';
import type { Rehearsed, SubmittedValues } from '../../../api/types.ts';
import { useDraft } from '../draft.tsx';

/** What a sample is to a step: its values, or the first of its rows, and what the rehearsal found and made of them. */
export interface StepSample {
  values: SubmittedValues | undefined;
  /** How many rows of the step's repeating group the sample has; undefined where the step runs once. */
  rows: number | undefined;
  present: RecordState | undefined;
  answers: ReadonlyMap<string, readonly string[]>;
  /** The record that an earlier step found or would make. */
  record: (step: string, row?: 'first') => RecordState | undefined;
}

const NO_ANSWERS: ReadonlyMap<string, readonly string[]> = new Map();

export function useStepSample(step: Step, at: number): StepSample {
  const { document, samples, rehearsal } = useDraft();
  const values = samples[at]?.values;
  const rehearsed = rehearsal.data?.[at];
  const names = useMemo(() => document.fields.map(({ name }) => name), [document.fields]);
  return useMemo(() => {
    const rows = step.repeat === undefined || !values ? undefined : rowsOf(step.repeat, names, values);
    const first = rows?.[0];
    const mine = step.repeat === undefined ? step.id : effectKey(step.id, first?.index ?? 0);
    const report = rehearsed?.course?.steps.find((each) => effectKey(each.step, each.row) === mine);
    const known = recordsOf(rehearsed);
    return {
      values: step.repeat === undefined ? values : first?.values,
      rows: rows?.length,
      present: rehearsed?.present[mine],
      answers: report?.lookups ? new Map(Object.entries(report.lookups)) : NO_ANSWERS,
      record: (id, row) =>
        row === 'first'
          ? [...known].find(([key]) => key.startsWith(`${id}#`))?.[1]
          : ((first && known.get(effectKey(id, first.index))) ?? known.get(id)),
    };
  }, [step.id, step.repeat, names, values, rehearsed]);
}

/** The records of a rehearsal as they would be after it, by effect. */
function recordsOf(rehearsed: Rehearsed | undefined): Map<string, RecordState> {
  const records = new Map<string, RecordState>();
  for (const report of rehearsed?.course?.steps ?? []) {
    if (!report.record) continue;
    const key = effectKey(report.step, report.row);
    records.set(key, {
      id: report.record.id,
      values: { ...rehearsed?.present[key]?.values, ...writtenBy(report) },
    });
  }
  return records;
}

const writtenBy = ({ changes }: StepReport): RecordState['values'] =>
  Object.fromEntries(changes.filter(({ kept }) => kept === undefined).map(({ field, after }) => [field, after]));
