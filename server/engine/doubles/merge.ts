import type { Effect, Intent } from '@zusammen/core/plans';
import { survivorsOf, type SurvivorRule } from '@zusammen/core/recognition';
import {
  changedAtField,
  entityOf,
  isWritable,
  type Entity,
  type RecordState,
  type Schema,
  type Values,
} from '@zusammen/core/schema';
import { isBlank, sameValue } from '@zusammen/core/values';
import {
  Batcher,
  ledgerOf,
  markUndone,
  noteIntents,
  placeOfMerge,
  type Database,
  type DoubleGroup,
  type LedgerEntry,
  type LedgerRow,
  type MergePlan,
} from '../../store/index.ts';
import type { Systems } from '../../systems/index.ts';
import type { Known } from '../known/index.ts';
import { Settler, type Settlement } from '../settle.ts';
import { takeBackChange } from '../take-back.ts';
import { EngineWorld } from '../world.ts';

/** Where the records of a group are, and what merging them works with. */
export interface Merging {
  db: Database;
  systems: Pick<Systems, 'client'>;
  schemas: ReadonlyMap<string, Schema>;
  known: Known;
  system: string;
  entity: string;
  group: Pick<DoubleGroup, 'id' | 'members'>;
  actor: string;
}

/** Children moved at once, and read at once. */
const CHILDREN = 200;

/** Fields a merged record may take over: what the connection may change later, and no other record must share. */
export const mergeable = (entity: Entity): Entity['fields'] =>
  entity.fields.filter((field) => isWritable(field) && !field.immutable && !field.unique);

/** The members of a group as they are in the system now; those that are gone are left out. */
export async function membersNow(merging: Omit<Merging, 'actor'>): Promise<RecordState[]> {
  const entity = entityIn(merging);
  const client = await merging.systems.client(merging.system);
  const found = await Promise.all(merging.group.members.map((id) => client.read(entity, id)));
  return found.filter((record) => record !== undefined);
}

/** What a merge would write, by a rule and what was chosen by hand. */
export function mergePlan(
  entity: Entity,
  records: readonly RecordState[],
  survivor: string,
  rule: SurvivorRule,
  choice: Readonly<Record<string, string>>,
  trusted?: string,
): MergePlan & { kept: ReturnType<typeof survivorsOf> } {
  const changed = changedAtField(entity);
  const newest = changed
    ? [...records]
        .sort((a, b) => String(b.values[changed.name] ?? '').localeCompare(String(a.values[changed.name] ?? '')))
        .map(({ id }) => id)
    : [];
  const names = mergeable(entity).map(({ name }) => name);
  const kept = survivorsOf(records, survivor, names, rule, choice, { newest, ...(trusted ? { trusted } : {}) });
  const held = records.find(({ id }) => id === survivor)!;
  const values = Object.fromEntries(
    kept
      .filter(({ field, value }) => !isBlank(value) && !sameValue(held.values[field], value))
      .map(({ field, value }) => [field, value]),
  );
  return { survivor, values, others: records.map(({ id }) => id).filter((id) => id !== survivor), kept };
}

export interface Merged {
  done: boolean;
  /** Records that were led to the survivor, and records removed. */
  moved: number;
  removed: number;
  words: string;
}

/**
 * Merges a group through its system: the survivor takes its values, what led to the others leads to it, the others
 * are deleted. Every change stands in the ledger before it is sent; begun again, it goes on where it stopped.
 * @throws SystemUnavailable and the like when the system can't be reached
 */
