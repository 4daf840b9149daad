import { PROGRAMS } from '../../scripts/testing/setup.ts';
import { ordeal } from '../testing/ordeal.ts';

// Processes are started and killed here; on a busy machine that takes its time.
jest.setTimeout(300_000);

/** The short form of `npm run soak`. */
it('kill -9 of server, workers, stand-ins and MariaDB, answers broken off: nothing accepted is lost, nothing done twice', async () => {
  const result = await ordeal({
    seed: 20261125,
    submissions: 150,
    deaths: 6,
    faults: 0.1,
    workers: 2,
    programs: PROGRAMS,
    log: () => undefined,
  });
  expect(result.broken).toEqual([]);
  expect(result.accepted).toBe(150);
  expect(Object.values(result.deaths).reduce((sum, times) => sum + times, 0)).toBeGreaterThan(0);
  expect(result.compared.values).toBeGreaterThan(500);
});
