import { startWhole } from '../scripts/testing/whole.ts';

/** Starts everything that `npm start` does, on free ports with throw-away data, from what was built. */
export default async function setup(): Promise<() => Promise<void>> {
  const whole = await startWhole({ roles: ['web', 'worker'], quick: true, past: 120, host: 'localhost' });
  process.env['E2E_ADDRESS'] = whole.address;
  process.env['E2E_STANDINS'] = whole.standins;
  return () => whole.close();
}