export async function merge(merging: Merging, plan: MergePlan): Promise<Merged> {
  const { system, entity: name, group } = merging;
  const entity = entityIn(merging);
  const world = worldOf(merging);
  const target = { system, entity: name };
  let moved = 0;
  let removed = 0;
  const stopped = (why: string): Merged => ({ done: false, moved, removed, words: why });
  const settle = async (effect: Effect): Promise<string | undefined> => {
    await world.settle();
    if (effect.state === 'refused') return effect.refusal.words;
    if (effect.state === 'unclear') return 'It can’t be told whether a record was made.';
    return effect.state === 'overtaken' ? 'A record was changed at this very moment.' : undefined;
  };

  if (Object.keys(plan.values).length > 0) {
    const refusal = await settle(
      await persistently(() =>
        world.effect('values', async (): Promise<Intent> => {
          const record = await world.read(target, plan.survivor);
          return record ? { kind: 'update', target, record, values: plan.values } : { kind: 'none' };
        }),
      ),
    );
    if (refusal !== undefined) return stopped(refusal);
  }
  for (const { child, field } of referencesTo(merging)) {
    const there = { system, entity: child.name };
    for (const other of plan.others) {
      const looked = new Set<string>();
      for (;;) {
        const children = await world.find(there, [{ field, value: other, folded: false }], CHILDREN);
        const left = children.filter(({ id }) => !looked.has(id));
        if (left.length === 0) {
          // Moved back concurrently; stop.
          if (children.length > 0) return stopped(`${child.label} ${children[0]!.id} leads to ${other} again.`);
          break;
        }
        for (const { id } of left) {
          looked.add(id);
          const effect = await persistently(() =>
            world.effect(`${child.name} ${id} ${field}`, async (): Promise<Intent> => {
              const record = await world.read(there, id);
              if (!record || record.values[field] !== other) return { kind: 'none' };
              return { kind: 'update', target: there, record, values: { [field]: plan.survivor } };
            }),
          );
          const refusal = await settle(effect);
          if (refusal !== undefined) return stopped(`${child.label} ${id}: ${refusal}`);
          if (effect.state === 'written') moved += 1;
        }
      }
    }
  }
  if (!entity.rights.delete)
    return { done: true, moved, removed, words: 'The others are left where they are: the connection may not delete.' };
  for (const other of plan.others) {
    const effect = await persistently(() =>
      world.effect(`gone ${other}`, async (): Promise<Intent> => {
        const record = await world.read(target, other);
        return record ? { kind: 'delete', target, record } : { kind: 'none' };
      }),
    );
    const refusal = await settle(effect);
    if (refusal !== undefined) return stopped(`${other}: ${refusal}`);
    if (effect.state === 'written') removed += 1;
  }
  for (const other of plan.others) await merging.known.forget(target, other);
  const survivor = await world.read(target, plan.survivor);
  if (survivor) await merging.known.remember(target, survivor.id, survivor.values);
  return { done: true, moved, removed, words: `Group ${group.id} is one record, ${plan.survivor}.` };
}

/**
 * Takes a merge back: the others are made anew with their former values, what led to them leads to them again, and the
 * survivor gets its former values; only what nobody has changed since.
 */
export async function takeMergeBack(merging: Merging): Promise<Merged> {
  const { db, systems, schemas, system, entity: name, group, actor, known } = merging;
  const world = worldOf(merging);
  const rows = (await ledgerOf(db, placeOfMerge(group.id))).filter(
    ({ state, undoes, undoneBy }) => state === 'written' && undoes === null && undoneBy === null,
  );
  const words: string[] = [];
  const anew = new Map<string, string>();
  let moved = 0;
  for (const row of rows.filter(({ action }) => action === 'delete')) {
    const taken = await takeBackChange(db, systems, schemas, row.id, actor);
    const id = await madeAgain(db, group.id, row);
    if (!taken.done || id === undefined) words.push(`${row.recordId}: ${taken.words}`);
    else {
      anew.set(row.recordId!, id);
      await known.remember({ system, entity: name }, id, row.before);
    }
  }
  for (const row of rows.filter(({ action, effect }) => action === 'update' && effect !== 'values')) {
    const [field, former] = Object.entries(row.before)[0] ?? [];
    const id = anew.get(String(former)) ?? String(former);
    const target = { system: row.systemId, entity: row.entity };
    const effect = await persistently(() =>
      world.effect(`undo ${row.id}`, async (): Promise<Intent> => {
        const record = await world.read(target, row.recordId!);
        if (!record || field === undefined || record.values[field] !== row.after[field]) return { kind: 'none' };
        return { kind: 'update', target, record, values: { [field]: id } };
      }),
    );
    await world.settle();
    if (effect.state !== 'written') {
      words.push(
        `${row.entity} ${row.recordId}: ${effect.state === 'refused' ? effect.refusal.words : 'changed since'}`,
      );
      continue;
    }
    moved += 1;
    const undo = (await ledgerOf(db, placeOfMerge(group.id))).find((each) => each.effect === `undo ${row.id}`);
    if (undo) await markUndone(db, row.id, undo.id);
  }
  for (const row of rows.filter(({ effect }) => effect === 'values')) {
    const taken = await takeBackChange(db, systems, schemas, row.id, actor);
    if (!taken.done) words.push(`${row.recordId}: ${taken.words}`);
    else await known.remember({ system, entity: name }, row.recordId!, await valuesNow(world, merging, row));
  }
  const again = [...anew].map(([old, id]) => `${old} is ${id} now`).join(', ');
  return { done: words.length === 0, moved, removed: anew.size, words: [again, ...words].filter(Boolean).join('; ') };
}

