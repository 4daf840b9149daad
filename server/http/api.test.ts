import { createServer, type Server } from 'node:http';
import { callerAt, enquiry, openStage, signInAt, type Json, type Stage } from '../testing/stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
});
afterAll(() => stage.close());

const intakeNamed = async (key: string) => {
  const { body } = await stage.api('GET', '/intakes');
  const { id } = body.intakes.find((each: { key: string }) => each.key === key);
  return (await stage.api('GET', `/intakes/${id}`)).body;
};

describe('signing in', () => {
  it('needs address and password to fit and tells nobody which doesn’t', async () => {
    const nobody = callerAt(stage.address, '');
    expect((await nobody('GET', '/intakes')).status).toBe(401);
    const wrong = await nobody('POST', '/session', { email: 'mara@cloverhollow.example', password: 'wrong' });
    const unknown = await nobody('POST', '/session', { email: 'nobody@cloverhollow.example', password: 'wrong' });
    expect([wrong.status, unknown.status]).toEqual([401, 401]);
    expect(wrong.body.detail).toBe(unknown.body.detail);
  });
  it('gives a cookie that scripts can’t read and other sites can’t send, and that ends with signing out', async () => {
    const response = await fetch(`${stage.address}/api/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ email: 'mara@cloverhollow.example', password: 'clover-hollow' }),
    });
    expect(response.headers.get('set-cookie')).toMatch(/HttpOnly; SameSite=Strict/);
    const caller = callerAt(stage.address, response.headers.get('set-cookie')!.split(';')[0]!);
    expect((await caller('GET', '/session')).body.user).toMatchObject({ role: 'administrator' });
    expect(JSON.stringify((await caller('GET', '/session')).body)).not.toMatch(/hash|password/i);
    await caller('DELETE', '/session');
    expect((await caller('GET', '/session')).status).toBe(401);
  });
  it('turns away what a page elsewhere makes a browser send', async () => {
    const cookie = await signInAt(stage.address, 'mara@cloverhollow.example');
    for (const headers of <Record<string, string>[]>[
      { Origin: 'https://elsewhere.example' },
      { 'Sec-Fetch-Site': 'cross-site' },
      { Origin: 'null' },
    ]) {
      const response = await fetch(`${stage.address}/api/session`, {
        method: 'DELETE',
        headers: { cookie, ...headers },
      });
      expect(response.status).toBe(403);
    }
  });
  it('lets each role do what it may and no more', async () => {
    const viewer = callerAt(stage.address, await signInAt(stage.address, 'bozena@cloverhollow.example'));
    const specialist = callerAt(stage.address, await signInAt(stage.address, 'idris@cloverhollow.example'));
    const { intake } = await intakeNamed('pollination-enquiry');
    expect((await viewer('GET', '/intakes')).status).toBe(200);
    expect((await viewer('PUT', `/intakes/${intake.id}/draft`, { revision: 1, document: intake.draft })).status).toBe(
      403,
    );
    expect((await specialist('PUT', `/intakes/${intake.id}/state`, { state: 'open' })).status).toBe(204);
    expect((await specialist('GET', '/people')).status).toBe(403);
    expect(
      (await specialist('POST', '/systems', { name: 'x', address: stage.standins, token: 't', practice: true })).status,
    ).toBe(403);
  });
  it('ends the sessions of somebody whose access ends', async () => {
    await stage.api('POST', '/people', {
      email: 'temp@cloverhollow.example',
      name: 'Temp',
      role: 'viewer',
      password: 'long enough now',
    });
    const temp = callerAt(stage.address, await signInAt(stage.address, 'temp@cloverhollow.example', 'long enough now'));
    const { people } = (await stage.api('GET', '/people')).body;
    const { id } = people.find(({ name }: { name: string }) => name === 'Temp');
    await stage.api('PATCH', `/people/${id}`, { active: false });
    expect((await temp('GET', '/session')).status).toBe(401);
    const me = people.find(({ role }: { role: string }) => role === 'administrator');
    expect((await stage.api('PATCH', `/people/${me.id}`, { role: 'viewer' })).status).toBe(409);
  });
});

describe('systems', () => {
  let odd: Server;
  let at: string;
  beforeAll(async () => {
    const answers: Record<string, [string, string]> = {
      '/html/$metadata': ['text/html', '<!doctype html><p>Hello'],
      '/json/$metadata': ['application/json', '{"hello": 1}'],
      '/circle/$metadata': [
        'application/json',
        JSON.stringify({
          $Version: '4.01',
          n: {
            A: { $Kind: 'EntityType', $Key: ['id'], $BaseType: 'n.B', id: {} },
            B: { $Kind: 'EntityType', $BaseType: 'n.A', name: { $Nullable: true } },
            C: { $Kind: 'EntityContainer', As: { $Collection: true, $Type: 'n.A' } },
          },
        }),
      ],
    };
    odd = createServer((request, response) => {
      const [type, text] = answers[request.url!] ?? ['text/plain', 'nothing'];
      response.writeHead(text === 'nothing' ? 404 : 200, { 'Content-Type': type }).end(text);
    });
    await new Promise<void>((resolve) => odd.listen(0, '127.0.0.1', resolve));
    at = `http://127.0.0.1:${(odd.address() as { port: number }).port}`;
  });
  afterAll(() => odd.close());

  it('are read anew from address and token, with what the connection may not see', async () => {
    const { status, body } = await stage.api('POST', '/systems', {
      name: 'Again',
      address: `${stage.standins}/crm/odata/`,
      token: 'demo-integration',
      practice: true,
    });
    expect(status).toBe(201);
    const read = (await stage.api('GET', `/systems/${body.system.id}`)).body;
    const fields = read.schema.entities.flatMap((entity: { fields: { rights: string }[] }) => entity.fields);
    expect(fields.filter(({ rights }: { rights: string }) => rights === 'none')).toHaveLength(14);
    const people = read.schema.entities.find(({ name }: { name: string }) => name === 'People');
    expect(people.fields.find(({ name }: { name: string }) => name === 'email')).toMatchObject({
      type: 'email',
      label: 'E-mail',
      maxLength: 254,
    });
    expect(people.fields.find(({ name }: { name: string }) => name === 'organisation_id')).toMatchObject({
      type: 'reference',
      relation: 'Organisations',
    });
    expect(JSON.stringify(read)).not.toContain('demo-integration');
    expect(
      (
        await stage.api('POST', '/systems', {
          name: 'Again',
          address: `${stage.standins}/crm/odata/`,
          token: 'demo-integration',
          practice: true,
        })
      ).status,
    ).toBe(409);
    expect((await stage.api('DELETE', `/systems/${body.system.id}`)).status).toBe(204);
  });
  it.each([
    [
      'a bad token',
      () => ({ address: `${stage.standins}/crm/odata/`, token: 'wrong' }),
      'token',
      /does not accept this token/,
    ],
    ['a web page', () => ({ address: `${at}/html`, token: 't' }), 'address', /web page, not with OData/],
    ['other JSON', () => ({ address: `${at}/json`, token: 't' }), 'address', /not OData metadata/],
    ['nothing there', () => ({ address: `${at}/none`, token: 't' }), 'address', /answers 404/],
    ['nobody listening', () => ({ address: 'http://127.0.0.1:9/', token: 't' }), 'address', /connection failed/],
  ])('%s is a problem that names what to mend', async (_, target, field, words) => {
    const before = (await stage.api('GET', '/systems')).body.systems.length;
    const { status, body } = await stage.api('POST', '/systems', { name: 'Odd', practice: true, ...target() });
    expect(status).toBe(422);
    expect(body).toMatchObject({ detail: expect.stringMatching(words), errors: [{ field }] });
    expect((await stage.api('GET', '/systems')).body.systems).toHaveLength(before);
  });
  it('with types that inherit in a circle are read as far as they go', async () => {
    const { status, body } = await stage.api('POST', '/systems/try', { address: `${at}/circle`, token: 't' });
    expect(status).toBe(200);
    expect(body.schema.entities[0].fields.map(({ name }: { name: string }) => name)).toEqual(['name', 'id']);
  });
  it('keep their tokens sealed', async () => {
    const [rows] = await stage.db.$client.query('SELECT sealed_token FROM systems');
    expect(JSON.stringify(rows)).not.toContain('demo-integration');
  });
  it('that are used can’t be disconnected', async () => {
    const { systems } = (await stage.api('GET', '/systems')).body;
    expect(await stage.api('DELETE', `/systems/${systems[0].id}`)).toMatchObject({
      status: 409,
      body: { detail: expect.stringContaining('Pollination enquiry') },
    });
  });
});

describe('intakes', () => {
  it('keep two people from overwriting each other’s draft', async () => {
    const { intake } = await intakeNamed('letters-sign-up');
    const { body } = await stage.api('PUT', `/intakes/${intake.id}/draft`, {
      revision: intake.revision,
      document: { ...intake.draft, name: 'Letters' },
    });
    expect(body.revision).toBe(intake.revision + 1);
    expect(
      (await stage.api('PUT', `/intakes/${intake.id}/draft`, { revision: intake.revision, document: intake.draft }))
        .status,
    ).toBe(412);
  });
  it('are published as versions; a submission remembers its own; an older one goes live again', async () => {
    const { intake } = await intakeNamed('letters-sign-up');
    const accept = { revision: intake.revision, accept: true };
    expect((await stage.api('POST', `/intakes/${intake.id}/publish`, accept)).body).toEqual({ version: 2 });
    const sent = (await (
      await stage.submit('letters-sign-up', { vorname: 'A', nachname: 'B', mail: 'v2@biene.example', ok: '1' })
    ).json()) as { submission: string };
    expect((await stage.api('GET', `/submissions/${sent.submission}`)).body.submission.version).toBe(2);
    await stage.api('PUT', `/intakes/${intake.id}/state`, { state: 'closed' });
    // What wants a look in the version that is live isn't asked about again; and what was closed stays closed.
    expect((await stage.api('PUT', `/intakes/${intake.id}/live`, { version: 1 })).status).toBe(204);
    expect((await stage.submit('letters-sign-up', { mail: 'closed@biene.example' })).status).toBe(410);
    await stage.api('PUT', `/intakes/${intake.id}/state`, { state: 'open' });
    const later = (await (
      await stage.submit('letters-sign-up', { vorname: 'A', nachname: 'B', mail: 'v1@biene.example', ok: '1' })
    ).json()) as { submission: string };
    expect((await stage.api('GET', `/submissions/${later.submission}`)).body.submission.version).toBe(1);
    await stage.settled();
  });
  it('go back to an older version, asking only about what is neither accepted nor so already', async () => {
    const { intake } = await intakeNamed('letters-sign-up');
    const path = `/intakes/${intake.id}`;
    const live = async (body: object) => (await stage.api('PUT', `${path}/live`, body)).status;
    // Version 1 came with the demo, which accepts nothing; it lets the family name stay blank, and so does version 2.
    expect(await live({ version: 2 })).toBe(204);
    const fields = intake.draft.fields.map((field: { name: string }) =>
      field.name === 'nachname' ? { ...field, required: true } : field,
    );
    const saved = await stage.api('PUT', `${path}/draft`, {
      revision: intake.revision,
      document: { ...intake.draft, fields },
    });
    const { revision } = saved.body;
    // The page as it is now differs from these fields: what the screen shows is asked about.
    expect(await stage.api('POST', `${path}/publish`, { revision })).toMatchObject({
      status: 409,
      body: { errors: [{ field: 'nachname', reason: expect.stringMatching(/^K22: The page has changed/) }] },
    });
    expect((await stage.api('POST', `${path}/publish`, { revision, accept: true })).body).toEqual({ version: 3 });
    expect(await live({ version: 1 })).toBe(409);
    expect(await live({ version: 2 })).toBe(204);
    expect(await live({ version: 3 })).toBe(204);
    expect(await live({ version: 1, accept: true })).toBe(204);
    await stage.api('PUT', `${path}/draft`, { revision: saved.body.revision, document: intake.draft });
  });
  it('aren’t published while a check stops them, and the answer names field and reason', async () => {
    const { intake } = await intakeNamed('letters-sign-up');
    const broken = structuredClone(intake.draft);
    broken.plan.steps[0].lines = broken.plan.steps[0].lines.filter(
      ({ field }: { field: string }) => field !== 'last_name',
    );
    const { body } = await stage.api('PUT', `/intakes/${intake.id}/draft`, {
      revision: intake.revision,
      document: broken,
    });
    expect(
      await stage.api('POST', `/intakes/${intake.id}/publish`, { revision: body.revision, accept: true }),
    ).toMatchObject({
      status: 422,
      body: { errors: [{ field: 'last_name', reason: expect.stringContaining('K01') }] },
    });
    await stage.api('PUT', `/intakes/${intake.id}/draft`, { revision: body.revision, document: intake.draft });
  });
  it('refuse a document with the path of what is wrong, and save nothing of it', async () => {
    const { intake } = await intakeNamed('letters-sign-up');
    const wrong = { ...intake.draft, settings: { perMinute: 0 } };
    expect(
      await stage.api('PUT', `/intakes/${intake.id}/draft`, { revision: intake.revision, document: wrong }),
    ).toMatchObject({ status: 422, body: { errors: [{ field: 'document.settings.perMinute' }] } });
    expect((await intakeNamed('letters-sign-up')).intake.revision).toBe(intake.revision);
    expect(await stage.api('POST', '/intakes', { key: 'Not A Key', document: intake.draft })).toMatchObject({
      status: 422,
      body: { errors: [{ field: 'key' }] },
    });
    expect((await stage.api('POST', '/intakes', { key: 'letters-sign-up', document: intake.draft })).status).toBe(409);
    expect((await stage.api('GET', '/intakes/nonsense')).status).toBe(404);
  });
  it('rehearse on samples as the real thing, and write nothing', async () => {
    const { intake } = await intakeNamed('pollination-enquiry');
    const values = enquiry({ contact_phone: '030 23125 333' });
    const rehearsal = (
      await stage.api('POST', `/intakes/${intake.id}/rehearse`, {
        document: intake.draft,
        samples: [values, { ...values, contact_phone: '030 23125 334' }],
      })
    ).body.results;
    expect(
      rehearsal.map(({ course }: { course: { steps: { outcome: string }[] } }) => course.steps[0]!.outcome),
    ).toEqual(['created', 'updated']);
    expect(await stage.people(values['contact_email']!)).toEqual([]);
    const { submission } = (await (await stage.submit('pollination-enquiry', values)).json()) as { submission: string };
    await stage.settled();
    const real = (await stage.api('GET', `/submissions/${submission}`)).body.steps[0];
    expect(real.changes).toEqual(rehearsal[0].course.steps[0].changes);
  });
  it('rehearse on samples and submissions by their ids, line by line', async () => {
    const { intake } = await intakeNamed('pollination-enquiry');
    const path = `/intakes/${intake.id}/rehearse`;
    const kept = (await stage.api('POST', `/intakes/${intake.id}/samples`, { values: enquiry() })).body.sample;
    const { submission } = (await (await stage.submit('pollination-enquiry', enquiry())).json()) as Json;
    await stage.settled();
    const of = [kept.id, submission];
    const response = await fetch(`${stage.address}/api${path}`, {
      method: 'POST',
      headers: { cookie: stage.cookie, 'Content-Type': 'application/json', Accept: 'application/x-ndjson' },
      body: JSON.stringify({ document: intake.draft, of }),
    });
    expect(response.headers.get('content-type')).toContain('application/x-ndjson');
    const lines = (await response.text())
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line) as Json);
    expect(lines.map(({ at, result }) => [at, result.course.state])).toEqual([
      [0, 'applied'],
      [1, 'applied'],
    ]);
    const whole = await stage.api('POST', path, { document: intake.draft, of });
    expect(whole.body.results).toEqual(lines.map(({ result }) => result));
    for (const [body, field] of [
      [{ of: [submission, '0192f0c1-0000-7000-8000-000000000001'] }, 'of.1'],
      [{}, 'of'],
      [{ of, samples: [] }, 'of'],
      [{ of: ['x'] }, 'of'],
    ] as const)
      expect(await stage.api('POST', path, { document: intake.draft, ...body })).toMatchObject({
        status: 422,
        body: { errors: [{ field }] },
      });
    expect((await stage.api('DELETE', `/intakes/${intake.id}/samples/${kept.id}`)).status).toBe(204);
  });
  it('keep samples of their own', async () => {
    const { intake } = await intakeNamed('pollination-enquiry');
    const { body } = await stage.api('POST', `/intakes/${intake.id}/samples`, {
      values: { contact_last: 'Brandt', crops: ['Apple', 'Pear'] },
    });
    expect((await stage.api('GET', `/intakes/${intake.id}/samples`)).body.samples[0].values).toEqual({
      contact_last: 'Brandt',
      crops: ['Apple', 'Pear'],
    });
    expect(await stage.api('POST', `/intakes/${intake.id}/samples`, { values: { a: { b: 1 } } })).toMatchObject({
      status: 422,
      body: { errors: [{ field: 'values.a' }] },
    });
    expect((await stage.api('DELETE', `/intakes/${intake.id}/samples/${body.sample.id}`)).status).toBe(204);
  });
});

