import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import mysql from 'mysql2/promise';
import { whatIsBroken } from '../server/testing/ordeal-compare.ts';
import {
  lettersIn,
  pause,
  recordsIn,
  seeded,
  sendAll,
  submissionsFor,
  type OrdealWorld,
} from '../server/testing/ordeal-load.ts';
import { buildAll } from './build.ts';
import { startMariadb } from './mariadb.ts';
import { startProcess, type Running } from './processes.ts';
import { freePort } from './testing/setup.ts';

/**
 * `npm run galera`: what one machine shows of a MariaDB Galera cluster. Three nodes on loopback, two Zusammen servers
 * on different nodes, submissions to both; in the middle of it the node that one of them uses is killed (`kill -9`),
 * and the server is started again on another. Ends with 1 when anything accepted is lost or doubled.
 */
const SUBMISSIONS = 600;
const PROVIDER = '/usr/lib/galera/libgalera_smm.so';

interface Node {
  port: number;
  group: number;
  folder: string;
  child: ChildProcess;
}

await buildAll();
const home = mkdtempSync(join(tmpdir(), 'zusammen-galera-'));
// As root the state transfer is refused: the nodes run as a user that owns their folders.
chmodSync(home, 0o755);
const nodes: Node[] = [];
const servers: Running[] = [];
const stops: (() => Promise<unknown>)[] = [];
let bad = 1;
try {
  for (let at = 0; at < 3; at += 1) nodes.push(await startNode(at));
  console.log('— three nodes up');
  const outside = await startMariadb(join(home, 'outside'), await freePort());
  stops.push(() => outside.stop());
  const [standinsPort, firstPort, secondPort] = [await freePort(), await freePort(), await freePort()];
  const standins = startProcess(
    'dist/standins.mjs',
    [],
    {
      STANDINS_DATABASE_URL: outside.url,
      STANDINS_PORT: String(standinsPort),
      STANDINS_ADDRESS: `http://127.0.0.1:${standinsPort}`,
      ZUSAMMEN_ADDRESS: `http://127.0.0.1:${firstPort}`,
      STANDINS_PEOPLE: '300',
      STANDINS_ORGANISATIONS: '20',
    },
    join(home, 'standins.log'),
  );
  await standins.ready;
  stops.unshift(() => standins.stop());
  servers.push(await startServer(nodes[0]!, firstPort, standinsPort));
  servers.push(await startServer(nodes[1]!, secondPort, standinsPort));
  let turn = 0;
  const world: OrdealWorld = {
    address: () => `http://127.0.0.1:${(turn += 1) % 2 === 0 ? firstPort : secondPort}`,
    crm: (entity, filter) => recordsIn(`http://127.0.0.1:${standinsPort}`, entity, filter),
    subscribers: () => lettersIn(`http://127.0.0.1:${standinsPort}`, 'subscribers'),
    query: async (text, values = []) => {
      const connection = await mysql.createConnection({ uri: urlOf(nodes[0]!) });
      try {
        return (await connection.query(text, values))[0] as never;
      } finally {
        await connection.end();
      }
    },
  };
  const random = seeded(4);
  const sent = await submissionsFor(SUBMISSIONS, random, world);
  const started = performance.now();
  const sending = sendAll(world, sent, random);
  await pause(2500);
  console.log('— node 2 is killed, and the server on it goes on with node 3');
  process.kill(nodes[1]!.child.pid!, 'SIGKILL');
  await pause(1500);
  await servers[1]!.stop();
  servers[1] = await startServer(nodes[2]!, secondPort, standinsPort);
  const accepted = await sending;
  for (;;) {
    const [row] = await world.query<{ count: number }>(
      "SELECT COUNT(*) AS count FROM submissions WHERE state = 'received'",
    );
    if (Number(row!.count) === 0) break;
    await pause(250);
  }
  const compared = { records: 0, values: 0 };
  const broken = await whatIsBroken(world, sent, accepted, compared);
  const seconds = ((performance.now() - started) / 1000).toFixed(0);
  console.log(`  ${accepted} accepted over two servers; ${seconds} s`);
  console.log(`  ${compared.records} records and ${compared.values} values compared with the ledger`);
  for (const each of broken.slice(0, 30)) console.log(`  ✕ ${each}`);
  console.log(broken.length === 0 ? '  ● everything holds' : `  ✕ ${broken.length} things do not hold`);
  bad = broken.length;
} finally {
  for (const server of servers) await server.stop();
  for (const stop of stops) await stop();
  for (const { child } of nodes) child.kill('SIGKILL');
  rmSync(home, { recursive: true, force: true });
}
process.exit(bad === 0 ? 0 : 1);

