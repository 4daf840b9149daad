import { and, desc, gte, isNull, lt, sql, type SQL } from 'drizzle-orm';
import type { SubmittedValues } from '@zusammen/core/forms';
import { searchTerms, searchWords } from '@zusammen/core/values';
import type { Database } from './database.ts';
import { submissions } from './schema.ts';
import { inTransaction, type Query } from './transaction.ts';

/** The most words kept of one submission: a novel in a text field is not what people are found by. */
const WORDS_EACH = 120;

function wordsOf(label: string, values: SubmittedValues): string[] {
  const words = new Set(searchWords(label));
  for (const said of Object.values(values).flat()) {
    for (const word of searchWords(String(said).slice(0, 400))) words.add(word);
    if (words.size >= WORDS_EACH) break;
  }
  return [...words].slice(0, WORDS_EACH);
}

/** Lets submissions be found by their words. */
export async function indexWords(
  query: Query,
  found: readonly { seq: number; label: string; values: SubmittedValues }[],
): Promise<void> {
  const rows = found.flatMap(({ seq, label, values }) => wordsOf(label, values).map((word) => [word, seq]));
  for (let at = 0; at < rows.length; at += 5000)
    await query('INSERT IGNORE INTO search_words (word, seq) VALUES ?', [rows.slice(at, at + 5000)]);
}

/** Rows are committed within this time of their arrival; a number left out by a later commit would never be indexed. */
const SETTLES_MS = 10_000;

/**
 * Indexes the next submissions by their words, in order of arrival. Any number of processes may ask; one does it.
 * @returns how many were indexed
 */
export function indexNext(db: Database, limit: number, now = new Date()): Promise<number> {
  return inTransaction(db, async (query) => {
    await query('INSERT IGNORE INTO search_state (id, seq) VALUES (1, 0)');
    const [state] = await query<{ seq: number }>('SELECT seq FROM search_state WHERE id = 1 FOR UPDATE SKIP LOCKED');
    if (!state) return 0;
    const rows = await query<{ seq: number; label: string; submitted: string | SubmittedValues; received_at: Date }>(
      'SELECT seq, label, submitted, received_at FROM submissions WHERE seq > ? ORDER BY seq LIMIT ?',
      [state.seq, limit],
    );
    const young = rows.findIndex(({ received_at: at }) => at.getTime() > now.getTime() - SETTLES_MS);
    const due = young < 0 ? rows : rows.slice(0, young);
    if (due.length === 0) return 0;
    await indexWords(
      query,
      due.map(({ seq, label, submitted }) => ({
        seq,
        label,
        values: typeof submitted === 'string' ? (JSON.parse(submitted) as SubmittedValues) : submitted,
      })),
    );
    await query('UPDATE search_state SET seq = ? WHERE id = 1', [due.at(-1)!.seq]);
    return due.length;
  });
}

/** Words that begin alike, of which a term may mean any. */
const MEANINGS = 60;
/** Newest submissions looked at for a term, and at least for each word that it may mean. */
const NEWEST = 3000;
const NEWEST_EACH = 60;
/** Not indexed yet: read through, newest first. */
const TAIL = 2000;

/**
 * The newest submissions that have a word beginning with each of a text's, newest first: at most some thousands.
 * @returns undefined when the text has nothing to search by
 */
export async function seqsOf(db: Database, text: string, before?: number): Promise<number[] | undefined> {
  const terms = searchTerms(text);
  if (terms.length === 0) return undefined;
  const under = before ?? Number.MAX_SAFE_INTEGER;
  const lists = await Promise.all(terms.map((term) => newestWith(db, term, under)));
  // The rarest word leads; for the others it is asked whether they are there.
  const order = lists.map((_, at) => at).sort((a, b) => lists[a]!.seqs.length - lists[b]!.seqs.length);
  let left = lists[order[0]!]!.seqs;
  for (const at of order.slice(1)) left = await among(db, left, terms[at]!, lists[at]!);
  const tail = await unindexed(db, terms, under);
  return [...new Set([...tail, ...left])].sort((a, b) => b - a);
}

interface Found {
  seqs: number[];
  /** There may be more than these. */
  cut: boolean;
}

const beginning = (term: string): string => `${term.replace(/[\\%_]/g, '\\$&')}%`;

async function newestWith(db: Database, term: string, under: number): Promise<Found> {
  const [words] = await db.$client.query('SELECT DISTINCT word FROM search_words WHERE word LIKE ? LIMIT ?', [
    beginning(term),
    MEANINGS + 1,
  ]);
  const meant = (words as unknown as { word: string }[]).map(({ word }) => word);
  if (meant.length === 0) return { seqs: [], cut: false };
  const each = '(SELECT seq FROM search_words WHERE word = ? AND seq < ? ORDER BY seq DESC LIMIT ?)';
  const chosen = meant.slice(0, MEANINGS);
  const share = Math.max(NEWEST_EACH, Math.ceil(NEWEST / chosen.length));
  const [rows] = await db.$client.query(
    chosen.map(() => each).join(' UNION ALL '),
    chosen.flatMap((word) => [word, under, share]),
  );
  const found = rows as unknown as { seq: number }[];
  const seqs = [...new Set(found.map(({ seq }) => seq))].sort((a, b) => b - a);
  return { seqs: seqs.slice(0, NEWEST), cut: meant.length > MEANINGS || found.length >= share };
}

async function among(db: Database, seqs: readonly number[], term: string, found: Found): Promise<number[]> {
  if (!found.cut) {
    const there = new Set(found.seqs);
    return seqs.filter((seq) => there.has(seq));
  }
  if (seqs.length === 0) return [];
  const [rows] = await db.$client.query('SELECT DISTINCT seq FROM search_words WHERE seq IN (?) AND word LIKE ?', [
    seqs,
    beginning(term),
  ]);
  return (rows as unknown as { seq: number }[]).map(({ seq }) => seq);
}

async function unindexed(db: Database, terms: readonly string[], under: number): Promise<number[]> {
  const rows = await db
    .select({ seq: submissions.seq, label: submissions.label, values: submissions.values })
    .from(submissions)
    .where(
      and(
        sql`${submissions.seq} > COALESCE((SELECT seq FROM search_state WHERE id = 1), 0)`,
        lt(submissions.seq, under),
        isNull(submissions.forgottenAt),
      ),
    )
    .orderBy(desc(submissions.seq))
    .limit(TAIL);
  return rows
    .filter(({ label, values }) => {
      const words = wordsOf(label, values);
      return terms.every((term) => words.some((word) => word.startsWith(term)));
    })
    .map(({ seq }) => seq);
}

/** Conditions on when something happened, from and to (exclusive). */
export function within(column: Parameters<typeof gte>[0], from?: Date, to?: Date): SQL[] {
  return [...(from ? [gte(column, from)] : []), ...(to ? [lt(column, to)] : [])];
}

/** Of intakes that are neither put away nor deleted. */
export const inSight = (): SQL =>
  sql`${submissions.intakeId} NOT IN (SELECT id FROM intakes WHERE put_away_at IS NOT NULL OR deleted_at IS NOT NULL)`;
