import { Housekeeper, LiveView } from '../engine/index.ts';
import { indexNext } from '../store/index.ts';
import { enquiry, openStage, signInAt, type Stage } from '../testing/stage.ts';

const POLLINATION = 'pollination-enquiry';
let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 20 });
});
afterAll(() => stage.close());

const send = async (values: Record<string, string>): Promise<string> => {
  const response = await stage.submit(POLLINATION, values);
  return ((await response.json()) as { submission: string }).submission;
};
const found = async (query: Record<string, string>): Promise<string[]> =>
  (await stage.api('GET', `/ledger?${new URLSearchParams(query)}`)).body.changes.map(
    ({ after }: { after: Record<string, string> }) => after['last_name'],
  );
const intakeId = async (): Promise<string> =>
  (await stage.api('GET', '/intakes')).body.intakes.find(({ key }: { key: string }) => key === POLLINATION).id;

describe('the ledger', () => {
  it('finds a change by the person, by beginnings of words, by the record, by intake and time, indexed or not', async () => {
    const values = enquiry({ contact_first: 'Telse', contact_last: 'Mehrensberg' });
    const id = await send(values);
    await send(enquiry({ contact_first: 'Telse', contact_last: 'Ashdown' }));
    await stage.settled();
    const { body } = await stage.api('GET', `/submissions/${id}`);
    const record = body.steps[0].record.id as string;
    const ways: Record<string, string>[] = [
      { text: 'mehrensb tel' },
      { text: values['contact_email']! },
      { text: record },
      { text: 'telse mehrensberg', intake: await intakeId() },
      { text: 'Mehrensberg', from: new Date(Date.now() - 60_000).toISOString() },
    ];
    const look = async () => {
      for (const way of ways) expect(await found(way)).toEqual(['Mehrensberg']);
      expect(await found({ text: 'mehrensberg ashdown' })).toEqual([]);
      expect(await found({ text: 'Mehrensberg', to: new Date(Date.now() - 60_000).toISOString() })).toEqual([]);
      expect(await found({ text: 'Mehrensberg', intake: id })).toEqual([]);
    };
    await look();
    // A moment later they are found by the index.
    expect(await indexNext(stage.db, 500, new Date(Date.now() + 60_000))).toBeGreaterThanOrEqual(2);
    await look();
    expect((await stage.api('GET', '/ledger?from=yesterday')).status).toBe(422);
  });

  it('goes out as CSV and JSON, with values that a spreadsheet would run defused', async () => {
    await send(enquiry({ contact_first: '=1+1', contact_last: 'Żuraw, "Ivo"' }));
    await stage.settled();
    const cookie = await signInAt(stage.address, 'mara@cloverhollow.example');
    const csv = await (
      await fetch(`${stage.address}/api/ledger/export?format=csv&text=ivo`, { headers: { cookie } })
    ).text();
    expect(csv.split('\r\n')[0]).toBe(
      '"change","at","submission","about","intake","system","entity","record","action","state","by","field","before","after","refusal"',
    );
    expect(csv).toContain(`,"first_name","","'=1+1",`);
    expect(csv).toContain(',"phone","","+493023125077",');
    expect(csv).toContain('"Żuraw, ""Ivo"""');
    const { body } = await stage.api('GET', '/ledger/export?format=json&text=ivo');
    expect(body).toMatchObject([{ intake: POLLINATION, system: 'Co-op CRM', after: { first_name: '=1+1' } }]);
    expect((await stage.api('GET', '/ledger/export?format=pdf')).status).toBe(422);
  });

  it('forgets what an intake no longer keeps: values go, figures and records touched stay', async () => {
    const values = enquiry({ contact_last: 'Vergesslich' });
    const id = await send(values);
    await stage.settled();
    const intake = await intakeId();
    const { draft, revision } = (await stage.api('GET', `/intakes/${intake}`)).body.intake;
    const document = { ...draft, settings: { ...draft.settings, keepDays: 30 } };
    const saved = await stage.api('PUT', `/intakes/${intake}/draft`, { revision, document });
    await stage.api('POST', `/intakes/${intake}/publish`, { revision: saved.body.revision, accept: true });
    const keeper = new Housekeeper(stage.db, { client: () => Promise.reject() }, new LiveView(stage.db), () => {});
    await keeper.forget(new Date(Date.now() + 29 * 86_400_000));
    expect((await stage.api('GET', `/submissions/${id}`)).body.submission.values).toMatchObject(values);
    await keeper.forget(new Date(Date.now() + 31 * 86_400_000));
    const { body } = await stage.api('GET', `/submissions/${id}`);
    expect(body).toMatchObject({ state: 'applied', submission: { values: {}, label: '' } });
    expect(body.steps).toMatchObject([{ outcome: 'created', record: { id: expect.any(String) }, changes: [] }]);
    expect(body.changes).toMatchObject([{ before: {}, after: {}, recordId: expect.any(String) }]);
    expect(JSON.stringify(body)).not.toContain('Vergesslich');
    expect(await found({ text: 'Vergesslich' })).toEqual([]);
    expect((await stage.api('POST', `/submissions/${id}/again`)).status).toBe(409);
  });
});

describe('the live feed', () => {
  it('tells what arrives and what becomes of it, within a second, and only those who are signed in', async () => {
    expect((await fetch(`${stage.address}/api/live`)).status).toBe(401);
    const cookie = await signInAt(stage.address, 'bozena@cloverhollow.example');
    const leave = new AbortController();
    const response = await fetch(`${stage.address}/api/live`, { headers: { cookie }, signal: leave.signal });
    expect(response.headers.get('content-type')).toBe('text/event-stream');
    const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
    let heard = '';
    const until = async (what: RegExp): Promise<void> => {
      while (!what.test(heard)) heard += (await reader.read()).value ?? '';
    };
    await until(/event: ready/);
    const id = await send(enquiry());
    await until(new RegExp(`event: submissions\ndata: .*"id":"${id}","state":"applied"`));
    // Nothing of what people send goes out by the feed.
    expect(heard).not.toContain('@');
    leave.abort();
  });
});
