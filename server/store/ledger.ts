import { and, desc, eq, getTableColumns, inArray, lt, ne, type SQL } from 'drizzle-orm';
import type { Values } from '@zusammen/core/schema';
import type { Database } from './database.ts';
import { leaveLanes } from './lanes.ts';
import { restAfterTakingBack } from './pairs.ts';
import { ledger, submissions, turns, type LedgerState, type TurnKind } from './schema.ts';
import { seqsOf, within } from './search.ts';
import { inTransaction, type Query } from './transaction.ts';
import type { TurnRow } from './turns.ts';

type Row = typeof ledger.$inferSelect;
/** A change, with whose doing it was. */
export type LedgerRow = Row & Pick<TurnRow, 'actor' | 'actingPerson'>;
export type LedgerEntry = Omit<Row, 'id' | 'undoneBy' | 'settledAt' | 'refusal' | 'etagAfter'>;
/** Which effect of a turn a change is. */
export type LedgerKey = Pick<Row, 'step' | 'row' | 'ofEntity' | 'ofRecord'>;

const withActor = { ...getTableColumns(ledger), actor: turns.actor, actingPerson: turns.actingPerson };
const rows = (db: Database) => db.select(withActor).from(ledger).innerJoin(turns, eq(turns.id, ledger.turn));

/** The newest attempt at an effect of a turn. */
export async function newestAttempt(db: Database, turn: number, key: LedgerKey): Promise<LedgerRow | undefined> {
  const found = await rows(db)
    .where(
      and(
        eq(ledger.turn, turn),
        eq(ledger.step, key.step),
        eq(ledger.row, key.row),
        eq(ledger.ofEntity, key.ofEntity),
        eq(ledger.ofRecord, key.ofRecord),
      ),
    )
    .orderBy(desc(ledger.attempt))
    .limit(1);
  return found[0];
}

/** The newest attempt at taking a change back. */
export async function newestUndo(db: Database, change: number): Promise<LedgerRow | undefined> {
  const found = await rows(db).where(eq(ledger.undoes, change)).orderBy(desc(ledger.attempt)).limit(1);
  return found[0];
}

/** Commits an intent before it is sent. @throws ER_DUP_ENTRY when another worker has got as far with this attempt */
export async function noteIntent(db: Database, entry: LedgerEntry): Promise<number> {
  const [result] = await db.insert(ledger).values(entry);
  return result.insertId;
}

const ENTERED = {
  turn: 'turn',
  intakeId: 'intake_id',
  step: 'step',
  row: 'step_row',
  ofEntity: 'of_entity',
  ofRecord: 'of_record',
  attempt: 'attempt',
  systemId: 'system_id',
  entity: 'entity',
  recordId: 'record_id',
  action: 'action',
  before: 'before_values',
  after: 'after_values',
  etagBefore: 'etag_before',
  requestId: 'request_id',
  state: 'state',
  intendedAt: 'intended_at',
  undoes: 'undoes',
} as const satisfies Record<keyof LedgerEntry, string>;
const NAMES = Object.keys(ENTERED) as (keyof LedgerEntry)[];
const PLACES = `(${NAMES.map(() => '?').join(', ')})`;

const insertOf = (entries: readonly LedgerEntry[]): string =>
  `INSERT INTO ledger (${Object.values(ENTERED).join(', ')}) VALUES ${entries.map(() => PLACES).join(', ')} RETURNING id`;
const valuesOf = (entries: readonly LedgerEntry[]): unknown[] =>
  entries.flatMap((entry) =>
    NAMES.map((name) => (name === 'before' || name === 'after' ? JSON.stringify(entry[name]) : entry[name])),
  );

/** Commits many intents in one transaction. @returns their ids, in order */
export async function noteIntents(db: Database, entries: readonly LedgerEntry[]): Promise<number[]> {
  const [noted] = await db.$client.query(insertOf(entries), valuesOf(entries));
  return (noted as unknown as { id: number }[]).map(({ id }) => id);
}

