import { agreement, type Entity, type Field, type Schema, type Values, type ValuesAlike } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import { feedOf, inTransaction, lastWritten, seenAfter, type Database } from '../store/index.ts';
import { readEach } from './look.ts';
import type { System } from './system.ts';

/** Entities, and fields of each that have gone or come, of which values are compared: a schema may be another altogether. */
const MOST_ENTITIES = 10;
const MOST_FIELDS = 20;
/** Records of an entity that are read for it: as many as one request gives. */
const MOST_RECORDS = 40;
/** Records of which values are known here that are looked at, to choose those. */
const LOOKED_AT = 400;

/**
 * What values say of fields that have gone from a system and of fields that have come: what is known here of records, by
 * what was written to them last and by what pairings keep of them, is compared with what they hold now.
 * @param system as it can be read now @throws SystemTrouble
 */
export async function valuesAlike(
  db: Database,
  systemId: string,
  system: System,
  before: Schema,
  after: Schema,
): Promise<ValuesAlike[]> {
  const said: ValuesAlike[] = [];
  for (const { entity, gone, fresh } of changedIn(before, after)) {
    const known = await knownValues(db, systemId, entity.name, gone);
    if (known.size === 0) continue;
    const now = await readEach(system, entity, [...known.keys()]);
    for (const was of gone)
      for (const is of fresh) {
        const pairs = [...known].map(([id, values]) => [values[was.name], now.get(id)?.values[is.name]] as const);
        const agreed = agreement(pairs);
        if (agreed.of > 0) said.push({ entity: entity.name, was: was.name, is: is.name, ...agreed });
      }
  }
  return said;
}

interface Changed {
  /** As it is now. */
  entity: Entity;
  gone: Field[];
  fresh: Field[];
}

/** Entities from which fields have gone and in which others have come that can be read. */
function changedIn(before: Schema, after: Schema): Changed[] {
  const earlier = new Map(before.entities.map((entity) => [entity.name, entity]));
  const without = (fields: readonly Field[], others: readonly Field[]): Field[] => {
    const names = new Set(others.map(({ name }) => name));
    return fields.filter(({ name, rights }) => !names.has(name) && rights !== 'none').slice(0, MOST_FIELDS);
  };
  return after.entities
    .filter(({ rights }) => rights.read)
    .flatMap((entity): Changed[] => {
      const was = earlier.get(entity.name);
      const gone = was ? without(was.fields, entity.fields) : [];
      const fresh = was ? without(entity.fields, was.fields) : [];
      return gone.length === 0 || fresh.length === 0 ? [] : [{ entity, gone, fresh }];
    })
    .slice(0, MOST_ENTITIES);
}

/** What records are known to have held of fields, by id: those of which most is known. */
async function knownValues(
  db: Database,
  systemId: string,
  entity: string,
  fields: readonly Field[],
): Promise<Map<string, Values>> {
  const known = await lastWritten(db, systemId, entity, LOOKED_AT);
  const feed = await feedOf(db, systemId, entity);
  const seen = feed ? await inTransaction(db, (query) => seenAfter(query, feed.id, '', LOOKED_AT)) : [];
  // What a system showed is newer than what was written to it, or the same.
  for (const { recordId, values } of seen) known.set(recordId, { ...known.get(recordId), ...values });
  const told = (values: Values): number => fields.filter(({ name }) => !isBlank(values[name])).length;
  return new Map(
    [...known]
      .filter(([, values]) => told(values) > 0)
      .sort(([, a], [, b]) => told(b) - told(a))
      .slice(0, MOST_RECORDS),
  );
}
