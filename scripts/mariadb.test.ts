import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import mysql from 'mysql2/promise';
import { startMariadb, type PrivateDatabase } from './mariadb.ts';
import { freePort } from './testing/setup.ts';

let home: string;
let port: number;
let database: PrivateDatabase;
beforeAll(async () => {
  home = mkdtempSync(join(tmpdir(), 'zusammen-private-'));
  port = await freePort();
  database = await startMariadb(home, port);
});
afterAll(async () => {
  await database.stop();
  rmSync(home, { recursive: true, force: true });
});

const mode = (path: string): number => statSync(join(home, path)).mode & 0o777;
const connects = (user: string, password?: string, socketPath?: string) =>
  mysql
    .createConnection({
      user,
      ...(password === undefined ? {} : { password }),
      ...(socketPath ? { socketPath } : { host: '127.0.0.1', port }),
    })
    .then(
      (connection) => connection.end().then(() => true),
      () => false,
    );

describe('the private database', () => {
  it('lets nobody in without a password, by port or by socket', async () => {
    const socket = join(home, 'mariadb', 'mariadb.sock');
    for (const user of ['root', 'zusammen', 'mysql', 'mariadb.sys', '', 'anybody'])
      for (const path of [undefined, socket])
        expect({ user, path, in: await connects(user, undefined, path) }).toEqual({ user, path, in: false });
    const connection = await mysql.createConnection({ uri: database.url });
    await connection.query('CREATE DATABASE zusammen_test');
    await connection.query('DROP DATABASE zusammen_test');
    await connection.end();
  });

  it('gives our account our databases, and neither files, accounts nor those of others', async () => {
    const connection = await mysql.createConnection({ uri: database.url });
    for (const attempt of [
      'CREATE DATABASE elsewhere',
      'SELECT * FROM mysql.global_priv',
      "SELECT 'x' INTO OUTFILE '/tmp/zusammen-outfile'",
      "SELECT LOAD_FILE('/etc/passwd') IS NULL AS nothing FROM mysql.user",
      "CREATE USER 'x'@'%'",
      'SHUTDOWN',
      'SET GLOBAL general_log = 1',
    ])
      await expect(connection.query(attempt)).rejects.toMatchObject({ errno: expect.any(Number) });
    await connection.end();
  });

  it('keeps its data, its log and its password to itself, and doesn’t run as root', () => {
    expect(mode('mariadb')).toBe(0o700);
    expect(mode('mariadb.log')).toBe(0o600);
    expect(mode('database-password')).toBe(0o600);
    expect(mode('.') & 0o044).toBe(0);
    const uid = Number(/^Uid:\s+(\d+)/m.exec(readFileSync(`/proc/${database.pid}/status`, 'utf8'))![1]);
    expect(uid).not.toBe(0);
    const asOther = spawnSync(
      'ls',
      [join(home, 'mariadb')],
      process.getuid?.() === 0 ? { uid: 65534, gid: 65534 } : {},
    );
    if (process.getuid?.() === 0) expect(asOther.status).not.toBe(0);
  });

  it('comes up again with what it held, also what an earlier version left open', async () => {
    const connection = await mysql.createConnection({ uri: database.url });
    await connection.query('CREATE DATABASE IF NOT EXISTS zusammen_kept');
    await connection.end();
    const root = await mysql.createConnection({
      user: 'root',
      password: readFileSync(join(home, 'database-password'), 'utf8').trim(),
      socketPath: join(home, 'mariadb', 'mariadb.sock'),
    });
    await root.query("ALTER USER 'root'@'localhost' IDENTIFIED BY ''");
    await root.query("CREATE USER 'root'@'127.0.0.1', ''@'localhost'");
    await root.end();
    await database.stop();
    if (process.getuid?.() === 0) execFileSync('chown', ['-R', '0:0', join(home, 'mariadb')]);
    database = await startMariadb(home, port);
    expect(await connects('root')).toBe(false);
    expect(await connects('', undefined, join(home, 'mariadb', 'mariadb.sock'))).toBe(false);
    const again = await mysql.createConnection({ uri: database.url });
    expect((await again.query("SHOW DATABASES LIKE 'zusammen_kept'"))[0]).toHaveLength(1);
    await again.end();
  });
});
