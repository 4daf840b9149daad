import {
  meaningsOf,
  prepareLine,
  suggestLines,
  tellingWords,
  type Learned,
  type Line,
  type Meaning,
  type SourceField,
  type Where,
} from '../mapping/index.ts';
import type { FormField } from '../forms/index.ts';
import {
  calledBy,
  entityOf,
  isWritable,
  mustBeGiven,
  type Entity,
  type Field,
  type FieldType,
  type Schema,
} from '../schema/index.ts';
import { backLinks, linkLine, openLinks } from './links.ts';
import type { Step } from './model.ts';
import { firstRows, groupsOf } from './rows.ts';

/** What suggesting lines for a plan goes by. */
export interface SuggestInput {
  /** The form's fields, with some of what was sent under each. */
  fields: readonly (FormField & Pick<SourceField, 'samples'>)[];
  steps: readonly Step[];
  schemas: ReadonlyMap<string, Schema>;
  learned: readonly Learned[];
  /** How visitors write, for the treatments of new lines. */
  where: Pick<Where, 'country' | 'locale'>;
  newId: () => string;
  /** Keys that were found to mix up different records; they aren't suggested. */
  weakKeys?: readonly WeakKey[];
}

/** A combination of an entity's fields that different records share. */
export interface WeakKey {
  system: string;
  entity: string;
  fields: readonly string[];
}

/** A step on an entity with nothing said yet. */
export const blankStep = (id: string, system: string, entity: string): Step => ({
  id,
  system,
  entity,
  recognise: [],
  whenNone: 'create',
  whenOne: 'update',
  whenSeveral: 'ask',
  lines: [],
});

const entityOfStep = ({ system, entity }: Step, schemas: SuggestInput['schemas']): Entity | undefined =>
  entityOf(schemas.get(system) ?? { entities: [] }, entity);

/**
 * The plan with a new step in its place: its lines suggested together with those of the other steps that nobody has
 * touched, in one assignment; its keys, whether it runs once per row, and its links to what earlier steps make.
 */
export function withStep(input: SuggestInput, fresh: Step): Step[] {
  const repeat = repeatFor(input, fresh);
  const step = repeat === undefined ? fresh : { ...fresh, repeat };
  const at = placeFor(step, input.steps, input.schemas);
  const placed = [...input.steps.slice(0, at), step, ...input.steps.slice(at)];
  const suggested = suggestSteps({ ...input, steps: placed }, { only: undefined });
  return suggested.map((each, index) => {
    if (each.id !== fresh.id && index < at) return each;
    const keyed = each.id === fresh.id ? { ...each, recognise: keysFor(each, input) } : each;
    const links = openLinks(keyed, suggested.slice(0, index), input.schemas).filter(
      ({ earlier }) => each.id === fresh.id || earlier.id === fresh.id,
    );
    return {
      ...keyed,
      lines: [...keyed.lines, ...links.map(({ field, earlier }) => linkLine(input.newId(), field, earlier.id))],
    };
  });
}

function keysFor(step: Step, { schemas, fields, weakKeys = [] }: SuggestInput): Step['recognise'] {
  const entity = entityOfStep(step, schemas);
  if (!entity) return [];
  const telling = step.lines.filter((line) => namesItsField(line, entity, fields) && tellsApart(line, fields));
  return likelyKeys(entity, step.lines, telling)
    .filter((key) => !weakKeys.some((weak) => isAbout(weak, step) && sameFields(weak.fields, key)))
    .map((key) => ({ fields: key }));
}

const isAbout = (weak: WeakKey, step: Step): boolean => weak.system === step.system && weak.entity === step.entity;
const sameFields = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === b.length && a.every((name) => b.includes(name));

/** A form's field says itself that it holds what a record is recognised by: "Field number 44" doesn't, for a member number. */
function namesItsField(line: Line, entity: Entity, fields: SuggestInput['fields']): boolean {
  const field = entity.fields.find(({ name }) => name === line.field);
  if (!field) return false;
  if (line.confidence === undefined) return true;
  const sources = fields.filter(({ name }) => line.from.includes(name));
  const said = new Set(sources.flatMap(({ label, name }) => [...tellingWords(label), ...tellingWords(name)]));
  const [byLabel, byName] = [tellingWords(field.label), tellingWords(field.name)];
  if ([byLabel, byName].some((words) => words.length > 0 && words.every((word) => said.has(word)))) return true;
  const meant = new Set([...meaningsOf(byLabel), ...meaningsOf(byName)].map(({ meaning }) => meaning));
  return meaningsOf([...said]).some(({ meaning }) => meaning !== 'reference' && meant.has(meaning));
}

