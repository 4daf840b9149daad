import {
  changeItem,
  freeName,
  insertItem,
  linkedEntities,
  removeItem,
  standingsOf,
  withKind,
  type Begins,
  type HostedForm,
  type Item,
} from '../forms/hosted/index.ts';
import { changePlan, changePlanStep, withForm, type IntakeDocument } from '../intake/index.ts';
import { OFFERED_FROM, pairOptions, suggestLines, type Line } from '../mapping/index.ts';
import { addLines, type Step } from '../plans/index.ts';
import { entityOf, isWritable, type Entity, type Field } from '../schema/index.ts';
import { askFor } from './ask.ts';
import { filledBy, type Asking } from './filled.ts';
import { canBeAsked } from './question.ts';

/**
 * A form on a record's page makes children of that record. What they have in common with it is filled in: the relation
 * between the two, whoever owns it, and fields that are called or mean the same.
 */

/** A field of a child that its parent can fill: by which fields of which entities it may have as parents. */
export interface FromParent {
  field: Field;
  /** `field` undefined: the parent's id. */
  from: { entity: string; field: Field | undefined }[];
  why: 'relation' | 'same name' | 'same meaning';
}

/** Filled in where it can be seen and changed; unseen; or only where somebody leaves it blank. */
export type FillingIn = 'shown' | 'unseen' | 'left blank';

/** What the records that a form is opened with could fill of a step's record, and nothing fills with them yet. */
export function fromParents(
  document: IntakeDocument,
  stepId: string,
  { schemas }: Pick<Asking, 'schemas'>,
): FromParent[] {
  const { form } = document;
  const step = document.plan.steps.find(({ id }) => id === stepId);
  const schema = step && schemas.get(step.system);
  const child = schema && entityOf(schema, step.entity);
  if (!form?.link || !child || step.system !== form.link.system || step.record) return [];
  const parents = linkedEntities(form.link).flatMap(({ entity }) => entityOf(schema, entity) ?? []);
  const filled = filledBy(form, step);
  const open = child.fields.filter((field) => {
    if (!isWritable(field)) return false;
    const how = filled.get(field.name);
    return how === undefined || (how.by === 'question' && !how.item.begins && how.item.kind !== 'hidden');
  });
  const found = new Map<string, FromParent>();
  const add = (field: Field, entity: string, of: Field | undefined, why: FromParent['why']): void => {
    const held = found.get(field.name);
    if (!held) found.set(field.name, { field, from: [{ entity, field: of }], why });
    else if (!held.from.some((each) => each.entity === entity)) held.from.push({ entity, field: of });
  };
  for (const parent of parents) {
    const relation = open.find((field) => field.relation === parent.name && !filled.has(field.name));
    if (relation) add(relation, parent.name, undefined, 'relation');
  }
  const isTaken = (name: string): boolean => found.get(name)?.why === 'relation';
  for (const parent of parents) {
    const rest = open.filter(({ name }) => !isTaken(name));
    for (const [field, of, why] of alike(child, rest, parent)) add(field, parent.name, of, why);
  }
  return [...found.values()];
}

/** Fields of a child beside those of its parent that are called, or mean, the same. */
function alike(child: Entity, fields: readonly Field[], parent: Entity): [Field, Field, FromParent['why']][] {
  const seen = parent.fields.filter(({ rights, type, computed }) => rights !== 'none' && type !== 'id' && !computed);
  const same = fields.flatMap((field): [Field, Field, FromParent['why']][] => {
    const of = seen.find((each) => each.name === field.name && isSameKind(each, field));
    return of ? [[field, of, 'same name']] : [];
  });
  const named = new Set(same.map(([field]) => field.name));
  const used = new Set(same.map(([, of]) => of.name));
  const sources = seen
    .filter(({ name, type }) => !used.has(name) && type !== 'reference')
    .map(({ name, label, type, options }) => ({ name, label, type, ...(options ? { options } : {}) }));
  const open = fields.filter(({ name, type }) => !named.has(name) && type !== 'reference');
  const meant = suggestLines(sources, [{ name: child.name, label: child.label, fields: open }]);
  return [
    ...same,
    ...meant.flatMap((line): [Field, Field, FromParent['why']][] => {
      const field = open.find(({ name }) => name === line.field);
      const of = line.from.length === 1 ? seen.find(({ name }) => name === line.from[0]) : undefined;
      return field && of && line.confidence >= OFFERED_FROM && isSameKind(of, field)
        ? [[field, of, 'same meaning']]
        : [];
    }),
  ];
}

