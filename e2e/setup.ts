import { copyFileSync, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { startWhole } from '../scripts/testing/whole.ts';

const LOGS = 'test-results/logs';

/**
 * Starts everything that `npm start` does, on free ports with throw-away data, from what was built. What its programs
 * said is kept: a test that fails here once in a while leaves nothing else to look at.
 */
export default async function setup(): Promise<() => Promise<void>> {
  const whole = await startWhole({ roles: ['web', 'worker'], quick: true, past: 120, host: 'localhost' });
  process.env['E2E_ADDRESS'] = whole.address;
  process.env['E2E_STANDINS'] = whole.standins;
  return async () => {
    rmSync(LOGS, { recursive: true, force: true });
    mkdirSync(LOGS, { recursive: true });
    for (const name of readdirSync(whole.home).filter((each) => each.endsWith('.log')))
      copyFileSync(join(whole.home, name), join(LOGS, name));
    await whole.close();
  };
}
