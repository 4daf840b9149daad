import { renamesOver } from './drift.ts';
import { entityOf, mustBeGiven, type Field, type Option, type Schema } from './model.ts';

/** A field that its system no longer has, or an option that one of its fields no longer has. */
export interface Lost {
  entity: string;
  /** As it is called in the system, or was. */
  field: string;
  /** What the field was when it was read last with what is gone. */
  was: Pick<Field, 'label' | 'type'>;
  /** The option that is gone; absent: the field itself is. */
  option?: Option;
}

/** So much is told at most: ten thousand options may be others with every reading. */
const MOST_LOST = 5_000;

/**
 * What has gone over several readings and is still gone; fields that only have another name now aren't among it, and
 * neither is what goes with a whole entity.
 * @param readings the newest first
 */
export function lostOver(readings: readonly Schema[]): Lost[] {
  const [now, ...earlier] = readings;
  const renamed = new Set(renamesOver(readings).map(({ entity, was }) => JSON.stringify([entity, was])));
  const lost = new Map<string, Lost>();
  const note = (entity: string, { name: field, label, type }: Field, option?: Option): void => {
    const key = JSON.stringify([entity, field, option?.value]);
    if (lost.size < MOST_LOST && !lost.has(key))
      lost.set(key, { entity, field, was: { label, type }, ...(option ? { option } : {}) });
  };
  for (const { name: entity, fields } of now?.entities ?? []) {
    const has = new Map(fields.map((field) => [field.name, field]));
    for (const reading of earlier)
      for (const was of reading.entities.find(({ name }) => name === entity)?.fields ?? []) {
        const is = has.get(was.name);
        if (!is) {
          if (!renamed.has(JSON.stringify([entity, was.name]))) note(entity, was);
          continue;
        }
        // One that is no longer chosen from options is another kind of field, which a check says.
        if (!was.options || !is.options || lost.size === MOST_LOST) continue;
        const there = new Set(is.options.map(({ value }) => value));
        for (const option of was.options) if (!there.has(option.value)) note(entity, was, option);
      }
  }
  return [...lost.values()];
}

/** The fields of an entity by their names, as each of these readings has it; an entity may have very many. */
const fieldsBefore = (readings: readonly Schema[], entity: string): ReadonlyMap<string, Field>[] =>
  readings.flatMap((reading) => {
    const known = entityOf(reading, entity);
    return known ? [new Map(known.fields.map((field) => [field.name, field]))] : [];
  });

/** A field that takes other values than it did. */
export interface TakesOtherwise {
  entity: string;
  field: string;
  /** As it was when it was read last with other values. */
  was: Field;
}

/**
 * Fields that are of another kind than once, or take shorter texts.
 * @param readings the newest first
 */
export function takenOtherwiseOver([now, ...earlier]: readonly Schema[]): TakesOtherwise[] {
  return (now?.entities ?? []).flatMap(({ name: entity, fields }) => {
    const before = fieldsBefore(earlier, entity);
    return fields.flatMap((is): TakesOtherwise[] => {
      const was = before
        .flatMap((each) => each.get(is.name) ?? [])
        .find((each) => each.type !== is.type || takesLess(each, is));
      return was ? [{ entity, field: is.name, was }] : [];
    });
  });
}

/** Whether a field takes shorter texts than it did. */
export const takesLess = (was: Field, is: Field): boolean =>
  (is.maxLength ?? Infinity) < (was.maxLength ?? Infinity) || (is.maxBytes ?? Infinity) < (was.maxBytes ?? Infinity);

/** A field without which no record can be made any more. */
export interface NewlyRequired {
  entity: string;
  field: string;
}

/**
 * Fields that must be given now and needn't once, or weren't there, in entities that were there before.
 * @param readings the newest first
 */
export function newlyRequiredOver(readings: readonly Schema[]): NewlyRequired[] {
  const [now, ...earlier] = readings;
  const renames = renamesOver(readings);
  return (now?.entities ?? []).flatMap(({ name: entity, fields }) => {
    const before = fieldsBefore(earlier, entity);
    const once = (field: string): boolean => {
      // What was required under the name it had isn't newly required under the one it has.
      const names = [
        field,
        ...renames.flatMap((each) => (each.entity === entity && each.is === field ? each.was : [])),
      ];
      return before.some((each) => {
        const was = names.flatMap((name) => each.get(name) ?? [])[0];
        return !was || !mustBeGiven(was);
      });
    };
    return fields
      .filter((field) => mustBeGiven(field) && once(field.name))
      .map(({ name: field }) => ({ entity, field }));
  });
}
