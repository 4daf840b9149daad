import { v7 as uuid } from 'uuid';
import type { PairSettled, Side, Sides } from '@zusammen/core/pairing';
import type { Refusal } from '@zusammen/core/plans';
import { mustBeGiven, type Entity, type RecordState, type Value, type Values } from '@zusammen/core/schema';
import { sameValue } from '@zusammen/core/values';
import {
  addPairs,
  BY_CONNECTION,
  hashed,
  idOn,
  inTransaction,
  isAtWork,
  ledgerEntered,
  noteTurns,
  type Database,
  type LedgerEntry,
  type LedgerRow,
  type Query,
  type SeenRecord,
} from '../../store/index.ts';
import { isSystemTrouble, type Answer, type System, type Systems } from '../../systems/index.ts';
import { send } from '../send.ts';
import { settlementOf, type Settlement } from '../settle.ts';
import type { Doing } from './decide.ts';
import type { Applied } from './view.ts';

/** One record that is to be written, made or deleted, for a pair. */
export interface Write {
  doing: Doing;
  side: Side;
  action: 'create' | 'update' | 'delete';
  values: Values;
  /** The record as it is known; absent for one that is to be made. */
  record: SeenRecord | undefined;
  /** What else has to be let alone meanwhile: keys by which a submission may make the same record. */
  keys: readonly string[];
}

/** What came of writing for one pair. */
export interface Written {
  turn: number;
  /** By side, the record as the system answered it, and what was sent of it. */
  answers: Partial<Record<Side, { record: RecordState; sent: Values }>>;
  /** Fields that were refused, with the words, by side; '' stands for the record itself. */
  refused: Partial<Record<Side, Map<string, string>>>;
  /** Somebody else changed a record meanwhile. */
  overtaken: Side[];
  deleted: Side[];
  /** Something was sent and it isn't known what became of it: it is found out later. */
  unknown: boolean;
  settlements: Settlement[];
}

export interface Writing {
  db: Database;
  systems: Pick<Systems, 'client'>;
  pairing: Applied;
  /** Names this bundle: what is written for it may go out in one batch. */
  group: string;
}

/** Where a refusal names no field, at most so many are tried by themselves; the rest counts as refused. */
const MOST_BY_THEMSELVES = 40;

/**
 * Carries out what is to be written for some pairs. Every change stands in the ledger before it is sent, under the turn of
 * its pair; nobody else is at work on the records meanwhile.
 * @returns what came of it by doing; those whose records somebody else is at work on are left out
 */
export async function carryOutWrites(work: Writing, writes: readonly Write[]): Promise<Map<Doing, Written>> {
  const begun = await begin(work, writes);
  const results = new Map([...begun.turns].map(([doing, turn]) => [doing, nothing(turn)]));
  let round = begun.rows;
  while (round.length > 0) {
    const answers = await Promise.all(round.map((each) => sent(work, each)));
    const next: Attempt[] = [];
    round.forEach((each, at) => {
      const written = results.get(each.write.doing)!;
      const more = take(work.pairing, each, answers[at]!, written);
      if (more) next.push(more);
    });
    round = next.length === 0 ? [] : await noteAttempts(work, next);
  }
  return results;
}

const nothing = (turn: number): Written => ({
  ...{ turn, answers: {}, refused: {}, overtaken: [], deleted: [], unknown: false, settlements: [] },
});

/** A change that is to be sent, before it stands in the ledger, and with its row once it does. */
interface Attempt {
  write: Write;
  turn: number;
  attempt: number;
  values: Values;
  /** What is tried after it, one by one: each names the version that the one before has left. */
  later: readonly Values[];
  /** The record's version, where it isn't the one that was known at first: we have written it since. */
  etag?: string | undefined;
}
interface Noted extends Attempt {
  row: LedgerRow;
}

