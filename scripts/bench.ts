import { mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { buildAll } from './build.ts';

/** `npm run bench [-- name …]`: each benchmark against its yardstick in the same run, as a table and as JSON. */
export interface Result {
  what: string;
  /** How it is measured, with its unit. */
  unit: string;
  yardstick: number;
  ours: number;
  /** Ours over yardstick. */
  ratio: number;
  aim: string;
  notes?: string;
}

const wanted = process.argv.slice(2).filter((each) => !each.startsWith('-'));
const names = readdirSync('bench')
  .filter((name) => name.endsWith('.bench.ts'))
  .map((name) => name.replace('.bench.ts', ''));
const unknown = wanted.filter((name) => !names.includes(name));
if (unknown.length > 0) {
  console.error(`There is no benchmark ${unknown.join(', ')}; there are ${names.join(', ')}.`);
  process.exit(2);
}
await buildAll();
const results: Record<string, Result[]> = {};
for (const name of names) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  console.log(`— ${name}`);
  const { bench } = (await import(`../bench/${name}.bench.ts`)) as { bench: () => Promise<Result[]> };
  results[name] = await bench();
  console.table(
    results[name].map(({ what, unit, yardstick, ours, ratio, aim, notes }) => ({
      what,
      unit,
      yardstick: Math.round(yardstick * 100) / 100,
      ours: Math.round(ours * 100) / 100,
      ratio: Math.round(ratio * 1000) / 1000,
      aim,
      notes: notes ?? '',
    })),
  );
}
mkdirSync('test-results', { recursive: true });
writeFileSync('test-results/bench.json', JSON.stringify(results, null, 2));
console.log('as JSON: test-results/bench.json');
process.exit(0);
