import { keyIsOn, type Side } from '@zusammen/core/pairing';
import type { Entity } from '@zusammen/core/schema';
import {
  heldPair,
  idOn,
  inTransaction,
  isThere,
  keepPairs,
  ledgerOf,
  markDue,
  pairsAtWork,
  type Database,
  type LedgerRow,
  type PairRow,
} from '../../store/index.ts';
import { NotUnderstood, type Answer, type System, type Systems } from '../../systems/index.ts';
import { send } from '../send.ts';
import { settleLedger, settlementOf, type Settlement } from '../settle.ts';
import type { Applied } from './view.ts';

/** What finishing what was cut short works with. */
export interface Recovering {
  db: Database;
  systems: Pick<Systems, 'client'>;
  pairing: Applied;
}

/**
 * Finishes the turns of pairs that were cut short: by the end of their process, or by a system that gave no answer. What
 * stands in the ledger without an answer is sent again under the same key, or looked for; then both records are read anew.
 * @param atWork pairs that this process is at
 * @throws SystemTrouble where a system still gives no answer; the next time goes on from there
 */
export async function recoverPairs(work: Recovering, atWork: ReadonlySet<number>): Promise<void> {
  for (const pair of await pairsAtWork(work.db, work.pairing.id)) {
    if (atWork.has(pair.id)) continue;
    const rows = await ledgerOf(work.db, pair.turn!);
    const settlements: Settlement[] = [];
    // What one side has answered before the other gave none is done as well.
    const done: Done[] = rows.filter(({ state }) => state === 'written').map((row) => ({ row, record: row.recordId }));
    for (const row of rows.filter(({ state }) => state === 'intended')) {
      const side = row.step as Side;
      const client = await work.systems.client(row.systemId);
      const answer = await sentAgain(client, work.pairing.ready.around[side].entity, row);
      settlements.push(settlementOf(row, answer, new Date()));
      if (answer.kind === 'done') done.push({ row, record: answer.record.id });
    }
    await inTransaction(work.db, async (query) => {
      await settleLedger(query, settlements);
      await query('DELETE FROM lane_holders WHERE turn = ?', [pair.turn]);
      if (!(await isThere(query, pair.pairingId))) return;
      // Somebody may have had a word about it meanwhile.
      const now = await heldPair(query, pair.id);
      if (now?.turn !== pair.turn) return;
      const recovered = afterTurn(now, done);
      await keepPairs(query, [recovered]);
      for (const side of ['left', 'right'] as const) {
        const id = idOn(recovered, side);
        if (id !== null) await markDue(query, pair.pairingId, side, [{ id, doubt: true }], Date.now());
      }
    });
  }
}

/** What is answered so that nobody understands it must not hold up the pairing: both records are read anew anyway. */
async function sentAgain(client: System, entity: Entity, row: LedgerRow): Promise<Answer> {
  try {
    return await send(client, entity, row, true);
  } catch (error) {
    if (error instanceof NotUnderstood) return { kind: 'unclear', records: [] };
    throw error;
  }
}

/** A change that took place, and the record it was made to. */
interface Done {
  row: LedgerRow;
  record: string | null;
}

/** A pair once its turn is known to have had its effect: the fields that were written are at rest as they were meant. */
function afterTurn(pair: PairRow, done: readonly Done[]): PairRow {
  const after: PairRow = { ...pair, turn: null, pending: null, base: { ...pair.base } };
  for (const { row, record } of done) {
    if (row.action === 'create' && row.step === 'left') after.leftId = record;
    if (row.action === 'create' && row.step === 'right') after.rightId = record;
    for (const [key, { side, base }] of Object.entries(pair.pending ?? {}))
      if (side === row.step && Object.keys(row.after).some((field) => keyIsOn(key, side, field)))
        after.base[key] = base;
  }
  return after;
}