/** Whether values of one go into the other as they are. */
function isSameKind(one: Field, other: Field): boolean {
  if (one.type === 'reference' || other.type === 'reference')
    return one.type === other.type && one.relation === other.relation;
  const texts = ['text', 'long text'];
  return one.type === other.type || (texts.includes(one.type) && texts.includes(other.type));
}

/** Whether a field can be filled in so: a question in rows begins with nothing, and an id is nobody's to see. */
export const canBeFilledIn = (step: Step, { field, why }: FromParent, how: FillingIn): boolean =>
  how === 'unseen' ||
  (why !== 'relation' && step.repeat === undefined && canBeAsked(field) && field.type !== 'reference');

/** A document in which a field of a step's record is filled in with what its parent holds. */
export function fillFromParent(
  document: IntakeDocument,
  stepId: string,
  name: string,
  how: FillingIn,
  asking: Asking,
): IntakeDocument {
  const step = document.plan.steps.find(({ id }) => id === stepId);
  const offered = fromParents(document, stepId, asking).find(({ field }) => field.name === name);
  const link = document.form?.link;
  if (!step || !offered || !link || !canBeFilledIn(step, offered, how)) return document;
  if (offered.why === 'relation') {
    const into = linkedEntities(link).find(({ entity }) => entity === offered.from[0]!.entity)!.into;
    return changePlanStep(document, stepId, (held) => addLines(held, [plainLine(asking.newId(), into, offered.field)]));
  }
  const begins = beginsFrom(link.entity, offered.from);
  if (how === 'unseen') return filledUnseen(document, step, offered, begins, asking);
  const asked = askFor(document, stepId, name, asking);
  const question = filledBy(asked.form!, asked.plan.steps.find(({ id }) => id === stepId)!).get(name);
  if (question?.by !== 'question') return document;
  const form = changeItem(asked.form!, question.item.id, ({ required, ...item }) => ({
    ...item,
    ...(required && how === 'shown' ? { required } : {}),
    begins: how === 'left blank' ? { ...begins, ifBlank: true } : begins,
  }));
  return withForm(asked, form);
}

/** By a hidden question, or one that was asked until now. */
function filledUnseen(
  document: IntakeDocument,
  step: Step,
  { field, from }: FromParent,
  begins: Begins,
  { newId }: Asking,
): IntakeDocument {
  const form = document.form!;
  const held = filledBy(form, step).get(field.name);
  const more: Pick<Item, 'begins' | 'holds'> = { begins };
  if (field.type === 'reference' && field.relation !== undefined)
    more.holds = { system: step.system, entity: field.relation };
  if (held?.by === 'question') {
    const hidden = changeItem(form, held.item.id, (item) => {
      const { required: _, ...rest } = withKind(item, 'hidden', form.languages[0]!);
      return { ...rest, ...more };
    });
    const own = changePlanStep(withForm(document, hidden), step.id, (now) => ({
      ...now,
      lines: now.lines.map((line) => (line.field === field.name ? { ...line, treatments: pairs(from, field) } : line)),
    }));
    return own;
  }
  const name = freeName(form, field.name);
  const label = { [form.languages[0]!]: field.label.slice(0, 2000) };
  const asked = withForm(document, insertItem(form, { id: newId(), kind: 'hidden', name, label, ...more }));
  const line = { ...plainLine(newId(), name, field), treatments: pairs(from, field) };
  return changePlanStep(asked, step.id, (now) => addLines(now, [line]));
}

/** What a record holds is not read again: options are paired where the two lists differ, and that is all. */
function pairs(from: FromParent['from'], field: Field): Line['treatments'] {
  const known = new Set(field.options?.map(({ value }) => value));
  const differing = from.flatMap(({ field: of }) => of?.options?.filter(({ value }) => !known.has(value)) ?? []);
  if (!field.options || differing.length === 0) return [];
  const options = from.flatMap(({ field: of }) => of?.options ?? []);
  return [{ kind: 'options', pairs: pairOptions(options, field.options) }];
}

