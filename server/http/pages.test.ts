import { callerAt, enquiry, openStage, signInAt, type Stage } from '../testing/stage.ts';

/** What the pages ask for: figures, searches, decisions on record. */
let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 80, past: 60 });
});
afterAll(() => stage.close());

const get = async (path: string) => (await stage.api('GET', path)).body;
const send = async (values: Record<string, string>): Promise<string> => {
  const response = await stage.submit('pollination-enquiry', values);
  const { submission } = (await response.json()) as { submission: string };
  await stage.settled();
  return submission;
};

describe('the demo', () => {
  it('plays its past back through the engine, dated when it arrived', async () => {
    const { counts } = await get('/submissions');
    expect(counts.applied).toBeGreaterThan(50);
    const [rows] = await stage.db.$client.query(
      'SELECT COUNT(*) AS count FROM ledger l JOIN submissions s ON s.seq = l.turn WHERE ABS(TIMESTAMPDIFF(SECOND, s.received_at, l.intended_at)) > 60',
    );
    expect(Number((rows as { count: number }[])[0]!.count)).toBe(0);
  });
  it('isn’t loaded into what is in use', async () => {
    const { loadDemo } = await import('../demo/index.ts');
    expect(
      await loadDemo({
        db: stage.db,
        sealer: undefined as never,
        via: undefined as never,
        standins: 'http://127.0.0.1:9',
        own: 'http://127.0.0.1:9',
        past: 1,
        pairings: false,
        log: () => undefined,
      }),
    ).toBe(false);
  });
});

describe('Today', () => {
  it('adds up', async () => {
    for (const range of ['24h', '7d', '30d']) {
      const today = await get(`/today?range=${range}`);
      const sum = (key: string): number =>
        today.bars.reduce((total: number, bar: Record<string, number>) => total + bar[key]!, 0);
      expect(sum('created') + sum('updated') + sum('other') + sum('review') + sum('refused')).toBe(today.arrived);
      expect(today.created).toBe(sum('created'));
    }
    expect((await stage.api('GET', '/today?range=ever')).status).toBe(422);
  });
  it('counts what arrives, at once', async () => {
    const before = await get('/today?range=24h');
    await send(enquiry());
    const after = await get('/today?range=24h');
    expect([after.arrived - before.arrived, after.created - before.created]).toEqual([1, 1]);
    expect(after.median).toBeGreaterThan(0);
  });
  it('names what needs somebody, with the words of it', async () => {
    await send(enquiry({ contact_last: '' }));
    const { needs } = await get('/today?range=24h');
    expect(needs).toEqual(
      expect.arrayContaining([expect.objectContaining({ state: 'refused', words: 'Family name is required.' })]),
    );
  });
});

describe('searching', () => {
  it('finds submissions by any value, by state and by intake, newest first, page by page', async () => {
    const marked = enquiry({ message: 'By the old heron mill' });
    const id = await send(marked);
    expect((await get('/submissions?text=heron%20mill')).submissions).toMatchObject([
      { id, state: 'applied', outcome: 'created' },
    ]);
    expect((await get('/submissions?text=100%25')).submissions).toEqual([]);
    const { submissions } = await get('/submissions?limit=5');
    const seqs = submissions.map(({ seq }: { seq: number }) => seq);
    expect(seqs).toEqual([...seqs].sort((a: number, b: number) => b - a));
    const older = await get(`/submissions?limit=5&before=${seqs.at(-1)}`);
    expect(older.submissions[0].seq).toBeLessThan(seqs.at(-1));
    expect((await stage.api('GET', '/submissions?before=x')).status).toBe(422);
    const { intakes } = await get('/intakes');
    const letters = intakes.find(({ key }: { key: string }) => key === 'letters-sign-up');
    const found = (await get(`/submissions?intake=${letters.id}`)).submissions;
    expect(new Set(found.map(({ intakeKey }: { intakeKey: string }) => intakeKey))).toEqual(
      new Set(['letters-sign-up']),
    );
  });
  it('finds changes by record and by value, each with labels and a link to the record', async () => {
    const values = enquiry({ town: 'Heronsford' });
    await send(values);
    const [change] = (await get('/ledger?text=Heronsford')).changes;
    expect(change).toMatchObject({
      action: 'create',
      state: 'written',
      labels: { city: 'City' },
      page: expect.stringContaining(`/crm/People/${change.recordId}`),
    });
    expect((await get(`/ledger?record=${change.recordId}`)).changes).toHaveLength(1);
    expect(
      (await get('/ledger?state=refused')).changes.every(({ state }: { state: string }) => state === 'refused'),
    ).toBe(true);
    expect((await stage.api('GET', '/ledger?state=lost')).status).toBe(422);
    // What makes a request repeatable, and the versions of records, are nobody's business.
    for (const kept of ['requestId', 'etagBefore']) expect(change).not.toHaveProperty(kept);
  });
  it('finds fields, intakes and submissions at once', async () => {
    const found = await get('/find?text=mobile');
    expect(found.fields).toMatchObject([{ entity: 'People', field: 'mobile', label: 'Mobile' }]);
    expect((await get('/find?text=pollin')).intakes).toMatchObject([{ name: 'Pollination enquiry' }]);
    const nothing = await get('/find?text=x');
    expect(Object.values(nothing).flat()).toEqual([]);
  });
  it('finds records by id and by value, entities, choices and people, each with the reason', async () => {
    await send(enquiry({ contact_email: 'found.by@meadow.example' }));
    await stage.settled();
    const [record] = await stage.people('found.by@meadow.example');
    expect((await get('/find?text=FOUND.BY@meadow.example')).records).toMatchObject([
      { entity: 'People', id: record.id, why: 'its e-mail', page: expect.stringContaining(record.id) },
    ]);
    const byId = await get(`/find?text=${record.id}`);
    expect(byId.records).toMatchObject([{ id: record.id, why: 'its id' }]);
    // What touched it is found by it, too.
    expect(byId.submissions).toMatchObject([{ why: expect.stringContaining('a record it touched') }]);
    expect((await get('/find?text=organisation')).entities).toMatchObject([
      { entity: 'Organisations', why: 'its name' },
    ]);
    expect((await get('/find?text=cherry')).options).toContainEqual(
      expect.objectContaining({ field: 'crops', option: 'Cherry', why: 'a choice of Crops' }),
    );
    expect((await get('/find?text=idris')).people).toMatchObject([{ name: 'Idris Fairweather', why: 'the name' }]);
  });
  it('tells a viewer of no people, and asks no system for them', async () => {
    const viewer = callerAt(stage.address, await signInAt(stage.address, 'bozena@cloverhollow.example'));
    const { status, body } = await viewer('GET', '/find?text=found.by@meadow.example');
    expect(status).toBe(200);
    expect(body).toMatchObject({ records: [], people: [] });
    expect(body.submissions.length).toBeGreaterThan(0);
  });
});

