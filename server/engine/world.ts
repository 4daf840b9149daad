import { v7 as uuid } from 'uuid';
import type { Criterion, Effect, Intent, Target, World } from '@zusammen/core/plans';
import { entityOf, type Entity, type RecordState, type Schema, type Value, type Values } from '@zusammen/core/schema';
import { sameValue } from '@zusammen/core/values';
import {
  isDuplicate,
  newestAttempt,
  type Batcher,
  type Database,
  type LedgerEntry,
  type LedgerRow,
} from '../store/index.ts';
import type { Settlement } from './settle.ts';
import { NotUnderstood, type Answer, type System, type Systems } from '../systems/index.ts';

/** Thrown when another worker has taken this submission over: the work here ends without a trace. */
export class TakenOver extends Error {}

/** What an engine's world works with, for one submission. */
export interface Carrying {
  db: Database;
  systems: Pick<Systems, 'client'>;
  schemas: ReadonlyMap<string, Schema>;
  seq: number;
  /** First attempt of a fresh submission: nothing can stand in the ledger yet, so it isn't asked. */
  fresh: boolean;
  actor: string;
  clock: () => Date;
  /** Commits intents, those of several submissions together. */
  intents: Batcher<LedgerEntry, number>;
  /** Commits what was answered, before the turn ends. */
  flush: (settlements: Settlement[]) => Promise<unknown>;
}

/**
 * The engine's world: it reads and writes real systems, and every change stands in the ledger before it is sent.
 *
 * Invariant: per submission and effect at most one attempt is unsettled. One that is found unsettled was cut short
 * (a crash, a broken connection): it is sent again as it was, under the same repeatability key.
 */
export class EngineWorld implements World {
  /** What was answered and isn't on the ledger yet; it is written with the next intent or the end of the turn. */
  readonly settlements: Settlement[] = [];
  private readonly tried = new Set<string>();

  constructor(private readonly work: Carrying) {}

  async find(target: Target, criteria: Criterion[], limit: number): Promise<RecordState[]> {
    return (await this.work.systems.client(target.system)).find(this.entity(target), criteria, limit);
  }

  async read(target: Target, id: string): Promise<RecordState | undefined> {
    return (await this.work.systems.client(target.system)).read(this.entity(target), id);
  }

  async effect(key: string, decide: () => Promise<Intent>): Promise<Effect> {
    const earlier = this.work.fresh && !this.tried.has(key) ? undefined : await this.earlier(key);
    this.tried.add(key);
    if (earlier?.state === 'written') return { state: 'written', intent: intentOf(earlier), record: recordOf(earlier) };
    if (earlier?.state === 'intended') return this.carryOut(earlier, intentOf(earlier), true);
    const intent = await decide();
    if (intent.kind === 'none') {
      return intent.record
        ? { state: 'nothing to write', intent, record: intent.record }
        : { state: 'nothing to write', intent };
    }
    const row = await this.note(key, intent, (earlier?.attempt ?? 0) + 1);
    return this.carryOut(row, intent, false);
  }

  private entity({ system, entity }: Target): Entity {
    const found = entityOf(this.work.schemas.get(system) ?? { entities: [] }, entity);
    if (!found) throw new NotUnderstood(`${entity} can't be seen in the system.`);
    return found;
  }

  private async note(effect: string, intent: Exclude<Intent, { kind: 'none' }>, attempt: number): Promise<LedgerRow> {
    const record = intent.kind === 'update' ? intent.record : undefined;
    const before: Values = Object.fromEntries(
      Object.keys(intent.values).map((name) => [name, record?.values[name] ?? null]),
    );
    const entry = {
      submissionSeq: this.work.seq,
      effect,
      attempt,
      systemId: intent.target.system,
      entity: intent.target.entity,
      recordId: record?.id ?? null,
      action: intent.kind,
      before,
      after: intent.values,
      etagBefore: record?.etag ?? null,
      requestId: uuid(),
      state: 'intended' as const,
      intendedAt: this.work.clock(),
      actor: this.work.actor,
      undoes: null,
    };
    try {
      const id = await this.work.intents.add(entry);
      return { ...entry, id, undoneBy: null, settledAt: null, refusal: null, etagAfter: null };
    } catch (error) {
      if (isDuplicate(error)) throw new TakenOver();
      throw error;
    }
  }

