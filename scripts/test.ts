import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { buildAll } from './build.ts';

/** `npm test`: format, lint, import rules, types, unit and server tests, and the real interface; one line of figures at the end. */
interface Check {
  name: string;
  command: string[];
  /** Counts tests out of what the runner wrote; a check without counts as one. */
  count?: () => { passed: number; failed: number };
}

const jestReport = 'test-results/jest.json';
const playwrightReport = 'test-results/playwright.json';
const node = process.execPath;

const CHECKS: Check[] = [
  { name: 'format', command: ['node_modules/.bin/biome', 'format', '.'] },
  { name: 'lint', command: ['node_modules/.bin/eslint', '.'] },
  {
    name: 'import rules',
    command: [
      'node_modules/.bin/depcruise',
      '--config',
      '.dependency-cruiser.cjs',
      'core',
      'server',
      'web/src',
      'standins',
      'scripts',
      'bench',
      'e2e',
    ],
  },
  { name: 'types', command: [node, 'node_modules/typescript7/bin/tsc', '--noEmit', '-p', 'tsconfig.json'] },
  {
    name: 'types of the interface',
    command: [node, 'node_modules/typescript7/bin/tsc', '--noEmit', '-p', 'web/tsconfig.json'],
  },
  {
    name: 'unit and server tests',
    // Jest would leave a core to whoever sits before the machine; half of these tests wait for a database.
    command: ['node_modules/.bin/jest', '--maxWorkers=100%', '--json', `--outputFile=${jestReport}`],
    count: countJest,
  },
  { name: 'interface tests', command: ['node_modules/.bin/playwright', 'test'], count: countPlaywright },
];

function countJest() {
  const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(
    readFileSync(jestReport, 'utf8'),
  ) as Record<string, number>;
  return { passed: numPassedTests!, failed: numFailedTests! + numRuntimeErrorTestSuites! };
}

function countPlaywright() {
  const { stats } = JSON.parse(readFileSync(playwrightReport, 'utf8')) as {
    stats: { expected: number; unexpected: number; flaky: number };
  };
  return { passed: stats.expected, failed: stats.unexpected + stats.flaky };
}

const run = ([program, ...args]: string[]): Promise<number> =>
  new Promise((resolve) => {
    const child = spawn(program!, args, {
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, NODE_ENV: 'test' },
    });
    child.once('exit', (code) => resolve(code ?? 1));
  });

let passed = 0;
let failed = 0;
rmSync('test-results', { recursive: true, force: true });
mkdirSync('test-results', { recursive: true });
await buildAll();
for (const { name, command, count } of CHECKS) {
  console.log(`\n— ${name}`);
  const code = await run(command);
  let counted = { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1 };
  if (count) {
    try {
      counted = count();
      // A runner that fails without a failing test has failed all the same.
      if (code !== 0 && counted.failed === 0) counted.failed = 1;
    } catch {
      counted = { passed: 0, failed: 1 };
    }
  }
  passed += counted.passed;
  failed += counted.failed;
  if (counted.failed > 0) console.log(`— ${name}: ${counted.failed} failed`);
}
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
