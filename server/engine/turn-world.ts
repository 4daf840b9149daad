import type { Effect, Intent } from '@zusammen/core/plans';
import type { Schema } from '@zusammen/core/schema';
import {
  Batcher,
  markUndone,
  newestUndo,
  noteIntents,
  type Database,
  type LedgerEntry,
  type LedgerRow,
} from '../store/index.ts';
import type { Systems } from '../systems/index.ts';
import type { Known } from './known/index.ts';
import { Settler, type Settlement } from './settle.ts';
import { EngineWorld, type TurnEffect } from './world.ts';

/** The engine's world, for a turn that no submission makes. */
export type TurnWorld = EngineWorld & {
  turn: number;
  settle(): Promise<void>;
  /** Marks a change as taken back by the newest undoing of it. */
  markUndone(row: LedgerRow): Promise<void>;
};

/** What a turn works with, and whose doing it is. */
export interface TurnWork {
  db: Database;
  systems: Pick<Systems, 'client'>;
  schemas: ReadonlyMap<string, Schema>;
  known: Known;
  turn: number;
  actor: string;
}

export function turnWorld({ db, systems, schemas, known, turn, actor }: TurnWork): TurnWorld {
  const settler = new Settler(db);
  const flush = async (settlements: Settlement[]): Promise<void> => {
    if (settlements.length > 0) await settler.settle({ seq: turn, claim: null, settlements, end: 'goes on' });
  };
  const world = new EngineWorld({
    ...{ db, systems, schemas, known, turn, actor, flush },
    claim: null,
    intakeId: null,
    byEvidence: new Set(),
    paired: new Set(),
    fresh: false,
    atomic: false,
    clock: () => new Date(),
    intents: new Batcher<LedgerEntry, number>((entries) => noteIntents(db, entries), 0),
  });
  return Object.assign(world, {
    turn,
    settle: () => flush(world.settlements.splice(0)),
    markUndone: async (row: LedgerRow) => {
      const undo = await newestUndo(db, row.id);
      if (undo) await markUndone(db, row.id, undo.id);
    },
  });
}

/** Has an effect, decided again where somebody else changes the record meanwhile; settled when it returns. */
export async function persistently(world: TurnWorld, key: TurnEffect, decide: () => Promise<Intent>): Promise<Effect> {
  let effect = await world.effect(key, decide);
  for (let again = 0; effect.state === 'overtaken' && again < 5; again += 1) effect = await world.effect(key, decide);
  await world.settle();
  return effect;
}

/** Why a turn can't go on behind an effect; undefined where it can. */
export function failureOf(effect: Effect): string | undefined {
  if (effect.state === 'refused') return effect.refusal.words;
  if (effect.state === 'unclear') return 'It can’t be told whether a record was made.';
  return effect.state === 'overtaken' ? 'A record was changed at this very moment.' : undefined;
}
