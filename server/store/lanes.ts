import type { Query } from './transaction.ts';

/**
 * Takes settled turns out of their lanes, and lets submissions that are first in them now be claimed.
 *
 * Invariant, kept together with the claim (engine/claim.ts): a submission is marked blocked only while an earlier one
 * stands in one of its lanes, and that one's leaving takes the mark away, in the same transaction.
 */
export async function leaveLanes(query: Query, turns: readonly number[]): Promise<void> {
  if (turns.length === 0) return;
  await query('DELETE FROM lane_holders WHERE turn IN (?)', [turns]);
  const left = await query<{ lane: Buffer }>('DELETE FROM lanes WHERE turn IN (?) RETURNING lane', [turns]);
  if (left.length === 0) return;
  await query(
    `UPDATE (SELECT MIN(turn) AS turn FROM lanes WHERE lane IN (?) GROUP BY lane) first STRAIGHT_JOIN submissions s ON s.seq = first.turn
     SET s.blocked = FALSE WHERE s.blocked`,
    [left.map(({ lane }) => lane)],
  );
}
