import { askFor, canBeAsked, fillWith, groupNamed, stopAsking } from '../asking/index.ts';
import { standingsOf } from '../forms/hosted/index.ts';
import type { FormField } from '../forms/index.ts';
import {
  changePlanStep,
  conversionOf,
  fieldOfRecord,
  removeField,
  type Converted,
  type IntakeDocument,
} from '../intake/index.ts';
import { IF_BOTH, prepareLine, type IfBoth } from '../mapping/index.ts';
import {
  DECIDER_NAMES,
  freshLine,
  optionsBetween,
  SIDES,
  standing,
  wayBetween,
  type Decider,
  type Pairing,
  type PairLine,
} from '../pairing/index.ts';
import { firstRows, mayCreate, mayUpdate, readNames, removeLine, standingLines, type Step } from '../plans/index.ts';
import { calledBy, entityOf, type Field, type Schema } from '../schema/index.ts';
import { fold } from '../values/index.ts';
import type { CarriedLine, FoundLine, LineChoice } from './model.ts';

/** A field in one of its places, as it will be. */
export interface Member {
  system: string;
  entity: string;
  /** What one record is called. */
  label: string;
  field: Field;
}

/** What there is that lines may stand in. */
export interface Standing {
  intakes: readonly { id: string; document: IntakeDocument }[];
  pairings: readonly { id: string; document: Pairing }[];
}

/** What lines are proposed with. */
export interface Proposing {
  /** What the field is called, whatever it is called in some of its places. */
  label: string;
  members: readonly Member[];
  /** As they will be: with the field in all its places. */
  schemas: ReadonlyMap<string, Schema>;
  choices: readonly LineChoice[];
  newId: () => string;
}

/** Every line that carries the field from one of its places to another, or from a form into one, and where none can. */
export function linesFor(standing: Standing, proposing: Proposing): FoundLine[] {
  if (proposing.members.length === 0) return [];
  return [
    ...standing.intakes.flatMap(({ id, document }) => inIntake(id, document, proposing)),
    ...standing.pairings.flatMap(({ id, document }) => inPairing(id, document, proposing)),
  ];
}

const memberAt = (members: readonly Member[], system: string, entity: string): Member | undefined =>
  members.find((each) => each.system === system && each.entity === entity);

const choiceOf = ({ choices }: Proposing, key: string): LineChoice | undefined =>
  choices.find((each) => each.key === key);

function inIntake(id: string, document: IntakeDocument, proposing: Proposing): FoundLine[] {
  const conversion = conversionOf(document);
  return document.plan.steps.flatMap((step): FoundLine[] => {
    const member = memberAt(proposing.members, step.system, step.entity);
    if (!member || !(mayCreate(step) || mayUpdate(step))) return [];
    if (step.lines.some(({ field }) => field === member.field.name)) return [];
    const at = {
      ...{ key: `${id} ${step.id}`, at: 'intake' as const, id, name: document.name },
      ...{ conversion: conversion !== undefined, to: endOf(member) },
    };
    return conversion
      ? converted(at, document, step, member, conversion, proposing)
      : asked(at, document, step, member, proposing);
  });
}

type At = Pick<FoundLine, 'key' | 'at' | 'id' | 'name' | 'conversion' | 'to'>;

const endOf = ({ system, label, field }: Member) => ({ system, entity: label, label: field.label });

/** A conversion carries on what its record has; back to that record itself there is nothing to carry. */
function converted(
  at: At,
  document: IntakeDocument,
  step: Step,
  member: Member,
  { system, entity }: Converted,
  proposing: Proposing,
): FoundLine[] {
  const from = memberAt(proposing.members, system, entity);
  if (!from || from === member) return [];
  const source = fieldOfRecord(system, from.field);
  const known = document.fields.find(({ name }) => name === source.name);
  const found = withLine(at, document, step, source, member, proposing);
  const carried = found.carried as CarriedLine & { kind: 'line' };
  return [{ ...found, from: endOf(from), carried: known ? carried : { ...carried, takes: source } }];
}

function withLine(
  at: At,
  { settings }: IntakeDocument,
  step: Step,
  source: FormField,
  { field }: Member,
  proposing: Proposing,
): FoundLine {
  const schema = proposing.schemas.get(step.system)!;
  const where = {
    ...settings,
    calledBy: (name: string): string | undefined => {
      const entity = entityOf(schema, name);
      return entity && calledBy(entity);
    },
  };
  const line = prepareLine(proposing.newId(), [source], field, where);
  const choice = choiceOf(proposing, at.key);
  const rules = field.immutable ? [line.ifBoth] : IF_BOTH;
  const rule = rules.find((each) => each === choice?.rule) ?? line.ifBoth;
  return {
    ...at,
    taken: choice?.taken !== false,
    ...{ carried: { kind: 'line', step: step.id, line: { ...line, ifBoth: rule as IfBoth } } },
    ...{ rule, rules },
  };
}

