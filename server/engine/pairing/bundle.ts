import { across, answered, SIDES, takeGone, type Side } from '@zusammen/core/pairing';
import type { Entity, Values } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import {
  idOn,
  inTransaction,
  isThere,
  keepSeen,
  markDue,
  postponeDue,
  seenOf,
  type Database,
  type DueRecord,
  type Query,
  type SeenRecord,
} from '../../store/index.ts';
import type { System, Systems } from '../../systems/index.ts';
import type { Known } from '../known/index.ts';
import { decide, settledPair, type Decided, type Doing, type OpenPair } from './decide.ts';
import { finish } from './finish.ts';
import { gather, type FeedsOf, type Gathered } from './gather.ts';
import { changesOfFields } from './history.ts';
import { knownOf } from './listener.ts';
import { keepWays, lookersOn, markLooking, stillLooking, type Lookers } from './lookers.ts';
import { followedBy, type Applied, type Pairings } from './view.ts';
import { weighLoose } from './weigh.ts';
import { carryOutWrites, type Write, type Written } from './write.ts';

/** What a bundle of due records is worked on with. */
export interface Working {
  db: Database;
  systems: Pick<Systems, 'client'>;
  pairing: Applied;
  feeds: FeedsOf;
  /** All that are applied: what is written for one is news to others. */
  pairings: Pick<Pairings, 'sidesOn' | 'throughs'>;
  /** The known records of entities that are recognised. */
  known: Pick<Known, 'weigh' | 'keysOf'>;
  /** Told which others have something to do. */
  told: (pairings: ReadonlySet<string>) => void;
}

let bundles = 0;

/**
 * Brings the pairs of some records that are due into step.
 * @returns how many records were written
 * @throws SystemTrouble where a system that has to be read can't be; nothing is lost by it
 */
export async function workBundle(work: Working, taken: readonly DueRecord[]): Promise<number> {
  const read = await readDoubtful(work, taken);
  const gathered = await gather(work.db, work.pairing, work.feeds, read);
  await weighLoose(work, gathered, read, work.known);
  const due = await withoutDoubt(work, gathered, await withoutCutShort(work, gathered, read));
  const decided = decide(work.pairing, gathered, due);
  await askWhenChanged(work, gathered, decided);
  await lookForLonely(work, gathered, decided);
  const writes = decided.doings.flatMap((doing) => writesOf(work.pairing, gathered, doing));
  bundles += 1;
  const { db, systems, pairing } = work;
  const written =
    writes.length === 0
      ? new Map<Doing, Written>()
      : await carryOutWrites({ db, systems, pairing, group: `pair ${pairing.id} ${bundles}` }, writes);
  const busy = new Set(writes.map(({ doing }) => doing).filter((doing) => !written.has(doing)));
  const ends = { left: await at(work, 'left'), right: await at(work, 'right') };
  work.told(await inTransaction(db, (query) => finish(query, { ...work, ends }, gathered, decided, written, busy)));
  return [...written.values()].reduce((sum, each) => sum + Object.keys(each.answers).length + each.deleted.length, 0);
}

/** Reads records in doubt from their systems. @returns all that is due, with the marks of now */
async function readDoubtful(work: Working, due: readonly DueRecord[]): Promise<DueRecord[]> {
  const { db, pairing, feeds } = work;
  const doubtful = due.filter(({ doubt }) => doubt);
  if (doubtful.length === 0) return [...due];
  for (const side of SIDES) {
    const ids = doubtful.filter((each) => each.side === side).map(({ recordId }) => recordId);
    if (ids.length === 0) continue;
    const before = await inTransaction(db, (query) => seenOf(query, feeds[side].id, ids));
    const { fields, entity, client, lookers } = await at(work, side);
    const records = await Promise.all(ids.map((id) => client.read(entity, id)));
    const now = Date.now();
    await inTransaction(db, async (query) => {
      if (!(await isThere(query, pairing.id))) return;
      const held = await seenOf(query, feeds[side].id, ids, true);
      const fresh: SeenRecord[] = [];
      const stillInDoubt: { id: string; doubt: boolean }[] = [];
      ids.forEach((id, index) => {
        const record = records[index];
        const known = held.get(id);
        if (!record) {
          if (known) fresh.push({ recordId: id, ...takeGone(known, Infinity).seen });
          return;
        }
        const { values, changedAt } = knownOf(record.values, fields, entity, client.clockAhead ?? 0);
        const read = known ? (before.get(id)?.version ?? -1) : 0;
        const taken = answered(known, read, { values, etag: record.etag, changedAt }, now);
        fresh.push({ recordId: id, ...taken.seen });
        if (taken.doubt) stillInDoubt.push({ id, doubt: true });
      });
      await keepSeen(query, feeds[side].id, 0, fresh);
      await keepWays(query, await stillLooking(query, lookers), fresh, held);
      await markDue(query, pairing.id, side, stillInDoubt, now);
    });
  }
  await inTransaction(db, (query) =>
    query('UPDATE pair_due SET doubt = FALSE WHERE pairing_id = ? AND (side, record_id, mark) IN (?)', [
      pairing.id,
      doubtful.map(({ side, recordId, mark }) => [side, recordId, mark]),
    ]),
  );
  return [...due];
}

