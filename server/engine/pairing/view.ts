import {
  aroundOf,
  namedBy,
  readied,
  readsOf,
  SIDES,
  standing,
  type Pairing,
  type Place,
  type ReadyPairing,
  type Side,
} from '@zusammen/core/pairing';
import { changedAtField, entityOf, fieldOf, type Entity, type Schema } from '@zusammen/core/schema';
import { hashed, livePairings, type Database, type LivePairing } from '../../store/index.ts';
import type { LiveView } from '../live.ts';

/** A pairing that is applied, ready to be carried out under the schemas of now. */
export interface Applied extends LivePairing {
  ready: ReadyPairing;
}

/** An entity of a system, as a text. */
export const placeOf = (system: string, entity: string): string => JSON.stringify([system, entity]);

const looks = new WeakMap<Entity, string>();

/** @returns a digest of how both entities look: their fields, options, and what may be written */
export function shapeOf({ ready }: Pick<Applied, 'ready'>): Buffer {
  const said = SIDES.map((side) => {
    const { entity } = ready.around[side];
    const look = looks.get(entity) ?? JSON.stringify(entity);
    looks.set(entity, look);
    return look;
  });
  return hashed(said.join());
}

/** How one side of a pairing looks at an entity: its own, or one that its relations lead to. */
export interface Looking {
  pairing: Applied;
  side: Side;
}

/** The pairings that are applied, as this process last saw them; looked at again after a second at the latest. */
export class Pairings {
  private known: { at: number; schemas: ReadonlyMap<string, Schema>; found: Promise<Applied[]> } | undefined;

  constructor(
    private readonly db: Database,
    private readonly live: Pick<LiveView, 'allSchemas'>,
    private readonly freshMs = 1000,
  ) {}

  async all(): Promise<Applied[]> {
    const schemas = await this.live.allSchemas();
    if (this.known && this.known.schemas === schemas && Date.now() - this.known.at < this.freshMs)
      return this.known.found;
    const found = this.lookUp(schemas);
    this.known = { at: Date.now(), schemas, found };
    found.catch(() => (this.known = undefined));
    return found;
  }

  async byId(id: string): Promise<Applied | undefined> {
    return (await this.all()).find((each) => each.id === id);
  }

  /** Entities whose records are kept in step with others, as `placeOf` names them. */
  async entities(): Promise<Set<string>> {
    const all = await this.all();
    return new Set(
      all.flatMap(({ document }) => SIDES.map((side) => placeOf(document[side].system, document[side].entity))),
    );
  }

  /** Which sides of which pairings look at an entity's own records. */
  async sidesOn(system: string, entity: string): Promise<Looking[]> {
    return (await this.all()).flatMap((pairing) =>
      SIDES.filter((side) => pairing.document[side].system === system && pairing.document[side].entity === entity).map(
        (side) => ({ pairing, side }),
      ),
    );
  }

  /** Which sides read values of an entity through a relation. */
  async throughs(system: string, entity: string): Promise<Looking[]> {
    return (await this.all()).flatMap((pairing) =>
      SIDES.filter(
        (side) =>
          pairing.document[side].system === system &&
          pairing.document[side].entity !== entity &&
          readsOfSide(pairing.document, side, pairing.ready).has(entity),
      ).map((side) => ({ pairing, side })),
    );
  }

  /** Looks anew at once, after something was changed by our own hand. */
  forget(): void {
    this.known = undefined;
  }

  private async lookUp(schemas: ReadonlyMap<string, Schema>): Promise<Applied[]> {
    return (await livePairings(this.db)).flatMap((each) => {
      const ready = readied(each.document, schemas);
      return ready ? [{ ...each, ready }] : [];
    });
  }
}

/** The places that a pairing looks at on one side: of its lines, of what goes with which, of its conditions. */
export function placesOf(document: Pairing, side: Side): Place[] {
  const places: Place[] = standing(document).map((line) => line[side]);
  for (const { parts } of document.matches) for (const part of parts) places.push({ path: part[side] });
  const condition = document.alone[side].condition;
  for (const { field } of condition?.parts ?? []) places.push({ path: [field] });
  if (condition?.expression !== undefined) places.push({ path: [], compute: condition.expression });
  return places;
}

/** Whether a pairing goes by a field, there or gone, anywhere: in its lines, in what goes with which, in its conditions. */
export const goesBy = (
  document: Pairing,
  schemas: ReadonlyMap<string, Schema>,
  wanted: { system: string; entity: string; field: string },
): boolean =>
  SIDES.some((side) => {
    const around = document[side].system === wanted.system ? aroundOf(document, side, schemas) : undefined;
    return (
      around !== undefined &&
      placesOf(document, side).some((place) =>
        namedBy(place, around).some(({ entity, field }) => entity === wanted.entity && field === wanted.field),
      )
    );
  });

const reads = new WeakMap<ReadyPairing, Map<Side, Map<string, Set<string>>>>();

/** The fields that one side of a pairing looks at, by entity. */
export function readsOfSide(
  document: Pairing,
  side: Side,
  ready: ReadyPairing,
): ReadonlyMap<string, ReadonlySet<string>> {
  let known = reads.get(ready);
  if (!known) reads.set(ready, (known = new Map()));
  let found = known.get(side);
  if (!found) known.set(side, (found = readsOf(placesOf(document, side), ready.around[side])));
  return found;
}

/** What has to be followed for a pairing: the entities it looks at, with the fields of each. */
export function followedBy(
  document: Pairing,
  ready: ReadyPairing,
): { system: string; entity: string; fields: string[] }[] {
  const wanted = new Map<string, { system: string; entity: string; fields: Set<string> }>();
  for (const side of SIDES) {
    const { system, entity: own } = document[side];
    const { schema } = ready.around[side];
    for (const [entity, fields] of [[own, new Set<string>()] as const, ...readsOfSide(document, side, ready)]) {
      const key = placeOf(system, entity);
      const known = wanted.get(key) ?? { system, entity, fields: new Set<string>() };
      for (const field of fields) known.fields.add(field);
      const found = entityOf(schema, entity);
      const changed = found && changedAtField(found);
      if (changed) known.fields.add(changed.name);
      wanted.set(key, known);
    }
  }
  return [...wanted.values()].map(({ fields, ...each }) => ({ ...each, fields: [...fields].sort() }));
}

/** The fields of an entity that lead to other records and that some pairing follows. */
export function followedLinks(looking: readonly Looking[], schema: Schema, entity: string): string[] {
  const found = entityOf(schema, entity);
  if (!found) return [];
  const fields = new Set<string>();
  for (const { pairing, side } of looking)
    for (const { path } of placesOf(pairing.document, side)) {
      let at = pairing.ready.around[side].entity.name;
      for (const name of path.slice(0, -1)) {
        if (at === entity) fields.add(name);
        const here = entityOf(schema, at);
        at = (here && fieldOf(here, name)?.relation) ?? '';
      }
    }
  return [...fields].filter((name) => fieldOf(found, name) !== undefined);
}