function urlOf({ port }: Node): string {
  return `mysql://root@127.0.0.1:${port}/zusammen`;
}

async function startServer(node: Node, port: number, standinsPort: number): Promise<Running> {
  const server = startProcess(
    'dist/server.mjs',
    ['--role=all'],
    {
      DATABASE_URL: urlOf(node),
      ZUSAMMEN_HOME: home,
      PORT: String(port),
      ZUSAMMEN_DEMO_FROM: `http://127.0.0.1:${standinsPort}`,
      ZUSAMMEN_DEMO_PAST: '0',
      ZUSAMMEN_DEMO_PAIRINGS: 'no',
      ZUSAMMEN_LOG: 'error',
    },
    join(home, `server-${port}.log`),
  );
  await server.ready;
  return server;
}

/** Starts a node of the cluster; the first one founds it. @throws with its last words when it doesn't come up */
async function startNode(at: number): Promise<Node> {
  const folder = join(home, `node-${at}`);
  mkdirSync(folder);
  spawnSync('chown', ['mysql', folder]);
  const made = spawnSync(
    'mariadb-install-db',
    [
      '--no-defaults',
      '--user=mysql',
      `--datadir=${folder}`,
      '--auth-root-authentication-method=normal',
      '--skip-test-db',
    ],
    { encoding: 'utf8' },
  );
  if (made.status !== 0) throw new Error(`A node's data folder could not be made: ${made.stderr}`);
  const [port, group, transfer, full] = [await freePort(), await freePort(), await freePort(), await freePort()];
  const founder = nodes[0];
  const log = join(folder, 'node.log');
  const child = spawn(
    '/usr/sbin/mariadbd',
    [
      '--no-defaults',
      '--user=mysql',
      `--datadir=${folder}`,
      `--socket=${join(folder, 'node.sock')}`,
      `--port=${port}`,
      '--bind-address=127.0.0.1',
      `--log-error=${log}`,
      '--character-set-server=utf8mb4',
      '--collation-server=utf8mb4_uca1400_ai_ci',
      '--default-time-zone=+00:00',
      '--skip-name-resolve',
      '--binlog-format=ROW',
      '--innodb-autoinc-lock-mode=2',
      '--wsrep-on=ON',
      `--wsrep-provider=${PROVIDER}`,
      `--wsrep-node-address=127.0.0.1:${group}`,
      `--wsrep-provider-options=gmcast.listen_addr=tcp://127.0.0.1:${group};ist.recv_addr=127.0.0.1:${transfer}`,
      `--wsrep-sst-receive-address=127.0.0.1:${full}`,
      '--wsrep-sst-method=rsync',
      // A read on one node sees what another has committed before.
      '--wsrep-sync-wait=1',
      ...(founder
        ? [`--wsrep-cluster-address=gcomm://127.0.0.1:${founder.group}`]
        : ['--wsrep-new-cluster', '--wsrep-cluster-address=gcomm://']),
    ],
    { stdio: 'ignore', detached: true },
  );
  for (let waited = 0; waited < 600 && child.exitCode === null; waited += 1) {
    if (await isSynced(port, at + 1)) return { port, group, folder, child };
    await pause(200);
  }
  const words = existsSync(log) ? readFileSync(log, 'utf8').split('\n').slice(-15).join('\n') : '';
  throw new Error(`Node ${at + 1} did not come up.\n${words}`);
}

async function isSynced(port: number, size: number): Promise<boolean> {
  try {
    const connection = await mysql.createConnection({ uri: `mysql://root@127.0.0.1:${port}/`, connectTimeout: 1000 });
    const [rows] = await connection.query(
      "SHOW GLOBAL STATUS WHERE Variable_name IN ('wsrep_ready', 'wsrep_cluster_size')",
    );
    await connection.end();
    const told = new Map(
      (rows as { Variable_name: string; Value: string }[]).map((row) => [row.Variable_name, row.Value]),
    );
    return told.get('wsrep_ready') === 'ON' && Number(told.get('wsrep_cluster_size')) >= size;
  } catch {
    return false;
  }
}
