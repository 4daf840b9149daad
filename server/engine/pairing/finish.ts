import { across, answered, baseAfter, SIDES, type LineSettled, type Side, type Sides } from '@zusammen/core/pairing';
import type { Values } from '@zusammen/core/schema';
import { withoutValues } from '@zusammen/core/values';
import {
  addPairs,
  changedMeanwhile,
  idOn,
  isThere,
  keepPairs,
  keepSeen,
  keepTroubles,
  leaveDue,
  leavePartners,
  markDue,
  noteBeat,
  postponeDue,
  removePairs,
  seenOf,
  type DueRecord,
  type PairRow,
  type PairState,
  type Query,
  type SeenRecord,
  type Trouble,
} from '../../store/index.ts';
import { settleLedger } from '../settle.ts';
import type { End, Working } from './bundle.ts';
import type { Decided, Doing, OpenPair } from './decide.ts';
import type { Gathered } from './gather.ts';
import { knownOf } from './listener.ts';
import { keepWays, markLooking, stillLooking } from './lookers.ts';
import type { Applied } from './view.ts';
import type { Written } from './write.ts';

/** Milliseconds until what somebody else was at, or changed meanwhile, is looked at again; doubled each time. */
const AGAIN_MS = 60;
const LONGEST_MS = 10_000;
const again = (attempts: number): number => Math.min(LONGEST_MS, AGAIN_MS * 2 ** Math.min(attempts, 10));

/** Puts down what came of a bundle, in one transaction. @returns other pairings that have something to do by it */
export async function finish(
  query: Query,
  work: Working & { ends: Sides<End> },
  gathered: Gathered,
  decided: Decided,
  written: ReadonlyMap<Doing, Written>,
  busy: ReadonlySet<Doing>,
): Promise<ReadonlySet<string>> {
  const { pairing } = work;
  const now = Date.now();
  const all = [...written.values()];
  await settleLedger(
    query,
    all.flatMap(({ settlements }) => settlements),
  );
  const over = all.filter(({ unknown }) => !unknown).map(({ turn }) => turn);
  const told = new Set<string>();
  // Removed meanwhile, nothing is kept for it any more; what was written stands on the ledger.
  if (!(await isThere(query, pairing.id))) {
    await letGo(query, over);
    return told;
  }
  const words = await changedMeanwhile(query, gathered.pairs);
  const doubts = await keepAnswers(query, work, gathered, written, now, told);
  const kept: PairRow[] = [];
  const made: { pair: OpenPair; troubles: Trouble[] }[] = [];
  const removed: number[] = [];
  const troubles: Trouble[] = [];
  const done: DueRecord[] = [...decided.left];
  const soon: DueRecord[] = [];
  const later: DueRecord[] = [];
  for (const doing of decided.doings) {
    if (busy.has(doing)) {
      soon.push(...doing.due);
      continue;
    }
    const result = written.get(doing);
    const { pair, todo } = doing;
    // Somebody had a word about it meanwhile, and it is due again by that: as far as nothing was written, theirs stands.
    if (!result && words.has(pair.id)) continue;
    removed.push(...(doing.replaces ?? []));
    if (result?.unknown) {
      // What became of it is found out by its turn, which stays open.
      later.push(...doing.due);
      continue;
    }
    if (todo.kind === 'remove' || (todo.kind === 'delete' && result?.deleted.length === 1)) {
      if (pair.id !== 0) removed.push(pair.id);
      done.push(...doing.due);
      continue;
    }
    const row = standsNow(pairing, doing, result, now);
    const word = Object.entries(words.get(pair.id)?.decided ?? {}).filter(
      ([key, said]) => JSON.stringify(said) !== JSON.stringify(pair.decided?.[key]),
    );
    if (word.length > 0) row.pair.decided = { ...row.pair.decided, ...Object.fromEntries(word) };
    if (row.pair.id === 0) made.push(row);
    else {
      kept.push(row.pair);
      troubles.push(...row.troubles);
    }
    const isOvertaken = (result?.overtaken.length ?? 0) > 0;
    (isOvertaken ? soon : done).push(...doing.due);
  }
  await removePairs(query, removed);
  const ids = await addPairs(
    query,
    pairing.id,
    made.map(({ pair }) => pair),
    now,
  );
  for (const [at, { troubles: of }] of made.entries())
    troubles.push(...of.map((each) => ({ ...each, pair: ids[at]! })));
  const behind = done.length === 0 ? 0 : now - Math.min(...done.map(({ since }) => since));
  const writes = all.reduce((sum, each) => sum + Object.keys(each.answers).length, 0);
  // They go out one behind the other, in this order, without waiting for each other's answers.
  await Promise.all([
    keepPairs(query, kept),
    keepTroubles(query, pairing.id, [...kept.map(({ id }) => id), ...ids], troubles),
    letGo(query, over),
    leaveDue(query, pairing.id, done),
    leavePartners(query, pairing.id, partnersOf(decided, done), gathered.at),
    noteBeat(query, pairing.id, behind, writes),
  ]);
  for (const each of soon)
    await postponeDue(query, pairing.id, [each], { dueAt: now + again(each.attempts), counts: true });
  await postponeDue(query, pairing.id, later, { dueAt: now + 2_000 });
  for (const side of SIDES)
    await markDue(
      query,
      pairing.id,
      side,
      doubts[side].map((id) => ({ id, doubt: true })),
      now,
    );
  return told;
}

