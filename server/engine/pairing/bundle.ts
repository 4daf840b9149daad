import { answered, baseAfter, takeGone, type LineSettled, type Side, type Sides } from '@zusammen/core/pairing';
import type { Entity, Values } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import {
  idOn,
  inTransaction,
  keepKeys,
  keepPairs,
  keepSeen,
  keepTroubles,
  leaveDue,
  leavePartners,
  markDue,
  noteBeat,
  postponeDue,
  removePairs,
  addPairs,
  seenOf,
  type Database,
  type DueRecord,
  type PairRow,
  type PairState,
  type Query,
  type SeenRecord,
  type Trouble,
} from '../../store/index.ts';
import type { System, Systems } from '../../systems/index.ts';
import { settleLedger } from '../settle.ts';
import { decide, settledPair, type Decided, type Doing, type OpenPair } from './decide.ts';
import { gather, type FeedsOf, type Gathered } from './gather.ts';
import { changesOfFields } from './history.ts';
import { hasPlainKeys, keyHashes, knownOf } from './listener.ts';
import { followedBy, type Applied } from './view.ts';
import { carryOutWrites, type Write, type Written } from './write.ts';

/** What a bundle of due records is worked on with. */
export interface Working {
  db: Database;
  systems: Pick<Systems, 'client'>;
  pairing: Applied;
  feeds: FeedsOf;
}

const SIDES: Side[] = ['left', 'right'];
const other = (side: Side): Side => (side === 'left' ? 'right' : 'left');

/** Milliseconds until what somebody else was at, or changed meanwhile, is looked at again; doubled each time. */
const AGAIN_MS = 60;
const LONGEST_MS = 10_000;
const again = (attempts: number): number => Math.min(LONGEST_MS, AGAIN_MS * 2 ** Math.min(attempts, 10));

let bundles = 0;

/**
 * Brings the pairs of some records that are due into step.
 * @returns how many records were written
 * @throws SystemTrouble where a system that has to be read can't be; nothing is lost by it
 */