/** A form that asks for it has a line; one of ours may ask for it; of another's page that doesn't there is nothing to take. */
function asked(at: At, document: IntakeDocument, step: Step, member: Member, proposing: Proposing): FoundLine[] {
  const question = questionFor(document, step, member.field, proposing.label);
  if (question)
    return [{ ...withLine(at, document, step, question, member, proposing), from: { label: question.label } }];
  const group = step.repeat === undefined ? undefined : document.form && groupNamed(document.form, step.repeat);
  if (!document.form || (step.repeat !== undefined && !group) || !canBeAsked(member.field))
    return [{ ...at, taken: false, cannot: 'no question for it' }];
  const taken = choiceOf(proposing, at.key)?.taken === true;
  const { name } = member.field;
  const carried: CarriedLine = {
    ...{ kind: 'question', step: step.id, field: name, id: proposing.newId(), asks: proposing.label },
  };
  return [{ ...at, taken, carried }];
}

/** What a form asks already that the field is meant by: of the same label or name, in the rows of the step where it has some. */
function questionFor({ fields }: IntakeDocument, step: Step, field: Field, called: string): FormField | undefined {
  const names = [field.label, field.name, called].map(bare);
  return firstRows(fields).find(
    ({ label, name, group, hidden }) =>
      hidden !== true && group === step.repeat && [label, name].some((each) => names.includes(bare(each))),
  );
}

const bare = (text: string): string => fold(text).replace(/[^\p{L}\p{N}]/gu, '');

function inPairing(id: string, document: Pairing, proposing: Proposing): FoundLine[] {
  const [left, right] = (['left', 'right'] as const).map((side) =>
    memberAt(proposing.members, document[side].system, document[side].entity),
  );
  if (!left || !right || left === right) return [];
  const [first, second] = [left.field.name, right.field.name];
  if (document.lines.some((line) => line.left.path[0] === first || line.right.path[0] === second)) return [];
  const at: At = { key: id, at: 'pairing', id, name: document.name, conversion: false, to: endOf(right) };
  const way = wayBetween(left.field, right.field);
  if (way === undefined) return [{ ...at, from: endOf(left), taken: false, cannot: 'neither of them can be written' }];
  const choice = choiceOf(proposing, at.key);
  const decides = DECIDER_NAMES.find((each) => each === choice?.rule) ?? usuallyDecides(document);
  const options = optionsBetween(left.field, right.field);
  const line: PairLine = {
    ...{ ...freshLine(proposing.newId(), [first], [second]), way, decides },
    ...(options.length === 0 ? {} : { options }),
  };
  return [
    {
      ...at,
      ...(way === 'to left' ? { from: endOf(right), to: endOf(left) } : { from: endOf(left) }),
      taken: choice?.taken !== false,
      carried: { kind: 'pair', line },
      ...(way === 'both' ? { rule: decides, rules: DECIDER_NAMES } : {}),
    },
  ];
}

