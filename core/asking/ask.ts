import {
  alongWith,
  changeItem,
  changeNames,
  freeName,
  insertItem,
  removeItem,
  standingOf,
  standingsOf,
  type HostedForm,
  type Item,
  type Standing,
} from '../forms/hosted/index.ts';
import { changePlan, changePlanStep, withForm, type IntakeDocument } from '../intake/index.ts';
import { prepareLine } from '../mapping/index.ts';
import { addLines, withNames, type Step } from '../plans/index.ts';
import { calledBy, entityOf, fieldOf, type Field } from '../schema/index.ts';
import { filledBy, readsFor, type Asking } from './filled.ts';
import { canBeAsked, questionFor } from './question.ts';
import { filledWhenChosen } from './which.ts';

/**
 * Asking and mapping are one act: a question that asks for a record's field comes with the line that fills it, and goes
 * with it.
 */

/** The lines that a question's answer goes into, by step. */
export function linesOf(document: IntakeDocument, name: string): { step: Step; fields: string[] }[] {
  if (name === '') return [];
  const isOwn = (from: string): boolean => from === name || from.startsWith(`${name}[`);
  return document.plan.steps.flatMap((step) => {
    const fields = step.lines.filter(({ from }) => from.some(isOwn)).map(({ field }) => field);
    return fields.length === 0 ? [] : [{ step, fields }];
  });
}

/**
 * A document that asks for a field of a step's record: the question behind the last one that the step has already, and
 * the line. Asked for already, or by nobody to be answered, it stays as it is.
 */
export function askFor(document: IntakeDocument, stepId: string, name: string, asking: Asking): IntakeDocument {
  const { form } = document;
  const step = document.plan.steps.find(({ id }) => id === stepId);
  const schema = step && asking.schemas.get(step.system);
  const entity = schema && entityOf(schema, step.entity);
  const field = entity && fieldOf(entity, name);
  if (!form || !step || !schema || !field || !canBeAsked(field) || filledBy(form, step).has(name)) return document;
  const group = step.repeat === undefined ? undefined : groupNamed(form, step.repeat);
  if (step.repeat !== undefined && !group) return document;
  const own = freeName(form, field.name, group?.item.id);
  const item = questionFor(field, { id: asking.newId(), name: own, language: form.languages[0]! });
  if (field.type === 'reference') {
    const reads = readsFor(step.system, schema, field);
    if (!reads) return document;
    item.reads = reads;
  }
  const after = lastOf(form, step, group);
  const asked = withForm(document, insertItem(form, item, after === undefined ? { into: group?.item.id } : { after }));
  const sent = group ? `${group.name}[0][${own}]` : own;
  const filled = item.reads ? asked : filledWhenChosen(asked, step, sent, field.name);
  return withLine(filled, step, field, sent, asking);
}

/** A document in which a question's answer goes into a field of a step's record as well. */
export function fillWith(
  document: IntakeDocument,
  from: string,
  stepId: string,
  name: string,
  asking: Asking,
): IntakeDocument {
  const step = document.plan.steps.find(({ id }) => id === stepId);
  const schema = step && asking.schemas.get(step.system);
  const entity = schema && entityOf(schema, step.entity);
  const field = entity && fieldOf(entity, name);
  if (!step || !field || step.lines.some((line) => line.field === name)) return document;
  return withLine(filledWhenChosen(document, step, from, name), step, field, from, asking);
}

function withLine(
  document: IntakeDocument,
  step: Step,
  field: Field,
  from: string,
  { schemas, newId }: Asking,
): IntakeDocument {
  const source = document.fields.find(({ name }) => name === from);
  if (!source) return document;
  const schema = schemas.get(step.system)!;
  const where = {
    ...document.settings,
    calledBy: (name: string): string | undefined => {
      const entity = entityOf(schema, name);
      return entity && calledBy(entity);
    },
  };
  const line = prepareLine(newId(), [source], field, where);
  return changePlanStep(document, step.id, (held) => addLines(held, [line]));
}

/** A group by the name under which its rows are sent. */
export const groupNamed = (form: HostedForm, name: string): Standing | undefined =>
  standingsOf(form).find((each) => each.item.kind === 'group' && each.name === name);

/** The question of a step that stands last, in the group where the step has one. */
function lastOf(form: HostedForm, { lines }: Step, group: Standing | undefined): string | undefined {
  const names = new Set(lines.flatMap(({ from }) => from));
  const own = standingsOf(form).filter(({ name, groups }) =>
    group ? groups.at(-1)?.id === group.item.id && names.has(name) : groups.length === 0 && names.has(name),
  );
  return own.at(-1)?.item.id;
}

/**
 * A document without a question or group: the lines that took only its answer go too, others take one answer less.
 */
export function stopAsking(document: IntakeDocument, id: string): IntakeDocument {
  const { form } = document;
  const standing = form && standingOf(form, id);
  if (!standing) return document;
  const { name } = standing;
  const next = withForm(document, removeItem(form, id));
  if (name === '') return next;
  const isGone = (from: string): boolean => from === name || from.startsWith(`${name}[`);
  return changePlan(next, (plan) => ({
    ...plan,
    steps: plan.steps.map((step) => ({
      ...step,
      lines: step.lines.flatMap((line) => {
        if (!line.from.some(isGone)) return [line];
        const from = line.from.filter((each) => !isGone(each));
        return from.length === 0 ? [] : [{ ...line, from }];
      }),
    })),
  }));
}

/**
 * A document with its form changed: where a question is sent under another name afterwards, whatever goes by its answer
 * follows, in the form and in the plan.
 */
export function editForm(document: IntakeDocument, work: (form: HostedForm) => HostedForm): IntakeDocument {
  const form = document.form && work(document.form);
  if (!form || form === document.form) return document;
  const before = new Map(standingsOf(document.form!).map(({ item, name }) => [item.id, name]));
  const moved = standingsOf(form).flatMap(({ item, name }) => {
    const was = before.get(item.id) ?? '';
    if (was === '' || name === '' || was === name) return [];
    const along = alongWith(item, name).map((is, at) => ({ was: alongWith(item, was)[at]!, is }));
    return [{ was, is: name }, ...along];
  });
  if (moved.length === 0) return withForm(document, form);
  const now = (name: string): string => {
    const own = moved.find(({ was }) => was === name) ?? moved.find(({ was }) => name.startsWith(`${was}[`));
    return own ? own.is + name.slice(own.was.length) : name;
  };
  return changePlan(withForm(document, changeNames(form, now)), (plan) => ({
    ...plan,
    steps: plan.steps.map((step) => withNames(step, now)),
  }));
}

/** A document in which a question or group is sent under another name. */
export const renameQuestion = (document: IntakeDocument, id: string, name: string): IntakeDocument =>
  editForm(document, (form) => changeItem(form, id, (item) => (item.name === undefined ? item : { ...item, name })));

/** A document with a question, words or a group of its own: it goes into no record by itself. */
export function addItem(
  document: IntakeDocument,
  item: Omit<Item, 'name'> & { name?: string },
  place: { after?: string | undefined; into?: string | undefined } = {},
): IntakeDocument {
  const { form } = document;
  return form ? withForm(document, insertItem(form, item, place)) : document;
}
