import { survivorsOf, type SurvivorRule } from '@zusammen/core/recognition';
import {
  changedAtField,
  entityOf,
  isWritable,
  type Entity,
  type RecordState,
  type Schema,
} from '@zusammen/core/schema';
import { isBlank, sameValue } from '@zusammen/core/values';
import {
  ledgerOf,
  newestUndo,
  type Database,
  type DoubleGroup,
  type LedgerRow,
  turnOfGroup,
  type MergePlan,
} from '../../store/index.ts';
import type { Systems } from '../../systems/index.ts';
import type { Known } from '../known/index.ts';
import { takeBackChange } from '../take-back.ts';
import { failureOf, persistently, turnWorld, type TurnWorld } from '../turn-world.ts';

/** Where the records of a group are, and what merging them works with. */
export interface Merging {
  db: Database;
  systems: Pick<Systems, 'client'>;
  schemas: ReadonlyMap<string, Schema>;
  known: Known;
  system: string;
  entity: string;
  group: Pick<DoubleGroup, 'id' | 'members' | 'turn'>;
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

/** The parts of a merge, as they stand on the ledger. */
const PART = { values: 'values', references: 'references', others: 'others', link: 'link' } as const;

/**
 * Merges a group through its system: the survivor takes its values, what led to the others leads to it, the others
 * are deleted. Every change stands in the ledger before it is sent; begun again, it goes on where it stopped.
 * @throws SystemUnavailable and the like when the system can't be reached
 */
export async function merge(merging: Merging, plan: MergePlan): Promise<Merged> {
  const { system, entity: name, group } = merging;
  const entity = entityIn(merging);
  const world = await worldOf(merging, 'merge');
  const target = { system, entity: name };
  let moved = 0;
  let removed = 0;
  const stopped = (why: string): Merged => ({ done: false, moved, removed, words: why });

  if (Object.keys(plan.values).length > 0) {
    const effect = await persistently(world, { step: PART.values }, async () => {
      const record = await world.read(target, plan.survivor);
      return record ? { kind: 'update', target, record, values: plan.values } : { kind: 'none' };
    });
    const why = failureOf(effect);
    if (why !== undefined) return stopped(why);
  }
  for (const { child, fields } of referencesTo(merging)) {
    const outcome = await leadToSurvivor(world, merging, plan, child, fields);
    moved += outcome.moved;
    if (outcome.why !== undefined) return stopped(outcome.why);
  }
  if (!entity.rights.delete)
    return { done: true, moved, removed, words: 'The others are left where they are: the connection may not delete.' };
  for (const other of plan.others) {
    const of = { entity: name, record: other };
    const effect = await persistently(world, { step: PART.others, of }, async () => {
      const record = await world.read(target, other);
      return record ? { kind: 'delete', target, record } : { kind: 'none' };
    });
    const why = failureOf(effect);
    if (why !== undefined) return stopped(`${other}: ${why}`);
    if (effect.state === 'written') removed += 1;
  }
  for (const other of plan.others) await merging.known.forget(target, other);
  const survivor = await world.read(target, plan.survivor);
  if (survivor) await merging.known.remember(target, survivor.id, survivor.values);
  return { done: true, moved, removed, words: `Group ${group.id} is one record, ${plan.survivor}.` };
}

/** Has the records of an entity that lead to one of the others lead to the survivor; each in one change. */
async function leadToSurvivor(
  world: TurnWorld,
  { system }: Merging,
  plan: MergePlan,
  child: Entity,
  fields: readonly string[],
): Promise<{ moved: number; why?: string }> {
  const there = { system, entity: child.name };
  const gone = new Set(plan.others);
  let moved = 0;
  for (const field of fields)
    for (const other of plan.others) {
      const looked = new Set<string>();
      for (;;) {
        const children = await world.find(there, [{ field, value: other, folded: false }], CHILDREN);
        const left = children.filter(({ id }) => !looked.has(id));
        // Moved back concurrently; stop.
        if (left.length === 0 && children.length > 0)
          return { moved, why: `${child.label} ${children[0]!.id} leads to ${other} again.` };
        if (left.length === 0) break;
        for (const { id } of left) {
          looked.add(id);
          const key = { step: PART.references, of: { entity: child.name, record: id } };
          const effect = await persistently(world, key, async () => {
            const record = await world.read(there, id);
            const led = fields.filter((each) => gone.has(String(record?.values[each] ?? '')));
            if (!record || led.length === 0) return { kind: 'none' };
            const values = Object.fromEntries(led.map((each) => [each, plan.survivor]));
            return { kind: 'update', target: there, record, values };
          });
          const why = failureOf(effect);
          if (why !== undefined) return { moved, why: `${child.label} ${id}: ${why}` };
          if (effect.state === 'written') moved += 1;
        }
      }
    }
  return { moved };
}

/**
 * Takes a merge back: the others are made anew with their former values, what led to them leads to them again, and the
 * survivor gets its former values; only what nobody has changed since.
 */
export async function takeMergeBack(merging: Merging): Promise<Merged> {
  const { db, system, entity: name, known } = merging;
  const rows = (await changesOf(merging)).filter(({ state, undoneBy }) => state === 'written' && undoneBy === null);
  const world = await worldOf(merging, 'taking back');
  const takeBack = (row: LedgerRow): ReturnType<typeof takeBackChange> =>
    takeBackChange(merging, row.id, async () => world.turn);
  const of = (part: string): LedgerRow[] => rows.filter(({ step }) => step === part);
  const words: string[] = [];
  const anew = new Map<string, string>();
  let moved = 0;
  for (const row of of(PART.others)) {
    const taken = await takeBack(row);
    const id = taken.done ? (await newestUndo(db, row.id))?.recordId : undefined;
    if (typeof id !== 'string') words.push(`${row.recordId}: ${taken.words}`);
    else {
      anew.set(row.recordId!, id);
      await known.remember({ system, entity: name }, id, row.before);
    }
  }
  for (const row of of(PART.references)) {
    const led = await leadBack(world, row, anew);
    if (led === undefined) moved += 1;
    else words.push(`${row.entity} ${row.recordId}: ${led}`);
  }
  for (const row of of(PART.values)) {
    const taken = await takeBack(row);
    if (!taken.done) words.push(`${row.recordId}: ${taken.words}`);
    else {
      const record = await world.read({ system, entity: name }, row.recordId!);
      await known.remember({ system, entity: name }, row.recordId!, record?.values ?? row.before);
    }
  }
  const again = [...anew].map(([old, id]) => `${old} is ${id} now`).join(', ');
  return { done: words.length === 0, moved, removed: anew.size, words: [again, ...words].filter(Boolean).join('; ') };
}

/** Has what led to a removed record lead to the one made in its place. @returns why not, or undefined */
async function leadBack(
  world: TurnWorld,
  row: LedgerRow,
  anew: ReadonlyMap<string, string>,
): Promise<string | undefined> {
  const target = { system: row.systemId, entity: row.entity };
  const former = Object.fromEntries(
    Object.entries(row.before).map(([field, id]) => [field, anew.get(String(id)) ?? id]),
  );
  const key = { step: PART.references, of: { entity: row.entity, record: row.recordId! }, undoes: row.id };
  const effect = await persistently(world, key, async () => {
    const record = await world.read(target, row.recordId!);
    const untouched = record && Object.keys(row.after).every((field) => record.values[field] === row.after[field]);
    return untouched ? { kind: 'update', target, record, values: former } : { kind: 'none' };
  });
  if (effect.state !== 'written') return effect.state === 'refused' ? effect.refusal.words : 'changed since';
  await world.markUndone(row);
  return undefined;
}

/** What the merge or link of a group has written. */
const changesOf = async ({ db, group }: Merging): Promise<LedgerRow[]> =>
  group.turn === null ? [] : ledgerOf(db, group.turn);

/** Leads the first record of a pair to the second, which is of another entity; on the ledger like any change. */
export async function link(merging: Merging, field: string): Promise<Merged> {
  const { system, entity, group } = merging;
  const [from = '', to = ''] = group.members;
  const world = await worldOf(merging, 'link');
  const target = { system, entity };
  const effect = await persistently(world, { step: PART.link }, async () => {
    const record = await world.read(target, from);
    return record ? { kind: 'update', target, record, values: { [field]: to } } : { kind: 'none' };
  });
  const done = effect.state === 'written';
  const words = done
    ? `${from} leads to ${to}.`
    : effect.state === 'refused'
      ? effect.refusal.words
      : `${from} is no longer there, or keeps changing.`;
  return { done, moved: done ? 1 : 0, removed: 0, words };
}

/** Takes such a lead back, where nobody has changed it since. */
export async function takeLinkBack(merging: Merging): Promise<Merged> {
  const row = (await changesOf(merging)).findLast(({ state, undoneBy }) => state === 'written' && undoneBy === null);
  if (!row) return { done: false, moved: 0, removed: 0, words: 'There is nothing to take back.' };
  const { done, words } = await takeBackChange(merging, row.id);
  return { done, moved: done ? 1 : 0, removed: 0, words };
}

function entityIn({ schemas, system, entity }: Pick<Merging, 'schemas' | 'system' | 'entity'>): Entity {
  const found = entityOf(schemas.get(system) ?? { entities: [] }, entity);
  if (!found) throw new Error(`${entity} can't be seen in the system.`);
  return found;
}

/** The system's entities with fields that lead to a record of this one and may be changed. */
function referencesTo({ schemas, system, entity }: Merging): { child: Entity; fields: string[] }[] {
  return (schemas.get(system)?.entities ?? []).flatMap((child) => {
    if (!child.rights.read || !child.rights.update) return [];
    const fields = child.fields.filter((field) => field.relation === entity && isWritable(field));
    return fields.length === 0 ? [] : [{ child, fields: fields.map(({ name }) => name) }];
  });
}

async function worldOf(merging: Merging, kind: Parameters<typeof turnOfGroup>[2]): Promise<TurnWorld> {
  const { db, systems, schemas, known, group, actor } = merging;
  return turnWorld({ db, systems, schemas, known, actor, turn: await turnOfGroup(db, group.id, kind, actor) });
}
