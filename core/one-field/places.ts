import { fieldNameFor, isChosen, type DefinedField } from '../definitions/index.ts';
import { counterparts, speltAlike } from '../option-sets/index.ts';
import { fieldOf, LIKELY, likeness, type Entity, type Field } from '../schema/index.ts';
import type { FieldThere, PlaceStands, WantedField, WantedPlace } from './model.ts';

/** What a system would make of a field, as it would show it afterwards; or why it can't, in words. */
export type Make = (entity: Entity, wanted: DefinedField) => Field | string;

/** Kinds of which one holds what the other holds. */
const KINDRED: readonly (readonly string[])[] = [
  ['text', 'long text', 'email', 'phone', 'web address'],
  ['integer', 'number'],
  ['option', 'options'],
];

/** What a field is that is made as it is defined. */
export const fieldMade = (defined: DefinedField): Field => ({
  ...{ name: defined.name, label: defined.label, type: defined.type, required: defined.required === true },
  ...{ unique: defined.unique === true, computed: false, immutable: false, rights: 'read and write' },
  ...(defined.maxLength === undefined ? {} : { maxLength: defined.maxLength }),
  ...(defined.scale === undefined ? {} : { scale: defined.scale }),
  ...(defined.options ? { options: defined.options.map(({ value, label }) => ({ value, label })) } : {}),
  ...(defined.relation === undefined ? {} : { relation: defined.relation }),
  ...(defined.default === undefined ? {} : { defaulted: true }),
});

/** The definition of the field for one entity: under a name that is free there. */
export const definitionFor = (wanted: WantedField, { fields }: Entity): DefinedField => ({
  ...wanted,
  name: fieldNameFor(
    wanted.label,
    fields.map(({ name }) => name),
  ),
});

const SOUGHT = new WeakMap<WantedField, Field>();

/** The wanted field as one that is there would be; made once, with its list of options. */
function soughtOf(wanted: WantedField): Field {
  const known = SOUGHT.get(wanted);
  if (known) return known;
  const sought = fieldMade({ ...wanted, name: fieldNameFor(wanted.label, []) });
  SOUGHT.set(wanted, sought);
  return sought;
}

/** The field of an entity that is likely the wanted one, by label, name, kind and options; undefined: there is none. */
export function recognised(wanted: WantedField, entity: Entity): { field: Field; why: string[] } | undefined {
  const sought = soughtOf(wanted);
  const found = entity.fields
    .filter(({ type, computed, rights }) => type !== 'id' && !computed && rights !== 'none')
    .flatMap((field) => {
      const { weight, why } = likeness(kindred(sought, field) ? { ...sought, type: field.type } : sought, field);
      return weight >= LIKELY ? [{ field, why, weight }] : [];
    })
    .sort((a, b) => b.weight - a.weight);
  return found[0];
}

const kindred = (a: Pick<Field, 'type'>, b: Pick<Field, 'type'>): boolean =>
  KINDRED.some((kinds) => kinds.includes(a.type) && kinds.includes(b.type));

/** How the wanted field stands in an entity. @param make what its system would make of it; undefined: it makes none */
export function standsIn(
  wanted: WantedField,
  place: WantedPlace | undefined,
  { system, entity }: { system: string; entity: Entity },
  make: Make | undefined,
): PlaceStands {
  const at: PlaceStands = {
    ...{ system, entity: entity.name, label: entity.label },
    wanted: place !== undefined,
  };
  const known = whichIsThere(wanted, place, entity);
  if (typeof known === 'string') return { ...at, cannot: known };
  if (known) return { ...at, there: comparedWith(wanted, known.field, known.why, place?.asIs === true) };
  const definition = definitionFor(wanted, entity);
  if (!make) return { ...at, made: definition, byHand: true };
  const made = make(entity, definition);
  if (typeof made === 'string') return { ...at, cannot: made };
  return {
    ...at,
    made: { ...definition, name: made.name },
    ...(made.type === wanted.type ? {} : { as: made.type }),
  };
}

function whichIsThere(
  wanted: WantedField,
  place: WantedPlace | undefined,
  entity: Entity,
): { field: Field; why: string[] } | string | undefined {
  if (place?.field === '') return undefined;
  if (place?.field === undefined) return recognised(wanted, entity);
  const field = fieldOf(entity, place.field);
  if (!field || field.rights === 'none') return `“${place.field.slice(0, 60)}” can’t be seen there`;
  const { why } = likeness({ ...fieldMade({ ...wanted, name: field.name }), type: field.type }, field);
  return { field, why: why.length > 0 ? why : ['chosen by hand'] };
}

function comparedWith(wanted: WantedField, field: Field, why: string[], asIs: boolean): FieldThere {
  const there: FieldThere = {
    ...{ name: field.name, label: field.label, why, agrees: 0, spelt: [], missing: [], more: 0, asIs },
    ...(field.type === wanted.type ? {} : { otherKind: field.type }),
  };
  if (!isChosen(wanted.type) || !isChosen(field.type)) return there;
  const options = field.options ?? [];
  const met = new Set<string>();
  for (const { wanted: each, there: other } of counterparts(wanted.options ?? [], options)) {
    if (!other) there.missing.push(each);
    else {
      met.add(other.value);
      if (speltAlike(each, other)) there.agrees += 1;
      else there.spelt.push({ wanted: each, there: other });
    }
  }
  there.more = options.length - met.size;
  return there;
}

/** The field as it will be in a place, once all is made and mended; undefined where it won't be. */
export function fieldThen(
  wanted: WantedField,
  stands: PlaceStands,
  entity: Entity,
  make: Make | undefined,
): Field | undefined {
  if (!stands.wanted) return undefined;
  if (stands.made) {
    const made = make ? make(entity, stands.made) : fieldMade(stands.made);
    return typeof made === 'object' ? made : undefined;
  }
  const { there } = stands;
  const field = there && fieldOf(entity, there.name);
  if (!field?.options || !there || there.asIs) return field;
  const replaced = new Set(there.spelt.map((each) => each.there.value));
  const added = [...there.missing, ...there.spelt.map((each) => each.wanted)];
  return { ...field, options: [...field.options.filter(({ value }) => !replaced.has(value)), ...added] };
}