/** Milliseconds until a pair whose turn was cut short is looked at again: what became of that is found out meanwhile. */
const CUT_SHORT_MS = 500;

/** Puts back what goes with a turn that was cut short: settled anew it would forget that turn, and what it has sent. */
export async function withoutCutShort(
  { db, pairing }: Pick<Working, 'db' | 'pairing'>,
  { pairs }: Pick<Gathered, 'pairs'>,
  due: readonly DueRecord[],
): Promise<readonly DueRecord[]> {
  const open = pairs.filter(({ turn }) => turn !== null);
  if (open.length === 0) return due;
  const later = due.filter(({ side, recordId }) => open.some((pair) => idOn(pair, side) === recordId));
  await inTransaction(db, (query) =>
    postponeDue(query, pairing.id, later, { dueAt: Date.now() + CUT_SHORT_MS, counts: false }),
  );
  return due.filter((each) => !later.includes(each));
}

/** Milliseconds until what is still in doubt is looked at again. */
const STILL_IN_DOUBT_MS = 50;

/**
 * Puts back what can't be decided yet: the record, or one that goes with it, is in doubt. By what was known of it before,
 * an older value would be taken for a change, and undo what has been written since.
 */
async function withoutDoubt(
  { db, pairing }: Working,
  { doubt, pairs, ways }: Gathered,
  due: readonly DueRecord[],
): Promise<DueRecord[]> {
  if (doubt.left.size + doubt.right.size === 0) return [...due];
  const open: Record<Side, Set<string>> = { left: new Set(doubt.left), right: new Set(doubt.right) };
  for (const { leftId, rightId } of pairs) {
    if (leftId !== null && rightId !== null && (doubt.left.has(leftId) || doubt.right.has(rightId))) {
      open.left.add(leftId);
      open.right.add(rightId);
    }
  }
  for (const side of SIDES)
    for (const [id, found] of ways[side])
      if (
        found.some(
          ({ mine, others }) =>
            mine.some((each) => doubt[side].has(each)) || others.some((each) => doubt[across(side)].has(each)),
        )
      )
        open[side].add(id);
  const later = due.filter(({ side, recordId }) => open[side].has(recordId));
  if (later.length > 0)
    await inTransaction(db, (query) =>
      postponeDue(query, pairing.id, later, { dueAt: Date.now() + STILL_IN_DOUBT_MS, counts: false }),
    );
  return due.filter((each) => !later.includes(each));
}

/** A side's system, which of its entity's fields are kept, and who looks at its records. */
export interface End {
  client: System;
  entity: Entity;
  fields: readonly string[];
  lookers: Lookers;
}

async function at(work: Working, side: Side): Promise<End> {
  const { pairing, systems, feeds } = work;
  const { system: id, entity: name } = pairing.document[side];
  const client: System = await systems.client(id);
  const followed = followedBy(pairing.document, pairing.ready).find(
    (each) => each.system === id && each.entity === name,
  );
  const { entity, schema } = pairing.ready.around[side];
  return { client, entity, fields: followed?.fields ?? [], lookers: await lookersOn(work, feeds[side], schema) };
}

/** Where both sides have changed and the newest counts, systems that keep it are asked when each field was changed. */
async function askWhenChanged(work: Working, gathered: Gathered, { doings }: Decided): Promise<void> {
  const changed = await changesOfFields(work, doings);
  if (changed.size === 0) return;
  gathered.changed = changed;
  for (const doing of doings)
    if (doing.todo.kind === 'settle') doing.todo.settled = settledPair(work.pairing, gathered, doing.pair);
}

/**
 * Before a record is made for one that seems to have none, the other system is asked: it may have one that hasn't been told
 * yet. What is found there is known from now on, and both are looked at again.
 */
