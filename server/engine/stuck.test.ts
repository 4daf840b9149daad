import { startChild, type Child } from '../testing/children.ts';
import { enquiry, openStage, type Stage } from '../testing/stage.ts';
import { until } from '../testing/until.ts';

// Processes are started and killed here; on a busy machine that takes its time.
jest.setTimeout(240_000);

let stage: Stage;
const children: Child[] = [];
beforeAll(async () => {
  stage = await openStage({ role: 'web', people: 10 });
});
afterEach(() => stage.noFaults());
afterAll(async () => {
  for (const child of children) await child.kill();
  await stage.close();
});

const worker = async (): Promise<Child> => {
  const child = await startChild(stage.databaseUrl, stage.home, 0, 'worker');
  children.push(child);
  return child;
};
const send = async (values: Record<string, string>): Promise<string> =>
  ((await (await stage.submit('pollination-enquiry', values)).json()) as { submission: string }).submission;

const begun = async (id: string): Promise<number> => {
  const [rows] = await stage.db.$client.query('SELECT begun FROM submissions WHERE id = ?', [id]);
  return (rows as { begun: number }[])[0]!.begun;
};
/** It has been alone at work for a while, and that is known. */
const lingers = async (id: string): Promise<boolean> => {
  const [rows] = await stage.db.$client.query('SELECT lingered FROM submissions WHERE id = ?', [id]);
  return (rows as { lingered: number }[])[0]!.lingered === 1;
};
const stateOf = async (id: string) => (await stage.api('GET', `/submissions/${id}`)).body;

it('what was at work alone when its process ended three times is failed in words; the next in its lane goes on; a person may send it again', async () => {
  await stage.fault({ kind: 'slow', ms: 8_000 });
  const values = enquiry();
  const id = await send(values);
  const next = await send({ ...values, contact_phone: '030 23125 088' });
  for (const times of [1, 2, 3]) {
    const child = await worker();
    await until('it comes to that', async () => (await begun(id)) === times && (await lingers(id)));
    await child.kill();
  }
  await stage.noFaults();
  const last = await worker();
  await stage.settled(60_000);
  expect(await stateOf(id)).toMatchObject({
    state: 'failed',
    submission: { words: expect.stringContaining('begun three times') },
  });
  expect((await stateOf(next)).state).toBe('applied');
  expect((await stage.api('POST', `/submissions/${id}/again`)).status).toBe(200);
  await stage.settled(60_000);
  expect((await stateOf(id)).state).toBe('applied');
  expect(await stage.people(values['contact_email']!)).toHaveLength(1);
  await last.kill();
});

it('a crowd that was at work when its process was killed, twice, is carried out all the same', async () => {
  await stage.fault({ kind: 'slow', ms: 3_000 });
  const sent = Array.from({ length: 30 }, () => enquiry());
  const ids = await Promise.all(sent.map(send));
  for (const times of [1, 2]) {
    const child = await worker();
    await until('it comes to that', async () => (await Promise.all(ids.map(begun))).some((each) => each === times));
    await child.kill();
  }
  await stage.noFaults();
  const last = await worker();
  await stage.settled(120_000);
  expect(new Set((await Promise.all(ids.map(stateOf))).map(({ state }) => state))).toEqual(new Set(['applied']));
  for (const { contact_email } of sent) expect(await stage.people(contact_email!)).toHaveLength(1);
  await last.kill();
});

it('one that its system answers with 5xx again and again is set aside at any time', async () => {
  const child = await worker();
  await stage.fault({ kind: 'fail', status: 500 });
  const id = await send(enquiry());
  await until('it comes to that', async () => (await stateOf(id)).submission.attempts > 0);
  await until(
    'it comes to that',
    async () => (await stage.api('POST', `/submissions/${id}/set-aside`, { reason: 'a trial' })).status === 200,
  );
  expect(await stateOf(id)).toMatchObject({ state: 'set aside', submission: { reason: 'a trial' } });
  await stage.noFaults();
  expect((await stage.api('POST', `/submissions/${id}/again`)).status).toBe(200);
  await stage.settled(60_000);
  expect((await stateOf(id)).state).toBe('applied');
  await child.kill();
});
