import type { Query } from './transaction.ts';

/**
 * Takes settled submissions out of their lanes, and lets those who are first in them now be claimed.
 *
 * Invariant, kept together with the claim (engine/claim.ts): a submission is marked blocked only while an earlier one
 * stands in one of its lanes, and that one's leaving takes the mark away, in the same transaction.
 */
export async function leaveLanes(query: Query, seqs: readonly number[]): Promise<void> {
  if (seqs.length === 0) return;
  await query('DELETE FROM lane_holders WHERE seq IN (?)', [seqs]);
  const left = await query<{ lane: Buffer }>('DELETE FROM lanes WHERE seq IN (?) RETURNING lane', [seqs]);
  if (left.length === 0) return;
  await query(
    `UPDATE (SELECT MIN(seq) AS seq FROM lanes WHERE lane IN (?) GROUP BY lane) first STRAIGHT_JOIN submissions s ON s.seq = first.seq
     SET s.blocked = FALSE WHERE s.blocked`,
    [left.map(({ lane }) => lane)],
  );
}
