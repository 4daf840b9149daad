import { v7 as uuid } from 'uuid';
import type { Criterion, Effect, EffectKey, Intent, Target, Weighing, World } from '@zusammen/core/plans';
import { entityOf, type Entity, type RecordState, type Schema, type Values } from '@zusammen/core/schema';
import {
  isDuplicate,
  ledgerOf,
  newestAttempt,
  type Batcher,
  type Database,
  type LedgerEntry,
  type LedgerKey,
  type LedgerRow,
  hashed,
} from '../store/index.ts';
import type { Known } from './known/index.ts';
import { send } from './send.ts';
import { holdLanesOf } from './claim.ts';
import { laneOfRecord, placeOf } from './pairing/index.ts';
import { settlementOf, TakenOver, type Settlement } from './settle.ts';
import { takeBackChange } from './take-back.ts';
import { NotUnderstood, type Answer, type Systems } from '../systems/index.ts';

/** An effect of any turn: also of one that has no plan, such as a merge, whose parts may be about many records. */
export interface TurnEffect extends EffectKey {
  of?: { entity: string; record: string };
  /** The change on the ledger that it takes back. */
  undoes?: number;
}

/** Somebody else is at work on a record that this turn has found out it is about: it is put off until they are done. */
export class LaneBusy extends Error {}

/** What an engine's world works with, for one submission. */
export interface Carrying {
  db: Database;
  systems: Pick<Systems, 'client'>;
  schemas: ReadonlyMap<string, Schema>;
  known: Known;
  /** Entities (`system/entity`) recognised by evidence here: what is written of them must be known at once. */
  byEvidence: ReadonlySet<string>;
  /** Entities (`placeOf`) whose records are kept in step with others: whoever changes one has it to itself meanwhile. */
  paired: ReadonlySet<string>;
  /** The turn it is carried out for; a submission's place. */
  turn: number;
  /** The submission's claim; null for changes that no submission makes, which have lanes of their own. */
  claim: number | null;
  /** Null for changes that no submission makes. */
  intakeId: string | null;
  /** First attempt of a fresh submission: nothing can stand in the ledger yet, so it isn't asked. */
  fresh: boolean;
  /** Who takes back what a step wrote, where the plan says so. */
  actor: string;
  /** Whom systems take for acting, where somebody acts as themselves; absent: the connection does. */
  actingPerson?: string | undefined;
  /** Who acts has changed since it was begun: what was sent before was sent by another. */
  changedHands?: boolean;
  /** A record that has just been read, so that it isn't read twice. */
  justRead?: { target: Target; record: RecordState } | undefined;
  /** The rows of a step are wanted all, or none. */
  atomic: boolean;
  clock: () => Date;
  /** Commits intents, those of several submissions together. */
  intents: Batcher<LedgerEntry, number>;
  /** Commits what was answered, before the turn ends. */
  flush: (settlements: Settlement[]) => Promise<unknown>;
}

