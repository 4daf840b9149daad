import { execFileSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb, type PrivateDatabase } from '../../scripts/mariadb.ts';
import { freePort } from '../../scripts/testing/setup.ts';
import { connectionOf, createDatabase, migrateDatabase, openDatabase } from './index.ts';
import { MIGRATIONS } from '../testing/stage.ts';

/** A database that takes encrypted connections, with a certificate of our own authority. */
let home: string;
let folder: string;
let database: PrivateDatabase;
const NEW_KEY = '-newkey rsa:2048 -nodes';
/** Runs openssl in the folder; `more` are arguments with spaces in them. */
const openssl = (args: string, ...more: string[]): unknown =>
  execFileSync('openssl', [...args.split(' '), ...more], { cwd: folder, stdio: 'ignore' });
beforeAll(async () => {
  home = mkdtempSync(join(tmpdir(), 'zusammen-tls-'));
  folder = mkdtempSync(join(tmpdir(), 'zusammen-authority-'));
  chmodSync(folder, 0o755);
  openssl(`req -x509 ${NEW_KEY} -keyout ca.key -out ca.pem -days 2 -subj`, '/CN=Trial authority');
  openssl(`req ${NEW_KEY} -keyout server.key -out server.csr -subj`, '/CN=127.0.0.1');
  writeFileSync(join(folder, 'names'), 'subjectAltName=IP:127.0.0.1\n');
  openssl('x509 -req -in server.csr -CA ca.pem -CAkey ca.key -CAcreateserial -out server.pem -days 2 -extfile names');
  openssl(`req -x509 ${NEW_KEY} -keyout other.key -out other.pem -days 2 -subj`, '/CN=Another authority');
  chmodSync(join(folder, 'server.key'), 0o644);
  database = await startMariadb(home, await freePort(), {
    quick: true,
    more: [
      `--ssl-cert=${join(folder, 'server.pem')}`,
      `--ssl-key=${join(folder, 'server.key')}`,
      `--ssl-ca=${join(folder, 'ca.pem')}`,
    ],
  });
});
afterAll(async () => {
  await database.stop();
  for (const each of [home, folder]) rmSync(each, { recursive: true, force: true });
});

const url = (query: string): string => `${database.url}zusammen${query}`;
const cipher = async (address: string): Promise<string> => {
  const db = openDatabase(address, 1);
  try {
    const [rows] = await db.$client.query("SHOW SESSION STATUS LIKE 'Ssl_cipher'");
    return (rows as { Value: string }[])[0]!.Value;
  } finally {
    await db.$client.end();
  }
};

it('with tls=required everything goes encrypted, to a server whose certificate the authority has signed', async () => {
  const secure = url(`?tls=required&ca=${join(folder, 'ca.pem')}`);
  await createDatabase(secure);
  await migrateDatabase(secure, MIGRATIONS);
  expect(await cipher(secure)).toMatch(/TLS|AES|CHACHA/);
  expect(await cipher(url(''))).toBe('');
});

it('a server that somebody else has vouched for, or nobody, is not talked to', async () => {
  await expect(cipher(url(`?tls=required&ca=${join(folder, 'other.pem')}`))).rejects.toThrow(/certificate/);
  await expect(cipher(url('?tls=required'))).rejects.toThrow(/certificate/);
});

it('what can’t be meant is refused', () => {
  expect(() => connectionOf('mysql://x@y/z?tls=maybe')).toThrow(/“required” or “off”/);
  expect(() => connectionOf('mysql://x@y/z?ca=/etc/ca.pem')).toThrow(/not tls=required/);
  expect(() => connectionOf('mysql://x@y/z?tls=required&ca=/nowhere.pem')).toThrow(/nowhere/);
});
