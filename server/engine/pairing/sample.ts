import {
  Assessment,
  joined,
  keysOf,
  MOST_HOPS,
  restlessness,
  settlePair,
  SIDES,
  type Pairing,
  type PairSettled,
  type ReadyPairing,
  type Sample,
  type Side,
  type Sides,
  type Witness,
} from '@zusammen/core/pairing';
import { changedAtField, entityOf, type Entity, type Schema, type Value, type Values } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import { feedOf, pairsAfter, seenNow, type Database } from '../../store/index.ts';
import type { Systems } from '../../systems/index.ts';
import { readsOfSide } from './view.ts';

/** Records of an entity that are read to measure something on. */
const MOST_RECORDS = 10_000;
/** Records that relations lead to, of one entity. */
const MOST_RELATED = 10_000;
/** Entities that relations lead to. */
const MOST_ENTITIES = 8;

/** Some records of both sides, read from their systems, and what relations of theirs lead to. */
export interface PairSample {
  sides: Sides<Sample>;
  /** All records of a side are among them. */
  whole: Sides<boolean>;
  at: number;
}

/** Reads samples of two entities, with the fields that are wanted of each. */
export async function sample(
  systems: Pick<Systems, 'client'>,
  schemas: ReadonlyMap<string, Schema>,
  on: Sides<{ system: string; entity: string }>,
  wanted: (side: Side, entity: Entity) => readonly string[],
): Promise<PairSample> {
  const taken: Partial<Sides<{ sample: Sample; whole: boolean }>> = {};
  for (const side of SIDES) {
    const { system, entity: name } = on[side];
    const schema = schemas.get(system);
    const entity = schema && entityOf(schema, name);
    if (!schema || !entity) throw new Error(`${name} can't be seen in its system.`);
    const client = await systems.client(system);
    const read = (of: Entity, most: number) => someOf(client, of, wanted(side, of), most);
    const { records, whole } = await read(entity, MOST_RECORDS);
    const related = new Map<string, Map<string, Values>>();
    for (const next of relatedEntities(schema, entity, (of) => wanted(side, of))) {
      const found = await read(next, MOST_RELATED);
      related.set(next.name, new Map(found.records.map(({ id, values }) => [id, values])));
    }
    taken[side] = { sample: { records, reach: (of, id) => related.get(of)?.get(id) }, whole };
  }
  const { left, right } = taken as Sides<{ sample: Sample; whole: boolean }>;
  return {
    sides: { left: left.sample, right: right.sample },
    whole: { left: left.whole, right: right.whole },
    at: Date.now(),
  };
}

async function someOf(
  client: Awaited<ReturnType<Systems['client']>>,
  entity: Entity,
  fields: readonly string[],
  most: number,
): Promise<{ records: { id: string; values: Values }[]; whole: boolean }> {
  const records: { id: string; values: Values }[] = [];
  const moment = changedAtField(entity)?.name;
  const asked = [...new Set([entity.key, ...fields, ...(moment === undefined ? [] : [moment])])];
  let page = await client.page(entity, asked);
  for (;;) {
    for (const { id, values } of page.records) records.push({ id, values });
    if (page.next === undefined) return { records, whole: true };
    if (records.length >= most) return { records, whole: false };
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

/** A pair to look at what would happen to it, with what both held when it was last at rest. */
export interface LookedAt {
  settled: PairSettled;
  records: Sides<{ id: string; values: Values } | undefined>;
}

/** Lets everybody else have their turn: looking at many pairs takes a while. */
export const breathe = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));
const AT_ONCE = 100;

/** What goes together in samples, and what would become of each pair, as a pairing begins. */
export async function* overSamples(
  document: Pairing,
  ready: ReadyPairing,
  { sides }: PairSample,
): AsyncGenerator<LookedAt> {
  const keys = (side: Side) =>
    sides[side].records.map((record) => keysOf(document.matches, side, ready.around, record, sides[side].reach));
  const { pairs } = joined({ left: keys('left'), right: keys('right') }, document.matches.length);
  const moments = momentsOf(ready);
  for (const { left, right } of pairs) {
    const records = { left: sides.left.records[left]!, right: sides.right.records[right]! };
    yield {
      records,
      settled: settlePair(ready, {
        base: {},
        records,
        reach: { left: sides.left.reach, right: sides.right.reach },
        changedAt: (side) => moments(side, records[side].values),
      }),
    };
  }
}

