import { effectKey } from '@zusammen/core/plans';
import { enquiry, intakeLike, openStage, type Json, type Stage } from '../testing/stage.ts';

/** What waits for somebody is settled alike, undone, done again, and put out of sight. */
let stage: Stage;
let intake: string;
const KEY = 'bench';

beforeAll(async () => {
  stage = await openStage();
  // Whatever is found is asked about; a number of letters is refused as a postcode.
  intake = await intakeLike(stage, KEY, (document: Json) => {
    document.name = 'Bench';
    document.plan.steps[0].whenOne = 'ask';
  });
}, 60_000);
afterAll(() => stage.close());

const send = async (values: Record<string, string>): Promise<string> => {
  const response = await fetch(`${stage.address}/in/${KEY}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(values),
  });
  return ((await response.json()) as { submission: string }).submission;
};
const stateOf = async (id: string): Promise<Json> => (await stage.api('GET', `/submissions/${id}`)).body;
const causes = async (more = ''): Promise<Json[]> =>
  (await stage.api('GET', `/review?intake=${intake}${more}`)).body.causes;

describe('questions that are alike', () => {
  let first: string;
  let ids: string[];
  let step: string;
  const mails = ['ada', 'ben', 'cyn'].map((name) => `${name}.bench@meadow.example`);

  beforeAll(async () => {
    for (const mail of mails) await send(enquiry({ contact_email: mail }));
    await stage.settled();
    ids = [];
    for (const mail of mails) ids.push(await send(enquiry({ contact_email: mail, town: 'Elsewhere' })));
    await stage.settled();
    first = ids[0]!;
    step = (await stateOf(first)).steps.find((each: Json) => each.outcome === 'asked').step;
  });

  it('wait as one cause, found by intake, state, age and what was sent', async () => {
    const [cause, ...more] = await causes();
    expect(more).toEqual([]);
    expect(cause).toMatchObject({ intakeKey: KEY, state: 'in review', count: 3, entity: 'People' });
    const found = await stage.api('GET', `/submissions?intake=${intake}&state=in review&cause=${cause.cause}`);
    expect(found.body.submissions.map((each: Json) => each.id).sort()).toEqual([...ids].sort());
    expect(await causes('&state=refused,failed')).toEqual([]);
    expect(await causes(`&to=${new Date(Date.now() - 86_400_000).toISOString()}`)).toEqual([]);
    expect((await causes('&text=cyn'))[0]).toMatchObject({ count: 1 });
    expect(await causes('&system=no-such-system')).toEqual([]);
    expect((await stage.api('GET', '/review?state=applied')).status).toBe(422);
  });

  it('a decision is undone: what it wrote is taken back, and it is asked again', async () => {
    const { candidates } = (await stateOf(first)).steps.find((each: Json) => each.step === step);
    const record = candidates[0].id as string;
    expect((await stage.api('POST', `/submissions/${first}/answers`, { step, record })).body).toEqual({
      decided: [{ submission: first, step }],
    });
    await stage.settled();
    expect((await stage.people(mails[0]!))[0]).toMatchObject({ city: 'Elsewhere' });
    const undone = await stage.api('POST', `/submissions/${first}/unanswer`, { step });
    expect(undone).toMatchObject({ status: 200, body: { results: [{ done: true }] } });
    await stage.settled();
    expect((await stage.people(mails[0]!))[0].city).not.toBe('Elsewhere');
    const again = await stateOf(first);
    expect(again.submission).toMatchObject({ state: 'in review' });
    expect(again.submission.answers[effectKey(step, undefined)]).toEqual({ ask: [record] });
    // Undone twice there is nothing more to undo.
    expect((await stage.api('POST', `/submissions/${first}/unanswer`, { step })).status).toBe(409);
  });

  it('another record than the candidates may be meant, if it is there', async () => {
    const other = (await stage.people(mails[1]!))[0];
    const found = await stage.api('GET', `/submissions/${first}/records?step=${step}&text=${mails[1]}`);
    expect(found.body.records.map((each: Json) => each.id)).toEqual([other.id]);
    expect(
      (await stage.api('GET', `/submissions/${first}/records?step=${step}&text=${other.id}`)).body.records,
    ).toHaveLength(1);
    expect(
      (await stage.api('GET', `/submissions/${first}/would?step=${step}&record=${other.id}`)).body.step,
    ).toMatchObject({
      outcome: 'updated',
    });
    expect((await stage.api('POST', `/submissions/${first}/answers`, { step, record: 'nobody' })).status).toBe(422);
  });

  it('get one answer together', async () => {
    const answer = (body: object) => stage.api('POST', `/submissions/${first}/answers`, { step, ...body });
    // They were found by a key; no evidence speaks for one of them more than for another.
    expect((await answer({ best: true, alike: true })).body.errors[0].field).toBe('best');
    const { decided } = (await answer({ anew: true, alike: true })).body;
    expect(decided.map(({ submission }: Json) => submission).sort()).toEqual([...ids].sort());
    await stage.settled();
    expect(await causes()).toEqual([]);
    expect(await stage.people(mails[2]!)).toHaveLength(2);
  });
});

describe('what was refused', () => {
  it('is put right together where it is the same, and what holds something else is left', async () => {
    const wrong = async (last: string): Promise<string> => send(enquiry({ contact_last: last }));
    const long = 'x'.repeat(300);
    const ids = [await wrong(long), await wrong(long), await wrong('y'.repeat(300))];
    await stage.settled();
    const [cause] = await causes();
    expect(cause).toMatchObject({ count: 3 });
    const alike = (await stage.api('GET', `/submissions/${ids[0]}/alike`)).body;
    expect(alike.count).toBe(3);
    // What is only looked over is cut: two hundred of the largest stay a small answer.
    expect(alike.alike.map((each: Json) => each.values.contact_last.length)).toEqual([200, 200, 200]);
    const sent = await stage.api('POST', `/submissions/${ids[0]}/again`, {
      values: { contact_last: 'Short' },
      alike: true,
    });
    expect(sent.body).toEqual({ again: 2, left: 1 });
    await stage.settled();
    expect((await stateOf(ids[1]!)).submission.state).toBe('applied');
    expect(await causes()).toMatchObject([{ count: 1 }]);
    expect(
      (await stage.api('POST', `/submissions/${ids[2]}/set-aside`, { reason: 'a test', alike: true })).body,
    ).toEqual({
      aside: 1,
    });
    expect(await causes()).toEqual([]);
  });
});

describe('what was taken back', () => {
  it('is done again, and a creation is taken back after a later update was: our own reversals are nobody’s change', async () => {
    const mail = 'reversed@meadow.example';
    const post = async (more: Record<string, string>): Promise<string> => {
      const response = await stage.submit('pollination-enquiry', enquiry({ contact_email: mail, ...more }));
      return ((await response.json()) as { submission: string }).submission;
    };
    const creating = await post({});
    await stage.settled();
    const updating = await post({ town: 'Moved Away' });
    await stage.settled();
    expect(await stage.people(mail)).toMatchObject([{ city: 'Moved Away' }]);
    // While the update stands, deleting the record would lose it.
    const early = (await stage.api('POST', `/submissions/${creating}/take-back`)).body.results;
    expect(early.every(({ done }: Json) => done)).toBe(false);
    expect((await stage.api('POST', `/submissions/${updating}/take-back`)).body.results).toMatchObject([
      { done: true },
    ]);
    expect((await stage.api('POST', `/submissions/${creating}/take-back`)).body.results).toMatchObject([
      { done: true },
    ]);
    expect(await stage.people(mail)).toEqual([]);
    expect((await stage.api('POST', `/submissions/${creating}/again`)).body).toMatchObject({ again: 1 });
    await stage.settled();
    expect(await stage.people(mail)).toHaveLength(1);
  });
});

describe('an intake', () => {
  const listed = async (): Promise<Json | undefined> =>
    (await stage.api('GET', '/intakes')).body.intakes.find(({ id }: Json) => id === intake);

  it('is put away, closed and out of what is counted, and brought back', async () => {
    expect((await stage.api('PUT', `/intakes/${intake}/put-away`, { away: true })).status).toBe(204);
    expect(await listed()).toMatchObject({ state: 'closed', putAwayAt: expect.any(String) });
    const response = await fetch(`${stage.address}/in/${KEY}`, {
      method: 'POST',
      body: new URLSearchParams({ a: 'b' }),
    });
    expect(response.status).toBe(410);
    expect((await stage.api('PUT', `/intakes/${intake}/put-away`, { away: false })).status).toBe(204);
    expect(await listed()).toMatchObject({ state: 'closed', putAwayAt: null });
  });

  it('is not deleted while something is under way; deleted, it is gone, its key is free and its ledger stays', async () => {
    await stage.api('PUT', `/intakes/${intake}/state`, { state: 'open' });
    const mail = 'late.bench@meadow.example';
    await send(enquiry({ contact_email: mail }));
    await stage.settled();
    const waiting = await send(enquiry({ contact_email: mail, town: 'Elsewhere' }));
    await stage.settled();
    expect(await stage.api('DELETE', `/intakes/${intake}`)).toMatchObject({
      status: 409,
      body: { detail: expect.stringContaining('One submission') },
    });
    await stage.api('POST', `/submissions/${waiting}/set-aside`, { reason: 'for the test' });
    expect((await stage.api('DELETE', `/intakes/${intake}`)).status).toBe(204);
    expect(await listed()).toBeUndefined();
    expect((await stage.api('GET', `/intakes/${intake}`)).status).toBe(404);
    expect((await stateOf(waiting)).intake).toMatchObject({ name: 'Bench' });
    expect((await stage.api('GET', `/ledger?text=${mail}`)).body.changes.length).toBeGreaterThan(0);
    const { body } = await stage.api('GET', '/intakes');
    const { draft } = (await stage.api('GET', `/intakes/${body.intakes[0].id}`)).body.intake;
    expect((await stage.api('POST', '/intakes', { key: KEY, document: draft })).status).toBe(201);
  });
});
