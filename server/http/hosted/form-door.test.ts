import { solveChallenge } from 'altcha-lib';
import { deriveKey } from 'altcha-lib/algorithms/pbkdf2';
import { parse } from 'parse5';
import { readForms } from '@zusammen/core/forms';
import { formOf, item } from '../../../core/testing/hosted.ts';
import type { HostedForm } from '@zusammen/core/forms/hosted';
import { readPdf } from '../../testing/read-pdf.ts';
import { intakeLike, openStage, type Json, type Stage } from '../../testing/stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
  await form('visitors', {});
});
afterAll(() => stage.close());

const QUESTIONS = [
  item('text', 'contact_first', { required: true, label: { en: 'Given name', de: 'Vorname' } }),
  item('text', 'contact_last', { required: true, label: { en: 'Family name', de: 'Nachname' } }),
  item('email', 'contact_email', { required: true, label: { en: 'E-mail' }, autocomplete: 'email' }),
  item('one of', 'kind', {
    options: [
      { value: 'new', label: { en: 'New', de: 'Neu' } },
      { value: 'old', label: { en: 'Known <b>already</b>' } },
    ],
  }),
  item('text', 'number', {
    required: true,
    shown: { match: 'all', parts: [{ field: 'kind', test: 'is', value: 'old' }] },
  }),
  item('group', 'more', { mostRows: 3, items: [item('email', 'email', { required: true })] }),
  item('hidden', 'source', { begins: { with: 'parameter', value: 'utm_source' } }),
  item('text', 'message', { begins: { with: 'constant', value: 'Hello' } }),
];

/** A published form of these questions. */
async function form(key: string, change: Partial<HostedForm>, settings: Json = {}): Promise<void> {
  const hosted = formOf(QUESTIONS, {
    title: { en: 'Visit "us"', de: 'Besuch' },
    guard: { trap: true, leastSeconds: 0 },
    ...change,
  });
  const names = new Set(QUESTIONS.map(({ name }) => name));
  await intakeLike(stage, key, (document) => {
    document.source = { kind: 'ours' };
    document.form = hosted;
    // What the form sends is worked out from it, whatever is sent along.
    document.fields = [];
    document.settings = { ...document.settings, ...settings };
    delete document.settings.allowedOrigins;
    if (settings.allowedOrigins) document.settings.allowedOrigins = settings.allowedOrigins;
    for (const step of document.plan.steps)
      step.lines = step.lines.filter(({ from }: { from: string[] }) => from.every((name) => names.has(name)));
  });
}

const at = (path: string): string => `${stage.address}/f/${path}`;
const HTML = 'text/html,application/xhtml+xml,application/xml;q=0.9,*/*;q=0.8';
const see = (path: string, headers: Record<string, string> = {}) =>
  fetch(at(path), { headers: { Accept: HTML, ...headers } });
/** What the page of a form would send: its hidden values, and these. */
async function filled(path: string, said: Record<string, string>): Promise<URLSearchParams> {
  const [read] = readForms(await (await see(path)).text());
  const body = new URLSearchParams();
  for (const { name, initial } of read!.fields)
    if (initial !== undefined && said[name] === undefined) body.append(name, initial);
  for (const [name, value] of Object.entries(said)) body.append(name, value);
  return body;
}
const send = (path: string, body: URLSearchParams | FormData, headers: Record<string, string> = {}) =>
  fetch(at(path), { method: 'POST', body, headers: { Accept: 'application/json', ...headers }, redirect: 'manual' });
let counted = 0;
const ada = (more: Record<string, string> = {}) => ({
  contact_first: 'Ada',
  contact_last: 'Immen',
  contact_email: `ada${(counted += 1)}@visit.example`,
  ...more,
});
const submitted = async (id: string): Promise<Json> => (await stage.api('GET', `/submissions/${id}`)).body;

