import { MOST_HOPS, SIDES, type Pairing, type ReadyPairing, type Side, type Sides } from '@zusammen/core/pairing';
import { changedAtField, entityOf, type Entity, type Schema, type Values } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import { pack, type KeptPairs, type Packed, type PackedSample, type PackedSide } from '../../heavy/index.ts';
import { feedOf, pairsAfter, seenNow, type Database } from '../../store/index.ts';
import type { Systems } from '../../systems/index.ts';
import { readsOfSide } from './view.ts';

/** Records of an entity that are read to measure something on, and the bytes that they may be as JSON. */
const MOST_RECORDS = 10_000;
const MOST_BYTES = 16 * 1024 * 1024;
/** Entities that relations lead to. */
const MOST_ENTITIES = 8;

/** Reads samples of two entities and of what relations lead to, with the fields that are wanted of each. */
export async function sample(
  systems: Pick<Systems, 'client'>,
  schemas: ReadonlyMap<string, Schema>,
  on: Sides<{ system: string; entity: string }>,
  wanted: (side: Side, entity: Entity) => readonly string[],
): Promise<PackedSample> {
  const taken: Partial<PackedSample> = {};
  for (const side of SIDES) {
    const { system, entity: name } = on[side];
    const schema = schemas.get(system);
    const entity = schema && entityOf(schema, name);
    if (!schema || !entity) throw new Error(`${name} can't be seen in its system.`);
    const client = await systems.client(system);
    const read = (of: Entity) => someOf(client, of, wanted(side, of));
    const { pages: own, whole } = await read(entity);
    const related: PackedSide['related'] = [];
    for (const next of relatedEntities(schema, entity, (of) => wanted(side, of)))
      related.push([next.name, (await read(next)).pages]);
    taken[side] = { own, related, whole };
  }
  return taken as PackedSample;
}

async function someOf(
  client: Awaited<ReturnType<Systems['client']>>,
  entity: Entity,
  fields: readonly string[],
): Promise<{ pages: Packed[]; whole: boolean }> {
  const pages: Packed[] = [];
  const moment = changedAtField(entity)?.name;
  const asked = [...new Set([entity.key, ...fields, ...(moment === undefined ? [] : [moment])])];
  let records = 0;
  let bytes = 0;
  let page = await client.page(entity, asked);
  for (;;) {
    const packed = pack(page.records.map(({ id, values }) => ({ id, values })));
    pages.push(packed);
    records += page.records.length;
    bytes += packed.byteLength;
    if (page.next === undefined) return { pages, whole: true };
    if (records >= MOST_RECORDS || bytes >= MOST_BYTES) return { pages, whole: false };
    page = await client.page(entity, asked, { link: page.next });
  }
}

/** The entities that relations lead to, by fields that are wanted, the near ones first. */
function relatedEntities(schema: Schema, own: Entity, wanted: (entity: Entity) => readonly string[]): Entity[] {
  const found = new Map<string, Entity>();
  let edge = [own];
  for (let hop = 0; hop < MOST_HOPS && edge.length > 0; hop += 1) {
    const next: Entity[] = [];
    for (const entity of edge)
      for (const { name, relation } of entity.fields) {
        const to = relation === undefined || !wanted(entity).includes(name) ? undefined : entityOf(schema, relation);
        if (!to?.rights.read || to === own || found.has(to.name) || found.size === MOST_ENTITIES) continue;
        found.set(to.name, to);
        next.push(to);
      }
    edge = next;
  }
  return [...found.values()];
}

/** Fields that a pairing looks at. */
export const fieldsOf =
  (document: Pairing, ready: ReadyPairing) =>
  (side: Side, entity: Entity): readonly string[] => [...(readsOfSide(document, side, ready).get(entity.name) ?? [])];

/** Fields that may say something: all that can be read. */
export const allFields = (_side: Side, { fields }: Entity): readonly string[] =>
  fields.filter(({ rights }) => rights !== 'none').map(({ name }) => name);

/** So many pairs are read from the store at once. */
const AT_ONCE = 100;

/** Pairs that are kept, the first of them, with what both sides hold now and what relations of theirs lead to. */
export async function keptPairs(
  db: Database,
  id: string,
  document: Pairing,
  ready: ReadyPairing,
  most: number,
): Promise<Packed[]> {
  const left = await feedOf(db, document.left.system, document.left.entity);
  const right = await feedOf(db, document.right.system, document.right.entity);
  const batches: Packed[] = [];
  if (!left || !right) return batches;
  const feeds = { left, right };
  let taken = 0;
  let bytes = 0;
  for (let after = 0; taken < most && bytes < 2 * MOST_BYTES; ) {
    const rows = await pairsAfter(db, id, after, AT_ONCE);
    if (rows.length === 0) break;
    after = rows.at(-1)!.id;
    const idOn = (side: Side) => rows.flatMap((row) => (side === 'left' ? row.leftId : row.rightId) ?? []);
    const known = {
      left: await seenNow(db, feeds.left.id, idOn('left')),
      right: await seenNow(db, feeds.right.id, idOn('right')),
    };
    const pairs = rows.flatMap(({ base, leftId, rightId }): KeptPairs['pairs'] => {
      const [mine, other] = [known.left.get(leftId ?? ''), known.right.get(rightId ?? '')];
      if (!mine || mine.gone || !other || other.gone) return [];
      const records = {
        left: { id: mine.recordId, values: mine.values },
        right: { id: other.recordId, values: other.values },
      };
      return [{ base, records, changedAt: { left: mine.changedAt, right: other.changedAt } }];
    });
    taken += pairs.length;
    const related = await relatedTo(db, document, ready, known);
    const packed = pack({ pairs, related } satisfies KeptPairs);
    bytes += packed.byteLength;
    batches.push(packed);
  }
  return batches;
}

/** What relations of known records lead to, one hop at a time. */
async function relatedTo(
  db: Database,
  document: Pairing,
  ready: ReadyPairing,
  known: Sides<ReadonlyMap<string, { values: Values }>>,
): Promise<KeptPairs['related']> {
  const related: KeptPairs['related'] = { left: [], right: [] };
  for (const side of SIDES) {
    const found = new Map<string, Map<string, Values>>();
    const { schema, entity } = ready.around[side];
    const fields = fieldsOf(document, ready);
    let edge: { entity: Entity; values: Values[] }[] = [
      { entity, values: [...known[side].values()].map(({ values }) => values) },
    ];
    for (let hop = 0; hop < MOST_HOPS && edge.length > 0; hop += 1) {
      const next: typeof edge = [];
      for (const { entity: at, values } of edge)
        for (const name of fields(side, at)) {
          const relation = at.fields.find((field) => field.name === name)?.relation;
          const to = relation === undefined ? undefined : entityOf(schema, relation);
          const feed = to && (await feedOf(db, document[side].system, to.name));
          if (!to || !feed || fields(side, to).length === 0) continue;
          const ids = [...new Set(values.flatMap((each) => (isBlank(each[name]) ? [] : [String(each[name])])))];
          const records = await seenNow(db, feed.id, ids);
          const held = found.get(to.name) ?? new Map<string, Values>();
          found.set(to.name, held);
          for (const [id, record] of records) if (!record.gone) held.set(id, record.values);
          next.push({ entity: to, values: [...records.values()].map((record) => record.values) });
        }
      edge = next;
    }
    related[side] = [...found].map(([of, records]) => [of, [...records].map(([id, values]) => ({ id, values }))]);
  }
  return related;
}