/**
 * The engine's world: it reads and writes real systems, and every change stands in the ledger before it is sent.
 *
 * Invariant: per turn and effect at most one attempt is unsettled. One that is found unsettled was cut short
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
    const { justRead } = this.work;
    // Once: whoever reads it again wants to know what has become of it.
    this.work.justRead = undefined;
    if (
      justRead?.record.id === id &&
      justRead.target.system === target.system &&
      justRead.target.entity === target.entity
    )
      return justRead.record;
    return (await this.work.systems.client(target.system)).read(this.entity(target), id);
  }

  async hold(lanes: readonly string[]): Promise<void> {
    const { db, turn, claim } = this.work;
    if (claim === null) return;
    const held = await holdLanesOf(db, turn, claim, lanes.map(hashed));
    if (held === 'taken over') throw new TakenOver();
    if (held === 'busy') throw new LaneBusy();
  }

  weigh(target: Target, values: Values, limit: number): Promise<Weighing | undefined> {
    return this.work.known.weigh(this, target, values, limit);
  }

  async effect(key: TurnEffect, decide: () => Promise<Intent>): Promise<Effect> {
    const name = JSON.stringify(ledgerKey(key));
    const earlier = this.work.fresh && !this.tried.has(name) ? undefined : await this.earlier(key);
    this.tried.add(name);
    // What was taken back is done anew.
    if (earlier?.state === 'written' && earlier.undoneBy === null)
      return { state: 'written', intent: intentOf(earlier), record: recordOf(earlier) };
    if (earlier?.state === 'intended')
      return this.carryOut(earlier, intentOf(earlier), this.work.changedHands ? 'by another' : true);
    const intent = await decide();
    if (intent.kind === 'none') {
      return intent.record
        ? { state: 'nothing to write', intent, record: intent.record }
        : { state: 'nothing to write', intent };
    }
    await this.holdPaired(intent);
    const row = await this.note(key, intent, (earlier?.attempt ?? 0) + 1);
    return this.carryOut(row, intent, false);
  }

  /** Keeps pairings from a record that is about to be changed, where any look at it. */
  private async holdPaired(intent: Exclude<Intent, { kind: 'none' }>): Promise<void> {
    if (intent.kind === 'create') return;
    const { system, entity } = intent.target;
    if (this.work.paired.has(placeOf(system, entity)))
      await this.hold([laneOfRecord(system, entity, intent.record.id)]);
  }

  async settledRows(step: string): Promise<ReadonlySet<number>> {
    if (this.work.fresh && this.tried.size === 0) return new Set();
    const rows = await ledgerOf(this.work.db, this.work.turn);
    const done = rows.filter(
      (row) => row.step === step && row.undoneBy === null && row.state !== 'refused' && row.state !== 'unclear',
    );
    return new Set(done.flatMap(({ row }) => (row === 0 ? [] : [row - 1])));
  }

  async undo(key: EffectKey): Promise<{ done: boolean; words: string }> {
    const row = await this.earlier(key);
    if (row?.state !== 'written') return { done: false, words: 'There is nothing to take back.' };
    const { db, systems, schemas, actor } = this.work;
    return takeBackChange({ db, systems, schemas, actor }, row.id);
  }

  private entity({ system, entity }: Target): Entity {
    const found = entityOf(this.work.schemas.get(system) ?? { entities: [] }, entity);
    if (!found) throw new NotUnderstood(`${entity} can't be seen in the system.`);
    return found;
  }

  private async note(key: TurnEffect, intent: Exclude<Intent, { kind: 'none' }>, attempt: number): Promise<LedgerRow> {
    const record = intent.kind === 'create' ? undefined : intent.record;
    const after: Values = intent.kind === 'delete' ? {} : intent.values;
    const before: Values =
      intent.kind === 'delete'
        ? intent.record.values
        : Object.fromEntries(Object.keys(after).map((name) => [name, record?.values[name] ?? null]));
    const entry = {
      turn: this.work.turn,
      intakeId: this.work.intakeId,
      ...ledgerKey(key),
      attempt,
      systemId: intent.target.system,
      entity: intent.target.entity,
      recordId: record?.id ?? null,
      action: intent.kind,
      before,
      after,
      etagBefore: record?.etag ?? null,
      requestId: uuid(),
      state: 'intended' as const,
      intendedAt: this.work.clock(),
      undoes: key.undoes ?? null,
    };
    try {
      const id = await this.work.intents.add(entry);
      const { actor, actingPerson = null } = this.work;
      return {
        ...entry,
        id,
        undoneBy: null,
        settledAt: null,
        refusal: null,
        etagAfter: null,
        actor,
        actingPerson,
      };
    } catch (error) {
      if (isDuplicate(error)) throw new TakenOver();
      throw error;
    }
  }

  private async carryOut(row: LedgerRow, intent: Intent, again: boolean | 'by another'): Promise<Effect> {
    const system = await this.work.systems.client(row.systemId);
    const entity = this.entity({ system: row.systemId, entity: row.entity });
    const group = groupOf(row);
    const together = group === undefined ? undefined : { group, atomic: this.work.atomic };
    const answer = await send(system, entity, row, again, together);
    // Before the turn can end, so that whoever waits behind it finds the record.
    if (answer.kind === 'done' && row.action !== 'delete' && this.work.byEvidence.has(`${row.systemId}/${row.entity}`))
      await this.work.known.remember({ system: row.systemId, entity: row.entity }, answer.record.id, {
        ...row.before,
        ...(intent.kind === 'update' ? intent.record.values : {}),
        ...row.after,
        ...answer.record.values,
      });
    this.settlements.push(settlementOf(row, answer, this.work.clock()));
    return effectOf(intent, answer);
  }

  /** What stands on the ledger of an effect, with what is known and not written yet. */
  private async earlier(key: TurnEffect): Promise<LedgerRow | undefined> {
    await this.work.flush(this.settlements.splice(0));
    return newestAttempt(this.work.db, this.work.turn, ledgerKey(key));
  }
}

/** The rows of a step go out together, those of other submissions on their own. */
const groupOf = ({ turn, step, row }: LedgerRow): string | undefined => (row === 0 ? undefined : `${turn} ${step}`);

const ledgerKey = ({ step, row, of }: TurnEffect): LedgerKey => ({
  step,
  row: row === undefined ? 0 : row + 1,
  ofEntity: of?.entity ?? '',
  ofRecord: of?.record ?? '',
});

function effectOf(intent: Intent, answer: Answer): Effect {
  if (answer.kind === 'overtaken') return { state: 'overtaken' };
  if (answer.kind === 'unclear') return { state: 'unclear', intent, records: answer.records };
  if (answer.kind === 'refused') return { state: 'refused', intent, refusal: answer.refusal };
  return { state: 'written', intent, record: answer.record };
}

function intentOf(row: LedgerRow): Intent {
  const target = { system: row.systemId, entity: row.entity };
  if (row.action === 'create') return { kind: 'create', target, values: row.after };
  if (row.action === 'delete') return { kind: 'delete', target, record: recordBefore(row) };
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
