import { across, lineKey, type Side } from '@zusammen/core/pairing';
import {
  atomically,
  feedOf,
  idOn,
  inTransaction,
  keepPairs,
  markDue,
  pairById,
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
  const pair = await pairById(db, id);
  if (!pair || pair.pairingId !== pairing.id) return gone;
  if (answer.kind === 'field') {
    const line = pairing.ready.lines.find((each) => each.line.id === answer.line);
    const [trouble] = (await troublesOf(db, { pair: id, limit: 300 })).filter((each) => each.lineId === answer.line);
    if (!line || !trouble) return gone;
    const decided = { ...pair.decided, [lineKey(line.line)]: { side: answer.side, now: trouble.now } };
    await change(db, { ...pair, decided });
    return undefined;
  }
  if (answer.kind === 'with' || answer.kind === 'none') {
    if (pair.state !== 'unsure') return gone;
    const about: Side = pair.leftId === null ? 'right' : 'left';
    if (answer.kind === 'none') {
      await change(db, { ...pair, state: 'undone', candidates: null });
      return undefined;
    }
    const to = across(about);
    if (pair.candidates?.[to].includes(answer.record) !== true) return 'This record is not among those in question.';
    return inTransaction(db, async (query) => {
      const taken = await pairsWith(query, pairing.id, to, [answer.record]);
      if (taken.some((each) => each.id !== id && idOn(each, about) !== null))
        return 'This record goes with another one already.';
      await removePairs(
        query,
        taken.map((each) => each.id).filter((each) => each !== id),
      );
      const joined: PairRow = { ...pair, state: 'in step', candidates: null };
      await keepAndMark(
        query,
        to === 'left' ? { ...joined, leftId: answer.record } : { ...joined, rightId: answer.record },
      );
      return undefined;
    });
  }
  if (pair.state !== 'lost') return gone;
  if (answer.kind === 'delete') {
    const left: Side = 'left';
    const decided = { ...pair.decided, [LOST]: { side: left, now: { left: null, right: null } } };
    await change(db, { ...pair, decided });
    return undefined;
  }
  await inTransaction(db, (query) => removePairs(query, [id]));
  return undefined;
}

const change = (db: Database, pair: PairRow): Promise<void> => inTransaction(db, (query) => keepAndMark(query, pair));

async function keepAndMark(query: Query, pair: PairRow): Promise<void> {
  await keepPairs(query, [pair]);
  const side: Side = pair.leftId === null ? 'right' : 'left';
  await markDue(query, pair.pairingId, side, [{ id: idOn(pair, side)!, doubt: false }], Date.now());
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