/** Samples that mostly say the same can't be told apart by it; few samples say nothing. */
function tellsApart(line: Line, fields: SuggestInput['fields']): boolean {
  const said = fields.filter(({ name }) => line.from.includes(name)).flatMap(({ samples = [] }) => samples);
  return said.length < ENOUGH_SAID || new Set(said).size / said.length >= MOSTLY_DIFFERENT;
}
const ENOUGH_SAID = 5;
const MOSTLY_DIFFERENT = 0.5;

/**
 * Before the first step that has a relation to its record, unless that record can have one back; else at the end. Of an
 * orchard and its people, who have relations to each other, the orchard comes first: it can't name one of many.
 */
function placeFor(fresh: Step, steps: readonly Step[], schemas: SuggestInput['schemas']): number {
  const later = steps.findIndex(
    (step) =>
      openLinks(step, [fresh], schemas).length > 0 &&
      step.record?.by !== 'step' &&
      openLinks(fresh, [step], schemas).length === 0,
  );
  return later < 0 ? steps.length : later;
}

/** The repeating group whose rows tell more of a step's record than what stands once on the form, if there is one. */
function repeatFor(input: SuggestInput, fresh: Step): string | undefined {
  const entity = entityOfStep(fresh, input.schemas);
  if (!entity) return undefined;
  const needed = new Set(entity.fields.filter(mustBeGiven).map(({ name }) => name));
  const told = (step: Step): Line[] =>
    suggestSteps({ ...input, steps: [...input.steps, step] }, { only: fresh.id })
      .find(({ id }) => id === fresh.id)!
      .lines.filter(({ origin }) => origin === 'set');
  // What must be given counts more: without it no record is made.
  const weight = (lines: readonly Line[]): number =>
    lines.reduce((sum, { field }) => sum + (needed.has(field) ? 3 : 1), 0);
  let best: { group: string | undefined; weight: number } = { group: undefined, weight: weight(told(fresh)) };
  for (const group of groupsOf(input.fields)) {
    const ofRows = told({ ...fresh, repeat: group }).filter(({ from }) =>
      from.some((name) => groupOf(input.fields, name) === group),
    );
    if (ofRows.length >= 2 && weight(ofRows) > best.weight) best = { group, weight: weight(ofRows) };
  }
  return best.group;
}

const groupOf = (fields: SuggestInput['fields'], name: string): string | undefined =>
  fields.find((field) => field.name === name)?.group;

/** A line that a suggestion made and nobody has looked at since may move to where it fits better. */
const mayMove = (line: Line, step: Step, steps: readonly Step[]): boolean =>
  line.confidence !== undefined &&
  !step.recognise.some(({ fields }) => fields.includes(line.field)) &&
  // Of two steps on one entity it can't be told which a field is about; the first keeps what it has.
  !steps.some((other) => other.id !== step.id && other.entity === step.entity && other.system === step.system);

/**
 * Suggests lines for what a plan's steps leave open. Steps that run once share one assignment; those once per row of a
 * group have the group's fields and what the others leave over.
 * @param only for this step, all lines there are being kept; undefined: for all, and untouched lines may move
 */
export function suggestSteps(input: SuggestInput, { only }: { only: string | undefined }): Step[] {
  const { fields, steps } = input;
  const kept = steps.map((step) => ({
    ...step,
    lines: step.lines.filter((line) => only !== undefined || !mayMove(line, step, steps)),
  }));
  const used = new Set(kept.flatMap(({ lines }) => lines.flatMap(({ from }) => from)));
  const sources = firstRows(fields).filter(({ name, type }) => !used.has(name) && type !== 'file');
  const open = kept.filter((step) => step.record?.by !== 'step' && (only === undefined || step.id === only));
  const found = new Map<string, Line[]>();
  for (const scope of [undefined, ...groupsOf(fields)]) {
    const inScope = open.filter(({ repeat }) => repeat === scope);
    const left = sources.filter(({ name, group }) => (group === undefined || group === scope) && !used.has(name));
    for (const [id, lines] of suggestInScope(input, inScope, left)) {
      found.set(id, lines);
      for (const { from } of lines) for (const name of from) used.add(name);
    }
  }
  return kept.map((step) => {
    const more = found.get(step.id) ?? [];
    // A line that came out as it was stays the same line, in its place.
    const before = steps.find(({ id }) => id === step.id)!.lines;
    const again = new Map(more.map((line) => [lineKey(line), line]));
    const stays = before.filter((line) => step.lines.includes(line) || again.delete(lineKey(line)));
    return { ...step, lines: [...stays, ...again.values()] };
  });
}

const lineKey = ({ from, field }: Line): string => JSON.stringify([from, field]);

