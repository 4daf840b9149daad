import { v7 as uuid } from 'uuid';
import { entityOf, isWritable, renamesOver, type Entity, type Schema, type Values } from '@zusammen/core/schema';
import { isBlank, sameValue } from '@zusammen/core/values';
import {
  addTurn,
  isDuplicate,
  changesOfRecord,
  ledgerOf,
  ledgerRow,
  newestUndo,
  noteIntent,
  settleTakingBack,
  unsettled,
  type Database,
  type LedgerRow,
} from '../store/index.ts';
import { readingsOf, type System, type Systems } from '../systems/index.ts';
import { send } from './send.ts';
import { settlementOf } from './settle.ts';

/** What became of taking one change back. */
export interface TakenBack {
  change: number;
  done: boolean;
  /** In words: what was restored, or why nothing was. */
  words: string;
}

/** What taking back works with, and whose doing it is. */
export interface TakingBack {
  db: Database;
  systems: Pick<Systems, 'client'>;
  schemas: ReadonlyMap<string, Schema>;
  actor: string;
}

/** The turn of a taking back, begun with the first change it really takes back. @param of the turn that is taken back */
function lazyTurn({ db, actor }: TakingBack): (of: number) => Promise<number> {
  let begun: Promise<number> | undefined;
  return (of) => (begun ??= addTurn(db, { kind: 'taking back', subject: String(of), actor, actingPerson: null }));
}

/**
 * Takes one change back: a created record is deleted, changed fields get their former values; only what nobody has
 * changed since. The taking back is a turn of its own, on the ledger before it is sent.
 * @param turn where it belongs to a turn that is under way
 * @throws SystemUnavailable and the like when the system can't be reached; then it goes on later by itself
 */
export async function takeBackChange(
  work: TakingBack,
  id: number,
  turn: (of: number) => Promise<number> = lazyTurn(work),
): Promise<TakenBack> {
  const { db, systems, schemas } = work;
  const no = (words: string): TakenBack => ({ change: id, done: false, words });
  const written = await ledgerRow(db, id);
  if (!written || written.state !== 'written' || written.undoes !== null)
    return no('There is no such change to take back.');
  if (written.action === 'schema') return no('It is taken back with the change of the schema that it is part of.');
  if (written.undoneBy !== null) return no('It has been taken back already.');
  const entity = entityOf(schemas.get(written.systemId) ?? { entities: [] }, written.entity);
  if (!entity || written.recordId === null) return no(`${written.entity} can no longer be seen in the system.`);
  const change = await asCalledNow(db, entity, written);
  if (change.action !== 'create' && Object.keys({ ...change.before, ...change.after }).length === 0)
    return no('The former values have been forgotten, as the intake says.');
  const system = await systems.client(change.systemId);
  const begun = await newestUndo(db, id);
  if (begun?.state === 'intended') return finish(db, system, entity, change, begun, true);
  const plan = await whatToUndo(db, system, entity, change);
  if ('why' in plan) return no(plan.why);
  const { step, row, ofEntity, ofRecord } = change;
  const entry = {
    turn: await turn(change.turn),
    intakeId: change.intakeId,
    ...{ step, row, ofEntity, ofRecord },
    attempt: (begun?.attempt ?? 0) + 1,
    systemId: change.systemId,
    entity: change.entity,
    recordId: plan.action === 'create' ? null : change.recordId,
    action: plan.action,
    before: plan.before,
    after: plan.after,
    etagBefore: plan.etag ?? null,
    requestId: uuid(),
    state: 'intended' as const,
    intendedAt: new Date(),
    undoes: id,
  };
  try {
    const noted = { ...entry, id: await noteIntent(db, entry), actor: work.actor, actingPerson: null };
    const undo: LedgerRow = { ...noted, undoneBy: null, settledAt: null, refusal: null, etagAfter: null };
    return await finish(db, system, entity, change, undo, false, plan.kept);
  } catch (error) {
    if (isDuplicate(error)) return no('Somebody else is taking it back right now.');
    throw error;
  }
}

/** A change with its fields as they are called by now; one that is gone without a new name keeps the one it had. */
async function asCalledNow(db: Database, entity: Entity, change: LedgerRow): Promise<LedgerRow> {
  const there = new Set(entity.fields.map(({ name }) => name));
  if (Object.keys({ ...change.before, ...change.after }).every((name) => there.has(name))) return change;
  const now = await namesNow(db, entity, change.systemId);
  const called = (values: Values): Values =>
    Object.fromEntries(Object.entries(values).map(([name, value]) => [now.get(name) ?? name, value]));
  return { ...change, before: called(change.before), after: called(change.after) };
}

/** By the names that fields of an entity had, those they have: read once for each reading of it, however much is taken back. */
const NAMES = new WeakMap<Entity, Promise<ReadonlyMap<string, string>>>();

function namesNow(db: Database, entity: Entity, systemId: string): Promise<ReadonlyMap<string, string>> {
  const known = NAMES.get(entity);
  if (known) return known;
  const found = readingsOf(db, systemId).then(
    (readings) =>
      new Map(
        renamesOver(readings).flatMap(({ entity: of, was, is }) => (of === entity.name ? [[was, is] as const] : [])),
      ),
  );
  NAMES.set(entity, found);
  found.catch(() => NAMES.delete(entity));
  return found;
}