describe('a form of ours', () => {
  it('is shown as a page that any reader of forms understands', async () => {
    const response = await see('visitors');
    expect(response.status).toBe(200);
    const html = await response.text();
    const [read] = readForms(html);
    expect(read).toMatchObject({ method: 'post', action: '/f/visitors?lang=en' });
    const fields = new Map(read!.fields.map((field) => [field.name, field]));
    expect(fields.get('contact_email')).toMatchObject({
      label: expect.stringContaining('E-mail'),
      type: 'email',
      required: true,
      autocomplete: 'email',
    });
    expect(fields.get('kind')!.options).toMatchObject([
      { value: 'new', label: 'New' },
      { value: 'old', label: 'Known <b>already</b>' },
    ]);
    expect(fields.get('more[0][email]')).toMatchObject({ group: 'more' });
    expect(fields.get('message')).toMatchObject({ initial: 'Hello' });
    // Well-formed by the standard's own parser.
    const errors: string[] = [];
    parse(html, { onParseError: ({ code }) => void errors.push(code) });
    expect(errors).toEqual([]);
    // Every control has a name, and every reference leads somewhere.
    const ids = new Set([...html.matchAll(/ id="([^"]+)"/g)].map(([, id]) => id));
    for (const [, name, value] of html.matchAll(/ (for|aria-describedby)="([^"]+)"/g))
      for (const id of value!.split(' ')) expect([name, id, ids.has(id)]).toEqual([name, id, true]);
    expect([...html.matchAll(/ id="([^"]+)"/g)].length).toBe(ids.size);
  });
  it('speaks the language that is asked for, else the browser’s', async () => {
    expect(await (await see('visitors', { 'Accept-Language': 'de-AT,de;q=0.9' })).text()).toContain('Vorname');
    const asked = await see('visitors?lang=de', { 'Accept-Language': 'en' });
    expect(asked.headers.get('content-language')).toBe('de');
    expect(await asked.text()).toMatch(/<html lang="de">[^]*Neu/);
  });
  it('runs nothing but our own script, and stands in nobody’s frame', async () => {
    const policy = (await see('visitors')).headers.get('content-security-policy')!;
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain("script-src 'self'");
    expect(policy).toContain("frame-ancestors 'none'");
    await form('embedded', {}, { allowedOrigins: ['https://garden.example'] });
    expect((await see('embedded')).headers.get('content-security-policy')).toContain(
      "frame-ancestors 'self' https://garden.example",
    );
  });
  it('begins with what stands in its address, and nothing else does', async () => {
    const html = await (
      await see('visitors?utm_source=%22%3E%3Cscript%3Ealert(1)%3C/script%3E&contact_first=Eve')
    ).text();
    const [read] = readForms(html);
    expect(read!.fields.find(({ name }) => name === 'source')!.initial).toBe('"><script>alert(1)</script>');
    expect(html).not.toContain('<script>alert');
    expect(html).not.toContain('Eve');
  });
  it('takes what was filled in, once, however often it is sent', async () => {
    const said = ada({ kind: 'old', number: '17', 'more[0][email]': 'bo@visit.example' });
    const body = await filled('visitors?utm_source=letters', said);
    const [first, again] = [await send('visitors', body), await send('visitors', body)];
    expect([first.status, again.status]).toEqual([202, 202]);
    const { submission, thanks } = (await first.json()) as { submission: string; thanks: string };
    expect(await again.json()).toEqual({ submission, thanks: expect.stringMatching(/^\/f\/visitors\/thanks\?/) });
    expect(thanks).toMatch(/^\/f\/visitors\/thanks\?/);
    await stage.settled();
    expect(await submitted(submission)).toMatchObject({
      submission: { state: 'applied', values: { ...said, source: 'letters', message: 'Hello' } },
    });
    expect(await stage.people(said.contact_email)).toHaveLength(1);
    expect(await (await fetch(new URL(thanks, stage.address))).text()).toContain('Thank you');
    // Gone back to, changed and sent again it is another one, where both are meant.
    body.set('contact_email', ada().contact_email);
    const other = await send('visitors', body);
    expect(other.status).toBe(409);
    body.set('_shown', ((await other.json()) as { shown: string }).shown);
    expect((await send('visitors', body)).status).toBe(202);
  });
  it('sends a browser without a script on to the thank-you page', async () => {
    const response = await send('visitors', await filled('visitors', ada()), { Accept: HTML });
    expect([response.status, response.headers.get('location')]).toEqual([
      303,
      expect.stringMatching(/^\/f\/visitors\/thanks\?lang=en&s=/),
    ]);
  });
});

describe('a form that won’t do', () => {
  it('is answered by a problem that names each field, in the visitor’s language', async () => {
    const response = await send(
      'visitors?lang=de',
      await filled('visitors', { contact_last: 'x', contact_email: 'nobody', kind: 'other' }),
    );
    expect([response.status, response.headers.get('content-type')]).toEqual([
      422,
      expect.stringContaining('application/problem+json'),
    ]);
    expect(await response.json()).toMatchObject({
      status: 422,
      errors: [
        { field: 'contact_first', message: 'Bitte ausfüllen.' },
        { field: 'contact_email', message: expect.stringContaining('E-Mail') },
        { field: 'kind', message: expect.any(String) },
      ],
    });
  });
  it('comes back to a browser without a script with everything in it, and the words at each field', async () => {
    const response = await send(
      'visitors',
      await filled('visitors', { contact_first: 'Ada & "Co"', 'more[0][email]': 'x' }),
      { Accept: HTML },
    );
    expect(response.status).toBe(422);
    const html = await response.text();
    const fields = new Map(readForms(html)[0]!.fields.map((field) => [field.name, field]));
    expect(fields.get('contact_first')!.initial).toBe('Ada & "Co"');
    expect(fields.get('more[0][email]')!.initial).toBe('x');
    expect(html).toMatch(/id="q-contact_last-wrong">Please answer this/);
    expect(html).toContain('href="#q-contact_last">Family name: Please answer this.</a>');
  });
  it('gets a row more or less without a script, and nothing is sent by that', async () => {
    await stage.settled();
    const before = await (await stage.api('GET', '/submissions?limit=1')).body;
    const body = await filled('visitors', { contact_first: 'Ada', 'more[0][email]': 'a@x.example' });
    body.append('_more', 'more');
    const html = await (await send('visitors', body, { Accept: HTML })).text();
    expect(readForms(html)[0]!.fields.map(({ name }) => name)).toEqual(
      expect.arrayContaining(['more[0][email]', 'more[1][email]']),
    );
    body.set('more[1][email]', 'b@x.example');
    body.delete('_more');
    body.append('_less', 'more[0]');
    const less = readForms(await (await send('visitors', body, { Accept: HTML })).text())[0]!.fields;
    expect(less.find(({ name }) => name === 'more[1][email]')!.initial).toBe('b@x.example');
    expect(less.some(({ name }) => name === 'more[0][email]')).toBe(false);
    expect(await (await stage.api('GET', '/submissions?limit=1')).body).toEqual(before);
  });
  it('gets no further by a hand-made request, nor by the intake’s other door', async () => {
    const bad = { ...ada(), kind: 'other', hacked: 'yes', number: '17' };
    expect((await send('visitors', new URLSearchParams(bad))).status).toBe(422);
    const direct = await fetch(`${stage.address}/in/visitors`, {
      method: 'POST',
      body: JSON.stringify(bad),
      headers: { 'Content-Type': 'application/json' },
    });
    expect(direct.status).toBe(422);
    expect(await direct.json()).toMatchObject({ errors: [{ field: 'kind', reason: expect.any(String) }] });
    const good = await fetch(`${stage.address}/in/visitors`, {
      method: 'POST',
      body: JSON.stringify({ ...bad, kind: 'new' }),
      headers: { 'Content-Type': 'application/json' },
    });
    const { submission } = (await good.json()) as { submission: string };
    // What isn't asked, or isn't shown for these answers, isn't kept.
    expect(Object.keys((await submitted(submission)).submission.values).sort()).toEqual([
      'contact_email',
      'contact_first',
      'contact_last',
      'kind',
    ]);
  });
});

describe('programs that fill in forms', () => {
  it('are thanked and not heard where they fill in what nobody sees', async () => {
    const said = ada();
    const response = await send(
      'visitors',
      await filled('visitors', { ...said, website_again: 'http://spam.example' }),
    );
    expect(response.status).toBe(202);
    expect(await response.json()).toEqual({ thanks: expect.any(String) });
    await stage.settled();
    expect(await stage.people(said.contact_email)).toEqual([]);
  });
  it('are too quick, or were never shown the form', async () => {
    await form('patient', { guard: { trap: false, leastSeconds: 60 } });
    const tooSoon = await send('patient', await filled('patient', ada()));
    expect(tooSoon.status).toBe(422);
    expect(await tooSoon.json()).toMatchObject({
      errors: [{ field: '_shown', message: expect.stringContaining('very quick') }],
    });
    expect((await send('patient', new URLSearchParams(ada()))).status).toBe(422);
    const other = await filled('visitors', ada());
    expect((await send('patient', other)).status).toBe(422);
    expect((await send('patient', new URLSearchParams({ ...ada(), _shown: 'v1.x.y.z' }))).status).toBe(422);
  });
  it('come from pages of others, which have no business here', async () => {
    const body = await filled('visitors', ada());
    for (const origin of ['https://elsewhere.example', 'null', 'garbage'])
      expect((await send('visitors', body, { Origin: origin })).status).toBe(403);
    expect((await send('visitors', body, { Origin: stage.address })).status).toBe(202);
  });
  it('send too much from one address', async () => {
    await form('slow', {}, { perMinute: 2 });
    const statuses = [];
    for (let at = 0; at < 3; at += 1) statuses.push((await send('slow', await filled('slow', ada()))).status);
    expect(statuses).toEqual([202, 202, 429]);
  });
});

it('is published as a JSON Schema, its texts by language', async () => {
  const { $defs } = (await (await fetch(`${stage.address}/api/schemas.json`)).json()) as Json;
  expect($defs.HostedForm.properties.title).toEqual({
    type: 'object',
    additionalProperties: { type: 'string', maxLength: 200 },
  });
  expect($defs.IntakeDocument.properties.form.$ref).toContain('HostedForm');
});

describe('what isn’t a form of ours', () => {
  it('is told so in words', async () => {
    for (const path of ['nothing', 'pollination-enquiry', '%00', 'visitors%2f..'])
      expect((await see(path)).status).toBe(404);
    const { body } = await stage.api('GET', '/intakes');
    const { id } = body.intakes.find(({ key }: { key: string }) => key === 'slow');
    await stage.api('PUT', `/intakes/${id}/state`, { state: 'closed' });
    const closed = await see('slow');
    expect(closed.status).toBe(410);
    expect(await closed.text()).toContain('takes nothing at present');
  });
  it('can’t be kept: each part that won’t do is named, and why', async () => {
    const draft = (change: (document: Json) => void) => {
      const document = {
        format: 1,
        name: 'x',
        source: { kind: 'ours' },
        form: formOf([item('text', 'a')]),
        fields: [],
        plan: { steps: [] },
        settings: { perMinute: 10 },
      };
      change(document);
      return stage.api('POST', '/intakes', { key: `draft-${(counted += 1)}`, document });
    };
    const made = await draft(() => undefined);
    expect(made.body.intake.draft.fields).toEqual([{ name: 'a', label: 'a', type: 'text', required: false }]);
    expect((await draft((document) => delete document.form)).body.errors).toEqual([
      { field: 'form', reason: expect.stringContaining('missing') },
    ]);
    expect((await draft((document) => (document.source.kind = 'page'))).status).toBe(422);
    const circular = await draft((document) => {
      document.form.pages[0].items[0].shown = { match: 'all', parts: [{ field: 'a', test: 'is', value: 'x' }] };
    });
    expect([circular.status, circular.body.detail]).toEqual([422, expect.stringContaining('depends on itself')]);
    expect((await draft((document) => (document.form.title = { en: 7 }))).body.errors[0].field).toBe(
      'document.form.title',
    );
    expect((await draft((document) => (document.form.pages[0].items[0].kind = 'iframe'))).status).toBe(422);
  });
});

describe('what was sent, on paper', () => {
  const paperOf = async (thanks: string): Promise<string> => {
    const page = await (await fetch(new URL(thanks, stage.address), { headers: { Accept: HTML } })).text();
    return /href="(filled[^"]+)"/.exec(page)![1]!.replaceAll('&amp;', '&');
  };

  it('is offered with the thanks and on the submission’s path, and reads as it was filled in', async () => {
    const said = ada({ kind: 'old', number: '17', message: 'Grüße aus Łódź' });
    const sent = (await (await send('visitors', await filled('visitors', said))).json()) as Json;
    const path = await paperOf(sent.thanks);
    const { paper } = (await stage.api('GET', `/submissions/${sent.submission}`)).body;
    for (const address of [at(`visitors/${path}`), stage.address + paper]) {
      const response = await fetch(address);
      expect([response.status, response.headers.get('content-type')]).toEqual([200, 'application/pdf']);
      const { text } = readPdf(new Uint8Array(await response.arrayBuffer()));
      for (const each of [
        'Visit "us"',
        said.contact_email,
        'Known <b>already</b>',
        '17',
        'Grüße aus Łódź',
        sent.submission,
      ])
        expect(text).toContain(each);
    }
  });

  it('is there for nobody without its address, and gone when it is forgotten', async () => {
    const sent = (await (await send('visitors', await filled('visitors', ada()))).json()) as Json;
    const path = await paperOf(sent.thanks);
    for (const bad of ['filled', 'filled?s=', `filled?s=${'x'.repeat(900)}`, path.replace(/s=(.{8})/, 's=AAAAAAAA')])
      expect((await see(`visitors/${bad}`)).status).toBe(404);
    await stage.settled();
    await stage.db.$client.query("UPDATE submissions SET forgotten_at = NOW(3), submitted = '{}' WHERE id = ?", [
      sent.submission,
    ]);
    expect((await see(`visitors/${path}`)).status).toBe(404);
    expect((await stage.api('GET', `/submissions/${sent.submission}`)).body.paper).toBeUndefined();
  });
});

