import { followSteps, type Naming } from '../option-sets/index.ts';
import type { ChangeStep } from '../schema-changes/index.ts';
import type { Entity, Field, Schema } from '../schema/index.ts';
import { linesFor, type Member, type Standing } from './lines.ts';
import type { FoundLine, OneField, PlaceStands } from './model.ts';
import { fieldThen, standsIn, type Make } from './places.ts';

/** What planning one field looks at. */
export interface Around {
  /** By the system's id: what it keeps, and what it would make of a field; absent: it makes none. */
  systems: ReadonlyMap<string, { schema: Schema; make: Make | undefined }>;
  standing: Standing;
  newId: () => string;
}

/** A field as it would be everywhere, and what carries it on. */
export interface FieldPlan {
  /** Those wanted, and every other entity that has it or could, in the order of the systems. */
  places: PlaceStands[];
  lines: FoundLine[];
  /** What the systems would keep then. */
  schemas: Map<string, Schema>;
}

/** Plans one field, wherever it is needed: nothing is changed. */
export function planField(
  { field, places, lines: choices }: OneField,
  { systems, standing, newId }: Around,
): FieldPlan {
  const stands: PlaceStands[] = [];
  const members: Member[] = [];
  const schemas = new Map<string, Schema>();
  for (const [system, { schema, make }] of systems) {
    const entities = schema.entities.map((entity) => {
      const wanted = places.find((each) => each.system === system && each.entity === entity.name);
      if (!wanted && !(entity.rights.read && entity.rights.update)) return entity;
      const stand = standsIn(field, wanted, { system, entity }, make);
      stands.push(stand);
      const then = fieldThen(field, stand, entity, make);
      if (!then) return entity;
      members.push({ system, entity: entity.name, label: entity.label, field: then });
      return withField(entity, then);
    });
    schemas.set(system, { ...schema, entities });
  }
  return {
    places: stands,
    lines: linesFor(standing, { label: field.label, members, schemas, choices, newId }),
    schemas,
  };
}

const withField = (entity: Entity, field: Field): Entity => ({
  ...entity,
  fields: [...entity.fields.filter(({ name }) => name !== field.name), field],
});

/**
 * What a plan does, in an order that never leaves a line without its field: fields, options, what names them, records,
 * then lines.
 */
export function stepsOfPlan({ places, lines, schemas }: FieldPlan, naming: Naming): ChangeStep[] {
  // What somebody has to make there by hand comes last: nothing else waits for it but the lines.
  const wanted = places
    .filter((each) => each.wanted)
    .sort((a, b) => Number(a.byHand ?? false) - Number(b.byHand ?? false));
  const made = wanted.flatMap(({ system, entity, label, made: field }): ChangeStep[] =>
    field ? [{ kind: 'field', system, entity, field, called: label }] : [],
  );
  const mended = wanted.flatMap(({ system, entity, label, there }): ChangeStep[] => {
    if (!there || there.asIs) return [];
    const options = [...there.missing, ...there.spelt.map((each) => each.wanted)];
    return options.length === 0
      ? []
      : [{ kind: 'options', system, entity, field: there.name, options, called: `${there.label} of ${label}` }];
  });
  const joined = wanted.flatMap(({ system, entity, label, there }): ChangeStep[] =>
    !there || there.asIs
      ? []
      : there.spelt.flatMap((each) => {
          const join: ChangeStep & { kind: 'join' } = {
            ...{ kind: 'join', system, entity, field: there.name },
            ...{ from: each.there, into: each.wanted, called: `${there.label} of ${label}` },
          };
          return [...followSteps(join, naming, schemas), join];
        }),
  );
  return [...made, ...mended, ...joined, ...carrySteps(lines)];
}

function carrySteps(lines: readonly FoundLine[]): ChangeStep[] {
  const steps = new Map<string, ChangeStep & { kind: 'carry' }>();
  for (const { at, id, name, taken, carried } of lines) {
    if (!taken || !carried) continue;
    const known = steps.get(id);
    if (known) known.lines.push(carried);
    else steps.set(id, { kind: 'carry', at, id, name, lines: [carried] });
  }
  return [...steps.values()];
}

/** The places of a plan as they are kept: what is one field from then on. */
export const membersOf = ({ places }: Pick<FieldPlan, 'places'>): FieldMember[] =>
  places.flatMap(({ wanted, system, entity, there, made }) => {
    const field = there?.name ?? made?.name;
    return wanted && field !== undefined ? [{ system, entity, field }] : [];
  });

/** A field in one of its places. */
export interface FieldMember {
  system: string;
  entity: string;
  field: string;
}

/** What is one field, wherever it is: its label, and where. */
export interface FieldFamily {
  label: string;
  members: FieldMember[];
}
