import type { FormField } from '../forms/index.ts';
import { changeStep, readNames, removeStep as withoutStep, type Plan, type Step } from '../plans/index.ts';
import type { IntakeDocument, IntakeSettings } from './model.ts';

/** Editing an intake's document; what is given is left as it was. */

type Edited = Pick<IntakeDocument, 'plan'>;

/** A document with its plan changed. */
export function changePlan<D extends Edited>(document: D, work: (plan: Plan) => Plan): D {
  const plan = work(document.plan);
  return plan === document.plan ? document : { ...document, plan };
}

/** A document with one step of its plan changed. */
export const changePlanStep = <D extends Edited>(document: D, id: string, work: (step: Step) => Step): D =>
  changePlan(document, (plan) => changeStep(plan, id, work));

/** A document without a step: what took something from it goes too, in the plan and in what a page is told. */
export function removeStep(document: IntakeDocument, id: string): IntakeDocument {
  const next = changePlan(document, (plan) => withoutStep(plan, id));
  if (next === document) return document;
  const there = new Set(next.plan.steps.map((step) => step.id));
  const told = document.settings.told?.filter(({ step }) => there.has(step));
  return told === undefined ? next : changeSettings(next, { told: told.length === 0 ? undefined : told });
}

/** A document with settings changed; undefined and '' take one away. */
export function changeSettings(
  document: IntakeDocument,
  change: { [Name in keyof IntakeSettings]?: IntakeSettings[Name] | undefined },
): IntakeDocument {
  return { ...document, settings: changedTexts(document.settings, change) };
}

/** A document whose source is changed; '' takes a text away. */
export const changeSource = (document: IntakeDocument, change: Partial<IntakeDocument['source']>): IntakeDocument => ({
  ...document,
  source: changedTexts(document.source, change),
});

function changedTexts<T extends object>(held: T, change: { [Name in keyof T]?: T[Name] | undefined }): T {
  const next = { ...held, ...change } as T;
  for (const name of Object.keys(change) as (keyof T)[])
    if (next[name] === undefined || next[name] === '') delete next[name];
  return next;
}

/** A document without a field; lines that read it stay, and a check says so. */
export const removeField = (document: IntakeDocument, name: string): IntakeDocument => ({
  ...document,
  fields: document.fields.filter((field) => field.name !== name),
});

/**
 * Fields are replaced by those of the same name, and the others added behind them.
 * @param renamed leads from old names to new ones; lines follow
 */
export function takeInFields(
  document: IntakeDocument,
  fields: readonly FormField[],
  renamed: Readonly<Record<string, string>> = {},
): IntakeDocument {
  const now = (name: string): string => (Object.hasOwn(renamed, name) ? renamed[name]! : name);
  const given = new Map(fields.map((field) => [field.name, field]));
  const kept = document.fields.map((field) => given.get(now(field.name)) ?? field);
  const known = new Set(kept.map(({ name }) => name));
  return {
    ...document,
    fields: [...kept, ...fields.filter(({ name }) => !known.has(name))],
    plan: {
      ...document.plan,
      steps: document.plan.steps.map((step) => ({
        ...step,
        lines: step.lines.map((line) => ({ ...line, from: line.from.map(now) })),
      })),
    },
  };
}

/** The form as it is now, in the place of the one that was read. Fields that are gone stay while the plan reads them. */
export function takeInForm(
  document: IntakeDocument,
  fields: readonly FormField[],
  renamed: Readonly<Record<string, string>>,
): IntakeDocument {
  const next = takeInFields(document, fields, renamed);
  const used = readNames(next);
  const there = new Set(fields.map(({ name }) => name));
  return { ...next, fields: next.fields.filter(({ name }) => used.has(name) || there.has(name)) };
}
