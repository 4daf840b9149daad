import { across, SIDES, settlePair, type PairSettled, type Side, type Sides } from '@zusammen/core/pairing';
import { holds } from '@zusammen/core/expressions';
import type { Values } from '@zusammen/core/schema';
import { idOn, type DueRecord, type PairRow, type SeenRecord } from '../../store/index.ts';
import { reachIn, type Gathered } from './gather.ts';
import type { Applied } from './view.ts';

/** A pair as it is being worked on; `id` is 0 while it isn't kept yet. */
export type OpenPair = Omit<PairRow, 'pairingId' | 'turn' | 'pending' | 'settledAt'>;

/** What is to be done about a pair. */
export interface Doing {
  pair: OpenPair;
  /** Rows that it takes the place of. */
  replaces?: number[];
  /** What was due that this is about. */
  due: DueRecord[];
  todo:
    | { kind: 'settle'; settled: PairSettled }
    /** A record is made on this side, for one that has none there. */
    | { kind: 'make'; side: Side; settled: PairSettled }
    /** The record on this side goes, since the other one is gone. */
    | { kind: 'delete'; side: Side }
    /** Nothing but how the pair stands. */
    | { kind: 'keep' }
    | { kind: 'remove' };
}

/** What came of deciding about records that are due. */
export interface Decided {
  doings: Doing[];
  /** Nothing is to be done about these. */
  left: DueRecord[];
  /** They may have a counterpart that isn't known here yet: the other system is asked. */
  lonely: { due: DueRecord; record: SeenRecord }[];
}

/** Where a pair keeps somebody's word on what becomes of the record whose other one is gone. */
export const LOST = '*lost';

/** Decides what becomes of records that are due, by what is known of them and of what they go with. */
export function decide(pairing: Applied, gathered: Gathered, due: readonly DueRecord[]): Decided {
  const decided: Decided = { doings: [], left: [], lonely: [] };
  const byId = indexed(gathered.pairs);
  const doings = new Map<OpenPair, Doing>();
  const taken: Sides<Set<string>> = { left: new Set(), right: new Set() };
  for (const each of due) {
    const { side, recordId } = each;
    const known = byId[side].get(recordId);
    const before = known && doings.get(known);
    if (before) {
      before.due.push(each);
      continue;
    }
    const record = gathered.seen[side].get(recordId);
    const isPair = known && known.leftId !== null && known.rightId !== null;
    if (isPair) {
      const doing = { pair: known, due: [each], todo: standing(pairing, gathered, known) };
      doings.set(known, doing);
      decided.doings.push(doing);
      continue;
    }
    if (!record || record.gone) {
      if (known) decided.doings.push({ pair: known, due: [each], todo: { kind: 'remove' } });
      else decided.left.push(each);
      continue;
    }
    const joined = join(gathered, byId, taken, each, known);
    if (joined === 'alone') {
      const wants = pairing.document.alone[side];
      const isTo = wants.what === 'make' && known?.state !== 'undone' && meets(pairing, side, record.values);
      if (isTo) decided.lonely.push({ due: each, record });
      else if (known && known.state === 'unsure')
        decided.doings.push({ pair: known, due: [each], todo: { kind: 'remove' } });
      else decided.left.push(each);
      continue;
    }
    if (joined === 'declined') {
      decided.left.push(each);
      continue;
    }
    const { pair, replaced } = joined;
    // What was unsure of a record a moment ago is settled, or gone.
    for (const other of joined.dropped) {
      const doing = doings.get(other);
      if (doing) doing.todo = { kind: 'remove' };
    }
    const isWhole = pair.leftId !== null && pair.rightId !== null;
    const same = doings.get(pair);
    if (same) {
      same.due.push(each);
      if (isWhole) same.todo = standing(pairing, gathered, pair);
      if (replaced.length > 0) same.replaces = [...(same.replaces ?? []), ...replaced];
      for (const at of SIDES) if (idOn(pair, at) !== null) byId[at].set(idOn(pair, at)!, pair);
      continue;
    }
    const doing: Doing = {
      pair,
      due: [each],
      todo: isWhole ? standing(pairing, gathered, pair) : { kind: 'keep' },
      ...(replaced.length === 0 ? {} : { replaces: replaced }),
    };
    for (const at of SIDES) {
      const id = idOn(pair, at);
      if (id !== null) byId[at].set(id, pair);
    }
    doings.set(pair, doing);
    decided.doings.push(doing);
  }
  return decided;
}

function indexed(pairs: readonly PairRow[]): Sides<Map<string, OpenPair>> {
  const byId = { left: new Map<string, OpenPair>(), right: new Map<string, OpenPair>() };
  for (const pair of pairs) {
    if (pair.leftId !== null) byId.left.set(pair.leftId, pair);
    if (pair.rightId !== null) byId.right.set(pair.rightId, pair);
  }
  return byId;
}

