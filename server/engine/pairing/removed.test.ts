import { freshLine, type Pairing } from '@zusammen/core/pairing';
import { withTwoSystems } from '../../testing/two-systems.ts';
import { until } from '../../testing/until.ts';

const two = withTwoSystems();
const { changePerson, rowsOf, started, pairsOf, remove } = two;

const subscribersWithPeople = (more: Partial<Pairing> = {}): Pairing => ({
  ...two.fresh('Letter subscribers with people'),
  matches: [{ parts: [{ left: ['crm_id'], right: ['id'] }] }, { parts: [{ left: ['email'], right: ['email'] }] }],
  lines: [freshLine('given', ['given'], ['first_name']), freshLine('family', ['family'], ['last_name'])],
  ...more,
});
const KEEPER = { ...freshLine('keeper', ['keeper'], ['owner_id', 'name']), way: 'to left' as const };

describe('a pairing that is removed', () => {
  const nothingLeft = async (): Promise<void> => {
    for (const table of [
      'seen_records',
      'pairs',
      'pair_due',
      'pair_keys',
      'pair_troubles',
      'seen_links',
      'lane_holders',
    ])
      expect([table, (await rowsOf(`SELECT COUNT(*) AS count FROM ${table}`))[0].count]).toEqual([table, 0]);
  };

  it('leaves nothing behind either while its writes are on their way', async () => {
    const id = await started(subscribersWithPeople());
    const [one, two_, three] = await pairsOf(id);
    await two.stage.fault({ system: 'letters', kind: 'slow', ms: 1_500, share: 1, methods: ['PATCH'] });
    for (const [at, { r }] of [one, two_, three].entries()) await changePerson(r!, { first_name: `Removed${at}` });
    await until(
      'it is being written',
      async () => (await rowsOf("SELECT 1 FROM ledger WHERE state = 'intended'")).length > 0,
    );
    await remove(id);
    await until(
      'it has been answered',
      async () => (await rowsOf("SELECT 1 FROM ledger WHERE state = 'intended'")).length === 0,
    );
    await two.stage.noFaults();
    await until(
      'nobody holds the records any more',
      async () => (await rowsOf('SELECT 1 FROM lane_holders')).length === 0,
    );
    await nothingLeft();
  });

  it('leaves a reading that had just begun, and one that is started then sees everything all the same', async () => {
    await two.stage.fault({ system: 'letters', kind: 'slow', ms: 1_500, share: 1, methods: ['GET'] });
    const first = (await two.stage.api('POST', '/pairings', { document: subscribersWithPeople() })).body.id;
    await two.stage.api('POST', `/pairings/${first}/start`, { revision: 1, accept: true });
    const reading = `SELECT 1 FROM feeds f JOIN jobs j ON j.kind = 'feed' AND j.subject = f.id
      WHERE f.entity = 'subscribers' AND f.filled_at IS NULL AND f.next_link IS NULL AND j.claimed_by IS NOT NULL`;
    await until('its first page is on the way', async () => (await rowsOf(reading)).length > 0);
    await remove(first);
    const lines = [KEEPER];
    const second = await started(subscribersWithPeople({ name: 'Begun meanwhile', lines }));
    await two.stage.noFaults();
    expect((await pairsOf(second)).length).toBeGreaterThan(10);
    await remove(second);
  });

  it('leaves nothing behind but what it has written, whoever else looks at the same', async () => {
    const kept = async (): Promise<number> =>
      Number((await rowsOf('SELECT COUNT(*) AS count FROM seen_records'))[0].count);
    const first = await started(subscribersWithPeople());
    const second = await started(
      subscribersWithPeople({
        name: 'Once more',
        lines: [KEEPER],
      }),
    );
    expect(await kept()).toBeGreaterThan(0);
    await remove(first);
    expect(await kept()).toBeGreaterThan(0);
    await remove(second);
    await nothingLeft();
    // A later one begins from nothing, and comes to the same.
    const third = await started(subscribersWithPeople());
    expect((await pairsOf(third)).length).toBeGreaterThan(10);
    await remove(third);
  });
});