describe('what is on record', () => {
  it('are decisions and changes of the configuration, with who made them', async () => {
    const idris = callerAt(stage.address, await signInAt(stage.address, 'idris@cloverhollow.example'));
    const id = await send(enquiry({ contact_last: '' }));
    await idris('POST', `/submissions/${id}/set-aside`, { reason: 'Sent by mistake' });
    const { changes } = await get(`/changes?subject=${id}`);
    expect(changes).toMatchObject([{ userName: 'Idris Fairweather', what: 'set aside' }]);
    expect((await get(`/submissions/${id}`)).submission.reason).toBe('Sent by mistake');
    expect((await idris('POST', `/submissions/${id}/set-aside`, { reason: 'x' })).status).toBe(422);
  });
  it('is named by what it is about', async () => {
    const { changes } = await get('/changes');
    const about = (what: string) => changes.find((each: { what: string }) => each.what === what)?.about;
    expect(about('set aside')).toBeNull();
    expect(about('saved version 1 of its recognition')).toMatch(/^\w+, Co-op CRM$/u);
    expect(changes.filter((each: { what: string }) => each.what === 'made the intake')).toContainEqual(
      expect.objectContaining({ about: 'Pollination enquiry' }),
    );
  });
  it('never is a token', async () => {
    const { systems } = await get('/systems');
    expect((await stage.api('PATCH', `/systems/${systems[0].id}`, { token: 'demo-integration' })).status).toBe(200);
    expect(JSON.stringify(await get('/changes'))).not.toContain('demo-integration');
    expect(JSON.stringify(await get('/changes'))).toContain('replaced');
  });
});

describe('a system whose rights change', () => {
  it('is read again, and what changed is named', async () => {
    const { systems } = await get('/systems');
    const { id } = systems[0];
    expect((await stage.api('PATCH', `/systems/${id}`, { token: 'nobody' })).status).toBe(422);
    await stage.api('PATCH', `/systems/${id}`, { token: 'demo-reader' });
    const { body } = await stage.api('POST', `/systems/${id}/read`);
    expect(body.differences.map(({ what }: { what: string }) => what)).toContain(
      'E-mail: rights were read and write, are read',
    );
    expect((await stage.api('POST', `/systems/${id}/read`)).body.differences).toEqual([]);
    // What was published before is now stopped by a check, with the field named.
    const { intakes } = await get('/intakes');
    const { intake } = await get(`/intakes/${intakes[0].id}`);
    const stopped = await stage.api('POST', `/intakes/${intake.id}/publish`, {
      revision: intake.revision,
      accept: true,
    });
    expect(stopped).toMatchObject({
      status: 422,
      body: {
        title: 'Checks stop it',
        errors: expect.arrayContaining([{ field: 'email', reason: 'K09: This connection may not write E-mail.' }]),
      },
    });
    // And what arrives meanwhile is kept with the system's words.
    const refused = await send(enquiry());
    expect(await get(`/submissions/${refused}`)).toMatchObject({
      state: 'refused',
      steps: [{ refusal: { kind: 'rights' } }],
    });
    await stage.api('PATCH', `/systems/${id}`, { token: 'demo-integration' });
    await stage.api('POST', `/systems/${id}/read`);
    await stage.api('POST', `/submissions/${refused}/again`);
    await stage.settled();
    expect((await get(`/submissions/${refused}`)).state).toBe('applied');
  });
});

it('lets nobody guess passwords for long', async () => {
  const guess = () =>
    callerAt(stage.address, '')('POST', '/session', { email: 'mara@cloverhollow.example', password: 'guess' });
  const answers = await Promise.all(Array.from({ length: 40 }, guess));
  expect(answers.filter(({ status }) => status === 429).length).toBeGreaterThanOrEqual(10);
  expect((await guess()).body.detail).toContain('wait 10 minutes');
});
