import { holds } from '../expressions/index.ts';
import type { FormField, SubmittedValues } from '../forms/index.ts';
import { evaluateLine, type Line, type LineValue } from '../mapping/index.ts';
import type { IntakeDocument } from '../intake/index.ts';
import type { FieldFamily } from '../one-field/index.ts';
import { rowsOf, standingLines, type Planned, type Step } from '../plans/index.ts';
import type { Recognition } from '../recognition/index.ts';
import { fieldOf, type Entity, type Field, type Schema, type Values } from '../schema/index.ts';
import type { Mend } from './mend.ts';

/** Something that would go wrong, found before it does harm. */
export interface Finding {
  id: string;
  severity: 'stops' | 'look';
  place: Place;
  /** One sentence: what would go wrong. */
  sentence: string;
  /** How many of the samples it concerns, and which. */
  samples?: { hit: number; of: number; which: number[] };
  /** What would settle it, where that is plain. */
  mend?: Mend;
}

export interface Place {
  step?: string;
  line?: string;
  /** A field of the record, or, without a step, of the form. */
  field?: string;
  station?: 'arrive' | 'plan' | 'open';
}

/**
 * What is known of an intake besides its document, as plain data that travels as it is. A check that needs a fact nobody
 * has gathered finds nothing.
 */
export interface Facts {
  /** The form's fields as its page has them now. */
  pageFields?: readonly FormField[];
  /** What arrived lately. */
  arrived?: readonly SubmittedValues[];
  /** Something has arrived at some time. */
  everArrived?: boolean;
  /** Keys by which what arrives must be signed. */
  secrets?: number;
  /** Files whose rows were or are being taken in. */
  files?: number;
  published?: boolean;
  /** Systems that may keep values about people, by id. */
  personalSystems?: readonly string[];
  systemNames?: Readonly<Record<string, string>>;
  /** Payment services that are connected, by id; and intakes that are open, by key. */
  paymentServices?: readonly string[];
  openIntakes?: readonly string[];
  /** Systems in which people act as themselves, by id; and whether a page of a record has shown the form. */
  actingSystems?: readonly string[];
  panelSeen?: boolean;
  /** How records are recognised by evidence, and how well keys tell the known ones apart, by `system/entity`. */
  recognitions?: Readonly<Record<string, { document: Recognition; keys: readonly KeyFacts[] }>>;
  /** What systems can do that a plan may rely on, by id; by `system/entity` where it isn't the same for all of them. */
  abilities?: Readonly<Record<string, Abilities>>;
  /** Fields that a pairing brings back to what the other side holds, by `system/entity/field`. */
  followed?: Readonly<Record<string, { pairing: string; decides: string }>>;
  /** What was made one field in several places. */
  families?: readonly FieldFamily[];
  /** In what the API of a system is no longer as its adapter says, by `system/entity`, in words. */
  drifted?: Readonly<Record<string, readonly string[]>>;
}

/** What a system can do; what isn't said isn't known. */
export interface Abilities {
  /** A write sent again is done once. */
  repeatability: boolean;
  /** Nor can it be looked for whether it was done. */
  untold?: boolean;
  batch: boolean;
  etags: boolean;
  filter?: boolean;
  byKey?: boolean;
}

/** How well a key tells known records apart. */
export interface KeyFacts {
  fields: string[];
  /** Known records, those with a value in every field, and of these those that share it. */
  of: number;
  filled: number;
  shared: number;
  /** Of some that share it, those that share it with somebody else. */
  looked: number;
  apart: number;
}

/** What a check may look at: a plan, and all that is known around it. */
export interface CheckInput extends Planned {
  /** Where moments without a zone were meant. */
  zone?: string;
  /** What leads to an intake, and how it is taken in; absent for a plan that no intake begins. */
  intake?: Pick<IntakeDocument, 'source' | 'settings' | 'form'>;
  schemas: ReadonlyMap<string, Schema>;
  /** Values of past or made-up submissions. */
  samples: readonly SubmittedValues[];
  facts?: Facts;
}

/** A check is a plain function; a sound configuration yields no finding at all. */
export type Check = (input: CheckInput) => Finding[];

/** A step with its entity, for checks that look at steps one by one. */
export interface StepInput extends CheckInput {
  step: Step;
  entity: Entity;
  /** Whether the step is done at all, by sample: its condition may not hold. */
  done: readonly boolean[];
  /** What a line makes of every sample, worked out once for all checks; a lookup counts as no trouble. */
  outcomes: (line: Line, field: Field) => readonly LineValue[];
}

export function counted(which: number[], of: number): Finding['samples'] {
  return { hit: which.length, of, which };
}

/** Prepares each step whose entity is known, with its lines that count. */
export function stepsOf(input: CheckInput): StepInput[] {
  // What an earlier step finds or makes is known when it runs; until then it counts as something.
  const context = {
    fields: input.fields,
    ...(input.zone === undefined ? {} : { zone: input.zone }),
    record: (id: string) => ({ id: `the record of ${id}`, values: {} }),
  };
  const names = input.fields.map(({ name }) => name);
  const firstRow = (step: Step, values: SubmittedValues): Values =>
    step.repeat === undefined ? values : (rowsOf(step.repeat, names, values)[0]?.values ?? values);
  return input.plan.steps.flatMap((step): StepInput[] => {
    const entity = input.schemas.get(step.system)?.entities.find((each) => each.name === step.entity);
    if (!entity) return [];
    const done = input.samples.map((values) => {
      const condition = holds(step.condition, values, input.fields);
      return !condition.ok || condition.holds;
    });
    const known = new Map<Line, readonly LineValue[]>();
    const outcomes = (line: Line, field: Field): readonly LineValue[] => {
      let found = known.get(line);
      if (!found) {
        found = input.samples.map((values) => settled(evaluateLine(line, firstRow(step, values), field, context)));
        known.set(line, found);
      }
      return found;
    };
    return [{ ...input, step: { ...step, lines: standingLines(step) }, entity, outcomes, done }];
  });
}

/** What a lookup finds is seen when it runs. */
export function settled(value: LineValue): LineValue {
  if (!value.asks) return value;
  const { problem: _, ...rest } = value;
  // Something other than a blank stands there, whatever it will be.
  return { ...rest, sent: value.asks.text };
}

/** The positions of the samples whose outcome on a line meets a condition. */
export function samplesWhere(
  input: StepInput,
  line: Line,
  field: Field,
  meets: (value: LineValue) => boolean,
): number[] {
  return input.outcomes(line, field).flatMap((value, at) => (input.done[at] && meets(value) ? [at] : []));
}

export const formField = (input: CheckInput, name: string): FormField | undefined =>
  input.fields.find((field) => field.name === name);

/** A check of one step. */
export type StepCheck = (input: StepInput) => Finding[];

/** What is found about each line of a step whose field is known. */
export function eachLine(input: StepInput, look: (line: Line, field: Field) => Finding[]): Finding[] {
  return input.step.lines.flatMap((line) => {
    const field = fieldOf(input.entity, line.field);
    return field ? look(line, field) : [];
  });
}

/** Where a line is. */
export const placeOf = (input: StepInput, line: Line): Finding['place'] => ({
  step: input.step.id,
  line: line.id,
  field: line.field,
});