/** The same within a transaction. */
export async function ledgerEntered(query: Query, entries: readonly LedgerEntry[]): Promise<number[]> {
  return (await query<{ id: number }>(insertOf(entries), valuesOf(entries))).map(({ id }) => id);
}

/**
 * Puts down what came of a taking back, in one transaction: its own row, the mark on the change it takes back, and that
 * the submission counts as taken back when nothing it wrote stands any more. A crash leaves all of it or nothing.
 */
export function settleTakingBack(
  db: Database,
  undo: LedgerRow,
  settled: Pick<LedgerRow, 'recordId' | 'etagAfter' | 'refusal'> & { state: LedgerState; at: Date },
): Promise<void> {
  return inTransaction(db, async (query) => {
    await query(
      `UPDATE ledger SET state = ?, record_id = COALESCE(?, record_id), etag_after = ?, refusal = ?, settled_at = ?
       WHERE id = ? AND state = 'intended'`,
      [
        settled.state,
        settled.recordId,
        settled.etagAfter,
        settled.refusal === null ? null : JSON.stringify(settled.refusal),
        settled.at,
        undo.id,
      ],
    );
    if (settled.state !== 'written') return;
    await query('UPDATE ledger SET undone_by = ? WHERE id = ? AND undone_by IS NULL', [undo.id, undo.undoes]);
    const [undone] = await query<{ turn: number; step: string; action: string }>(
      'SELECT turn, step, action FROM ledger WHERE id = ?',
      [undo.undoes],
    );
    if (!undone) return;
    await restAfterTakingBack(query, undone, undo.after);
    await countAsTakenBack(query, undone.turn, settled.at);
  });
}

/** Moves a submission of which nothing stands any more to its end, and out of its lanes. */
async function countAsTakenBack(query: Query, turn: number, at: Date): Promise<void> {
  const [left] = await query<{ standing: number }>(
    `SELECT COUNT(*) AS standing FROM ledger
     WHERE turn = ? AND state = 'written' AND undoes IS NULL AND undone_by IS NULL`,
    [turn],
  );
  if (Number(left!.standing) > 0) return;
  const ends = ['applied', 'refused', 'failed', 'in review'];
  const [row] = await query<{ state: string }>('SELECT state FROM submissions WHERE seq = ? FOR UPDATE', [turn]);
  if (!row || !ends.includes(row.state)) return;
  await query("UPDATE submissions SET state = 'taken back', settled_at = ? WHERE seq = ?", [at, turn]);
  await leaveLanes(query, [turn]);
}

/** Puts down what a system made of a change of its schema. @param words why it didn't take it; absent: it did */
export async function settleSchemaRow(db: Database, id: number, words: string | undefined): Promise<void> {
  const refusal = words === undefined ? null : { kind: 'other' as const, words, fields: [] };
  await db
    .update(ledger)
    .set({ state: words === undefined ? 'written' : 'refused', refusal, settledAt: new Date() })
    .where(eq(ledger.id, id));
}

export async function markUndone(db: Database, id: number, by: number): Promise<void> {
  await db.update(ledger).set({ undoneBy: by }).where(eq(ledger.id, id));
}

export async function ledgerRow(db: Database, id: number): Promise<LedgerRow | undefined> {
  return (await rows(db).where(eq(ledger.id, id)))[0];
}

/** Everything a turn wrote or tried to, in order. */
export async function ledgerOf(db: Database, turn: number): Promise<LedgerRow[]> {
  return rows(db).where(eq(ledger.turn, turn)).orderBy(ledger.id);
}

/** Everything that was done to a record, whoever did it, in order. */
export async function changesOfRecord(
  db: Database,
  { systemId, entity, recordId }: Pick<LedgerRow, 'systemId' | 'entity' | 'recordId'>,
): Promise<LedgerRow[]> {
  if (recordId === null) return [];
  return rows(db)
    .where(and(eq(ledger.systemId, systemId), eq(ledger.entity, entity), eq(ledger.recordId, recordId)))
    .orderBy(ledger.id);
}