async function lookForLonely(work: Working, gathered: Gathered, decided: Decided): Promise<void> {
  const { db, pairing, feeds } = work;
  const found = await Promise.all(decided.lonely.map((each) => counterpartsOf(work, each.due.side, each.record)));
  for (const [index, { due }] of decided.lonely.entries()) {
    const others = found[index]!;
    const to = across(due.side);
    if (others.length > 0) {
      const { lookers: known } = await at(work, to);
      await inTransaction(db, async (query) => {
        if (!(await isThere(query, pairing.id))) return;
        await keepNew(query, feeds[to].id, others);
        const lookers = await stillLooking(query, known);
        await keepWays(query, lookers, others);
        await markLooking(
          query,
          lookers,
          others.map(({ recordId }) => ({ id: recordId, doubt: false })),
        );
        await markDue(query, pairing.id, due.side, [{ id: due.recordId, doubt: false }], Date.now());
      });
      continue;
    }
    const pair: OpenPair = {
      id: 0,
      leftId: due.side === 'left' ? due.recordId : null,
      rightId: due.side === 'right' ? due.recordId : null,
      state: 'in step',
      base: {},
      decided: null,
      candidates: null,
    };
    const held = gathered.pairs.find((each) => idOn(each, due.side) === due.recordId);
    if (held) pair.id = held.id;
    decided.doings.push({
      pair,
      due: [due],
      todo: { kind: 'make', side: to, settled: settledPair(pairing, gathered, pair) },
    });
  }
}

/** Keeps records that a system was found to have, where nothing is known of them. */
async function keepNew(query: Query, feed: number, records: readonly SeenRecord[]): Promise<void> {
  const held = await seenOf(
    query,
    feed,
    records.map(({ recordId }) => recordId),
    true,
  );
  await keepSeen(
    query,
    feed,
    0,
    records.filter(({ recordId }) => held.get(recordId)?.gone !== false),
  );
}

async function counterpartsOf(work: Working, side: Side, record: SeenRecord): Promise<SeenRecord[]> {
  const to = across(side);
  const { fields, entity, client } = await at(work, to);
  for (const { parts } of work.pairing.document.matches) {
    const criteria = parts.flatMap((part) => {
      const [mine, ...moreMine] = part[side];
      const [theirs, ...moreTheirs] = part[to];
      const value = mine === work.pairing.ready.around[side].entity.key ? record.recordId : record.values[mine!];
      if (moreMine.length > 0 || moreTheirs.length > 0 || isBlank(value) || Array.isArray(value)) return [];
      const folded = entity.fields.find(({ name }) => name === theirs)?.type === 'email';
      return [{ field: theirs!, value: value!, folded }];
    });
    if (criteria.length < parts.length) continue;
    const [only, ...more] = criteria;
    const byId = only && more.length === 0 && only.field === entity.key;
    const one = byId ? await client.read(entity, String(only.value)) : undefined;
    const records = byId ? (one ? [one] : []) : await client.find(entity, criteria, 3, true);
    if (records.length === 0) continue;
    const now = Date.now();
    return records.map(({ id, etag, values: all }) => {
      const { values, changedAt } = knownOf(all, fields, entity, client.clockAhead ?? 0);
      return { recordId: id, values, etag, changedAt, asked: 0, touched: now, version: 1, gone: false };
    });
  }
  return [];
}

/** What is to be written for one pair. */
function writesOf(pairing: Applied, gathered: Gathered, doing: Doing): Write[] {
  const { pair, todo } = doing;
  if (todo.kind === 'delete')
    return [
      { doing, side: todo.side, action: 'delete', values: {}, record: recordOf(gathered, pair, todo.side), keys: [] },
    ];
  if (todo.kind === 'make') {
    const values = todo.settled.write[todo.side];
    return [
      {
        doing,
        side: todo.side,
        action: 'create',
        values,
        record: undefined,
        keys: keyLanes(pairing, todo.side, values),
      },
    ];
  }
  if (todo.kind !== 'settle') return [];
  return SIDES.flatMap((side): Write[] => {
    const values = todo.settled.write[side];
    if (Object.keys(values).length === 0) return [];
    return [{ doing, side, action: 'update', values, record: recordOf(gathered, pair, side), keys: [] }];
  });
}

const recordOf = (gathered: Gathered, pair: OpenPair, side: Side): SeenRecord | undefined => {
  const id = idOn(pair, side);
  return id === null ? undefined : gathered.seen[side].get(id);
};

/** The lanes in which a submission stands that may make the same record (core/plans, `lanesOf`). */
function keyLanes({ document }: Applied, side: Side, values: Values): string[] {
  const { system, entity } = document[side];
  return document.matches.flatMap(({ parts }) => {
    const said = parts.map((part) => {
      const [field, ...more] = part[side];
      return more.length > 0 || isBlank(values[field!])
        ? undefined
        : `${field}=${String(values[field!]).toLowerCase()}`;
    });
    return said.includes(undefined) ? [] : [`${system}/${entity}?${said.join('&')}`];
  });
}
