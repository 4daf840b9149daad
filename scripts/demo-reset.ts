import { rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import mysql from 'mysql2/promise';
import { alive, startMariadb } from './mariadb.ts';

/** `npm run demo:reset`: forgets everything the demo has become; the next start loads it afresh. */
const { env } = process;
const home = resolve(env['ZUSAMMEN_HOME'] ?? '.data');
if (alive(join(home, 'run', 'server.pid')) !== undefined) {
  console.error('Zusammen is running; stop it first.');
  process.exit(1);
}
const own = env['DATABASE_URL'] ? undefined : await startMariadb(home, Number(env['DB_PORT'] ?? 4606));
const url = new URL(env['DATABASE_URL'] ?? `${own!.url}zusammen`);
const name = url.pathname.slice(1);
url.pathname = '/';
const connection = await mysql.createConnection({ uri: url.href });
for (const database of [name, 'standins_crm', 'standins_site', 'standins_shop', 'standins_pay', 'standins_letters'])
  await connection.query(`DROP DATABASE IF EXISTS \`${database}\``);
await connection.end();
await own?.stop();
rmSync(join(home, 'sealing-key'), { force: true });
console.log('The demo is gone; npm start loads it afresh.');
process.exit(0);
