import type { Course, Refusal } from '@zusammen/core/plans';
import {
  Batcher,
  inTransaction,
  leaveLanes,
  type Database,
  type LedgerRow,
  type LedgerState,
  type Query,
} from '../store/index.ts';
import type { Answer } from '../systems/index.ts';

/** How a change on the ledger was answered. */
export interface Settlement {
  id: number;
  state: Exclude<LedgerState, 'intended'>;
  recordId: string | null;
  etagAfter: string | null;
  refusal: Refusal | null;
  at: Date;
}

/** What a system's answer means for the ledger. */
export function settlementOf(row: LedgerRow, answer: Answer, at: Date): Settlement {
  const settlement = { id: row.id, recordId: null, etagAfter: null, refusal: null, at };
  if (answer.kind === 'overtaken') return { ...settlement, state: 'overtaken' };
  if (answer.kind === 'refused') return { ...settlement, state: 'refused', refusal: answer.refusal };
  return { ...settlement, state: 'written', recordId: answer.record.id, etagAfter: answer.record.etag ?? null };
}

/** How a submission's turn ended: with an outcome, or put off until later. Its ledger rows are settled with it. */
export interface Turn {
  seq: number;
  settlements: readonly Settlement[];
  end:
    | { course: Course; words: string | null; at: Date }
    | { dueAt: Date; attempts: number; words: string }
    | 'goes on';
}

/** A few milliseconds on a submission's way spare the database most of its flushes under load. */
export const GATHER_MS = 3;

/** Writes down how turns ended, those of many submissions in one transaction, and frees their lanes. */
export class Settler {
  private readonly turns: Batcher<Turn, undefined>;

  constructor(db: Database) {
    this.turns = new Batcher((turns) => inTransaction(db, (query) => write(query, turns)), GATHER_MS);
  }

  settle(turn: Turn): Promise<undefined> {
    return this.turns.add(turn);
  }
}

async function write(query: Query, turns: readonly Turn[]): Promise<undefined[]> {
  await settleLedger(
    query,
    turns.flatMap(({ settlements }) => settlements),
  );
  const ended = turns.flatMap(({ seq, end }) => (end !== 'goes on' && 'course' in end ? [{ seq, ...end }] : []));
  const postponed = turns.flatMap(({ seq, end }) => (end !== 'goes on' && 'dueAt' in end ? [{ seq, ...end }] : []));
  if (ended.length > 0) {
    await query(
      `UPDATE (${ended.map(() => 'SELECT ? AS seq, ? AS state, ? AS course, ? AS words, ? AS at').join(' UNION ALL ')}) e STRAIGHT_JOIN submissions s ON s.seq = e.seq
       SET s.state = e.state, s.course = e.course, s.words = e.words, s.settled_at = e.at, s.claimed_by = NULL, s.claimed_until = NULL`,
      ended.flatMap(({ seq, course, words, at }) => [seq, course.state, JSON.stringify(course), words, at]),
    );
    // One in review keeps its place in its lanes, so that later ones about the same person wait behind the decision.
    await leaveLanes(
      query,
      ended.filter(({ course }) => course.state !== 'in review').map(({ seq }) => seq),
    );
  }
  for (const { seq, dueAt, attempts, words } of postponed) {
    await query(
      'UPDATE submissions SET attempts = ?, due_at = ?, words = ?, claimed_by = NULL, claimed_until = NULL WHERE seq = ?',
      [attempts, dueAt, words, seq],
    );
  }
  const resting = [...postponed, ...ended.filter(({ course }) => course.state === 'in review')].map(({ seq }) => seq);
  if (resting.length > 0) await query('DELETE FROM lane_holders WHERE seq IN (?)', [resting]);
  return turns.map(() => undefined);
}

async function settleLedger(query: Query, settlements: readonly Settlement[]): Promise<void> {
  if (settlements.length === 0) return;
  await query(
    `UPDATE (${settlements.map(() => 'SELECT ? AS id, ? AS state, ? AS record_id, ? AS etag, ? AS refusal, ? AS at').join(' UNION ALL ')}) s STRAIGHT_JOIN ledger l ON l.id = s.id
     SET l.state = s.state, l.record_id = COALESCE(s.record_id, l.record_id), l.etag_after = s.etag, l.refusal = s.refusal, l.settled_at = s.at`,
    settlements.flatMap(({ id, state, recordId, etagAfter, refusal, at }) => [
      id,
      state,
      recordId,
      etagAfter,
      refusal === null ? null : JSON.stringify(refusal),
      at,
    ]),
  );
}
