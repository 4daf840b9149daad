import {
  changeItem,
  freeName,
  insertItem,
  linkedEntities,
  placeItem,
  removeItem,
  standingsOf,
  type Fill,
  type HostedForm,
  type Item,
  type NewestOf,
} from '../forms/hosted/index.ts';
import { changePlanStep, withForm, type IntakeDocument } from '../intake/index.ts';
import { alwaysAnew, recordNamedBy, type Step } from '../plans/index.ts';
import { entityOf, type Schema } from '../schema/index.ts';
import { filledBy, readsOf, type Asking } from './filled.ts';

/**
 * Visitors choose which record is meant: the step that changes it goes by the choice, and the questions that ask for its
 * fields begin with what it holds.
 */

/** How the record of a step is chosen: by which question, and over what where it leads to the chosen one. */
export interface Chooser {
  item: Item;
  of?: NewestOf;
}

/** Whether the record of a step is the one that a signed link names. */
export const isLinked = ({ link }: HostedForm, { record }: Pick<Step, 'record'>): boolean =>
  link !== undefined && record?.by === 'field' && linkedEntities(link).some(({ into }) => into === record.field);

/** The question by which the record of a step is chosen, where there is one. */
export function chooserOf(form: HostedForm, { record }: Pick<Step, 'record'>): Chooser | undefined {
  if (record?.by !== 'field' || record.field === undefined) return undefined;
  for (const { item, name } of standingsOf(form)) {
    if (!item.reads) continue;
    if (name === record.field) return { item };
    const fill = (item.reads.fills ?? []).find(({ into, field }) => into === record.field && field === undefined);
    if (fill) return fill.of ? { item, of: fill.of } : { item };
  }
  return undefined;
}

/** A document in which a chosen record fills the question that asks for one of its fields, as far as it has a chooser. */
export function filledWhenChosen(document: IntakeDocument, step: Step, into: string, field: string): IntakeDocument {
  const { form } = document;
  if (form && isLinked(form, step)) return withForm(document, beginsWithRecord(form, new Map([[into, field]])));
  const chooser = form && chooserOf(form, step);
  if (!chooser) return document;
  return withForm(document, withFills(form, chooser.item.id, [fillWith(into, field, chooser.of)]));
}

const fillWith = (into: string, field: string | undefined, of: NewestOf | undefined): Fill => ({
  into,
  ...(field === undefined ? {} : { field }),
  ...(of ? { of } : {}),
});

const withFills = (form: HostedForm, id: string, more: readonly Fill[]): HostedForm =>
  changeItem(form, id, (item) => {
    if (!item.reads) return item;
    const known = new Set((item.reads.fills ?? []).map(({ into }) => into));
    const fresh = more.filter(({ into }) => !known.has(into));
    return { ...item, reads: { ...item.reads, fills: [...(item.reads.fills ?? []), ...fresh] } };
  });

/** The fills of a step's questions, by what the record that is chosen holds. */
const fillsOf = (form: HostedForm, step: Step, of?: NewestOf): Fill[] => {
  const names = new Map(standingsOf(form).map(({ item, name }) => [item.id, name]));
  return [...filledBy(form, step)].flatMap(([field, filled]) =>
    filled.by === 'question' && filled.item.kind !== 'hidden' && !filled.item.reads
      ? [fillWith(names.get(filled.item.id)!, field, of)]
      : [],
  );
};

/**
 * A document in which the visitor chooses the record of a step: a question that looks it up, before the step's others,
 * which it fills. Where its schema shows nothing to choose by, the document stays as it is.
 */
export function askWhich(document: IntakeDocument, stepId: string, { schemas, newId }: Asking): IntakeDocument {
  const { form } = document;
  const step = document.plan.steps.find(({ id }) => id === stepId);
  const entity = step && entityOf(schemas.get(step.system) ?? { entities: [] }, step.entity);
  const reads = step && entity?.rights.read ? readsOf(step.system, entity) : undefined;
  if (!form || !step || !entity || !reads || step.repeat !== undefined) return document;
  const name = freeName(form, entity.label);
  const item: Item = {
    ...{ id: newId(), kind: 'record', name, required: true },
    label: { [form.languages[0]!]: `Which ${entity.label.toLowerCase()}?` },
    reads: { ...reads, fills: fillsOf(form, step) },
  };
  const [first] = [...filledBy(form, step).values()]
    .flatMap((filled) => (filled.by === 'question' ? [filled] : []))
    .sort((a, b) => a.at - b.at);
  const inserted = insertItem(form, item);
  const placed = first ? placeItem(inserted, item.id, { before: first.item.id }) : inserted;
  return changePlanStep(withForm(document, placed), stepId, (held) => ({
    ...recordNamedBy(held, name),
    whenNone: 'stop',
  }));
}