interface UndoPlan {
  action: 'create' | 'delete' | 'update';
  before: Values;
  after: Values;
  etag: string | undefined;
  /** Labels of fields that were changed since and are left alone. */
  kept: string[];
}

async function whatToUndo(
  db: Database,
  system: System,
  entity: Entity,
  change: LedgerRow,
): Promise<UndoPlan | { why: string }> {
  const record = await system.read(entity, change.recordId!);
  if (change.action === 'delete') {
    if (record) return { why: 'The record is there again already.' };
    const writable = entity.fields.filter((field) => isWritable(field) && !isBlank(change.before[field.name]));
    const after = Object.fromEntries(writable.map(({ name }) => [name, change.before[name]!]));
    return { action: 'create', before: {}, after, etag: undefined, kept: [] };
  }
  if (!record) return { why: 'The record is no longer there.' };
  if (change.action === 'create') {
    const left = await etagWeLeft(db, change);
    if (left === null)
      return {
        why: 'The system told no version of the record it made, so what was changed since can’t be told apart.',
      };
    if (record.etag !== left)
      return { why: 'The record has been changed since it was created; deleting it would lose that.' };
    return { action: 'delete', before: change.after, after: {}, etag: record.etag, kept: [] };
  }
  const names = Object.keys(change.after);
  const mine = names.filter((name) => sameValue(record.values[name], change.after[name]));
  const kept = names
    .filter((name) => !mine.includes(name))
    .map((name) => entity.fields.find((field) => field.name === name)?.label ?? name);
  if (mine.length === 0) return { why: `Changed again since: ${kept.join(', ')}.` };
  const pick = (values: Values): Values => Object.fromEntries(mine.map((name) => [name, values[name] ?? null]));
  return { action: 'update', before: pick(record.values), after: pick(change.before), etag: record.etag, kept };
}

/**
 * The version of a created record in which we left it: by later changes of the same turn, and by changes of others that
 * were taken back. As far as each was made to what the one before had left, nobody else has touched the record; a change
 * of another submission that still stands is somebody's, and is not stepped over.
 */
async function etagWeLeft(db: Database, created: LedgerRow): Promise<string | null> {
  const rows = await changesOfRecord(db, created);
  const byId = new Map(rows.map((row) => [row.id, row]));
  const reversed = (row: LedgerRow): boolean =>
    row.undoneBy !== null || (row.undoes !== null && byId.get(row.undoes)?.undoneBy === row.id);
  let etag = created.etagAfter;
  for (const row of rows) {
    if (row.id <= created.id || row.state !== 'written' || row.etagBefore !== etag) continue;
    if (row.turn === created.turn || reversed(row)) etag = row.etagAfter;
  }
  return etag;
}

async function finish(
  db: Database,
  system: System,
  entity: Entity,
  change: LedgerRow,
  undo: LedgerRow,
  again: boolean,
  kept: string[] = [],
): Promise<TakenBack> {
  const answer = await send(system, entity, undo, again);
  const settled = settlementOf(undo, answer, new Date());
  await settleTakingBack(db, undo, settled);
  if (answer.kind === 'overtaken')
    return { change: change.id, done: false, words: 'The record was changed at this very moment; look again.' };
  if (answer.kind === 'refused') return { change: change.id, done: false, words: answer.refusal.words };
  if (answer.kind === 'unclear')
    return {
      change: change.id,
      done: false,
      words: 'The connection broke, and it can’t be told whether the record is there again; look for it in the system.',
    };
  const did =
    undo.action === 'delete'
      ? 'The created record is deleted.'
      : undo.action === 'create'
        ? `A record with the former values is there again, as ${settled.recordId ?? 'a new one'}; what led to the old one does not lead to it.`
        : 'The former values are back.';
  return {
    change: change.id,
    done: true,
    words: kept.length === 0 ? did : `${did} Left alone, changed since: ${kept.join(', ')}.`,
  };
}

/**
 * Takes a submission's changes back, or those of one of its steps, or made since a moment, the last first; where all of them are, the submission
 * counts as taken back.
 */
export async function takeBackSubmission(
  work: TakingBack,
  { seq }: { seq: number },
  { step, since }: { step?: string; since?: Date } = {},
): Promise<TakenBack[]> {
  const written = (await ledgerOf(work.db, seq)).filter(
    (row) =>
      row.state === 'written' &&
      row.undoneBy === null &&
      (step === undefined || row.step === step) &&
      (since === undefined || row.intendedAt >= since),
  );
  const turn = lazyTurn(work);
  const results: TakenBack[] = [];
  for (const row of written.reverse()) results.push(await takeBackChange(work, row.id, turn));
  return results;
}

/** Finishes takings back that a crash cut short. Changes of submissions are finished by the workers. */
export async function recoverTakingBack(work: Omit<TakingBack, 'actor'>): Promise<void> {
  for (const row of await unsettled(work.db, 1000)) {
    if (row.undoes === null) continue;
    await takeBackChange({ ...work, actor: row.actor }, row.undoes);
  }
}