describe('computation on request', () => {
  it('reads forms out of HTML', async () => {
    const { body } = await stage.api('POST', '/forms/read', {
      html: '<form name=f method=post action=/x><label>E-mail <input name=m type=email required></label></form>',
    });
    expect(body).toEqual({
      forms: [
        {
          name: 'f',
          action: '/x',
          method: 'post',
          fields: [{ name: 'm', label: 'E-mail', type: 'email', required: true }],
          left: [],
        },
      ],
    });
  });
  it('suggests lines for fields and entities of whatever make', async () => {
    const { body } = await stage.api('POST', '/mapping/suggest', {
      fields: [{ name: 'vorname', label: 'Vorname', type: 'text', required: false, placeholder: 'x' }],
      entities: [
        { name: 'contact', label: 'Contact', fields: [{ name: 'fn', label: 'Given name', type: 'Edm.String' }] },
      ],
    });
    expect(body.lines).toMatchObject([{ from: ['vorname'], entity: 'contact', field: 'fn', standing: 'set' }]);
    expect(body.lines[0].confidence).toBeGreaterThan(0.8);
    expect(await stage.api('POST', '/mapping/suggest', { fields: [{ label: 'x' }], entities: [] })).toMatchObject({
      status: 422,
      body: { errors: [{ field: 'fields.0.name' }] },
    });
  });
  it('describes itself', async () => {
    const { body } = await stage.api('GET', '/openapi.json');
    expect(body.openapi).toBe('3.1.0');
    expect(Object.keys(body.paths)).toEqual(
      expect.arrayContaining(['/in/{intake}', '/api/forms/read', '/api/submissions/{id}']),
    );
    expect(body.components.schemas.IntakeDocument.properties.plan).toMatchObject({ $ref: '#/components/schemas/Plan' });
    expect((await stage.api('GET', '/health')).body).toEqual({ status: 'ok' });
  });
  it('answers what isn’t there, and bodies that aren’t JSON, with problems', async () => {
    expect((await stage.api('GET', '/nothing')).status).toBe(404);
    expect((await stage.api('POST', '/forms/read', '{"html": ')).status).toBe(400);
    expect((await stage.api('GET', '/submissions?state=lost')).body.errors).toEqual([
      { field: 'state', reason: expect.any(String) },
    ]);
    expect((await stage.api('GET', '/submissions/01890000-0000-7000-8000-000000000000')).status).toBe(404);
  });
  it('sends a strict content security policy', async () => {
    const policy = (await fetch(`${stage.address}/api/health`)).headers.get('content-security-policy');
    expect(policy).toContain("script-src 'self'");
    expect(policy).toContain("frame-ancestors 'none'");
  });
});