/** The entities with records that lead to those of one: of the chosen one, the newest of them may be meant. */
export function leadingTo(schema: Schema, entity: string): { entity: string; by: string; newest: string }[] {
  return schema.entities.flatMap((each) => {
    const by = each.fields.find(({ relation, rights }) => relation === entity && rights !== 'none');
    const dates = each.fields.filter(
      ({ type, rights }) => rights !== 'none' && (type === 'date' || type === 'date and time'),
    );
    // What was made last is newest; else what begins last.
    const newest = dates.find(({ computed, name }) => computed && /creat|made/i.test(name)) ?? dates[0];
    return by && newest && each.rights.read && each.name !== entity
      ? [{ entity: each.name, by: by.name, newest: newest.name }]
      : [];
  });
}

/**
 * A document in which the record of a step is the newest of those that lead to the record chosen by a question. Its id is
 * worked out where the form is kept, never taken from the page.
 */
export function askNewest(
  document: IntakeDocument,
  stepId: string,
  chooser: string,
  of: NewestOf,
  { schemas, newId }: Asking,
): IntakeDocument {
  const { form } = document;
  const step = document.plan.steps.find(({ id }) => id === stepId);
  const question = form && standingsOf(form).find(({ item }) => item.id === chooser);
  if (!form || !step || !question?.item.reads) return document;
  const label = entityOf(schemas.get(step.system) ?? { entities: [] }, step.entity)?.label ?? step.entity;
  const name = freeName(form, `${label} meant`);
  const hidden: Item = {
    id: newId(),
    kind: 'hidden',
    name,
    label: { [form.languages[0]!]: `${label} meant` },
  };
  const asked = withFills(insertItem(form, hidden, { after: chooser }), chooser, [
    fillWith(name, undefined, of),
    ...fillsOf(form, step, of),
  ]);
  return changePlanStep(withForm(document, asked), stepId, (held) => ({
    ...recordNamedBy(held, name),
    whenNone: 'stop',
  }));
}

/** A form whose questions, by their names, begin with fields of the link's record. */
function beginsWithRecord(form: HostedForm, fields: ReadonlyMap<string, string>): HostedForm {
  return standingsOf(form).reduce((held, { item, name, groups }) => {
    const value = groups.length === 0 ? fields.get(name) : undefined;
    if (value === undefined || item.kind === 'consent' || item.reads) return held;
    return changeItem(held, item.id, (each) => ({ ...each, begins: { with: 'record', value } }));
  }, form);
}

/**
 * A document whose form is opened with a signed link to the record of a step: the step changes that one, and the questions
 * that ask for its fields begin with what it holds.
 */
export function askByLink(document: IntakeDocument, stepId: string, { schemas, newId }: Asking): IntakeDocument {
  const { form } = document;
  const step = document.plan.steps.find(({ id }) => id === stepId);
  const entity = step && entityOf(schemas.get(step.system) ?? { entities: [] }, step.entity);
  if (!form || !step || !entity?.rights.read || form.link || step.repeat !== undefined) return document;
  const name = freeName(form, `${entity.label} of the link`);
  const label = { [form.languages[0]!]: `${entity.label} of the link` };
  const filled = new Map(
    [...filledBy(form, step)].flatMap(([field, how]) =>
      how.by === 'question' ? [[how.item.name!, field] as const] : [],
    ),
  );
  const asked: HostedForm = {
    ...beginsWithRecord(
      insertItem(form, {
        ...{ id: newId(), kind: 'hidden', name, label },
        holds: { system: step.system, entity: step.entity },
      }),
      filled,
    ),
    link: { system: step.system, entity: step.entity, into: name, required: true },
  };
  return changePlanStep(withForm(document, asked), stepId, (held) => ({
    ...recordNamedBy(held, name),
    whenNone: 'stop',
  }));
}

/** A document whose form is opened without a link; the step that went by it makes or finds its record again. */
export function withoutLink(document: IntakeDocument): IntakeDocument {
  const { link, panel: _, ...form } = document.form ?? {};
  if (!link) return document;
  const held = new Set(linkedEntities(link).map(({ into }) => into));
  const bare = standingsOf(form as HostedForm).reduce((rest, { item, name }) => {
    if (held.has(name)) return removeItem(rest, item.id);
    const begun = item.begins?.with === 'record' || item.begins?.with === 'person';
    return begun ? changeItem(rest, item.id, ({ begins: _begins, ...now }) => now) : rest;
  }, form as HostedForm);
  const next = withForm(document, bare);
  return document.plan.steps
    .filter((step) => isLinked(document.form!, step))
    .reduce((held, { id }) => changePlanStep(held, id, (step) => ({ ...alwaysAnew(step), whenNone: 'create' })), next);
}
