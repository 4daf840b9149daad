import { effectKey, KnownRecords, rowsOf, type Step, type StepReport } from '@zusammen/core/plans';
import type { RecordState, Values } from '@zusammen/core/schema';
import { useMemo } from 'react';
import type { Rehearsed } from '@zusammen/core/api';
import { useDraft } from '../draft.tsx';

/** What a sample is to a step: its values, or the first of its rows, and what the rehearsal found and made of them. */
export interface StepSample {
  values: Values | undefined;
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
    const row = step.repeat === undefined ? undefined : (first?.index ?? 0);
    const report = rehearsed?.course?.steps.find((each) => each.step === step.id && each.row === row);
    const known = recordsOf(rehearsed);
    return {
      values: step.repeat === undefined ? values : first?.values,
      rows: rows?.length,
      present: rehearsed?.present[effectKey(step.id, row)],
      answers: report?.lookups ? new Map(Object.entries(report.lookups)) : NO_ANSWERS,
      record: (id, of) => known.seenFrom(first?.index, id, of),
    };
  }, [step.id, step.repeat, names, values, rehearsed]);
}

/** The records of a rehearsal as they would be after it. */
function recordsOf(rehearsed: Rehearsed | undefined): KnownRecords {
  const known = new KnownRecords();
  for (const report of rehearsed?.course?.steps ?? []) {
    if (!report.record) continue;
    const present = rehearsed?.present[effectKey(report.step, report.row)];
    known.set(report.step, report.row, {
      id: report.record.id,
      values: { ...present?.values, ...writtenBy(report) },
    });
  }
  return known;
}

const writtenBy = ({ changes }: StepReport): RecordState['values'] =>
  Object.fromEntries(changes.filter(({ kept }) => kept === undefined).map(({ field, after }) => [field, after]));