/** What was written last to records of an entity, by their ids. @param limit of changes looked at, the newest */
export async function lastWritten(
  db: Database,
  systemId: string,
  entity: string,
  limit: number,
): Promise<Map<string, Values>> {
  const written = await db
    .select({ recordId: ledger.recordId, after: ledger.after })
    .from(ledger)
    .where(and(eq(ledger.systemId, systemId), eq(ledger.entity, entity), eq(ledger.state, 'written')))
    .orderBy(desc(ledger.id))
    .limit(limit);
  const last = new Map<string, Values>();
  for (const { recordId, after } of written)
    if (recordId !== null) last.set(recordId, { ...after, ...last.get(recordId) });
  return last;
}

/** What a turn wrote or tried to, and what was done to take that back, in order. */
export async function ledgerAround(db: Database, turn: number): Promise<LedgerRow[]> {
  const own = await ledgerOf(db, turn);
  if (own.length === 0) return own;
  const ids = own.map(({ id }) => id);
  const back = await rows(db).where(inArray(ledger.undoes, ids));
  return [...own, ...back.filter(({ id }) => !ids.includes(id))].sort((a, b) => a.id - b.id);
}

export interface LedgerSearch {
  /** Beginnings of words that were submitted, or a record's id. */
  text?: string;
  intake?: string;
  system?: string;
  entity?: string;
  record?: string;
  state?: LedgerState;
  /** When it was intended: from, and before. */
  from?: Date;
  to?: Date;
  before?: number;
  limit: number;
}

export interface LedgerLine extends LedgerRow {
  /** Blank for what no submission did. */
  submissionId: string;
  label: string;
  /** The change of a schema that it is part of. */
  schemaChange?: string;
  /** The pairing that brought it into step, and the record it came from. */
  pairing?: { id: string; from: string | null };
}

/** The newest changes that meet a search, newest first, each with what it belongs to. */
export async function searchLedger(db: Database, search: LedgerSearch): Promise<LedgerLine[]> {
  const conditions: SQL[] = within(ledger.intendedAt, search.from, search.to);
  if (search.intake) conditions.push(eq(ledger.intakeId, search.intake));
  if (search.system) conditions.push(eq(ledger.systemId, search.system));
  if (search.entity) conditions.push(eq(ledger.entity, search.entity));
  if (search.record) conditions.push(eq(ledger.recordId, search.record));
  if (search.state) conditions.push(eq(ledger.state, search.state));
  if (search.before) conditions.push(lt(ledger.id, search.before));
  if (!search.text) return newestChanges(db, conditions, search.limit);
  const seqs = (await seqsOf(db, search.text)) ?? [];
  const byTurn = inArray(ledger.turn, seqs);
  const ofThem = db.select({ id: ledger.id }).from(ledger).where(byTurn);
  // Three ways in, each by an index of its own: the record, what submissions did, and what took that back.
  const ways = [
    eq(ledger.recordId, search.text.trim()),
    ...(seqs.length === 0 ? [] : [byTurn, inArray(ledger.undoes, ofThem)]),
  ];
  const lines = await Promise.all(ways.map((way) => newestChanges(db, [...conditions, way], search.limit)));
  const found = new Map(lines.flat().map((line) => [line.id, line]));
  return [...found.values()].sort((a, b) => b.id - a.id).slice(0, search.limit);
}

/** What changes are called that no submission made. */
const CALLED: Record<Exclude<TurnKind, 'submission'>, string> = {
  merge: 'Merging of doubles',
  link: 'Linking of doubles',
  pair: 'Coming into step',
  schema: 'Change of a schema',
  'taking back': 'Taking back',
};