describe('a form that asks for a small sum first', () => {
  beforeAll(() => form('with-work', { guard: { trap: true, leastSeconds: 0, work: 'always' } }));
  it('is taken from whoever has done it, once', async () => {
    const body = await filled('with-work', ada());
    const asked = await send('with-work', body);
    const { work } = (await asked.json()) as Json;
    expect(asked.status).toBe(428);
    const solution = await solveChallenge({ challenge: work, deriveKey });
    body.set('_work', JSON.stringify({ challenge: work, solution }));
    expect((await send('with-work', body)).status).toBe(202);
    const again = await filled('with-work', ada());
    again.set('_work', body.get('_work')!);
    expect((await send('with-work', again)).status).toBe(428);
  });
  it('loses nothing of what was entered where no script runs', async () => {
    const page = await send('with-work', await filled('with-work', ada()), { Accept: HTML });
    expect(page.status).toBe(503);
    expect(await page.text()).toContain('value="Ada"');
  });
});

describe('what came of it', () => {
  const thanksOf = async (key: string, more = {}): Promise<string> => {
    const response = await send(key, await filled(key, ada(more)), { Accept: HTML });
    return (await fetch(new URL(response.headers.get('Location')!, stage.address))).text();
  };
  it('is told on the thanks page, as the intake says', async () => {
    const { plan } = (await stage.api('GET', `/intakes/${(await intakeOf('visitors')).id}`)).body.intake.draft;
    await form('that-tells', {}, { told: [{ name: 'person', step: plan.steps[0].id }] });
    expect(await thanksOf('that-tells')).toMatch(/<dt>Person<\/dt><dd>P-\d+<\/dd>/);
    expect(await thanksOf('visitors')).not.toContain('<dd>');
  });
  it('is said in the system’s words, in a sentence, or not at all, when it is refused', async () => {
    for (const refusals of ['words', 'sentence'] as const) await form(`refusing-${refusals}`, { refusals });
    // More than the CRM has room for.
    const long = { contact_last: 'x'.repeat(300) };
    const [words, sentence, nothing] = [
      await thanksOf('refusing-words', long),
      await thanksOf('refusing-sentence', long),
      await thanksOf('visitors', long),
    ];
    expect(words).toContain('could not be taken over');
    expect(sentence).toContain('Somebody has a look');
    expect(nothing).not.toMatch(/could not be taken over|has a look/);
  });
});

async function intakeOf(key: string): Promise<Json> {
  return (await stage.api('GET', '/intakes')).body.intakes.find((each: Json) => each.key === key);
}
