import { buildAll } from '../build.ts';
import { startWhole } from '../testing/whole.ts';
import { hostileTrial } from './trial.ts';

/**
 * `npm run hostile [-- words]`: everything a stranger may send, at full size, or those attacks whose name holds the words;
 * ends with 1 when anything that is promised does not hold.
 */
const words = process.argv.slice(2).join(' ');
/** Nobody waits longer for health, whatever somebody else sends. */
const LONGEST_MS = 500;

await buildAll();
const whole = await startWhole({ roles: ['web', 'worker'], people: 400 });
try {
  const outcomes = await hostileTrial(whole, 1, LONGEST_MS, (said) => console.log(said), words);
  const bad = outcomes.filter(({ broken }) => broken.length > 0);
  const worst = Math.max(...outcomes.map(({ health }) => health));
  console.log(
    `${outcomes.length} attacks, ${bad.length} of them did harm; health was waited for ${Math.round(worst)} ms at most`,
  );
  process.exitCode = bad.length === 0 ? 0 : 1;
} finally {
  await whole.close();
}
process.exit();
