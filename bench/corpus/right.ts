import type { SuggestedLine } from '@zusammen/core/mapping';
import type { RealField, Truth } from './labelled.ts';
import type { KnownEntity } from './worlds.ts';

/** Meanings of a record's field that a field of another meaning may rightly fill. */
const FILLS: Partial<Record<Truth['meaning'], readonly Truth['meaning'][]>> = {
  address: ['street'],
  street: ['address'],
  mobile: ['phone'],
};
/** Parts that are put together, or taken apart, with what they make. */
const JOINS: Partial<Record<Truth['meaning'], readonly Truth['meaning'][]>> = {
  'given name': ['full name'],
  'family name': ['full name'],
  'house number': ['street', 'address'],
  street: ['address'],
  'birth day': ['birth date'],
  'birth month': ['birth date'],
  'birth year': ['birth date'],
};
const SPLITS: Partial<Record<Truth['meaning'], readonly Truth['meaning'][]>> = {
  'full name': ['given name', 'family name'],
};

/** Somebody's bill and parcel go to somebody's own address where a system knows no other. */
const sameOne = (field: Truth['whose'], record: Truth['whose']): boolean =>
  field === record || (record === 'the visitor' && (field === 'the bill' || field === 'the delivery'));

/** Whether one field alone rightly fills a record's field. */
export function fills(field: Truth, holds: Truth | undefined): boolean {
  if (!holds || field.meaning === 'nothing') return false;
  const meant = field.meaning === holds.meaning || FILLS[field.meaning]?.includes(holds.meaning) === true;
  return meant && sameOne(field.whose, holds.whose);
}

/** Whether a suggested line is right for a form as a person reads it. */
export function isRight(
  line: Pick<SuggestedLine, 'from' | 'entity' | 'field' | 'part'>,
  fields: readonly RealField[],
  entities: readonly KnownEntity[],
): boolean {
  const holds = entities
    .find(({ name }) => name === line.entity)
    ?.fields.find(({ name }) => name === line.field)?.holds;
  const truths = line.from.map((name) => fields.find((field) => field.name === name)!.truth);
  if (!holds) return false;
  if (line.part !== undefined && SPLITS[truths[0]!.meaning]?.includes(holds.meaning) === true)
    return sameOne(truths[0]!.whose, holds.whose);
  if (truths.length === 1) return fills(truths[0]!, holds);
  return truths.every(
    (truth) =>
      sameOne(truth.whose, holds.whose) &&
      (truth.meaning === holds.meaning || JOINS[truth.meaning]?.includes(holds.meaning) === true),
  );
}

/** A record's field that something on the form is meant for. */
export function wanted(
  fields: readonly RealField[],
  entities: readonly KnownEntity[],
): { entity: string; field: string }[] {
  return entities.flatMap(({ name: entity, fields: known }) =>
    known.flatMap(({ name: field, holds }) => {
      if (!holds) return [];
      const meant = fields.some(
        ({ truth, hidden }) =>
          !hidden &&
          truth.whose === holds.whose &&
          (truth.meaning === holds.meaning || SPLITS[truth.meaning]?.includes(holds.meaning) === true),
      );
      return meant ? [{ entity, field }] : [];
    }),
  );
}
