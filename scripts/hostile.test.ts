import { hostileTrial } from './hostile/trial.ts';
import { PROGRAMS } from './testing/setup.ts';
import { startWhole, type Whole } from './testing/whole.ts';

// Everything is started, attacked a dozen times and watched; on a busy machine that takes its time.
jest.setTimeout(600_000);

// How long others wait is measured by `npm run hostile`, on a machine at rest; here counts what stops everybody.
const STOPPED_MS = 3000;

let whole: Whole;
beforeAll(async () => {
  whole = await startWhole({
    roles: ['web', 'worker'],
    programs: PROGRAMS,
    quick: true,
    people: 60,
    organisations: 10,
  });
}, 240_000);
afterAll(() => whole.close(), 60_000);

it('whatever strangers, viewers and systems send, nobody else waits for it and no process ends (short of npm run hostile)', async () => {
  const outcomes = await hostileTrial(whole, 0.06, STOPPED_MS, () => undefined);
  expect(outcomes.filter(({ broken }) => broken.length > 0)).toEqual([]);
});