describe('disconnecting a system', () => {
  it('looks at what is live and what is on its way, not at drafts alone', async () => {
    const system = (await stage.api('GET', '/systems')).body.systems[0];
    const intakes = (await stage.api('GET', '/intakes')).body.intakes as { id: string }[];
    // Nothing of any draft uses it any more; what is live does.
    for (const { id } of intakes) {
      const { intake } = (await stage.api('GET', `/intakes/${id}`)).body;
      const document = { ...intake.draft, plan: { ...intake.draft.plan, steps: [] } };
      await stage.api('PUT', `/intakes/${id}/draft`, { revision: intake.revision, document });
    }
    const refused = await stage.api('DELETE', `/systems/${system.id}`);
    expect(refused).toMatchObject({ status: 409, body: { detail: expect.stringContaining('which is live') } });
  });
});

it('Today tells how long most take by the newest, not by the quickest', async () => {
  await stage.settled();
  const now = Date.now();
  await stage.db.$client.query('DELETE FROM submissions');
  const rows = Array.from({ length: 100 }, (_, at) => [new Date(now - 60_000), new Date(now - 60_000 + (at + 1) * 10)]);
  for (const [at, [received, settled]] of rows.entries())
    await stage.db.$client.query(
      "INSERT INTO submissions (seq, id, intake_id, version, state, label, submitted, via, received_at, due_at, settled_at) VALUES (?, UUID(), UUID(), 1, 'applied', '', '{}', 'form', ?, ?, ?)",
      [1_000_000 + at, received, received, settled],
    );
  const { median, p95 } = (await stage.api('GET', '/today')).body;
  expect({ median, p95 }).toEqual({ median: 510, p95: 960 });
});
