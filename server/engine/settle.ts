import type { Course, Refusal } from '@zusammen/core/plans';
import {
  Batcher,
  causeOf,
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
  if (answer.kind === 'overtaken' || answer.kind === 'unclear') return { ...settlement, state: answer.kind };
  if (answer.kind === 'refused') return { ...settlement, state: 'refused', refusal: answer.refusal };
  return { ...settlement, state: 'written', recordId: answer.record.id, etagAfter: answer.record.etag ?? null };
}

/** How a submission's turn ended: with an outcome, or put off until later. Its ledger rows are settled with it. */
export interface TurnEnd {
  seq: number;
  /** The claim it was worked on under; null for changes that no submission makes. */
  claim: number | null;
  settlements: readonly Settlement[];
  end:
    | { course: Course; words: string | null; at: Date }
    | { dueAt: Date; attempts: number; words: string | null }
    | 'goes on';
}

/** A few milliseconds on a submission's way spare the database most of its flushes under load. */
export const GATHER_MS = 3;

/** Thrown when another worker has taken a submission over: the work here ends without a trace. */
export class TakenOver extends Error {}

/** Writes down how turns ended, those of many submissions in one transaction, and frees their lanes. */
export class Settler {
  private readonly turns: Batcher<TurnEnd, 'settled' | 'taken over'>;

  constructor(db: Database) {
    this.turns = new Batcher((turns) => inTransaction(db, (query) => write(query, turns)), GATHER_MS);
  }

  /** @throws TakenOver when the claim is no longer one's own; nothing is written down then */
  async settle(turn: TurnEnd): Promise<void> {
    if ((await this.turns.add(turn)) === 'taken over') throw new TakenOver();
  }
}

async function write(query: Query, all: readonly TurnEnd[]): Promise<('settled' | 'taken over')[]> {
  // Locked until the commit: a claim can't pass to somebody else between the look and the writing.
  const held = await query<{ seq: number; claim: number }>(
    "SELECT seq, claim FROM submissions WHERE seq IN (?) AND state = 'received' ORDER BY seq FOR UPDATE",
    [[...new Set(all.map(({ seq }) => seq))].sort((a, b) => a - b)],
  );
  const claimOf = new Map(held.map(({ seq, claim }) => [seq, claim]));
  const isOwn = ({ seq, claim }: TurnEnd): boolean => claim === null || claimOf.get(seq) === claim;
  const turns = all.filter(isOwn);
  await settleLedger(
    query,
    turns.flatMap(({ settlements }) => settlements),
  );
  const ended = turns.flatMap(({ seq, end }) => (end !== 'goes on' && 'course' in end ? [{ seq, ...end }] : []));
  const postponed = turns.flatMap(({ seq, end }) => (end !== 'goes on' && 'dueAt' in end ? [{ seq, ...end }] : []));
  if (ended.length > 0) {
    await query(
      `UPDATE (${ended.map(() => 'SELECT ? AS seq, ? AS state, ? AS course, ? AS words, ? AS at, ? AS cause').join(' UNION ALL ')}) e STRAIGHT_JOIN submissions s ON s.seq = e.seq
       SET s.state = e.state, s.course = e.course, s.words = e.words, s.cause = e.cause, s.settled_at = e.at, s.claimed_by = NULL, s.claimed_until = NULL, s.begun = 0`,
      ended.flatMap(({ seq, course, words, at }) => [
        seq,
        course.state,
        JSON.stringify(course),
        words,
        at,
        causeOf(course),
      ]),
    );
    // One in review keeps its place in its lanes, so that later ones about the same person wait behind the decision.
    await leaveLanes(
      query,
      ended.filter(({ course }) => course.state !== 'in review').map(({ seq }) => seq),
    );
  }
  for (const { seq, dueAt, attempts, words } of postponed) {
    await query(
      'UPDATE submissions SET attempts = ?, due_at = ?, words = ?, claimed_by = NULL, claimed_until = NULL, begun = 0 WHERE seq = ?',
      [attempts, dueAt, words, seq],
    );
  }
  const resting = [...postponed, ...ended.filter(({ course }) => course.state === 'in review')].map(({ seq }) => seq);
  if (resting.length > 0) await query('DELETE FROM lane_holders WHERE turn IN (?)', [resting]);
  return all.map((turn) => (isOwn(turn) ? 'settled' : 'taken over'));
}

/** Puts down on the ledger how changes were answered. */
export async function settleLedger(query: Query, settlements: readonly Settlement[]): Promise<void> {
  if (settlements.length === 0) return;
  await query(
    `UPDATE (${settlements.map(() => 'SELECT ? AS id, ? AS state, ? AS record_id, ? AS etag, ? AS refusal, ? AS at').join(' UNION ALL ')}) s STRAIGHT_JOIN ledger l ON l.id = s.id AND l.state = 'intended'
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
