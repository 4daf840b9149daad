import type { SubmittedValues } from '@zusammen/core/forms';
import type { Answer } from '@zusammen/core/plans';
import { inTransaction, type Acting, type Database, type OfRecord, type Query } from '../store/index.ts';

/** A claimed submission as far as carrying it out needs it. */
export interface Claimed {
  seq: number;
  id: string;
  intakeId: string;
  version: number;
  attempts: number;
  values: SubmittedValues;
  answers: Record<string, Answer> | undefined;
  acting: Acting | undefined;
  ofRecord: OfRecord | undefined;
  receivedAt: Date;
  /** Nobody has worked on it before, so nothing of it can stand in the ledger. */
  fresh: boolean;
  /** The claim's number; what is settled under an older one counts for nothing. */
  claim: number;
  /** It was at work alone, for long, when its process died or stalled, and not for the first time: it isn't tried again. */
  givenUp: boolean;
}

/** What one claim brought. */
export interface Claims {
  claimed: Claimed[];
  /**
   * Some are due that were at work when a process died or stalled, and may have been why. They are begun only while
   * nothing else is at work in the same process, so that others never take the blame of what kills it.
   */
  suspects: boolean;
}

/** How long a claim holds when its worker is never heard of again. */
export const CLAIM_MS = 30_000;

interface Due {
  seq: number;
  id: string;
  intake_id: string;
  version: number;
  attempts: number;
  submitted: string | Claimed['values'];
  answers: string | NonNullable<Claimed['answers']> | null;
  acting: string | Acting | null;
  of_record: string | OfRecord | null;
  received_at: Date;
  claimed_by: string | null;
  settled_before: number;
  claim: number;
  begun: number;
  begun_at: Date | null;
  begun_alone: number;
  lingered: number;
}

/** Suspects tried together after the first time; what was begun more often is tried alone. */
const SUSPECTS_AT_ONCE = 12;
/**
 * After being at work alone, for long, when its process ended, and this many times in all, a submission is given up. Two
 * would be too few: whoever waits for a slow system is at work for long, and its process may be ended by anybody twice.
 */
const MOST_BEGUN = 3;
/** However short it was at work: so often in a row is no accident. */
const MOST_BEGUN_SHORTLY = 6;
/** Milliseconds after which whoever takes it up knows that it was at work for long, though nobody could say so. */
const LONG_MS = 15_000;

/** Intakes that one claim serves; with more of them due, the others' turn comes with the next claims. */
const INTAKES_AT_ONCE = 16;

/**
 * Claims up to `limit` submissions that are due, in equal shares for the intakes that have any: a flood into one
 * doesn't starve the rest.
 *
 * Invariants: a submission is claimed only when it is the first in each of its lanes and nobody is at work in any of
 * them; a lane is held by at most one submission (primary key of `lane_holders`), so two that arrived at the same
 * moment on two servers can't both run. A dead worker's claim lapses, and its submission keeps its lanes meanwhile.
 * One found behind another is marked blocked and isn't looked at again until that one has left (store/lanes.ts), so a
 * long queue about one person costs the others nothing.
 * @param passOver intakes of which the worker has enough at hand
 * @param idle nothing else is at work in this process, so that suspects may be tried
 */
export function claimDue(
  db: Database,
  worker: string,
  limit: number,
  now: Date,
  passOver: ReadonlySet<string> = new Set(),
  idle = true,
): Promise<Claims> {
  return inTransaction(db, async (query) => {
    const all = await dueInShares(query, limit, now, passOver);
    const suspected = all.filter(({ begun }) => begun > 0);
    const fresh = all.filter(({ begun }) => begun === 0);
    const tried = idle ? await firstInLanes(query, toTry(suspected)) : [];
    // A suspect that stands behind somebody, or whose lane another process holds, keeps nobody else waiting.
    const won = tried.length > 0 ? tried : await firstInLanes(query, fresh);
    const suspects = idle ? tried.length > 0 : suspected.length > 0;
    if (won.length === 0) return { claimed: [], suspects };
    // Counted before it is begun: a process that ends in the middle of it can't count any more.
    await query(
      `UPDATE submissions SET claimed_by = ?, claimed_until = ?, claim = claim + 1,
         begun = begun + 1, begun_at = ?, begun_alone = ?, lingered = FALSE WHERE seq IN (?)`,
      [worker, new Date(now.getTime() + CLAIM_MS), now, idle && won.length === 1, won.map(({ seq }) => seq)],
    );
    return { claimed: won.map((row) => toClaimed(row, now)), suspects };
  });
}

/** Those that are first in each of their lanes, and now hold them. */
async function firstInLanes(query: Query, due: readonly Due[]): Promise<Due[]> {
  if (due.length === 0) return [];
  const lanes = await query<Lane>('SELECT lane, turn FROM lanes WHERE turn IN (?) ORDER BY lane', [
    due.map(({ seq }) => seq),
  ]);
  const behind = await markBlocked(query, lanes);
  const lost = await holdLanes(
    query,
    lanes.filter(({ turn }) => !behind.has(turn)),
  );
  return due.filter(({ seq }) => !behind.has(seq) && !lost.has(seq));
}