/** The pairs that are kept, and what would become of each now. */
export async function* overPairs(
  db: Database,
  id: string,
  document: Pairing,
  ready: ReadyPairing,
  most: number,
): AsyncGenerator<LookedAt> {
  const left = await feedOf(db, document.left.system, document.left.entity);
  const right = await feedOf(db, document.right.system, document.right.entity);
  if (!left || !right) return;
  const feeds = { left, right };
  let seen = 0;
  for (let after = 0; seen < most; ) {
    const pairs = await pairsAfter(db, id, after, AT_ONCE);
    if (pairs.length === 0) return;
    after = pairs.at(-1)!.id;
    const known = {
      left: await seenNow(
        db,
        feeds.left.id,
        pairs.flatMap(({ leftId }) => leftId ?? []),
      ),
      right: await seenNow(
        db,
        feeds.right.id,
        pairs.flatMap(({ rightId }) => rightId ?? []),
      ),
    };
    const related = await relatedTo(db, document, ready, known);
    for (const pair of pairs) {
      const of = (side: Side) => {
        const record = known[side].get((side === 'left' ? pair.leftId : pair.rightId) ?? '');
        return record && !record.gone ? { id: record.recordId, values: record.values } : undefined;
      };
      const records = { left: of('left'), right: of('right') };
      if (!records.left || !records.right) continue;
      seen += 1;
      yield {
        records,
        settled: settlePair(ready, {
          base: pair.base,
          records,
          reach: { left: related.left, right: related.right },
          changedAt: (side) => known[side].get(records[side]!.id)?.changedAt,
        }),
      };
    }
  }
}

/** What relations of known records lead to, one hop at a time. */
async function relatedTo(
  db: Database,
  document: Pairing,
  ready: ReadyPairing,
  known: Sides<ReadonlyMap<string, { values: Values }>>,
): Promise<Sides<Sample['reach']>> {
  const reaches: Partial<Sides<Sample['reach']>> = {};
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
    reaches[side] = (of, id) => found.get(of)?.get(id);
  }
  return reaches as Sides<Sample['reach']>;
}

/** When sampled records were changed, by what they say of it themselves. */
function momentsOf(ready: ReadyPairing): (side: Side, values: Values) => number | undefined {
  const names = {
    left: changedAtField(ready.around.left.entity)?.name,
    right: changedAtField(ready.around.right.entity)?.name,
  };
  return (side, values) => {
    const name = names[side];
    const at = name === undefined ? NaN : Date.parse(String(values[name] ?? ''));
    return Number.isNaN(at) ? undefined : at;
  };
}

/** Values kept of each line and side, to try whether they come to rest. */
const MOST_VALUES = 500;

/** Milliseconds that nobody else waits for, and after which enough has been looked at: how much it was is told. */
const AT_A_STRETCH_MS = 20;
const LONGEST_LOOK_MS = 10_000;

/** Values of each line that never come to rest between its sides, each line tried by itself. */
export async function triedLines(
  ready: ReadyPairing,
  values: ReadonlyMap<string, Sides<Value[]>>,
): Promise<Map<string, Witness | undefined>> {
  const tried = new Map<string, Witness | undefined>();
  const most = Math.max(10, Math.floor(MOST_TRIED_IN_ALL / ready.lines.length));
  for (const line of ready.lines) {
    await breathe();
    const { left = [], right = [] } = values.get(line.line.id) ?? {};
    tried.set(line.line.id, restlessness(line, { left: left.slice(0, most), right: right.slice(0, most) }));
  }
  return tried;
}
const MOST_TRIED_IN_ALL = 6_000;

/** What would happen over pairs, and some of the values in use. */
export async function assess(
  ready: ReadyPairing,
  pairs: AsyncIterable<LookedAt>,
): Promise<{ assessment: Assessment; values: Map<string, Sides<Value[]>> }> {
  const assessment = new Assessment(ready.lines);
  const values = new Map(
    ready.lines.map(({ line }) => [line.id, { left: new Map<string, Value>(), right: new Map<string, Value>() }]),
  );
  const until = performance.now() + LONGEST_LOOK_MS;
  let rested = performance.now();
  for await (const { settled, records } of pairs) {
    if (performance.now() - rested > AT_A_STRETCH_MS) {
      await breathe();
      rested = performance.now();
    }
    if (rested > until) break;
    assessment.add(settled, { left: records.left?.id ?? null, right: records.right?.id ?? null });
    for (const { line, now } of settled.lines)
      for (const side of SIDES) {
        const known = values.get(line.id)![side];
        if (known.size < MOST_VALUES && !isBlank(now[side])) known.set(JSON.stringify(now[side]), now[side]);
      }
  }
  const lists = new Map(
    [...values].map(([line, { left, right }]) => [line, { left: [...left.values()], right: [...right.values()] }]),
  );
  return { assessment, values: lists };
}
