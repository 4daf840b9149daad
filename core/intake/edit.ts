import { fieldsOf, type HostedForm } from '../forms/hosted/index.ts';
import type { FormField } from '../forms/index.ts';
import type { Line, Treatment } from '../mapping/index.ts';
import { changeStep, readNames, removeStep as withoutStep, withNames, type Plan, type Step } from '../plans/index.ts';
import { dateOrderOf, decimalMarkOf } from '../values/index.ts';
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

/**
 * A document with settings changed; undefined and '' take one away. How visitors dial and write reaches the lines too:
 * treatments that went by the former setting, or by none, go by the new one; what somebody chose otherwise stays.
 */
export function changeSettings(
  document: IntakeDocument,
  change: { [Name in keyof IntakeSettings]?: IntakeSettings[Name] | undefined },
): IntakeDocument {
  const settings = changedTexts(document.settings, change);
  const next = { ...document, settings };
  if (settings.country === document.settings.country && settings.locale === document.settings.locale) return next;
  const was = writingOf(document.settings);
  const now = writingOf(settings);
  const sentByBrowser = (line: Line): boolean =>
    document.fields.some(({ name, type, freely }) => line.from[0] === name && type === 'number' && freely !== true);
  return changePlan(next, (plan) => ({
    ...plan,
    steps: plan.steps.map((step) => ({
      ...step,
      lines: step.lines.map((line) => ({
        ...line,
        treatments: line.treatments.map((treatment) => {
          const name = WRITTEN_BY[treatment.kind];
          // What a number input sends has a point, whatever the visitor's language (HTML, 4.10.5.1.12).
          if (name === undefined || treatment[name] !== was[name] || (name === 'decimal' && sentByBrowser(line)))
            return treatment;
          return changedTexts(treatment, { [name]: now[name] });
        }),
      })),
    })),
  }));
}

type Writing = Pick<Treatment, 'country' | 'decimal' | 'order'>;

/** Which setting of a treatment goes by how visitors dial and write. */
const WRITTEN_BY: Partial<Record<Treatment['kind'], keyof Writing>> = {
  phone: 'country',
  number: 'decimal',
  money: 'decimal',
  date: 'order',
};

const writingOf = ({ country, locale }: Pick<IntakeSettings, 'country' | 'locale'>): Writing => ({
  ...(country === undefined ? {} : { country }),
  ...(locale === undefined ? {} : { decimal: decimalMarkOf(locale), order: dateOrderOf(locale) }),
});

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

/** A document with its form changed, where it is one of ours: its fields are those that the form sends. */
export function changeForm(document: IntakeDocument, work: (form: HostedForm) => HostedForm): IntakeDocument {
  if (!document.form) return document;
  const form = work(document.form);
  return form === document.form ? document : withForm(document, form);
}

/** A document with a form of ours, and the fields that it sends. */
export const withForm = (document: IntakeDocument, form: HostedForm): IntakeDocument => ({
  ...document,
  form,
  fields: fieldsOf(form),
});

/** A document without a field; lines that read it stay, and a check says so. */
export const removeField = (document: IntakeDocument, name: string): IntakeDocument => ({
  ...document,
  fields: document.fields.filter((field) => field.name !== name),
});

/**
 * Fields are replaced by those of the same name, and the others added behind them.
 * @param renamed leads from old names to new ones; the plan follows, in lines, conditions and expressions
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
      steps: document.plan.steps.map((step) => withNames(step, now)),
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
