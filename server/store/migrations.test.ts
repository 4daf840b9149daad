import { randomBytes } from 'node:crypto';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MIGRATIONS } from '../testing/stage.ts';
import {
  createDatabase,
  importById,
  ledgerAround,
  ledgerOf,
  migrateDatabase,
  openDatabase,
  recognitionByScope,
  searchLedger,
  type Database,
} from './index.ts';

/** What an installation of an earlier version holds is there after the next start. */
let db: Database;
let url: string;
let before: string;
beforeAll(async () => {
  url = `${process.env['TEST_DATABASE_URL']!}migrated_${randomBytes(4).toString('hex')}`;
  await createDatabase(url);
  before = mkdtempSync(join(tmpdir(), 'migrations-'));
  db = openDatabase(url, 4);
});
afterAll(async () => {
  await db.$client.end();
  rmSync(before, { recursive: true });
});

/** Migrates as far as the version whose newest migration has this number. */
async function migrateTo(last: number): Promise<void> {
  cpSync(MIGRATIONS, before, { recursive: true });
  const journal = join(before, 'meta', '_journal.json');
  const all = JSON.parse(readFileSync(journal, 'utf8')) as { entries: { idx: number }[] };
  writeFileSync(journal, JSON.stringify({ ...all, entries: all.entries.filter(({ idx }) => idx <= last) }));
  await migrateDatabase(url, before);
}

it('changes belong to turns, what takes long to jobs, and readings to feeds', async () => {
  await migrateTo(5);
  const { $client: sql } = db;
  const id = '0192f0c1-0000-7000-8000-000000000001';
  await sql.query(
    `INSERT INTO submissions (seq, id, intake_id, version, state, label, submitted, via, received_at, due_at)
     VALUES (7, ?, ?, 1, 'applied', 'Kathi Brandt', '{}', 'form', NOW(3), NOW(3))`,
    [id, id],
  );
  await sql.query("INSERT INTO search_words (word, seq) VALUES ('kathi', 7)");
  await sql.query('INSERT INTO search_state (id, seq) VALUES (1, 7)');
  await sql.query('INSERT INTO lanes (lane, seq) VALUES (UNHEX(MD5(1)), 7)');
  await sql.query(
    `INSERT INTO double_groups (id, search_id, scope, members, weight_hundredths, verdict, state) VALUES (3, ?, 1, '["P-1","P-2"]', 1, 'same', 'merged')`,
    [id],
  );
  const change = (seq: number, effect: string, record: string, by: string, undoes: number | null = null) => [
    ...[seq, effect, record, by, undoes],
  ];
  const changes = [
    change(7, 'person', 'P-1', 'connection'),
    change(7, 'rows#0', 'R-1', 'connection'),
    change(7, 'rows#12', 'R-2', 'connection'),
    change(7, 'undo 2', 'R-1', 'Mara', 2),
    change(-3, 'values', 'P-1', 'Mara'),
    change(-3, 'Orders O-1 buyer', 'O-1', 'Mara'),
    change(-3, 'Orders O-1 payer', 'O-1', 'Mara'),
    change(-3, 'gone P-2', 'P-2', 'Mara'),
    change(-3, 'undo 6', 'O-1', 'Mara'),
  ];
  for (const [at, [seq, effect, record, by, undoes]] of changes.entries())
    await sql.query(
      `INSERT INTO ledger (id, submission_seq, effect, attempt, system_id, entity, record_id, action, before_values, after_values, request_id, state, intended_at, actor, undoes)
       VALUES (?, ?, ?, 1, 's', ?, ?, 'update', '{}', '{}', UUID(), 'written', NOW(3), ?, ?)`,
      [at + 1, seq, effect, String(record).startsWith('O') ? 'Orders' : 'People', record, by, undoes],
    );

  await sql.query(
    "INSERT INTO recognitions (scope, system_id, entity, document, revision, method, filled_at, delta_link, due_at) VALUES (4, 's', 'People', '{}', 2, 1, NOW(3), 'd', NOW(3))",
  );
  await sql.query(
    `INSERT INTO imports (id, intake_id, file_id, state, row_count, done, accepted, problems, words, started_at, started_by) VALUES (?, ?, ?, 'paused', 9, 5, 4, '[]', 'closed', NOW(3), 'Mara')`,
    [id, id, id],
  );

  await migrateDatabase(url, MIGRATIONS);

  expect(await importById(db, id)).toMatchObject({ state: 'paused', rows: 9, done: 5, accepted: 4, words: 'closed' });
  expect(await recognitionByScope(db, 4)).toMatchObject({ revision: 2, generation: 1, deltaLink: 'd' });
  const [feeds] = await sql.query("SELECT subject, state FROM jobs WHERE kind = 'feed'");
  expect(feeds).toEqual([{ subject: '4', state: 'running' }]);

  const own = await ledgerOf(db, 7);
  expect(own.map(({ id: at, step, row, actor }) => ({ at, step, row, actor }))).toEqual([
    { at: 1, step: 'person', row: 0, actor: 'connection' },
    { at: 2, step: 'rows', row: 1, actor: 'connection' },
    { at: 3, step: 'rows', row: 13, actor: 'connection' },
  ]);
  expect((await ledgerAround(db, 7)).map(({ id: at, actor, undoes }) => [at, actor, undoes])).toEqual([
    [1, 'connection', null],
    [2, 'connection', null],
    [3, 'connection', null],
    [4, 'Mara', 2],
  ]);
  const [[group]] = (await sql.query('SELECT turn FROM double_groups WHERE id = 3')) as unknown as [[{ turn: number }]];
  const merged = await ledgerAround(db, group.turn);
  expect(merged.map(({ step, ofRecord, undoes }) => [step, ofRecord, undoes])).toEqual([
    ['values', '', null],
    ['references', 'O-1', null],
    ['references', 'O-1', null],
    ['others', 'P-2', null],
    ['references', 'O-1', 6],
  ]);
  const found = await searchLedger(db, { text: 'kathi', limit: 10 });
  expect(found.map(({ id: at, label }) => [at, label])).toEqual([4, 3, 2, 1].map((at) => [at, 'Kathi Brandt']));
  const [turns] = await sql.query('SELECT kind, subject FROM turns ORDER BY id');
  expect(turns).toEqual([
    { kind: 'submission', subject: id },
    { kind: 'merge', subject: '3' },
    { kind: 'taking back', subject: '7' },
    { kind: 'taking back', subject: String(group.turn) },
  ]);
});