const plainLine = (id: string, from: string, field: Field): Line => ({
  ...{ id, from: [from], treatments: [], field: field.name },
  ifBoth: field.immutable ? 'new records only' : 'write',
  blankErases: false,
  origin: 'set',
});

function beginsFrom(first: string, from: FromParent['from']): Begins {
  const others = from.flatMap(({ entity, field }) =>
    entity !== first && field ? [{ entity, field: field.name }] : [],
  );
  const own = from.find(({ entity }) => entity === first)?.field?.name ?? '';
  return { with: 'record', value: own, ...(others.length > 0 ? { others } : {}) };
}

/**
 * A document whose form stands on pages of records of an entity: by a panel, for whoever is signed in there. What its
 * steps make is linked to the record where there is a relation.
 */
export function openOnRecord(document: IntakeDocument, system: string, name: string, asking: Asking): IntakeDocument {
  const { form } = document;
  const entity = entityOf(asking.schemas.get(system) ?? { entities: [] }, name);
  if (!form || !entity || (form.link && form.link.system !== system)) return document;
  if (form.link && linkedEntities(form.link).some((each) => each.entity === name))
    return withForm(document, { ...form, panel: form.panel ?? { whenGone: 'ask' } });
  const into = freeName(form, `${entity.label} of the page`);
  const label = { [form.languages[0]!]: `${entity.label} of the page` };
  const hidden: Item = { id: asking.newId(), kind: 'hidden', name: into, label, holds: { system, entity: name } };
  const link: HostedForm['link'] = form.link
    ? { ...form.link, others: [...(form.link.others ?? []), { entity: name, into }] }
    : { system, entity: name, into, required: true };
  const opened = { ...insertItem(form, hidden), link, panel: form.panel ?? { whenGone: 'ask' as const } };
  const next = withForm(document, opened);
  return next.plan.steps.reduce(
    (held, step) =>
      fromParents(held, step.id, asking)
        .filter(({ why }) => why === 'relation')
        .reduce((now, { field }) => fillFromParent(now, step.id, field.name, 'unseen', asking), held),
    next,
  );
}

/** A document whose form no longer stands on pages of one of its entities; what began with those records doesn't any more. */
export function notOnRecord(document: IntakeDocument, name: string): IntakeDocument {
  const { link, panel: _, ...bare } = document.form ?? {};
  if (!link || !document.form) return document;
  const gone = linkedEntities(link).find(({ entity }) => entity === name);
  const left = linkedEntities(link).filter(({ entity }) => entity !== name);
  if (!gone) return document;
  const [first, ...others] = left;
  const form = standingsOf(document.form).reduce<HostedForm>(
    (held, { item, name: sent }) => {
      if (sent === gone.into) return removeItem(held, item.id);
      if (item.begins?.with === 'person' && !first) return changeItem(held, item.id, withoutBegins);
      if (item.begins?.with !== 'record') return held;
      return changeItem(held, item.id, (each) => beginningWithout(each, link.entity, name, first?.entity));
    },
    first
      ? { ...document.form, link: { ...link, ...first, ...(others.length > 0 ? { others } : { others: [] }) } }
      : (bare as HostedForm),
  );
  return changePlan(withForm(document, form), (plan) => ({
    ...plan,
    steps: plan.steps.map((step) => ({ ...step, lines: step.lines.filter(({ from }) => !from.includes(gone.into)) })),
  }));
}

const withoutBegins = ({ begins: _, ...item }: Item): Item => item;

/** A question that begins with fields of fewer entities than before; `now` is the one that is first by then. */
function beginningWithout(item: Item, was: string, gone: string, now: string | undefined): Item {
  const begins = item.begins!;
  const all = [...(begins.value === '' ? [] : [{ entity: was, field: begins.value }]), ...(begins.others ?? [])].filter(
    ({ entity }) => entity !== gone,
  );
  if (all.length === 0 || now === undefined) return withoutBegins(item);
  const others = all.filter(({ entity }) => entity !== now);
  const value = all.find(({ entity }) => entity === now)?.field ?? '';
  const { others: _, ...rest } = begins;
  return { ...item, begins: { ...rest, value, ...(others.length > 0 ? { others } : {}) } };
}