export async function workBundle(work: Working, taken: readonly DueRecord[]): Promise<number> {
  const due = await readDoubtful(work, taken);
  const gathered = await gather(work.db, work.pairing, work.feeds, due);
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
  await inTransaction(db, (query) => finish(query, work, gathered, decided, written, busy));
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
    const { system, entity, client } = await at(work, side);
    const records = await Promise.all(ids.map((id) => client.read(entity, id)));
    const now = Date.now();
    await inTransaction(db, async (query) => {
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
        const { values, changedAt } = knownOf(record.values, system.fields, entity, client.clockAhead ?? 0);
        const read = known ? (before.get(id)?.version ?? -1) : 0;
        const taken = answered(known, read, { values, etag: record.etag, changedAt }, now);
        fresh.push({ recordId: id, ...taken.seen });
        if (taken.doubt) stillInDoubt.push({ id, doubt: true });
      });
      await keepSeen(query, feeds[side].id, 0, fresh);
      await keepPlainKeys(query, pairing, side, fresh);
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

/** A side's system, and which of its entity's fields are kept. */
async function at({ pairing, systems }: Working, side: Side) {
  const { system: id, entity: name } = pairing.document[side];
  const client: System = await systems.client(id);
  const followed = followedBy(pairing.document, pairing.ready).find(
    (each) => each.system === id && each.entity === name,
  );
  const entity: Entity = pairing.ready.around[side].entity;
  return { system: { id, fields: followed?.fields ?? [] }, entity, client };
}

async function keepPlainKeys(
  query: Query,
  pairing: Applied,
  side: Side,
  records: readonly SeenRecord[],
): Promise<void> {
  if (!hasPlainKeys(pairing.document.matches, side)) return;
  await keepKeys(
    query,
    pairing.id,
    side,
    records.map(({ recordId, values, gone }) => ({
      id: recordId,
      keys: gone ? [] : keyHashes(pairing, side, recordId, values),
    })),
  );
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
    const to = other(due.side);
    if (others.length > 0) {
      await inTransaction(db, async (query) => {
        await keepNew(query, feeds[to].id, others);
        await keepPlainKeys(query, pairing, to, others);
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
  const to = other(side);
  const { system, entity, client } = await at(work, to);
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
      const { values, changedAt } = knownOf(all, system.fields, entity, client.clockAhead ?? 0);
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

/** Puts down what came of a bundle, in one transaction. */
async function finish(
  query: Query,
  work: Working,
  gathered: Gathered,
  decided: Decided,
  written: ReadonlyMap<Doing, Written>,
  busy: ReadonlySet<Doing>,
): Promise<void> {
  const { pairing } = work;
  const now = Date.now();
  const all = [...written.values()];
  await settleLedger(
    query,
    all.flatMap(({ settlements }) => settlements),
  );
  const doubts = await keepAnswers(query, work, gathered, written, now);
  const kept: PairRow[] = [];
  const made: { pair: OpenPair; troubles: Trouble[] }[] = [];
  const removed: number[] = [];
  const troubles: Trouble[] = [];
  const done: DueRecord[] = [...decided.left];
  const soon: DueRecord[] = [];
  const later: DueRecord[] = [];
  for (const doing of decided.doings) {
    if (busy.has(doing)) {
      soon.push(...doing.due);
      continue;
    }
    const result = written.get(doing);
    const { pair, todo } = doing;
    removed.push(...(doing.replaces ?? []));
    if (result?.unknown) {
      // What became of it is found out by its turn, which stays open.
      later.push(...doing.due);
      continue;
    }
    if (todo.kind === 'remove' || (todo.kind === 'delete' && result?.deleted.length === 1)) {
      if (pair.id !== 0) removed.push(pair.id);
      done.push(...doing.due);
      continue;
    }
    const row = standsNow(pairing, doing, result, now);
    if (row.pair.id === 0) made.push(row);
    else {
      kept.push(row.pair);
      troubles.push(...row.troubles);
    }
    const isOvertaken = (result?.overtaken.length ?? 0) > 0;
    (isOvertaken ? soon : done).push(...doing.due);
  }
  await removePairs(query, removed);
  const ids = await addPairs(
    query,
    pairing.id,
    made.map(({ pair }) => pair),
    now,
  );
  for (const [at, { troubles: of }] of made.entries())
    troubles.push(...of.map((each) => ({ ...each, pair: ids[at]! })));
  await keepPairs(query, kept);
  await keepTroubles(query, pairing.id, [...kept.map(({ id }) => id), ...ids], troubles);
  await letGo(
    query,
    all.filter(({ unknown }) => !unknown).map(({ turn }) => turn),
  );
  await leaveDue(query, pairing.id, done, now);
  await leavePartners(query, pairing.id, partnersOf(decided, done), gathered.at);
  for (const each of soon)
    await postponeDue(query, pairing.id, [each], { dueAt: now + again(each.attempts), counts: true });
  await postponeDue(query, pairing.id, later, { dueAt: now + 2_000 });
  for (const side of SIDES)
    await markDue(
      query,
      pairing.id,
      side,
      doubts[side].map((id) => ({ id, doubt: true })),
      now,
    );
  const behind = done.length === 0 ? 0 : now - Math.min(...done.map(({ since }) => since));
  await noteBeat(
    query,
    pairing.id,
    behind,
    all.reduce((sum, each) => sum + Object.keys(each.answers).length, 0),
  );
}

/** Everybody else may work on what these turns held. */
async function letGo(query: Query, turns: readonly number[]): Promise<void> {
  if (turns.length > 0) await query('DELETE FROM lane_holders WHERE turn IN (?)', [turns]);
}

/** The other records of the pairs that were looked at: what was due about them before is done with as well. */
function partnersOf({ doings }: Decided, done: readonly DueRecord[]): Pick<DueRecord, 'side' | 'recordId'>[] {
  const looked = new Set(done);
  return doings.flatMap(({ pair, due }) =>
    due.flatMap((each) => {
      const id = idOn(pair, other(each.side));
      return looked.has(each) && id !== null ? [{ side: other(each.side), recordId: id }] : [];
    }),
  );
}

/** Keeps what systems have answered. @returns records of which something else became known meanwhile */
async function keepAnswers(
  query: Query,
  { pairing, feeds, systems }: Working,
  gathered: Gathered,
  written: ReadonlyMap<Doing, Written>,
  now: number,
): Promise<Sides<string[]>> {
  const doubts: Sides<string[]> = { left: [], right: [] };
  for (const side of SIDES) {
    const answers = [...written].flatMap(([doing, { answers: of }]) => {
      const answer = of[side];
      return answer ? [{ doing, ...answer }] : [];
    });
    for (const [doing, { overtaken }] of written) {
      const id = idOn(doing.pair, side);
      if (overtaken.includes(side) && id !== null) doubts[side].push(id);
    }
    if (answers.length === 0) continue;
    const { system: id } = pairing.document[side];
    const entity = pairing.ready.around[side].entity;
    const client = await systems.client(id);
    const fields = followedBy(pairing.document, pairing.ready).find(
      (each) => each.system === id && each.entity === entity.name,
    )!.fields;
    const held = await seenOf(
      query,
      feeds[side].id,
      answers.map(({ record }) => record.id),
      true,
    );
    const fresh: SeenRecord[] = [];
    for (const { record, sent } of answers) {
      const known = knownOf({ ...sent, ...record.values }, fields, entity, client.clockAhead ?? 0);
      const read = gathered.seen[side].get(record.id)?.version ?? 0;
      const taken = answered(held.get(record.id), read, { ...known, etag: record.etag }, now);
      fresh.push({ recordId: record.id, ...taken.seen });
      if (taken.doubt) doubts[side].push(record.id);
    }
    await keepSeen(query, feeds[side].id, feeds[side].generation, fresh);
    await keepPlainKeys(query, pairing, side, fresh);
  }
  return doubts;
}

/** How a pair stands after its turn, and what of it waits. */
function standsNow(
  pairing: Applied,
  { pair, todo }: Doing,
  result: Written | undefined,
  now: number,
): { pair: PairRow; troubles: Trouble[] } {
  const row: PairRow = { ...pair, pairingId: pairing.id, turn: null, pending: null, settledAt: now };
  if (todo.kind !== 'settle' && todo.kind !== 'make') return { pair: row, troubles: [] };
  const answer = (side: Side): Values | undefined => {
    const held = result?.answers[side];
    return held && { ...held.sent, ...held.record.values };
  };
  const refused = (side: Side): ReadonlyMap<string, string> => result?.refused[side] ?? new Map<string, string>();
  row.base = baseAfter(
    pair.base,
    todo.settled,
    { left: answer('left'), right: answer('right') },
    { left: new Set(refused('left').keys()), right: new Set(refused('right').keys()) },
  );
  row.candidates = null;
  const troubles = todo.settled.lines.flatMap((line) => troubleOf(pairing, row.id, line, refused));
  if (todo.kind === 'make') {
    const madeId = result?.answers[todo.side]?.record.id ?? null;
    if (todo.side === 'left') row.leftId = madeId;
    else row.rightId = madeId;
    const words = refused(todo.side).get('');
    if (words !== undefined) {
      row.base = {};
      troubles.splice(0, Infinity, wholeTrouble(pairing, row.id, todo.side, words));
    }
  }
  const isAsked = troubles.some(({ kind }) => kind === 'asked');
  const state: PairState = isAsked ? 'asked' : troubles.length > 0 ? 'refused' : 'in step';
  return { pair: { ...row, state }, troubles };
}

function troubleOf(
  pairing: Applied,
  pair: number,
  { key, line, ask, stuck, write, base, now }: LineSettled,
  refused: (side: Side) => ReadonlyMap<string, string>,
): Trouble[] {
  const of = (kind: Trouble['kind'], side: Side, words: string): Trouble => {
    const entity = pairing.ready.around[side].entity;
    const field = entity.fields.find(({ name }) => name === line[side].path[0]);
    // What an option list lacks is named by the option; of other values only what is wrong with them is the same.
    const same = field?.options ? words : words.replace(/“[^”]*”/gu, '“”').replace(/\d+/g, '0');
    return { pair, lineKey: key, lineId: line.id, kind, side, words, cause: `${key} ${side} ${same}`, base, now };
  };
  if (ask) return [of('asked', 'left', 'Both sides have changed.')];
  if (stuck) return [of('refused', stuck.side, stuck.reason)];
  const side = SIDES.find((each) => write[each] !== undefined);
  const words = side && refused(side).get(line[side].path[0]!);
  return words === undefined ? [] : [of('refused', side!, words)];
}

/** What is refused of a record as a whole: it couldn't be made. */
const wholeTrouble = (pairing: Applied, pair: number, side: Side, words: string): Trouble => ({
  ...{ pair, lineKey: '', lineId: '', kind: 'refused', side, words, base: undefined, now: { left: null, right: null } },
  cause: `${pairing.document[side].entity} ${words.replace(/“[^”]*”/gu, '“”')}`,
});
