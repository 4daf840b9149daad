import { entityOf, fieldOf, type Entity, type Value } from '@zusammen/core/schema';
import { joinedValue, type ChangeStep } from '@zusammen/core/schema-changes';
import { counted } from '@zusammen/core/values';
import { ledgerOf, type SchemaChangeRow } from '../../store/index.ts';
import { addOptions, removeOptions, SchemaRefused, type From } from '../../systems/index.ts';
import type { HeldJob } from '../jobs.ts';
import { takeBackChange } from '../take-back.ts';
import { failureOf, persistently, turnWorld } from '../turn-world.ts';
import type { SchemaWork } from './work.ts';

type Join = ChangeStep & { kind: 'join' };

/** So many records are changed side by side; each is a read and a write there. */
const AT_ONCE = 8;
/** How far it is, is told every so many records. */
const TOLD_EVERY = 100;
/** Somebody may choose the option while its records are changed: they are looked through again so often. */
const ROUNDS = 3;

/**
 * Has every record that holds one option hold the other, each on the ledger before it is written, then takes the option
 * away, where the system takes options away. Begun again, it goes on where it stopped.
 * @param told hears now and then how many records are done @returns how many were changed @throws SchemaRefused, SystemTrouble
 */
export async function joinOptions(
  work: SchemaWork,
  job: Pick<HeldJob, 'stopping'>,
  change: SchemaChangeRow,
  { step, at }: { step: Join; at: number },
  told: (records: number) => Promise<void>,
): Promise<{ records: number; words?: string } | 'stopped'> {
  const { db, systems, live } = work;
  live.forget();
  const schemas = await live.allSchemas();
  const entity = entityOf(schemas.get(step.system) ?? { entities: [] }, step.entity);
  const options = entity && fieldOf(entity, step.field)?.options;
  if (!entity || !options) throw new SchemaRefused(`${step.field} of ${step.entity} can’t be seen in the system.`);
  if (!options.some(({ value }) => value === step.into.value))
    throw new SchemaRefused(`“${step.into.label}” can’t be chosen there.`);
  const world = turnWorld({ db, systems, schemas, known: live.known, turn: change.turn, actor: change.by });
  const target = { system: step.system, entity: step.entity };
  const one = async (id: string): Promise<void> => {
    const of = { entity: step.entity, record: id };
    const effect = await persistently(world, { step: String(at), of }, async () => {
      const record = await world.read(target, id);
      const held = record?.values[step.field] ?? null;
      if (!record || !holds(held, step.from.value)) return { kind: 'none' };
      return { kind: 'update', target, record, values: { [step.field]: joinedValue(held, step.from, step.into) } };
    });
    const why = failureOf(effect);
    if (why !== undefined) throw new SchemaRefused(`${entity.label} ${id}: ${why}`);
  };
  let done = 0;
  for (let round = 0; round < ROUNDS; round += 1) {
    let found = 0;
    for await (const ids of holders(work, entity, step)) {
      found += ids.length;
      for (let next = 0; next < ids.length; next += AT_ONCE) {
        if (job.stopping) return 'stopped';
        await allOf(ids.slice(next, next + AT_ONCE).map(one));
        done += Math.min(AT_ONCE, ids.length - next);
        if (done % TOLD_EVERY < AT_ONCE) await told(done);
      }
    }
    if (found === 0) break;
  }
  const records = await changedBy(work, change, at);
  if (!options.some(({ value }) => value === step.from.value)) return { records };
  if (!(await systems.client(step.system)).schemaChanges?.removeOptions)
    return {
      records,
      words: `“${step.from.label}” can still be chosen there: the system takes no options away from here.`,
    };
  await removeOptions(work, step.system, [step.entity, step.field], [step.from.value]);
  return { records };
}

/** Waits for all of them also where one fails: what is still on its way would meet whoever begins again. */
async function allOf<T>(work: readonly Promise<T>[]): Promise<T[]> {
  await Promise.allSettled(work);
  return Promise.all(work);
}

const holds = (value: Value, option: string): boolean =>
  Array.isArray(value) ? value.includes(option) : value === option;

/** Ids of the records that hold an option, page by page. */
async function* holders(
  work: SchemaWork,
  entity: Entity,
  { system, field, from: { value } }: Join,
): AsyncGenerator<string[]> {
  const client = await work.systems.client(system);
  for (let from: From | undefined; ; ) {
    const page = await client.page(entity, [field], from);
    yield page.records.filter(({ values }) => holds(values[field] ?? null, value)).map(({ id }) => id);
    if (!page.next) return;
    from = { link: page.next };
  }
}

const isOf = (at: number) => (row: { step: string; ofRecord: string }) =>
  row.step === String(at) && row.ofRecord !== '';

async function changedBy({ db }: SchemaWork, { turn }: SchemaChangeRow, at: number): Promise<number> {
  const rows = await ledgerOf(db, turn);
  return rows.filter(isOf(at)).filter(({ state, undoneBy }) => state === 'written' && undoneBy === null).length;
}

/**
 * Makes the option anew that was joined, and gives it back to the records that held it, as far as nobody has changed them
 * since.
 * @returns what is to be said of those that couldn't be given it back @throws SchemaRefused, SystemTrouble
 */
export async function takeJoinBack(
  work: SchemaWork,
  job: Pick<HeldJob, 'stopping'>,
  change: SchemaChangeRow,
  step: Join,
  { at, by }: { at: number; by: string },
): Promise<{ stopped: true } | string | undefined> {
  const { db, systems, live } = work;
  await addOptions(work, step.system, [step.entity, step.field], [step.from], by);
  live.forget();
  const taking = { db, systems, schemas: await live.allSchemas(), actor: by };
  const rows = (await ledgerOf(db, change.turn))
    .filter(isOf(at))
    .filter(({ state, undoneBy }) => state === 'written' && undoneBy === null);
  const left: string[] = [];
  for (let next = 0; next < rows.length; next += AT_ONCE) {
    if (job.stopping) return { stopped: true };
    const taken = await allOf(rows.slice(next, next + AT_ONCE).map(({ id }) => takeBackChange(taking, id)));
    taken.forEach(({ done, words }, place) => {
      if (!done) left.push(`${rows[next + place]!.recordId}: ${words}`);
    });
  }
  if (left.length === 0) return undefined;
  // What somebody has changed since is theirs: asked again, it would be no other.
  return `${counted(left.length, 'record keeps', 'records keep')} what ${left.length === 1 ? 'it has' : 'they have'}. ${left[0]}`;
}
