import { execFileSync } from 'node:child_process';
import { ordeal, type OrdealSettings } from '../server/testing/ordeal.ts';
import { pairingOrdeal } from '../server/testing/pairing-ordeal.ts';
import { buildAll } from './build.ts';

/**
 * `npm run soak [-- --seed N] [--submissions N] [--edits N] [--deaths N] [--histories N]`: crash and faults at length, and
 * the laws of pairings over very many histories; ends with 1 when anything that was promised does not hold. What it found last stands in docs/reliability.md.
 */
const given = (name: string, otherwise: number): number => {
  const at = process.argv.indexOf(`--${name}`);
  const value = at < 0 ? otherwise : Number(process.argv[at + 1]);
  if (!Number.isInteger(value) || value < 0) {
    console.error(`--${name} takes a whole number.`);
    process.exit(2);
  }
  return value;
};
const seed = given('seed', 1);
const submissions = given('submissions', 2000);
const edits = given('edits', 2000);
const deaths = given('deaths', 40);
const histories = given('histories', 100_000);
await buildAll();
const base: OrdealSettings = {
  seed,
  submissions,
  deaths: 0,
  faults: 0,
  workers: 2,
  programs: 'dist',
  log: (words) => console.log(`  ${words}`),
};
const ordeals: [name: string, settings: OrdealSettings][] = [
  ['killed at random points', { ...base, deaths }],
  ['a fifth of all answers slow, throttled, failing or broken off', { ...base, seed: seed + 1, faults: 0.2 }],
  ['both at once, 4 workers', { ...base, seed: seed + 2, deaths: Math.ceil(deaths / 2), faults: 0.2, workers: 4 }],
];
let bad = 0;
for (const [name, settings] of ordeals) {
  console.log(`— ${name}: ${settings.submissions} submissions, seed ${settings.seed}`);
  const { accepted, deaths: dead, seconds, broken, compared } = await ordeal(settings);
  const killed = Object.entries(dead).map(([victim, times]) => `${victim} ${times}×`);
  console.log(`  killed: ${killed.join(', ') || 'nothing'}; ${seconds.toFixed(0)} s`);
  console.log(
    `  ${accepted} accepted, ${compared.records} records and ${compared.values} values compared with the ledger`,
  );
  for (const each of broken.slice(0, 30)) console.log(`  ✕ ${each}`);
  console.log(broken.length === 0 ? '  ● everything holds' : `  ✕ ${broken.length} things do not hold`);
  bad += broken.length;
}
for (const [name, { faults, deaths: dying, workers }] of ordeals) {
  console.log(`— a pairing, ${name}: ${edits} edits, seed ${seed}`);
  const result = await pairingOrdeal({ ...base, seed, edits, faults, workers, deaths: dying });
  const killed = Object.entries(result.deaths).map(([victim, times]) => `${victim} ${times}×`);
  console.log(`  killed: ${killed.join(', ') || 'nothing'}; ${result.seconds.toFixed(0)} s`);
  console.log(`  ${result.compared.pairs} pairs and ${result.compared.values} values compared with the model`);
  for (const each of result.broken.slice(0, 30)) console.log(`  ✕ ${each}`);
  console.log(result.broken.length === 0 ? '  ● everything holds' : `  ✕ ${result.broken.length} things do not hold`);
  bad += result.broken.length;
}
console.log(`— the laws of pairings over ${histories} histories each`);
try {
  execFileSync('npx', ['jest', 'core/pairing/laws'], {
    stdio: 'inherit',
    env: { ...process.env, HISTORIES: String(histories) },
  });
} catch {
  bad += 1;
}
process.exit(bad === 0 ? 0 : 1);
