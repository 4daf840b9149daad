import type { Query } from './transaction.ts';

/**
 * Takes settled submissions out of their lanes, and lets those who are first in them now be claimed.
 *
 * Invariant, kept together with the claim (engine/claim.ts): a submission is marked blocked only while an earlier one
 * stands in one of its lanes, and that one's leaving takes the mark away, in the same transaction.
 */
export async function leaveLanes(query: Query, seqs: readonly number[]): Promise<void> {
  if (seqs.length === 0) return;
  const left = await query<{ lane: Buffer }>('SELECT DISTINCT lane FROM lanes WHERE seq IN (?) ORDER BY lane', [seqs]);
  await query('DELETE FROM lane_holders WHERE seq IN (?)', [seqs]);
  if (left.length === 0) return;
  await query('DELETE FROM lanes WHERE seq IN (?)', [seqs]);
  await unblockFirst(
    query,
    left.map(({ lane }) => lane),
  );
}

async function unblockFirst(query: Query, lanes: readonly Buffer[]): Promise<void> {
  const first = await query<{ seq: number }>('SELECT MIN(seq) AS seq FROM lanes WHERE lane IN (?) GROUP BY lane', [
    lanes,
  ]);
  if (first.length > 0)
    await query('UPDATE submissions SET blocked = FALSE WHERE seq IN (?) AND blocked', [first.map(({ seq }) => seq)]);
}
