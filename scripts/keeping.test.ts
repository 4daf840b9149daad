import { randomBytes } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sealerFrom } from '../server/access/index.ts';
import { addSystem, createDatabase, migrateDatabase, openDatabase, systemById } from '../server/store/index.ts';
import { MIGRATIONS } from '../server/testing/stage.ts';
import { backUp, backUpKey, NotKept, restore, restoreKey } from './keeping.ts';

const folder = mkdtempSync(join(tmpdir(), 'zusammen-keeping-'));
const name = randomBytes(4).toString('hex');
const urlOf = (which: string): string => `${process.env['TEST_DATABASE_URL']!}kept_${name}_${which}`;
const homeOf = (which: string): string => join(folder, which);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** What a database holds, table by table. */
async function contents(url: string): Promise<Record<string, unknown>> {
  const db = openDatabase(url, 2);
  const [tables] = await db.$client.query('SHOW TABLES');
  const held: Record<string, unknown> = {};
  for (const row of tables as Record<string, string>[]) {
    const table = Object.values(row)[0]!;
    held[table] = (await db.$client.query(`CHECKSUM TABLE \`${table}\``))[0];
    (held[table] as { Table: string }[])[0]!.Table = table;
  }
  await db.$client.end();
  return held;
}

it('a backup taken while it is in use holds one moment, and restored it is the same, with secrets that open', async () => {
  const url = urlOf('a');
  await createDatabase(url);
  await migrateDatabase(url, MIGRATIONS);
  const db = openDatabase(url, 4);
  const sealer = sealerFrom(join(homeOf('a'), 'sealing-key'));
  const now = new Date();
  await addSystem(
    db,
    {
      ...{
        id: 's',
        name: 'Größe 😀 “quoted” \\ \u0000',
        kind: 'odata',
        adapterVersion: null,
        adapterDrift: null,
        address: 'http://x',
        sealedToken: sealer.seal('the token', 's'),
        revision: 1,
      },
      ...{ practice: true, personal: false, recordPage: null, state: 'answers', stateWords: null, latencyMs: null },
      ...{ checkedAt: now, schemaReadAt: now, patienceUntil: null, createdAt: now },
      capabilities: { repeatability: false, batch: false, delta: false, etags: true },
    },
    { entities: [] },
  );
  await db.$client.query(
    "INSERT INTO files (id, name, bytes, row_count, column_names, uploaded_at, uploaded_by) VALUES (UUID(), 'x', 4, 1, '[]', NOW(3), 'x')",
  );
  await db.$client.query("INSERT INTO file_parts (file_id, part, bytes) SELECT id, 0, x'00ff27225c0a' FROM files");
  const before = await contents(url);
  // Somebody goes on writing two rows at a time while it is taken.
  let writing = true;
  const writer = (async () => {
    while (writing) {
      const connection = await db.$client.getConnection();
      await connection.query('START TRANSACTION');
      for (const half of [1, 2])
        await connection.query("INSERT INTO changes (at, user_name, what, subject) VALUES (NOW(3), 'x', 'pair', ?)", [
          String(half),
        ]);
      await connection.query('COMMIT');
      connection.release();
    }
  })();
  const to = join(folder, 'backup');
  await backUp(url, to);
  writing = false;
  await writer;
  await db.$client.end();
  backUpKey(homeOf('a'), join(folder, 'key'));
  for (const file of ['database.sql.gz', 'manifest.json']) expect(statSync(join(to, file)).mode & 0o077).toBe(0);
  expect(existsSync(join(to, 'sealing-key'))).toBe(false);

  await restore(urlOf('b'), to);
  restoreKey(join(folder, 'key'), homeOf('b'));
  const after = await contents(urlOf('b'));
  delete before['changes'];
  expect(after).toMatchObject(before);
  const restored = openDatabase(urlOf('b'), 2);
  const [[pairs]] = (await restored.$client.query(
    "SELECT COUNT(*) AS count FROM changes WHERE what = 'pair'",
  )) as never as [[{ count: number }]];
  expect(Number(pairs.count) % 2).toBe(0);
  const row = (await systemById(restored, 's'))!;
  expect(sealerFrom(join(homeOf('b'), 'sealing-key')).open(row.sealedToken, 's')).toBe('the token');
  await restored.$client.end();
  // What was restored goes on being brought up to date.
  await migrateDatabase(urlOf('b'), MIGRATIONS);
});

it('nothing is replaced unasked, and a damaged backup is refused before anything is touched', async () => {
  const to = join(folder, 'backup');
  await expect(restore(urlOf('b'), to)).rejects.toThrow(/holds something already/);
  await expect(backUp(urlOf('a'), to)).rejects.toThrow(/holds a backup already/);
  await expect(restore(urlOf('b'), to, true)).resolves.toMatchObject({ format: 1 });
  const before = await contents(urlOf('b'));
  const dump = join(to, 'database.sql.gz');
  const bytes = readFileSync(dump);
  writeFileSync(dump, bytes.subarray(0, bytes.length / 2));
  await expect(restore(urlOf('b'), to, true)).rejects.toBeInstanceOf(NotKept);
  expect(await contents(urlOf('b'))).toEqual(before);
  await expect(restore(urlOf('b'), join(folder, 'nowhere'), true)).rejects.toThrow(/no whole backup/);
  sealerFrom(join(homeOf('c'), 'sealing-key'));
  expect(() => restoreKey(join(folder, 'key'), homeOf('c'))).toThrow(/another key/);
});