/** Of those that may have ended a process: some together the first time, then one by one. */
function toTry(suspected: readonly Due[]): Due[] {
  const once = suspected.filter(({ begun }) => begun === 1);
  return once.length > 0 ? once.slice(0, SUSPECTS_AT_ONCE) : suspected.slice(0, 1);
}

async function dueInShares(query: Query, limit: number, now: Date, passOver: ReadonlySet<string>): Promise<Due[]> {
  // One step in the index per intake, however many of its submissions wait. MariaDB would do the same for MIN with GROUP BY
  // (a loose index scan), and reads all of them instead where its statistics are from before a flood.
  const waiting = await query<{ intake_id: string; first: Date }>(
    `SELECT i.id AS intake_id, (
       SELECT s.due_at FROM submissions s
       WHERE s.state = 'received' AND s.blocked = FALSE AND s.intake_id = i.id ORDER BY s.due_at LIMIT 1
     ) AS first FROM intakes i HAVING first IS NOT NULL`,
  );
  const intakes = waiting.filter(({ intake_id: id, first }) => first <= now && !passOver.has(id));
  if (intakes.length === 0) return [];
  // Where there are more intakes than places, each has its turn in the long run.
  const start = Math.floor(Math.random() * intakes.length);
  const served = [...intakes.slice(start), ...intakes.slice(0, start)].slice(0, INTAKES_AT_ONCE);
  const due: Due[] = [];
  const hungry: string[] = [];
  for (const [at, { intake_id: id }] of served.entries()) {
    const share = Math.ceil((limit - due.length) / (served.length - at));
    const found = await dueOf(query, id, share, now, []);
    due.push(...found);
    if (found.length === share) hungry.push(id);
  }
  // What some leave over goes to those who would take more.
  for (const id of hungry) {
    if (due.length >= limit) break;
    const mine = due.filter((each) => each.intake_id === id).map(({ seq }) => seq);
    due.push(...(await dueOf(query, id, limit - due.length, now, mine)));
  }
  return due;
}

function dueOf(query: Query, intake: string, limit: number, now: Date, except: readonly number[]): Promise<Due[]> {
  if (limit <= 0) return Promise.resolve([]);
  return query<Due>(
    `SELECT seq, id, intake_id, version, attempts, submitted, answers, acting, of_record, received_at, claimed_by, course IS NOT NULL AS settled_before, claim, begun, begun_at, begun_alone, lingered
     FROM submissions
     WHERE state = 'received' AND blocked = FALSE AND intake_id = ? AND due_at <= ?
       AND (claimed_until IS NULL OR claimed_until < ?) ${except.length > 0 ? 'AND seq NOT IN (?)' : ''}
     ORDER BY due_at, seq LIMIT ? FOR UPDATE SKIP LOCKED`,
    [intake, now, now, ...(except.length > 0 ? [except] : []), limit],
  );
}

interface Lane {
  lane: Buffer;
  turn: number;
}

/** Finds who stands behind an earlier one, and marks them. @returns their places in the order of arrival */
async function markBlocked(query: Query, lanes: readonly Lane[]): Promise<Set<number>> {
  if (lanes.length === 0) return new Set();
  const heads = await query<Lane>('SELECT lane, MIN(turn) AS turn FROM lanes WHERE lane IN (?) GROUP BY lane', [
    lanes.map(({ lane }) => lane),
  ]);
  const firstIn = new Map(heads.map(({ lane, turn }) => [lane.toString('hex'), turn]));
  const waiting = lanes.filter(({ lane, turn }) => firstIn.get(lane.toString('hex'))! < turn);
  const behind = new Set(waiting.map(({ turn }) => turn));
  if (behind.size === 0) return behind;
  // The one ahead must still be there when the mark is set, or nobody would take it away. Its row is share-locked; where
  // it is just leaving (the row is locked by that), no mark is set, and the next look finds out.
  const ahead = waiting.map(({ lane }) => [lane, firstIn.get(lane.toString('hex'))!]);
  const there = await query<Lane>(
    'SELECT lane, turn FROM lanes WHERE (lane, turn) IN (?) LOCK IN SHARE MODE SKIP LOCKED',
    [ahead],
  );
  const standing = new Set(there.map(({ lane }) => lane.toString('hex')));
  const blocked = waiting.filter(({ lane }) => standing.has(lane.toString('hex'))).map(({ turn }) => turn);
  if (blocked.length > 0) await query('UPDATE submissions SET blocked = TRUE WHERE seq IN (?)', [blocked]);
  return behind;
}

