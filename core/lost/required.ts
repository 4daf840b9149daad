import type { CarriedLine } from '../one-field/index.ts';
import type { IntakeDocument } from '../intake/index.ts';
import { evaluateLine, type Line } from '../mapping/index.ts';
import { across, receivers, SIDES, standing, type Pairing, type PairLine, type Side } from '../pairing/index.ts';
import { mayCreate, standingLines, type Step } from '../plans/index.ts';
import type { ChangeStep } from '../schema-changes/index.ts';
import { entityOf, fieldOf, isWritable, type Field, type NewlyRequired, type Option } from '../schema/index.ts';
import { MOST_CHOICES, MOST_TOLD, type Around } from './lost.ts';

/** A field that has to be given by now, and what makes records without it. */
export interface RequiredPart {
  entity: string;
  field: string;
  /** As people know it, such as “Kind of Enquiry”. */
  called: string;
  /** Its options, where it is chosen from any. */
  choices?: Option[];
  /** Intakes and pairings that may make records of the entity and give it nothing. */
  places: string[];
}

/** A value that whatever gives a field nothing gives it from now on. */
export interface Filling {
  entity: string;
  field: string;
  value: string;
}

/** Which fields that are newly required are given nothing by something that makes their records. */
export function requiredParts(system: string, needed: readonly NewlyRequired[], around: Around): RequiredPart[] {
  const parts: RequiredPart[] = [];
  for (const { entity: name, field: fieldName } of needed) {
    if (parts.length === MOST_TOLD) break;
    const entity = entityOf(around.schemas.get(system) ?? { entities: [] }, name);
    const field = entity && fieldOf(entity, fieldName);
    if (!entity || !field || !isWritable(field)) continue;
    const lacking = [
      ...around.naming.intakes.filter((each) => lackingSteps(each, system, name, fieldName).length > 0),
      ...around.naming.pairings.filter((each) => lackingSides(each, system, name, fieldName).length > 0),
    ];
    const places = lacking.map(({ document }) => document.name);
    if (places.length === 0) continue;
    const choices = field.options?.slice(0, MOST_CHOICES);
    const called = `${field.label} of ${entity.label}`;
    parts.push({ ...{ entity: name, field: fieldName, called, places }, ...(choices ? { choices } : {}) });
  }
  return parts;
}

/** What a value would be in a field, tried as a line would. @returns why it can't be, in words; undefined: it can */
export function fillingTrouble(field: Field, value: string): string | undefined {
  if (field.options && !field.options.some((each) => each.value === value)) return 'is none of its options';
  const { sent, problem } = evaluateLine(lineFor('tried', field.name, value), {}, field);
  return problem ?? (sent === null || sent === '' ? 'is blank' : undefined);
}

/**
 * Everything that gives these fields nothing gives them a value: one step for each intake and pairing, its draft and what is
 * live.
 */
export function fillSteps(
  system: string,
  fillings: readonly Filling[],
  { naming }: Pick<Around, 'naming'>,
  newId: () => string,
): ChangeStep[] {
  const inIntakes = naming.intakes.flatMap((each): ChangeStep[] => {
    const lines = fillings.flatMap(({ entity, field, value }) =>
      lackingSteps(each, system, entity, field).map(
        (step): CarriedLine => ({ kind: 'line', step, line: lineFor(newId(), field, value) }),
      ),
    );
    const { id, document } = each;
    return lines.length === 0 ? [] : [{ kind: 'carry', at: 'intake', id, name: document.name, lines }];
  });
  const inPairings = naming.pairings.flatMap((each): ChangeStep[] => {
    const lines = fillings.flatMap(({ entity, field, value }) =>
      lackingSides(each, system, entity, field).map(
        (side): CarriedLine => ({ kind: 'pair', line: pairLineFor(newId(), side, field, value) }),
      ),
    );
    const { id, document } = each;
    return lines.length === 0 ? [] : [{ kind: 'carry', at: 'pairing', id, name: document.name, lines }];
  });
  return [...inIntakes, ...inPairings];
}

/** Sides on which a pairing makes records of an entity and brings one of its fields nothing, planned or live. */
function lackingSides(
  { document, live }: { document: Pairing; live?: Pairing },
  system: string,
  entity: string,
  field: string,
): Side[] {
  const lacks = (pairing: Pairing, side: Side): boolean =>
    pairing[side].system === system &&
    pairing[side].entity === entity &&
    pairing.alone[across(side)].what === 'make' &&
    !standing(pairing).some((line) => receivers(line).includes(side) && line[side].path[0] === field);
  return SIDES.filter((side) => [document, ...(live ? [live] : [])].some((pairing) => lacks(pairing, side)));
}

/** The same value for every record that holds none, whatever its counterpart holds. */
function pairLineFor(id: string, side: Side, field: string, value: string): PairLine {
  const from = { path: [], compute: JSON.stringify(value) };
  const into = { path: [field] };
  return {
    ...{ id, left: side === 'left' ? into : from, right: side === 'right' ? into : from },
    ...{ way: side === 'left' ? 'to left' : 'to right', decides: across(side), onlyEmpty: true, there: [], back: [] },
  };
}

/** Steps that may make records of an entity and give one of its fields nothing, in a draft or in what is live of it. */
function lackingSteps(
  { document, live }: { document: IntakeDocument; live?: IntakeDocument },
  system: string,
  entity: string,
  field: string,
): string[] {
  const lacks = (step: Step): boolean =>
    step.system === system &&
    step.entity === entity &&
    mayCreate(step) &&
    !standingLines(step).some((line) => line.field === field);
  const steps = [...document.plan.steps, ...(live?.plan.steps ?? [])];
  return [...new Set(steps.filter(lacks).map(({ id }) => id))];
}

/** What a record holds already stays: only what is blank is filled. */
const lineFor = (id: string, field: string, value: string): Line => ({
  ...{ id, from: [], constant: value, treatments: [], field },
  ...{ ifBoth: 'fill only', blankErases: false, origin: 'set' },
});
