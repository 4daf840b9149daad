import {
  changeItem,
  fieldsOf,
  freeName,
  insertItem,
  standingsOf,
  type HostedForm,
  type Item,
} from '../forms/hosted/index.ts';
import { INTAKE_FORMAT, withForm, type IntakeDocument } from '../intake/index.ts';
import { AUTOFILL, meaningsOf, prepareLine, tellingWords, type Meaning } from '../mapping/index.ts';
import {
  proposeSteps,
  rankEntities,
  settledLine,
  stepsFor,
  suggestSteps,
  type ProposeInput,
  type Step,
} from '../plans/index.ts';
import { entityOf, fieldOf, isWritable, mustBeGiven, type Entity, type Field } from '../schema/index.ts';
import { askFor, stopAsking } from './ask.ts';
import { canBeAsked, questionFor } from './question.ts';
import type { StartingPoint, Want } from './starting-points.ts';

/** A form made out of a starting point for the systems that are connected, and what was found about it. */
export interface Started {
  document: IntakeDocument;
  /** What the systems have no place for, by what the starting point calls it. */
  left: string[];
  /** What a record needs and the starting point doesn't know of: asked for as well. */
  added: string[];
  /** What a record needs and nobody can be asked for: a line has to fill it. */
  missing: string[];
}

const LANGUAGE = 'en';

/**
 * Begins with a starting point: its meanings are matched to the fields of the connected systems, whose labels, kinds,
 * options and limits the questions then have. What they lack is left out, and said; nothing is made by this.
 */
export function startFrom(point: StartingPoint, input: Omit<ProposeInput, 'fields'>): Started {
  const form = formFrom(point, input.newId);
  const proposing: ProposeInput = { ...input, fields: fieldsOf(form) };
  const about = recordsOf(point, proposing);
  const linked = about.length === 0 ? proposeSteps(proposing) : stepsFor(proposing, about);
  const group = standingsOf(form).find(({ item }) => item.kind === 'group')?.name;
  const filled = linked.map((step) =>
    byMeaning(point, form, byItself({ ...step, ...rowsOf(step, point, group, input) }, proposing), input),
  );
  const steps = onceSaid(point, form, filled).filter(({ lines }) => lines.some(({ from }) => from.length > 0));
  const begun: IntakeDocument = {
    ...{ format: INTAKE_FORMAT, name: point.name, source: { kind: 'ours' as const }, fields: [] },
    plan: { steps },
    settings: { perMinute: 60, ...input.where },
  };
  const { document, left } = withoutPlaceless(withForm(begun, form), point);
  return { ...withNeeded(asTheirFields(document, point, input), input), left };
}

/** A step on what the starting point's rows are about is done once a row. */
function rowsOf(
  { system, entity: name }: Step,
  { rows }: StartingPoint,
  group: string | undefined,
  { schemas }: Pick<ProposeInput, 'schemas'>,
): Pick<Step, 'repeat'> {
  const entity = entityOf(schemas.get(system) ?? { entities: [] }, name);
  const isRow = entity && rows?.record.some((called) => isCalled(entity, called));
  return isRow && group !== undefined ? { repeat: group } : {};
}

/** So sure a suggestion has to be: what is made of it is looked at before it is taken. */
const SURE = 0.7;

/**
 * A step with the lines that suggest themselves for it alone, beside its links: what one person is called may stand with
 * their order as well.
 */
function byItself(step: Step, input: ProposeInput): Step {
  const links = step.lines.filter(({ fromStep }) => fromStep !== undefined);
  const [alone] = suggestSteps({ ...input, steps: [{ ...step, lines: [] }] }, { only: step.id });
  const linked = new Set(links.map(({ field }) => field));
  const own = (alone?.lines ?? []).filter(
    ({ origin, confidence = 0, field }) => (origin === 'set' || confidence >= SURE) && !linked.has(field),
  );
  return { ...step, lines: [...own.map(settledLine), ...links] };
}

