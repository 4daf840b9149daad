import { PROGRAMS } from '../../../scripts/testing/setup.ts';
import { pairingOrdeal } from '../../testing/pairing-ordeal.ts';

// Processes are started and killed here; on a busy machine that takes its time.
jest.setTimeout(300_000);

/** The short form of `npm run soak`. */
it('edits on both sides under kill -9 and faults: nothing uncontradicted is lost, nothing is made twice', async () => {
  const { broken, compared, deaths } = await pairingOrdeal({
    seed: 20261127,
    edits: 200,
    deaths: 5,
    faults: 0.1,
    workers: 2,
    programs: PROGRAMS,
    log: () => undefined,
  });
  expect(broken).toEqual([]);
  expect(compared.values).toBeGreaterThan(300);
  expect(Object.values(deaths).reduce((sum, times) => sum + times, 0)).toBe(5);
});