/** Who decides most of a pairing's lines decides this one as well. */
function usuallyDecides(document: Pairing): Decider {
  const counts = new Map<Decider, number>();
  for (const { way, decides } of standing(document))
    if (way === 'both') counts.set(decides, (counts.get(decides) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'newest';
}

/** An intake's document with some of the lines; what it has already it has once. */
export function withCarried(
  document: IntakeDocument,
  carried: readonly CarriedLine[],
  schemas: ReadonlyMap<string, Schema>,
): IntakeDocument {
  return carried.reduce((held, each) => {
    if (each.kind === 'pair') return held;
    const step = held.plan.steps.find(({ id }) => id === each.step);
    if (!step) return held;
    if (each.kind === 'question') return withQuestion(held, step, each, schemas);
    if (standingLines(step).some(({ field }) => field === each.line.field)) return held;
    const { takes } = each;
    const lacks = takes && !held.fields.some(({ name }) => name === takes.name);
    return {
      ...held,
      fields: lacks ? [...held.fields, takes] : held.fields,
      plan: {
        ...held.plan,
        steps: held.plan.steps.map((at) => (at === step ? { ...at, lines: [...at.lines, each.line] } : at)),
      },
    };
  }, document);
}

const lineIdOf = (question: string): string => `${question.slice(0, 56)}-line`;

function withQuestion(
  held: IntakeDocument,
  step: Step,
  { field: name, id, asks }: CarriedLine & { kind: 'question' },
  schemas: ReadonlyMap<string, Schema>,
): IntakeDocument {
  // The line has a name of its own, made of the question's.
  const ids = [id, lineIdOf(id)];
  const asking = { schemas, newId: () => ids.shift() ?? id };
  const schema = schemas.get(step.system);
  const entity = schema && entityOf(schema, step.entity);
  const field = entity?.fields.find((each) => each.name === name);
  const known = field && held.form && questionFor(held, step, field, asks);
  // Asked for by another line of the same change, it is asked once and goes into both.
  if (known && standingsOf(held.form!).some((each) => each.name === known.name)) {
    ids.shift();
    return fillWith(held, known.name, step.id, name, asking);
  }
  return askFor(held, step.id, name, asking);
}

/** A pairing's document with some of the lines. */
export const withPaired = (document: Pairing, carried: readonly CarriedLine[]): Pairing => ({
  ...document,
  lines: carried.reduce<PairLine[]>(
    (lines, each) =>
      each.kind !== 'pair' || lines.some(({ id }) => id === each.line.id) ? lines : [...lines, each.line],
    document.lines,
  ),
});

/** An intake's document without the lines: with the questions that were asked for them, and what was taken in for them. */
export function withoutCarried(document: IntakeDocument, carried: readonly CarriedLine[]): IntakeDocument {
  return carried.reduce((held, each) => {
    if (each.kind === 'pair') return held;
    if (each.kind === 'question')
      return stopAsking(
        changePlanStep(held, each.step, (step) => removeLine(step, lineIdOf(each.id))),
        each.id,
      );
    const left = changePlanStep(held, each.step, (step) => removeLine(step, each.line.id));
    const unread = each.takes && !readNames(left).has(each.takes.name);
    return unread ? removeField(left, each.takes!.name) : left;
  }, document);
}

/** A pairing's document without the lines. */
export function withoutPaired(document: Pairing, carried: readonly CarriedLine[]): Pairing {
  const gone = new Set(carried.flatMap((each) => (each.kind === 'pair' ? [each.line.id] : [])));
  return { ...document, lines: document.lines.filter(({ id }) => !gone.has(id)) };
}

/** A field that was made under another name than was planned, such as by somebody's hand. */
export interface MadeOtherwise {
  system: string;
  entity: string;
  planned: string;
  made: string;
}

/** Lines by the names that their fields have by now. */
export function carriedAs(
  of: { document: IntakeDocument } | { pairing: Pairing },
  carried: readonly CarriedLine[],
  made: readonly MadeOtherwise[],
): CarriedLine[] {
  const now = ({ system, entity }: { system: string; entity: string }, field: string): string =>
    made.find((each) => each.system === system && each.entity === entity && each.planned === field)?.made ?? field;
  return carried.map((each): CarriedLine => {
    if (each.kind === 'pair') {
      if (!('pairing' in of)) return each;
      const [left, right] = SIDES.map((side) => {
        const [first, ...rest] = each.line[side].path;
        return { ...each.line[side], path: [now(of.pairing[side], first!), ...rest] };
      });
      return { ...each, line: { ...each.line, left: left!, right: right! } };
    }
    const step = 'document' in of ? of.document.plan.steps.find(({ id }) => id === each.step) : undefined;
    if (!step || !('document' in of)) return each;
    if (each.kind === 'question') return { ...each, field: now(step, each.field) };
    const conversion = conversionOf(of.document);
    const read = (name: string): string => (conversion ? now(conversion, name) : name);
    const line = { ...each.line, field: now(step, each.line.field), from: each.line.from.map(read) };
    return { ...each, line, ...(each.takes ? { takes: { ...each.takes, name: read(each.takes.name) } } : {}) };
  });
}

/** The fields that lines of a document need: where one isn't there, the line has nowhere to go. */
export function fieldsNeeded(
  of: { document: IntakeDocument } | { pairing: Pairing },
  carried: readonly CarriedLine[],
): { system: string; entity: string; field: string }[] {
  return carried.flatMap((each) => {
    if (each.kind === 'pair') {
      if (!('pairing' in of)) return [];
      return SIDES.flatMap((side) => {
        // What is worked out is no field.
        const [field] = each.line[side].path;
        return field === undefined ? [] : [{ ...of.pairing[side], field }];
      });
    }
    const step = 'document' in of ? of.document.plan.steps.find(({ id }) => id === each.step) : undefined;
    if (!step || !('document' in of)) return [];
    const { system, entity } = step;
    if (each.kind === 'question') return [{ system, entity, field: each.field }];
    const conversion = conversionOf(of.document);
    return [
      { system, entity, field: each.line.field },
      ...(conversion && each.takes
        ? [{ ...{ system: conversion.system, entity: conversion.entity }, field: each.takes.name }]
        : []),
    ];
  });
}