  private async carryOut(row: LedgerRow, intent: Intent, again: boolean): Promise<Effect> {
    const system = await this.work.systems.client(row.systemId);
    const entity = this.entity({ system: row.systemId, entity: row.entity });
    const answer = await send(system, entity, row, again);
    this.settlements.push(settlementOf(row, answer, this.work.clock()));
    return effectOf(intent, answer);
  }

  /** What stands on the ledger of an effect, with what is known and not written yet. */
  private async earlier(key: string): Promise<LedgerRow | undefined> {
    await this.work.flush(this.settlements.splice(0));
    return newestAttempt(this.work.db, this.work.seq, key);
  }
}

/** Sends a change; one sent before, to a system that can't repeat requests, is looked for first. */
export async function send(system: System, entity: Entity, row: LedgerRow, again: boolean): Promise<Answer> {
  if (again && !system.capabilities.repeatability) {
    const done = await lookedUp(system, entity, row);
    if (done) return done;
  }
  const sending = { requestId: row.requestId, firstSent: row.intendedAt };
  if (row.action === 'create') return system.create(entity, row.after, sending);
  if (row.action === 'delete') return system.remove(entity, row.recordId!, row.etagBefore ?? undefined, sending);
  return system.update(entity, row.recordId!, row.after, row.etagBefore ?? undefined, sending);
}

/** Whether a change that was cut short took place, judged by what the system holds now; undefined when it didn't. */
async function lookedUp(system: System, entity: Entity, row: LedgerRow): Promise<Answer | undefined> {
  if (row.action === 'create') {
    const criteria = Object.entries(row.after)
      .filter(
        (entry): entry is [string, Exclude<Value, null | string[]>] => entry[1] !== null && !Array.isArray(entry[1]),
      )
      .map(([field, value]) => ({ field, value, folded: false }));
    const [found, ...more] = criteria.length === 0 ? [] : await system.find(entity, criteria, 2);
    return found && more.length === 0 ? { kind: 'done', record: found } : undefined;
  }
  const record = await system.read(entity, row.recordId!);
  if (row.action === 'delete') return record ? undefined : { kind: 'done', record: { id: row.recordId!, values: {} } };
  if (!record) return { kind: 'overtaken' };
  const there = Object.entries(row.after).every(([name, value]) => sameValue(record.values[name], value));
  if (there) return { kind: 'done', record };
  return row.etagBefore !== null && record.etag !== row.etagBefore ? { kind: 'overtaken' } : undefined;
}

/** What a system's answer means for the ledger. */
export function settlementOf(row: LedgerRow, answer: Answer, at: Date): Settlement {
  const settlement = { id: row.id, recordId: null, etagAfter: null, refusal: null, at };
  if (answer.kind === 'overtaken') return { ...settlement, state: 'overtaken' };
  if (answer.kind === 'refused') return { ...settlement, state: 'refused', refusal: answer.refusal };
  return { ...settlement, state: 'written', recordId: answer.record.id, etagAfter: answer.record.etag ?? null };
}

function effectOf(intent: Intent, answer: Answer): Effect {
  if (answer.kind === 'overtaken') return { state: 'overtaken' };
  if (answer.kind === 'refused') return { state: 'refused', intent, refusal: answer.refusal };
  return { state: 'written', intent, record: answer.record };
}

function intentOf(row: LedgerRow): Intent {
  const target = { system: row.systemId, entity: row.entity };
  if (row.action === 'create') return { kind: 'create', target, values: row.after };
  return { kind: 'update', target, record: recordBefore(row), values: row.after };
}

const recordBefore = (row: LedgerRow): RecordState => ({
  id: row.recordId ?? '',
  values: row.before,
  ...(row.etagBefore === null ? {} : { etag: row.etagBefore }),
});

const recordOf = (row: LedgerRow): RecordState => ({
  id: row.recordId ?? '',
  values: { ...row.before, ...row.after },
  ...(row.etagAfter === null ? {} : { etag: row.etagAfter }),
});