/** Everybody else may work on what these turns held. */
async function letGo(query: Query, turns: readonly number[]): Promise<void> {
  if (turns.length > 0) await query('DELETE FROM lane_holders WHERE turn IN (?)', [turns]);
}

/** The other records of the pairs that were looked at: what was due about them before is done with as well. */
function partnersOf({ doings }: Decided, done: readonly DueRecord[]): Pick<DueRecord, 'side' | 'recordId'>[] {
  const looked = new Set(done);
  return doings.flatMap(({ pair, due }) =>
    due.flatMap((each) => {
      const id = idOn(pair, across(each.side));
      return looked.has(each) && id !== null ? [{ side: across(each.side), recordId: id }] : [];
    }),
  );
}

/** Keeps what systems have answered. @param told gets the pairings that have something to do by it @returns records of which something else became known meanwhile */
async function keepAnswers(
  query: Query,
  { pairing, feeds, ends }: Working & { ends: Sides<End> },
  gathered: Gathered,
  written: ReadonlyMap<Doing, Written>,
  now: number,
  told: Set<string>,
): Promise<Sides<string[]>> {
  const doubts: Sides<string[]> = { left: [], right: [] };
  for (const side of SIDES) {
    const answers = [...written].flatMap(([doing, { answers: of }]) => {
      const answer = of[side];
      return answer ? [{ doing, ...answer }] : [];
    });
    for (const [doing, { overtaken }] of written) {
      const id = idOn(doing.pair, side);
      if (overtaken.includes(side) && id !== null) doubts[side].push(id);
    }
    if (answers.length === 0) continue;
    const { client, entity, fields } = ends[side];
    const held = await seenOf(
      query,
      feeds[side].id,
      answers.map(({ record }) => record.id),
      true,
    );
    const fresh: SeenRecord[] = [];
    for (const { record, sent } of answers) {
      const known = knownOf({ ...sent, ...record.values }, fields, entity, client.clockAhead ?? 0);
      const read = gathered.seen[side].get(record.id)?.version ?? 0;
      const taken = answered(held.get(record.id), read, { ...known, etag: record.etag }, now);
      fresh.push({ recordId: record.id, ...taken.seen });
      if (taken.doubt) doubts[side].push(record.id);
    }
    await keepSeen(query, feeds[side].id, feeds[side].generation, fresh);
    const lookers = await stillLooking(query, ends[side].lookers);
    await keepWays(query, lookers, fresh, held);
    // To a feed it is nothing new any more; to other pairings, and to the other side of an entity with itself, it is.
    const own = lookers.own.filter((each) => each.pairing.id !== pairing.id || each.side !== side);
    const news = fresh.map(({ recordId }) => ({ id: recordId, doubt: false }));
    for (const id of await markLooking(query, { ...lookers, own }, news)) if (id !== pairing.id) told.add(id);
  }
  return doubts;
}