/** What is to be done about a pair of two records, as they are known now. */
function standing(pairing: Applied, gathered: Gathered, pair: OpenPair): Doing['todo'] {
  const records = {
    left: gathered.seen.left.get(pair.leftId!),
    right: gathered.seen.right.get(pair.rightId!),
  };
  const gone = SIDES.filter((side) => !records[side] || records[side].gone);
  if (gone.length === 2) return { kind: 'remove' };
  const [lost] = gone;
  if (lost) {
    const side = across(lost);
    // Somebody has said that this one goes as well.
    const then = pair.decided?.[LOST] ? 'delete' : pairing.document.gone[side];
    if (then === 'delete') return { kind: 'delete', side };
    pair.state = then === 'ask' ? 'lost' : 'undone';
    if (then === 'undo') {
      if (lost === 'left') pair.leftId = null;
      else pair.rightId = null;
      pair.base = {};
    }
    return { kind: 'keep' };
  }
  return { kind: 'settle', settled: settledPair(pairing, gathered, pair) };
}

/** Settles all fields of a pair, or of a record that is to get its counterpart. */
export function settledPair(pairing: Applied, gathered: Gathered, pair: OpenPair): PairSettled {
  const record = (side: Side): { id: string; values: Values } | undefined => {
    const id = idOn(pair, side);
    const seen = id === null ? undefined : gathered.seen[side].get(id);
    return seen && !seen.gone ? { id: id!, values: seen.values } : undefined;
  };
  return settlePair(pairing.ready, {
    base: pair.base,
    ...(pair.decided === null ? {} : { decided: pair.decided }),
    records: { left: record('left'), right: record('right') },
    reach: { left: reachIn(gathered.related.left), right: reachIn(gathered.related.right) },
    changedAt: (side, field) => changedAt(gathered, pair, side, field),
  });
}

const changedAt = (gathered: Gathered, pair: OpenPair, side: Side, field: string): number | undefined => {
  const id = idOn(pair, side);
  if (id === null) return undefined;
  return gathered.changed?.get(`${side} ${id} ${field}`) ?? gathered.seen[side].get(id)?.changedAt;
};

/** Whether a record is to get its counterpart. What can't be told is taken for no. */
function meets({ document, ready }: Applied, side: Side, values: Values): boolean {
  const { condition } = document.alone[side];
  const met = holds(condition, values, ready.around[side].entity.fields);
  return met.ok && met.holds;
}

/** What a loose record goes with: the first way in which there is anything decides; two with one are never guessed. */
function join(
  gathered: Gathered,
  byId: Sides<Map<string, OpenPair>>,
  taken: Sides<Set<string>>,
  { side, recordId }: DueRecord,
  known: OpenPair | undefined,
): { pair: OpenPair; replaced: number[]; dropped: OpenPair[] } | 'alone' | 'declined' {
  const to = across(side);
  const [way] = gathered.ways[side].get(recordId) ?? [];
  if (!way) return 'alone';
  const free = (at: Side, id: string): boolean => {
    const pair = byId[at].get(id);
    return !taken[at].has(id) && (!pair || pair.leftId === null || pair.rightId === null);
  };
  const [mate] = way.others;
  if (way.mine.length === 1 && way.others.length === 1 && !way.unsure && free(to, mate!)) {
    taken[side].add(recordId);
    taken[to].add(mate!);
    // What was unsure of either is settled by it.
    const before = [...new Set([known, byId[to].get(mate!)].filter((each) => each !== undefined))];
    const [held, ...dropped] = before.sort((a, b) => b.id - a.id);
    const pair = made(side, recordId, mate!, held?.id ?? 0);
    const replaced = dropped.map(({ id }) => id).filter((id) => id !== 0);
    return { pair: held ? Object.assign(held, pair) : pair, replaced, dropped };
  }
  // The one that several go with is asked about, not each of the several.
  const [about, candidates] =
    way.others.length === 1 && !way.unsure && free(to, mate!)
      ? ([to, way.mine] as const)
      : ([side, way.others] as const);
  const id = about === side ? recordId : mate!;
  const held = byId[about].get(id);
  // Somebody has said that none of them does.
  if (held?.state === 'undone') return 'declined';
  const pair: OpenPair = {
    id: held?.id ?? 0,
    leftId: about === 'left' ? id : null,
    rightId: about === 'right' ? id : null,
    state: 'unsure',
    base: {},
    decided: null,
    candidates: about === 'left' ? { left: [], right: [...candidates] } : { left: [...candidates], right: [] },
  };
  return { pair: held ? Object.assign(held, pair) : pair, replaced: [], dropped: [] };
}

const made = (side: Side, mine: string, mate: string, id: number): OpenPair => ({
  id,
  leftId: side === 'left' ? mine : mate,
  rightId: side === 'left' ? mate : mine,
  state: 'in step',
  base: {},
  decided: null,
  candidates: null,
});