/** A step with lines for what is still open and means, or is called, the same as a field of its record. */
function byMeaning(
  { wants, rows }: StartingPoint,
  form: HostedForm,
  step: Step,
  { schemas, newId, where }: Omit<ProposeInput, 'fields'>,
): Step {
  const entity = entityOf(schemas.get(step.system) ?? { entities: [] }, step.entity);
  if (!entity) return step;
  const sources = new Map(fieldsOf(form).map((field) => [field.name, field]));
  const wanted = new Map([...wants, ...(rows?.wants ?? [])].map((want) => [want.label, want]));
  const taken = new Set(step.lines.map(({ field }) => field));
  const read = new Set(step.lines.flatMap(({ from }) => from));
  const more = standingsOf(form).flatMap(({ item, name, groups }) => {
    const want = wanted.get(item.label[LANGUAGE] ?? '');
    const source = sources.get(name);
    const isHere = groups.length > 0 === (step.repeat !== undefined);
    if (!want || !source || read.has(name) || !isHere) return [];
    const field = entity.fields.find((each) => isWritable(each) && !taken.has(each.name) && isMeant(each, want));
    if (!field) return [];
    taken.add(field.name);
    return [prepareLine(newId(), [source], field, where)];
  });
  return { ...step, lines: [...step.lines, ...more] };
}

/** What is said on one occasion: it stands with that, and not with whoever said it as well. */
const OF_AN_OCCASION: readonly Meaning[] = ['message', 'subject', 'quantity', 'product', 'date', 'kind'];

function onceSaid({ wants }: StartingPoint, form: HostedForm, steps: readonly Step[]): Step[] {
  const once = new Set(
    standingsOf(form).flatMap(({ item, name }) => {
      const want = wants.find(({ label }) => label === item.label[LANGUAGE]);
      return want && OF_AN_OCCASION.includes(want.means) ? [name] : [];
    }),
  );
  const isSaidLater = (name: string, at: number): boolean =>
    once.has(name) && steps.slice(at + 1).some(({ lines }) => lines.some(({ from }) => from.includes(name)));
  return steps.map((step, at) => ({
    ...step,
    lines: step.lines.filter(({ from }) => !from.some((name) => isSaidLater(name, at))),
  }));
}

const isMeant = (field: Field, { label, means }: Want): boolean => {
  if (field.type === 'reference' || field.type === 'id') return false;
  const words = tellingWords(field.label);
  return words.join(' ') === tellingWords(label).join(' ') || meaningsOf(words)[0]?.meaning === means;
};

/** An empty form of ours. */
export const emptyForm = (name: string, newId: () => string): HostedForm => ({
  languages: [LANGUAGE],
  title: { [LANGUAGE]: name },
  pages: [{ id: newId(), items: [] }],
  guard: { trap: true, leastSeconds: 2 },
});

function formFrom({ name, wants, rows }: StartingPoint, newId: () => string): HostedForm {
  let form = emptyForm(name, newId);
  for (const want of wants) form = insertItem(form, itemFrom(want, form, newId()));
  if (!rows) return form;
  const group: Item = {
    ...{ id: newId(), kind: 'group', name: freeName(form, rows.label), label: { [LANGUAGE]: rows.label } },
    ...{ items: [], leastRows: 1, mostRows: 12 },
  };
  form = insertItem(form, group);
  for (const want of rows.wants) form = insertItem(form, itemFrom(want, form, newId(), group.id), { into: group.id });
  return form;
}

function itemFrom({ means, label, kind, required }: Want, form: HostedForm, id: string, into?: string): Item {
  const item: Item = { id, kind, name: freeName(form, label, into), label: { [LANGUAGE]: label } };
  if (required) item.required = true;
  const token = Object.keys(AUTOFILL).find((each) => AUTOFILL[each] === means);
  if (token !== undefined && into === undefined) item.autocomplete = token;
  return item;
}

/** The entities that are called as the starting point's records are, in the system that has most of them. */
function recordsOf(point: StartingPoint, input: ProposeInput): Pick<Step, 'system' | 'entity'>[] {
  const wanted = [...point.records, ...(point.rows ? [point.rows.record] : [])];
  const ranked = rankEntities(input).filter(({ writable }) => writable);
  const bySystem = [...new Set(ranked.map(({ system }) => system))].map((system) =>
    wanted.flatMap((names) => {
      const found = names
        .map((name) => ranked.find((each) => each.system === system && isCalled(each.entity, name)))
        .find((each) => each !== undefined);
      return found ? [{ system, entity: found.entity.name }] : [];
    }),
  );
  return bySystem.sort((a, b) => b.length - a.length)[0] ?? [];
}

const isCalled = ({ label, name }: Entity, wanted: string): boolean => {
  const words = tellingWords(wanted).join(' ');
  const singular = (text: string): string => tellingWords(text).join(' ').replace(/s$/, '');
  return [label, name].some((each) => tellingWords(each).join(' ') === words || singular(each) === words);
};