/** How a pair stands after its turn, and what of it waits. */
function standsNow(
  pairing: Applied,
  { pair, todo }: Doing,
  result: Written | undefined,
  now: number,
): { pair: PairRow; troubles: Trouble[] } {
  const row: PairRow = { ...pair, pairingId: pairing.id, turn: null, pending: null, settledAt: now };
  if (todo.kind !== 'settle' && todo.kind !== 'make') return { pair: row, troubles: [] };
  const answer = (side: Side): Values | undefined => {
    const held = result?.answers[side];
    return held && { ...held.sent, ...held.record.values };
  };
  const refused = (side: Side): ReadonlyMap<string, string> => result?.refused[side] ?? new Map<string, string>();
  row.base = baseAfter(
    pair.base,
    todo.settled,
    { left: answer('left'), right: answer('right') },
    { left: new Set(refused('left').keys()), right: new Set(refused('right').keys()) },
  );
  row.candidates = null;
  // A word that couldn't be carried out yet stands.
  const open = todo.settled.lines.filter(({ line, stuck, write }) => {
    const to = SIDES.find((side) => write[side] !== undefined);
    return stuck !== undefined || (to && (!answer(to) || refused(to).has(line[to].path[0]!)));
  });
  const words = Object.entries(pair.decided ?? {}).filter(([key]) => open.some((line) => line.key === key));
  row.decided = words.length === 0 ? null : Object.fromEntries(words);
  const troubles = todo.settled.lines.flatMap((line) => troubleOf(pairing, row.id, line, refused));
  if (todo.kind === 'make') {
    const madeId = result?.answers[todo.side]?.record.id ?? null;
    if (todo.side === 'left') row.leftId = madeId;
    else row.rightId = madeId;
    const why = refused(todo.side).get('');
    if (why !== undefined) {
      row.base = {};
      troubles.splice(0, Infinity, wholeTrouble(pairing, row.id, todo.side, why));
    }
  }
  const isAsked = troubles.some(({ kind }) => kind === 'asked');
  const state: PairState = isAsked ? 'asked' : troubles.length > 0 ? 'refused' : 'in step';
  return { pair: { ...row, state }, troubles };
}

function troubleOf(
  pairing: Applied,
  pair: number,
  { key, line, ask, stuck, write, base, now }: LineSettled,
  refused: (side: Side) => ReadonlyMap<string, string>,
): Trouble[] {
  const of = (kind: Trouble['kind'], side: Side, words: string): Trouble => {
    const entity = pairing.ready.around[side].entity;
    const field = entity.fields.find(({ name }) => name === line[side].path[0]);
    // What an option list lacks is named by the option; of other values only what is wrong with them is the same.
    const same = field?.options ? words : withoutValues(words);
    return { pair, lineKey: key, lineId: line.id, kind, side, words, cause: `${key} ${side} ${same}`, base, now };
  };
  if (ask) return [of('asked', 'left', 'Both sides have changed.')];
  if (stuck) return [of('refused', stuck.side, stuck.reason)];
  const side = SIDES.find((each) => write[each] !== undefined);
  const words = side && refused(side).get(line[side].path[0]!);
  return words === undefined ? [] : [of('refused', side!, words)];
}

/** What is refused of a record as a whole: it couldn't be made. */
const wholeTrouble = (pairing: Applied, pair: number, side: Side, words: string): Trouble => ({
  ...{ pair, lineKey: '', lineId: '', kind: 'refused', side, words, base: undefined, now: { left: null, right: null } },
  cause: `${pairing.document[side].entity} ${withoutValues(words)}`,
});