/** Takes hold of lanes. @returns who didn't get all of theirs */
async function holdLanes(query: Query, lanes: readonly Lane[]): Promise<Set<number>> {
  const lost = new Set<number>();
  if (lanes.length === 0) return lost;
  // In the order of lanes, so that two claims can't wait for each other.
  await query('INSERT IGNORE INTO lane_holders (lane, turn) VALUES ?', [lanes.map(({ lane, turn }) => [lane, turn])]);
  const holders = await query<Lane>('SELECT lane, turn FROM lane_holders WHERE lane IN (?)', [
    lanes.map(({ lane }) => lane),
  ]);
  const holder = new Map(holders.map(({ lane, turn }) => [lane.toString('hex'), turn]));
  for (const { lane, turn } of lanes) if (holder.get(lane.toString('hex')) !== turn) lost.add(turn);
  if (lost.size > 0) await query('DELETE FROM lane_holders WHERE turn IN (?)', [[...lost]]);
  return lost;
}

/**
 * Whether a submission is what ends its processes. A process may be ended by anybody at any time, and takes whatever is
 * at work with it; so it counts only where nothing else was, and not where it had just been begun.
 */
function isToBlame({ begun, begun_at: at, begun_alone: alone, lingered }: Due, now: Date): boolean {
  if (begun >= MOST_BEGUN_SHORTLY) return alone === 1;
  if (alone !== 1) return false;
  if (lingered === 1) return begun >= MOST_BEGUN;
  // Nobody noted that it was at work for long. A process that is stuck can't; but nor can one that was killed at once and
  // followed by another only later, so this is believed only when it has come about once more.
  return begun > MOST_BEGUN && at !== null && now.getTime() - at.getTime() > LONG_MS;
}

/** Notes that a submission is alone at work and has been for a while. */
export async function noteLingering(db: Database, worker: string, seq: number): Promise<void> {
  await db.$client.query('UPDATE submissions SET lingered = TRUE WHERE seq = ? AND claimed_by = ?', [seq, worker]);
}

function toClaimed(row: Due, now: Date): Claimed {
  const json = <T>(value: string | T): T => (typeof value === 'string' ? (JSON.parse(value) as T) : value);
  return {
    seq: row.seq,
    id: row.id,
    intakeId: row.intake_id,
    version: row.version,
    attempts: row.attempts,
    values: json(row.submitted),
    answers: row.answers === null ? undefined : json(row.answers),
    acting: row.acting === null ? undefined : json(row.acting),
    ofRecord: row.of_record === null ? undefined : json(row.of_record),
    receivedAt: row.received_at,
    fresh: row.claimed_by === null && row.attempts === 0 && row.settled_before === 0,
    claim: row.claim + 1,
    givenUp: isToBlame(row, now),
  };
}

/**
 * Takes hold of lanes that a submission is found to stand in while it is at work, e.g. by a key that a lookup or an
 * earlier step has filled. It stands in them from then on, also when somebody else is at work there: put off, it is
 * claimed again in order of arrival.
 * @returns 'busy' when somebody else holds one of them, 'taken over' when the claim has passed to somebody else
 */
export function holdLanesOf(
  db: Database,
  seq: number,
  claim: number,
  lanes: readonly Buffer[],
): Promise<'held' | 'busy' | 'taken over'> {
  return inTransaction(db, async (query) => {
    const [own] = await query<{ claim: number }>(
      "SELECT claim FROM submissions WHERE seq = ? AND state = 'received' FOR UPDATE",
      [seq],
    );
    if (own?.claim !== claim) return 'taken over';
    const ordered = [...lanes].sort(Buffer.compare);
    await query('INSERT IGNORE INTO lanes (lane, turn) VALUES ?', [ordered.map((lane) => [lane, seq])]);
    await query('INSERT IGNORE INTO lane_holders (lane, turn) VALUES ?', [ordered.map((lane) => [lane, seq])]);
    const holders = await query<Lane>('SELECT lane, turn FROM lane_holders WHERE lane IN (?)', [ordered]);
    return holders.every(({ turn }) => turn === seq) ? 'held' : 'busy';
  });
}

/** Prolongs the claims a worker still works on. */
export async function prolongClaims(db: Database, worker: string, seqs: number[], now: Date): Promise<void> {
  if (seqs.length === 0) return;
  await db.$client.query('UPDATE submissions SET claimed_until = ? WHERE claimed_by = ? AND seq IN (?)', [
    new Date(now.getTime() + CLAIM_MS),
    worker,
    seqs,
  ]);
}

/**
 * Lets go of claims that workers of this machine left behind when they were killed, so that a restart needn't wait
 * for them to lapse. `claimed_by` stays: it tells the next worker that somebody has been at it.
 * @param isAlive whether the worker of that name still runs; undefined when it can't be known
 */
export async function releaseDead(db: Database, isAlive: (worker: string) => boolean | undefined): Promise<void> {
  const now = new Date();
  const [rows] = await db.$client.query(
    "SELECT DISTINCT claimed_by FROM submissions WHERE state = 'received' AND claimed_until >= ?",
    [now],
  );
  const dead = (rows as { claimed_by: string }[])
    .map((row) => row.claimed_by)
    .filter((worker) => isAlive(worker) === false);
  if (dead.length > 0)
    await db.$client.query('UPDATE submissions SET claimed_until = ? WHERE claimed_by IN (?)', [
      new Date(now.getTime() - 1),
      dead,
    ]);
}