/** A document without the questions that no line reads, unless they are kept. */
function withoutPlaceless(
  document: IntakeDocument,
  { wants, rows }: StartingPoint,
): { document: IntakeDocument; left: string[] } {
  const read = new Set(document.plan.steps.flatMap(({ lines }) => lines.flatMap(({ from }) => from)));
  const kept = new Set(
    [...wants, ...(rows?.wants ?? [])].flatMap(({ label, kept: isKept }) => (isKept ? [label] : [])),
  );
  const left: string[] = [];
  let next = document;
  for (const { item, name } of standingsOf(document.form!)) {
    if (item.kind === 'group' || read.has(name) || kept.has(item.label[LANGUAGE]!)) continue;
    left.push(item.label[LANGUAGE]!);
    next = stopAsking(next, item.id);
  }
  for (const { item } of standingsOf(next.form!))
    if (item.kind === 'group' && (item.items ?? []).length === 0) next = stopAsking(next, item.id);
  return { document: next, left };
}

/** A document whose questions are asked as the fields are that they fill. */
function asTheirFields(
  document: IntakeDocument,
  { wants }: StartingPoint,
  { schemas }: Pick<ProposeInput, 'schemas'>,
): IntakeDocument {
  const worded = new Set(wants.flatMap(({ label, kept }) => (kept ? [label] : [])));
  let form = document.form!;
  const done = new Set<string>();
  for (const step of document.plan.steps) {
    const entity = entityOf(schemas.get(step.system) ?? { entities: [] }, step.entity);
    for (const { from, field: name, treatments } of step.lines) {
      const standing = standingsOf(form).find((each) => each.name === from[0]);
      const field = entity && fieldOf(entity, name);
      // Of a value that is cut, joined or looked up the field isn't what is asked for.
      const isWhole = !treatments.some(({ kind }) => ['name part', 'address part', 'join', 'lookup'].includes(kind));
      if (!standing || !field || from.length !== 1 || !isWhole || !canBeAsked(field) || done.has(standing.item.id))
        continue;
      if (field.type === 'reference' || standing.item.kind === 'consent') continue;
      done.add(standing.item.id);
      form = changeItem(form, standing.item.id, (item) => {
        const asked = asTheField(item, field);
        return worded.has(item.label[LANGUAGE]!) ? { ...asked, label: item.label } : asked;
      });
    }
  }
  const next = withForm(document, form);
  return {
    ...next,
    plan: {
      ...next.plan,
      steps: next.plan.steps.map((step) => ({ ...step, lines: step.lines.map((line) => paired(line, next)) })),
    },
  };
}

/** Options that are a field's own go into it as they are. */
function paired(line: Step['lines'][number], { fields }: IntakeDocument): Step['lines'][number] {
  const source = fields.find(({ name }) => name === line.from[0]);
  if (!source?.options || line.from.length !== 1) return line;
  const treatments = line.treatments.filter(({ kind }) => kind !== 'country' && kind !== 'language');
  return treatments.length === line.treatments.length ? line : { ...line, treatments };
}

function asTheField(item: Item, field: Field): Item {
  const asked = questionFor(field, { id: item.id, name: item.name!, language: LANGUAGE });
  return { ...asked, ...(item.required ? { required: true } : {}) };
}

/** How far something has come is nothing that visitors say. */
const isOurs = ({ label, name }: Field): boolean =>
  [label, name].some((each) => meaningsOf(tellingWords(each))[0]?.meaning === 'status');

/** Asks for what a record can't be made without. */
function withNeeded(document: IntakeDocument, { schemas, newId }: Pick<ProposeInput, 'schemas' | 'newId'>) {
  const added: string[] = [];
  const missing: string[] = [];
  let next = document;
  for (const { id, system, entity: name, whenNone } of document.plan.steps) {
    const entity = entityOf(schemas.get(system) ?? { entities: [] }, name);
    if (!entity || whenNone !== 'create') continue;
    for (const field of entity.fields.filter((each) => mustBeGiven(each) && isWritable(each))) {
      if (next.plan.steps.find((step) => step.id === id)!.lines.some((line) => line.field === field.name)) continue;
      const said = `${entity.label}: ${field.label}`;
      // Visitors don't know what numbers things are kept under.
      const isTheirs = !field.unique && !field.immutable && !isOurs(field);
      const asked = isTheirs ? askFor(next, id, field.name, { schemas, newId }) : next;
      (asked === next ? missing : added).push(said);
      next = asked;
    }
  }
  return { document: next, added, missing };
}