/** Begins the turns of pairs: in one transaction with the lanes they hold and what they mean to write. */
async function begin(
  { db, pairing }: Writing,
  writes: readonly Write[],
): Promise<{ turns: Map<Doing, number>; rows: Noted[] }> {
  const byDoing = new Map<Doing, Write[]>();
  for (const write of writes) byDoing.set(write.doing, [...(byDoing.get(write.doing) ?? []), write]);
  return inTransaction(db, async (query) => {
    if (!(await isAtWork(query, pairing.id))) return { turns: new Map(), rows: [] };
    // Run again after a deadlock, nothing of the first run is kept.
    const doings = [...byDoing.keys()];
    const fresh = doings.filter(({ pair }) => pair.id === 0);
    const ids = await addPairs(
      query,
      pairing.id,
      fresh.map(({ pair }) => pair),
      Date.now(),
    );
    const idOf = new Map(fresh.map((doing, at) => [doing, ids[at]!]));
    const at = new Date();
    const turns = await query<{ id: number }>(
      'INSERT INTO turns (kind, subject, actor, acting_person, at) VALUES ? RETURNING id',
      [doings.map((doing) => ['pair', String(idOf.get(doing) ?? doing.pair.id), BY_CONNECTION, null, at])],
    );
    const turnOf = new Map(doings.map((doing, index) => [doing, Number(turns[index]!.id)]));
    const busy = await hold(query, pairing, byDoing, turnOf);
    const free = doings.filter((doing) => !busy.has(doing));
    const lost = doings.filter((doing) => busy.has(doing));
    if (lost.length > 0) {
      await query('DELETE FROM turns WHERE id IN (?)', [lost.map((doing) => turnOf.get(doing))]);
      const lostNew = lost.flatMap((doing) => idOf.get(doing) ?? []);
      if (lostNew.length > 0) await query('DELETE FROM pairs WHERE id IN (?)', [lostNew]);
    }
    const attempts = free.flatMap((doing) =>
      byDoing
        .get(doing)!
        .map((write): Attempt => ({ write, turn: turnOf.get(doing)!, attempt: 1, values: write.values, later: [] })),
    );
    await noteTurns(
      query,
      pairing.id,
      free.map((doing) => ({
        id: idOf.get(doing) ?? doing.pair.id,
        turn: turnOf.get(doing)!,
        pending: pendingOf(doing),
      })),
    );
    const rows = await note(query, pairing, attempts);
    for (const doing of free) doing.pair.id = idOf.get(doing) ?? doing.pair.id;
    return { turns: new Map(free.map((doing) => [doing, turnOf.get(doing)!])), rows };
  });
}

/** What both sides of a pair hold once its writes have taken place, for whoever finds them cut short. */
function pendingOf({ todo }: Doing): Record<string, { side: Side; base: Sides<Value> }> {
  const settled: PairSettled | undefined = todo.kind === 'settle' || todo.kind === 'make' ? todo.settled : undefined;
  const pending: Record<string, { side: Side; base: Sides<Value> }> = {};
  for (const { key, write, base } of settled?.lines ?? []) {
    const side = write.left !== undefined ? 'left' : 'right';
    if (write[side] !== undefined && base) pending[key] = { side, base };
  }
  return pending;
}

/** Takes hold of the lanes of records, and of keys. @returns the doings that didn't get all of theirs */
async function hold(
  query: Query,
  { document }: Applied,
  byDoing: ReadonlyMap<Doing, readonly Write[]>,
  turnOf: ReadonlyMap<Doing, number>,
): Promise<Set<Doing>> {
  const wanted = [...byDoing].flatMap(([doing, writes]) => {
    const records = (['left', 'right'] as const).flatMap((side) => {
      const id = idOn(doing.pair, side);
      return id === null ? [] : [laneOfRecord(document[side].system, document[side].entity, id)];
    });
    const keys = writes.flatMap((write) => write.keys);
    return [...new Set([...records, ...keys])].map((lane) => ({ doing, turn: turnOf.get(doing)!, lane: hashed(lane) }));
  });
  if (wanted.length === 0) return new Set();
  // In the order of lanes, so that two who hold the same can't wait for each other.
  wanted.sort((a, b) => Buffer.compare(a.lane, b.lane));
  await query('INSERT IGNORE INTO lane_holders (lane, turn) VALUES ?', [wanted.map(({ lane, turn }) => [lane, turn])]);
  const holders = await query<{ lane: Buffer; turn: number }>('SELECT lane, turn FROM lane_holders WHERE lane IN (?)', [
    wanted.map(({ lane }) => lane),
  ]);
  const holder = new Map(holders.map(({ lane, turn }) => [lane.toString('hex'), Number(turn)]));
  const busy = new Set(
    wanted.filter(({ lane, turn }) => holder.get(lane.toString('hex')) !== turn).map(({ doing }) => doing),
  );
  if (busy.size > 0)
    await query('DELETE FROM lane_holders WHERE turn IN (?)', [[...busy].map((doing) => turnOf.get(doing))]);
  return busy;
}

/** The lane of one record: whoever writes it while a pairing looks at it holds it. */
export const laneOfRecord = (system: string, entity: string, id: string): string => `${system}/${entity}#${id}`;

const noteAttempts = ({ db, pairing }: Writing, attempts: readonly Attempt[]): Promise<Noted[]> =>
  inTransaction(db, (query) => note(query, pairing, attempts));

async function note(query: Query, pairing: Applied, attempts: readonly Attempt[]): Promise<Noted[]> {
  if (attempts.length === 0) return [];
  const entries = attempts.map((attempt) => entryOf(pairing, attempt));
  const ids = await ledgerEntered(query, entries);
  return attempts.map((attempt, at) => ({
    ...attempt,
    row: {
      ...entries[at]!,
      id: ids[at]!,
      ...{ undoneBy: null, settledAt: null, refusal: null, etagAfter: null, actor: BY_CONNECTION, actingPerson: null },
    },
  }));
}

