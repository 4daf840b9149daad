import { namesIn } from '../expressions/index.ts';
import { entityOf, fieldOf, type Entity, type Schema } from '../schema/index.ts';
import { standing, type Pairing, type Place } from './model.ts';
import { aroundOf, placeName, type Around } from './places.ts';
import { receivers } from './pair.ts';
import { across, SIDES, type Side } from './settle.ts';

/** One place where a pairing reads or writes a record's field. */
export interface PairedUse {
  system: string;
  entity: string;
  field: string;
  how: 'kept in step' | 'read by a pairing' | 'goes together by';
  /** What stands on the other side, as people call it. */
  from: string[];
}

/** Fields of a side that go back to what the other side holds, whoever else writes them. */
export function followedFields(pairing: Pairing): { side: Side; field: string }[] {
  return standing(pairing).flatMap(({ way, onlyEmpty, collects, left, right }) => {
    if (way === 'both' || onlyEmpty || collects) return [];
    const side = way === 'to right' ? 'right' : 'left';
    const [field] = (side === 'right' ? right : left).path;
    return field === undefined ? [] : [{ side, field }];
  });
}

/**
 * The fields that a place goes by, through relations as well, as far as these are known. What its entity no longer has is
 * among them: somebody asks just because it is gone.
 */
export function namedBy({ path, compute }: Place, { schema, entity }: Around): { entity: string; field: string }[] {
  if (compute !== undefined) return namesIn(compute).map((field) => ({ entity: entity.name, field }));
  const named: { entity: string; field: string }[] = [];
  let at: Entity | undefined = entity;
  for (const field of path) {
    if (!at) break;
    named.push({ entity: at.name, field });
    const { relation }: { relation?: string } = fieldOf(at, field) ?? {};
    at = relation === undefined ? undefined : entityOf(schema, relation);
  }
  return named;
}

/** Everything a pairing does with records' fields: its lines, and by what it sees which record goes with which. */
export function usesOfPairing(pairing: Pairing, schemas: ReadonlyMap<string, Schema>): PairedUse[] {
  return SIDES.flatMap((side) => {
    const around = aroundOf(pairing, side, schemas);
    if (!around) return [];
    const { system } = pairing[side];
    const uses = (place: Place, how: PairedUse['how'], from: string[]): PairedUse[] =>
      namedBy(place, around).map((named) => ({ system, ...named, how, from }));
    const other = aroundOf(pairing, across(side), schemas);
    const lines = standing(pairing).flatMap((line) =>
      uses(line[side], receivers(line).includes(side) ? 'kept in step' : 'read by a pairing', [
        placeName(line[across(side)], other),
      ]),
    );
    const keys = pairing.matches.flatMap(({ parts }) =>
      parts.flatMap((part) =>
        uses({ path: part[side] }, 'goes together by', [placeName({ path: part[across(side)] }, other)]),
      ),
    );
    return [...lines, ...keys];
  });
}