function suggestInScope(
  { schemas, learned, where, newId }: SuggestInput,
  steps: readonly Step[],
  sources: readonly (FormField & Pick<SourceField, 'samples'>)[],
): Map<string, Line[]> {
  const targets = steps.flatMap((step) => {
    const entity = entityOfStep(step, schemas);
    const taken = new Set(step.lines.map(({ field }) => field));
    if (!entity) return [];
    const fields = entity.fields.filter((field) => isWritable(field) && !taken.has(field.name));
    return [{ ...entity, name: step.id, entity: entity.name, system: step.system, fields }];
  });
  if (targets.length === 0 || sources.length === 0) return new Map();
  // Steps stand for their entities, so what was learned of an entity counts for each of them.
  const lessons = learned.flatMap((each) =>
    targets.filter(({ entity }) => entity === each.entity).map(({ name }) => ({ ...each, entity: name })),
  );
  /** What stands once on a form says something about each of its rows, but doesn't name any one of them. */
  const sharedMay = new Set<FieldType>(['reference', 'option', 'options', 'date', 'date and time']);
  const fits = (source: string, target: (typeof targets)[number], field: Field): boolean => {
    const repeat = steps.find(({ id }) => id === target.name)?.repeat;
    return repeat === undefined || groupOf(sources, source) === repeat || sharedMay.has(field.type);
  };
  const lines = new Map<string, Line[]>(targets.map(({ name }) => [name, []]));
  for (const { from, entity: id, field: name, confidence, reasons, standing, part, separator } of suggestLines(
    sources,
    targets,
    lessons,
  )) {
    const target = targets.find((each) => each.name === id)!;
    const field = target.fields.find((each) => each.name === name)!;
    if (!from.every((each) => fits(each, target, field))) continue;
    const chosen = from.map((each) => sources.find((source) => source.name === each)!);
    const prepared = prepareLine(
      newId(),
      chosen,
      field,
      { ...where, calledBy: callingIn(schemas.get(target.system)) },
      { part, separator },
    );
    lines
      .get(id)!
      .push({ ...prepared, origin: standing === 'set' ? 'set' : 'suggested', confidence, reasons: [...reasons] });
  }
  return lines;
}

const callingIn =
  (schema: Schema | undefined) =>
  (name: string): string | undefined => {
    const entity = schema && entityOf(schema, name);
    return entity && calledBy(entity);
  };

const ADDRESS_WORDS = new Set(['e', 'email', 'mail', 'address', 'adresse']);

/**
 * What records are best recognised by when nothing is known yet: a unique field that a line fills, else the record's
 * own e-mail address; "contact e-mail" of a booking is somebody else's and names no booking. Else people by their names
 * together with the date of birth, others by their website, or name with postcode. Nothing: always a new one.
 * @param telling the lines whose sources are sure to hold what their field does; only those fill a unique field
 */
export function likelyKeys(entity: Entity, lines: readonly Line[], telling: readonly Line[] = lines): string[][] {
  const among = (of: readonly Line[]): Field[] =>
    entity.fields.filter(({ name }) => of.some(({ field }) => field === name));
  const filled = among(lines);
  const unique = among(telling).find((field) => field.unique);
  if (unique) return [[unique.name]];
  const own = filled.find(
    ({ type, label }) => type === 'email' && tellingWords(label).every((word) => ADDRESS_WORDS.has(word)),
  );
  if (own) return [[own.name]];
  const meant = (meaning: Meaning): Field | undefined =>
    filled.find(({ label }) => meaningsOf(tellingWords(label)).some((each) => each.meaning === meaning));
  const together = (...fields: (Field | undefined)[]): string[][] =>
    fields.every((field) => field !== undefined) ? [fields.map(({ name }) => name)] : [];
  if (entity.fields.some(({ label }) => meaningsOf(tellingWords(label)).some((each) => each.meaning === 'family name')))
    return together(meant('given name'), meant('family name'), meant('birth date'));
  const site = filled.find(({ type }) => type === 'web address');
  return [...(site ? [[site.name]] : []), ...together(meant('organisation') ?? meant('name'), meant('postcode'))];
}

/** What could be added to a plan so that its records hang together; each is one choice. */
export type LinkProposal =
  | { kind: 'line'; step: string; earlier: string; field: string; label: string }
  | { kind: 'step'; step: string; earlier: string; field: string; label: string };

/** Links that the schema's relations offer and the plan leaves open, in the order of the steps. */
export function linkProposals(steps: readonly Step[], schemas: SuggestInput['schemas']): LinkProposal[] {
  return steps.flatMap((step, at) => [
    ...(step.record?.by === 'step' ? [] : openLinks(step, steps.slice(0, at), schemas)).map(
      ({ field, earlier }): LinkProposal => ({
        kind: 'line',
        step: step.id,
        earlier: earlier.id,
        field: field.name,
        label: field.label,
      }),
    ),
    ...backLinks(step, steps, schemas).map(
      ({ field, earlier }): LinkProposal => ({
        kind: 'step',
        step: step.id,
        earlier: earlier.id,
        field: field.name,
        label: field.label,
      }),
    ),
  ]);
}