function entryOf({ document }: Applied, { write, turn, attempt, values, etag }: Attempt): LedgerEntry {
  const { doing, side, action, record } = write;
  const before =
    action === 'delete'
      ? (record?.values ?? {})
      : Object.fromEntries(Object.keys(values).map((name) => [name, record?.values[name] ?? null]));
  return {
    turn,
    intakeId: null,
    step: side,
    row: 0,
    ofEntity: '',
    ofRecord: '',
    attempt,
    systemId: document[side].system,
    entity: document[side].entity,
    recordId: action === 'create' ? null : idOn(doing.pair, side),
    action,
    before,
    after: values,
    etagBefore: etag ?? record?.etag ?? null,
    requestId: uuid(),
    state: 'intended',
    intendedAt: new Date(),
    undoes: null,
  };
}

async function sent({ systems, pairing, group }: Writing, { write, row }: Noted): Promise<Answer | 'unknown'> {
  const { system } = pairing.document[write.side];
  const { entity } = pairing.ready.around[write.side];
  const client = await systems.client(system);
  try {
    if (row.etagBefore === null && (await isOvertaken(client, entity, write, row))) return { kind: 'overtaken' };
  } catch (error) {
    // Nothing was sent yet: it is read, and decided, again.
    if (isSystemTrouble(error)) return { kind: 'overtaken' };
    throw error;
  }
  try {
    return await send(client, entity, row, false, { group, atomic: false });
  } catch (error) {
    if (isSystemTrouble(error)) return 'unknown';
    throw error;
  }
}

/**
 * Whether somebody has changed what is about to be written, in a system that gives no versions by which it would notice
 * itself. It may have told nothing of that for minutes; what is left is the moment between this reading and the write.
 */
async function isOvertaken(
  client: System,
  entity: Entity,
  { action, record }: Write,
  row: LedgerRow,
): Promise<boolean> {
  if (action === 'create' || !record || row.attempt > 1) return false;
  const now = await client.read(entity, row.recordId!);
  return !now || Object.entries(row.before).some(([name, value]) => !sameValue(now.values[name], value));
}

/** Takes an answer in. @returns what is to be tried next, where some of it was refused */
function take({ ready }: Applied, noted: Noted, answer: Answer | 'unknown', written: Written): Attempt | undefined {
  const { write, row, values, later } = noted;
  const { side, action } = write;
  if (answer === 'unknown') {
    written.unknown = true;
    return undefined;
  }
  written.settlements.push(settlementOf(row, answer, new Date()));
  if (answer.kind === 'overtaken') {
    written.overtaken.push(side);
    return undefined;
  }
  if (answer.kind === 'done') {
    if (action === 'delete') written.deleted.push(side);
    else written.answers[side] = { record: answer.record, sent: { ...written.answers[side]?.sent, ...values } };
    return following(noted, later, answer.record.etag);
  }
  const refused = (written.refused[side] ??= new Map<string, string>());
  if (answer.kind === 'unclear') {
    refused.set('', 'It can’t be told whether a record was made.');
    return undefined;
  }
  const { now, rest } = parted(answer.refusal, values, ready.around[side].entity, action);
  for (const [field, words] of now) refused.set(field, words);
  for (const each of rest.slice(MOST_BY_THEMSELVES))
    for (const field of Object.keys(each)) refused.set(field, answer.refusal.words);
  return following(noted, [...rest.slice(0, MOST_BY_THEMSELVES), ...later], noted.etag);
}

/** The next of what is left to be tried. */
function following(
  { write, turn, attempt }: Attempt,
  [values, ...later]: readonly Values[],
  etag: string | undefined,
): Attempt | undefined {
  return values && { write, turn, attempt: attempt + 1, values, later, etag };
}

/** What of a refused write is refused for sure, and what may go in without it. */
function parted(
  refusal: Refusal,
  values: Values,
  entity: Entity,
  action: Write['action'],
): { now: [string, string][]; rest: Values[] } {
  const names = Object.keys(values);
  const named = refusal.fields.filter(({ field }) => names.includes(field));
  const isNeeded = (name: string): boolean => {
    const field = entity.fields.find((each) => each.name === name);
    return action === 'create' && field !== undefined && mustBeGiven(field);
  };
  if (named.length > 0) {
    if (named.some(({ field }) => isNeeded(field))) return { now: [['', refusal.words]], rest: [] };
    const out = new Set(named.map(({ field }) => field));
    const rest = Object.fromEntries(Object.entries(values).filter(([name]) => !out.has(name)));
    return { now: named.map(({ field, words }) => [field, words]), rest: Object.keys(rest).length === 0 ? [] : [rest] };
  }
  if (action !== 'update' || names.length === 1)
    return { now: action === 'update' ? [[names[0]!, refusal.words]] : [['', refusal.words]], rest: [] };
  // It names none of them: one at a time says which.
  return { now: [], rest: names.map((name) => ({ [name]: values[name]! })) };
}