async function newestChanges(db: Database, conditions: readonly SQL[], limit: number): Promise<LedgerLine[]> {
  const found = await rows(db)
    .where(and(...conditions))
    .orderBy(desc(ledger.id))
    .limit(limit);
  if (found.length === 0) return [];
  const about = new Map(
    (await turnsAbout(db, [...new Set(found.map(({ turn }) => turn))])).map((each) => [each.id, each]),
  );
  return found.map((row) => {
    const turn = about.get(row.turn);
    const pair = turn?.pair;
    return {
      ...row,
      submissionId: turn?.submissionId ?? '',
      label: turn?.label ?? '',
      ...(turn?.schemaChange === undefined ? {} : { schemaChange: turn.schemaChange }),
      ...(pair ? { pairing: { id: pair.pairing, from: row.step === 'left' ? pair.right : pair.left } } : {}),
    };
  });
}

/** Of turns, the submission each is or takes back, and what it is called. */
async function turnsAbout(
  db: Database,
  ids: number[],
): Promise<{ id: number; submissionId: string; label: string; pair?: PairTurn; schemaChange?: string }[]> {
  const own = await db
    .select({ id: turns.id, kind: turns.kind, subject: turns.subject })
    .from(turns)
    .where(inArray(turns.id, ids));
  // What takes a turn back is called as that one is.
  const originOf = ({ id, kind, subject }: (typeof own)[number]): number =>
    kind === 'taking back' ? Number(subject) : id;
  const origins = [...new Set(own.map(originOf))];
  const sent = await db
    .select({ seq: submissions.seq, id: submissions.id, label: submissions.label })
    .from(submissions)
    .where(inArray(submissions.seq, origins));
  const bySeq = new Map(sent.map((each) => [each.seq, each]));
  const paired = await pairTurns(db, origins);
  const schemaTurns = await db
    .select({ id: turns.id, change: turns.subject })
    .from(turns)
    .where(and(inArray(turns.id, origins), eq(turns.kind, 'schema')));
  const changed = new Map(schemaTurns.map(({ id, change }) => [id, change]));
  return own.map((turn) => {
    const submission = bySeq.get(originOf(turn));
    if (submission) return { id: turn.id, submissionId: submission.id, label: submission.label };
    const pair = paired.get(originOf(turn));
    if (pair) return { id: turn.id, submissionId: '', label: pair.name, pair };
    const schemaChange = changed.get(originOf(turn));
    if (schemaChange !== undefined) return { id: turn.id, submissionId: '', label: CALLED.schema, schemaChange };
    return { id: turn.id, submissionId: '', label: turn.kind === 'submission' ? '' : CALLED[turn.kind] };
  });
}

/** A turn that brought a pair into step. */
interface PairTurn {
  pairing: string;
  name: string;
  left: string | null;
  right: string | null;
}

async function pairTurns(db: Database, ids: readonly number[]): Promise<Map<number, PairTurn>> {
  if (ids.length === 0) return new Map();
  const [rows] = await db.$client.query(
    `SELECT t.id, p.pairing_id AS pairing, p.left_id AS \`left\`, p.right_id AS \`right\`, JSON_VALUE(r.draft, '$.name') AS name
     FROM turns t JOIN pairs p ON p.id = CAST(t.subject AS UNSIGNED) JOIN pairings r ON r.id = p.pairing_id
     WHERE t.kind = 'pair' AND t.id IN (?)`,
    [ids],
  );
  return new Map((rows as ({ id: number } & PairTurn)[]).map(({ id, ...turn }) => [id, turn]));
}

/** Effects on records that were sent, or may have been, and whose answer isn't known; changes of schemas go on by their jobs. */
export async function unsettled(db: Database, limit: number): Promise<LedgerRow[]> {
  return rows(db)
    .where(and(eq(ledger.state, 'intended'), ne(ledger.action, 'schema')))
    .orderBy(ledger.id)
    .limit(limit);
}