/** Leads the first record of a pair to the second, which is of another entity; on the ledger like any change. */
export async function link(merging: Merging, field: string): Promise<Merged> {
  const { system, entity, group } = merging;
  const [from = '', to = ''] = group.members;
  const world = worldOf(merging);
  const target = { system, entity };
  const effect = await persistently(() =>
    world.effect('link', async (): Promise<Intent> => {
      const record = await world.read(target, from);
      return record ? { kind: 'update', target, record, values: { [field]: to } } : { kind: 'none' };
    }),
  );
  await world.settle();
  const done = effect.state === 'written';
  const words = done
    ? `${from} leads to ${to}.`
    : effect.state === 'refused'
      ? effect.refusal.words
      : `${from} is no longer there, or keeps changing.`;
  return { done, moved: done ? 1 : 0, removed: 0, words };
}

/** Takes such a lead back, where nobody has changed it since. */
export async function takeLinkBack({ db, systems, schemas, group, actor }: Merging): Promise<Merged> {
  const row = (await ledgerOf(db, placeOfMerge(group.id))).findLast(
    ({ effect, state, undoneBy }) => effect === 'link' && state === 'written' && undoneBy === null,
  );
  if (!row) return { done: false, moved: 0, removed: 0, words: 'There is nothing to take back.' };
  const { done, words } = await takeBackChange(db, systems, schemas, row.id, actor);
  return { done, moved: done ? 1 : 0, removed: 0, words };
}

async function valuesNow(world: EngineWorld, { system, entity }: Merging, row: LedgerRow): Promise<Values> {
  return (await world.read({ system, entity }, row.recordId!))?.values ?? row.before;
}

async function madeAgain(db: Database, group: number, row: LedgerRow): Promise<string | undefined> {
  const rows = await ledgerOf(db, placeOfMerge(group));
  const made = rows.find(
    ({ undoes, state, action }) => undoes === row.id && state === 'written' && action === 'create',
  );
  return made?.recordId ?? undefined;
}

function entityIn({ schemas, system, entity }: Pick<Merging, 'schemas' | 'system' | 'entity'>): Entity {
  const found = entityOf(schemas.get(system) ?? { entities: [] }, entity);
  if (!found) throw new Error(`${entity} can't be seen in the system.`);
  return found;
}

/** Fields of the system's entities that lead to a record of this one and may be changed. */
function referencesTo({ schemas, system, entity }: Merging): { child: Entity; field: string }[] {
  return (schemas.get(system)?.entities ?? []).flatMap((child) =>
    child.rights.read && child.rights.update
      ? child.fields
          .filter((field) => field.relation === entity && isWritable(field))
          .map(({ name }) => ({ child, field: name }))
      : [],
  );
}

/** Somebody else may change a record between reading and writing: then it is read and decided again. */
async function persistently(work: () => Promise<Effect>): Promise<Effect> {
  let effect = await work();
  for (let again = 0; effect.state === 'overtaken' && again < 5; again += 1) effect = await work();
  return effect;
}

/** The engine's world, for changes that no submission makes. */
function worldOf({ db, systems, schemas, known, group, actor }: Merging): EngineWorld & { settle(): Promise<void> } {
  const settler = new Settler(db);
  const seq = placeOfMerge(group.id);
  const flush = async (settlements: Settlement[]): Promise<void> => {
    if (settlements.length > 0) await settler.settle({ seq, claim: null, settlements, end: 'goes on' });
  };
  const world = new EngineWorld({
    ...{ db, systems, schemas, known, seq, actor, flush },
    claim: null,
    intakeId: null,
    byEvidence: new Set(),
    fresh: false,
    atomic: false,
    clock: () => new Date(),
    intents: new Batcher<LedgerEntry, number>((entries) => noteIntents(db, entries), 0),
  });
  return Object.assign(world, { settle: () => flush(world.settlements.splice(0)) });
}
