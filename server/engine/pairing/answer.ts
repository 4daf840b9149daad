import { across, lineKey, type Side } from '@zusammen/core/pairing';
import {
  atomically,
  feedOf,
  heldPair,
  idOn,
  inTransaction,
  keepPairs,
  markDue,
  pairingById,
  pairsWith,
  removePairs,
  troublesOf,
  type Database,
  type PairRow,
  type Query,
} from '../../store/index.ts';
import { sql } from 'drizzle-orm';
import { LOST } from './decide.ts';
import type { Applied } from './view.ts';

/** What somebody may say about a pair that waits. */
export type PairAnswer =
  /** Which side's value of a field counts, which both had changed. */
  | { kind: 'field'; line: string; side: Side }
  /** Which record goes with it. */
  | { kind: 'with'; record: string }
  /** None of them does. */
  | { kind: 'none' }
  /** The record that is left goes as well, or stays as it is. */
  | { kind: 'delete' }
  | { kind: 'keep' };

/**
 * Takes somebody's word on a pair, and has it looked at with that.
 * @returns why it can't be taken, in words; undefined: it is taken
 */
export async function answerPair(
  db: Database,
  pairing: Applied,
  id: number,
  answer: PairAnswer,
): Promise<string | undefined> {
  const gone = 'It is no longer waiting; somebody may have decided it.';
  const waiting = answer.kind === 'field' ? await troublesOf(db, { pair: id, limit: 300 }) : [];
  return inTransaction(db, async (query) => {
    // Whoever is at work on it puts down what came of that before, or notices this word (changedMeanwhile).
    const pair = await heldPair(query, id);
    if (!pair || pair.pairingId !== pairing.id) return gone;
    const keep = async (change: Partial<PairRow>): Promise<undefined> => keepAndMark(query, { ...pair, ...change });
    if (answer.kind === 'field') {
      const line = pairing.ready.lines.find((each) => each.line.id === answer.line);
      const trouble = waiting.find(({ lineId }) => lineId === answer.line);
      if (!line || !trouble) return gone;
      return keep({ decided: { ...pair.decided, [lineKey(line.line)]: { side: answer.side, now: trouble.now } } });
    }
    if (answer.kind === 'with' || answer.kind === 'none') {
      if (pair.state !== 'unsure') return gone;
      if (answer.kind === 'none') return keep({ state: 'undone', candidates: null });
      const about: Side = pair.leftId === null ? 'right' : 'left';
      const to = across(about);
      if (pair.candidates?.[to].includes(answer.record) !== true) return 'This record is not among those in question.';
      const taken = (await pairsWith(query, pairing.id, to, [answer.record])).filter((each) => each.id !== id);
      if (taken.some((each) => idOn(each, about) !== null)) return 'This record goes with another one already.';
      await removePairs(
        query,
        taken.map((each) => each.id),
      );
      const joined = { state: 'in step' as const, candidates: null };
      return keep(to === 'left' ? { ...joined, leftId: answer.record } : { ...joined, rightId: answer.record });
    }
    if (pair.state !== 'lost') return gone;
    if (answer.kind === 'delete')
      return keep({ decided: { ...pair.decided, [LOST]: { side: 'left', now: { left: null, right: null } } } });
    await removePairs(query, [id]);
    return undefined;
  });
}

/** Keeps somebody's word: by the later moment it is told from what was loaded before. */
async function keepAndMark(query: Query, pair: PairRow): Promise<undefined> {
  await keepPairs(query, [{ ...pair, settledAt: Math.max(Date.now(), pair.settledAt + 1) }]);
  const side: Side = pair.leftId === null ? 'right' : 'left';
  await markDue(query, pair.pairingId, side, [{ id: idOn(pair, side)!, doubt: false }], Date.now());
  return undefined;
}

/** Has all records of both sides read anew and every pair looked at. @returns false: it is no longer there */
export async function compareAnew(db: Database, id: string): Promise<boolean> {
  const row = await pairingById(db, id);
  if (!row || row.state === 'draft') return false;
  return atomically(db, async (tx) => {
    for (const { system, entity } of [row.draft.left, row.draft.right]) {
      const feed = await feedOf(tx, system, entity);
      if (!feed || feed.filledAt === null) continue;
      // Whoever reads it at present keeps nothing more; the next reading is of everything.
      await tx.execute(
        sql`UPDATE feeds SET delta_link = NULL, changes_since = NULL, next_link = NULL WHERE id = ${feed.id}`,
      );
      await tx.execute(sql`UPDATE jobs SET claim = claim + 1, claimed_by = NULL, claimed_until = NULL, due_at = ${new Date()}
        WHERE kind = 'feed' AND subject = ${String(feed.id)}`);
    }
    await tx.execute(sql`UPDATE pairings SET filled = FALSE, laid = 0 WHERE id = ${id}`);
    await tx.execute(
      sql`UPDATE jobs SET total = 0, done = 0, due_at = ${new Date()} WHERE kind = 'pairing' AND subject = ${id}`,
    );
    return true;
  });
}
