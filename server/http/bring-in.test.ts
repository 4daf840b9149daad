import { makeLine } from '../../core/testing/world.ts';
import exceljs from 'exceljs';
import { zipSync } from 'fflate';
import { Webhook } from 'standardwebhooks';
import { enquiry, intakeLike, openStage, type Json, type Stage } from '../testing/stage.ts';

let stage: Stage;
let pollination: string;
beforeAll(async () => {
  stage = await openStage({ people: 20 });
  pollination = await idOf('pollination-enquiry');
});
afterAll(() => stage.close());

async function idOf(key: string): Promise<string> {
  const { body } = await stage.api('GET', '/intakes');
  return body.intakes.find((each: { key: string }) => each.key === key).id;
}

/** An intake of its own with the pollination form's plan, changed as wanted, published. */
const intakeWith = (key: string, change: (document: Json) => void): Promise<string> => intakeLike(stage, key, change);
const upload = async (bytes: Uint8Array | string, name = 'old.csv') => {
  const cookie = await signIn();
  const response = await fetch(`${stage.address}/api/files?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    headers: { cookie },
    body: bytes as NonNullable<RequestInit['body']>,
  });
  return { status: response.status, body: (await response.json()) as Json };
};
let cookie: Promise<string> | undefined;
const signIn = (): Promise<string> =>
  (cookie ??= fetch(`${stage.address}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: 'mara@cloverhollow.example', password: 'clover-hollow' }),
  }).then((response) => response.headers.get('set-cookie')!.split(';')[0]!));

describe('a file of old submissions', () => {
  const heading = 'contact_first;contact_last;contact_email;plz';
  const row = (at: number): string => `Zuza;Nowak${at};zuza${at}@pszczoly.example;21614`;

  it('is read: delimiter, encoding, columns, kinds, and what is odd about it', async () => {
    const text = `${heading};strasse\n${row(1)};Lipowa\n${row(2)}\n`;
    const { status, body } = await upload(text);
    expect(status).toBe(201);
    expect(body).toMatchObject({
      file: { name: 'old.csv', rows: 2, columns: ['contact_first', 'contact_last', 'contact_email', 'plz', 'strasse'] },
      facts: { format: 'csv', delimiter: ';', encoding: 'utf-8' },
      oddities: [{ row: 3, what: 'has 4 cells, the heading has 5' }],
    });
    expect(body.fields.map(({ type }: { type: string }) => type)).toEqual(['text', 'text', 'email', 'number', 'text']);
    expect(body.sample[0]).toEqual(['Zuza', 'Nowak1', 'zuza1@pszczoly.example', '21614', 'Lipowa']);
  });

  it('is read in the encodings spreadsheets write, and a guess is said', async () => {
    const polish = Buffer.from([0x49, 0x6d, 0x69, 0xea, 0x0a, 0xa3, 0xf3, 0x64, 0x9f, 0x0a]); // Imię / Łódź in windows-1250
    const first = await upload(polish);
    expect(first.body).toMatchObject({
      file: { columns: ['Imię'] },
      sample: [['Łódź']],
      facts: { encoding: 'windows-1250' },
    });
    expect(first.body.oddities[0].what).toContain('windows-1250');
    const german = Buffer.from('Straße\nMüllerstraße\n', 'latin1');
    expect((await upload(german)).body).toMatchObject({
      file: { columns: ['Straße'] },
      facts: { encoding: 'windows-1252' },
    });
    const wide = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('Straße\nWeg\n', 'utf16le')]);
    expect((await upload(wide)).body).toMatchObject({ file: { columns: ['Straße'] }, facts: { encoding: 'utf-16le' } });
  });

  it('may be a workbook: dates as dates, formulas by their stored result, both said', async () => {
    const book = new exceljs.Workbook();
    const sheet = book.addWorksheet('Alt');
    sheet.addRow(['Name', 'Since', 'Hives', 'Twice']);
    sheet.addRow(['Ada', new Date('2019-05-01T00:00:00Z'), 3, { formula: 'C2*2', result: 6 }]);
    book.addWorksheet('Notes').addRow(['x']);
    const { status, body } = await upload(new Uint8Array(await book.xlsx.writeBuffer()), 'old.xlsx');
    expect(status).toBe(201);
    expect(body).toMatchObject({ facts: { format: 'xlsx', sheet: 'Alt' }, sample: [['Ada', '2019-05-01', '3', '6']] });
    expect(body.oddities.map(({ what }: { what: string }) => what)).toEqual([
      'column 2 holds dates or times; here 2019-05-01',
      'column 4 holds a formula; its stored result is taken',
      'only the sheet “Alt” is read, not “Notes”',
    ]);
  });

  it('that is no file of rows is refused in words', async () => {
    const refused = async (bytes: Uint8Array | string, words: RegExp) => {
      const { status, body } = await upload(bytes);
      expect({ status, detail: body.detail }).toEqual({ status: 422, detail: expect.stringMatching(words) });
    };
    await refused('', /empty/);
    await refused('a,b\n', /heading and no rows/);
    await refused('a,b\n1,"2\n', /quotation mark/);
    await refused(new Uint8Array([0, 1, 2, 3, 4, 5, 6, 7, 8]), /neither CSV nor a workbook/);
    await refused(new Uint8Array([0x50, 0x4b, 3, 4, 9, 9, 9]), /workbook/);
    await refused(zipSync({ 'readme.txt': new Uint8Array([1]) }), /no filled-in sheet/);
    await refused(new Uint8Array([0xd0, 0xcf, 0x11, 0xe0]), /old format/);
  });

  it('is taken in: a row a submission, once, with a report per row', async () => {
    const rows = Array.from({ length: 450 }, (_, at) => row(at));
    rows[10] = 'too;many;cells;in;this;row';
    rows[20] = 'Zuza;;zuza20@pszczoly.example;21614';
    const { body } = await upload(`${heading}\n${rows.join('\n')}\n`);
    const started = await stage.api('POST', `/intakes/${pollination}/imports`, { file: body.file.id });
    expect(started.status).toBe(201);
    const job = await finished(started.body.import.id);
    expect(job).toMatchObject({
      state: 'done',
      rows: 450,
      done: 450,
      accepted: 449,
      problems: [{ row: 12, what: 'has 6 cells, the heading has 4' }],
    });
    await stage.settled();
    const report = (await stage.api('GET', `/imports/${job.id}/rows?after=15`)).body.rows;
    expect(report.slice(0, 2)).toMatchObject([
      { row: 16, state: 'applied' },
      { row: 17, state: 'applied' },
    ]);
    expect(report.find((each: { row: number }) => each.row === 22)).toMatchObject({ state: 'refused' });
    const refused = (await stage.api('GET', `/imports/${job.id}/rows?state=refused`)).body;
    expect(refused.rows.map((each: { row: number }) => each.row)).toEqual([22]);
    expect(refused.totals).toEqual({ applied: 448, refused: 1 });
    expect((await stage.api('GET', `/imports/${job.id}/rows?state=lost`)).status).toBe(422);
    const csv = await (
      await fetch(`${stage.address}/api/imports/${job.id}/report`, { headers: { cookie: await signIn() } })
    ).text();
    const lines = csv.trim().split('\r\n');
    expect(lines).toHaveLength(451);
    expect(lines[11]).toBe('"12","not taken in","","has 6 cells, the heading has 4",""');
    expect(lines[21]).toMatch(/^"22","refused",/);
    expect(await stage.people('zuza449@pszczoly.example')).toHaveLength(1);
    const again = await stage.api('POST', `/intakes/${pollination}/imports`, { file: body.file.id });
    expect(again).toMatchObject({ status: 409, body: { detail: expect.stringContaining('taken in already') } });
  });

  it('is rehearsed before: each row tells what it would do, and nothing is written', async () => {
    const rows = [row(30_000), 'too;many;cells;in;this;row', 'Zuza;;zuza30002@pszczoly.example;21614', row(30_000)];
    const { body } = await upload(`${heading}\n${rows.join('\n')}\n`);
    const counted = async () => (await stage.db.$client.query('SELECT COUNT(*) AS n FROM submissions'))[0] as unknown;
    const before = await counted();
    const told = await stage.api('POST', `/intakes/${pollination}/imports/rehearsal`, { file: body.file.id });
    expect(told.status).toBe(200);
    expect(told.body).toMatchObject({ rows: 4, version: expect.any(Number) });
    const [first, bad, refused, again] = told.body.results;
    expect(first).toMatchObject({ row: 2, course: { state: 'applied', steps: [{ outcome: 'created' }] } });
    expect(bad).toEqual({ row: 3, label: '', what: 'has 6 cells, the heading has 4' });
    expect(refused).toMatchObject({ row: 4, course: { state: 'refused' } });
    // What an earlier row would have made is known to a later one.
    expect(again).toMatchObject({ row: 5, course: { steps: [{ outcome: 'unchanged' }] } });
    expect(await counted()).toEqual(before);
    expect(await stage.people('zuza30000@pszczoly.example')).toEqual([]);
    expect(
      (await stage.api('POST', `/intakes/${pollination}/imports/rehearsal`, { file: crypto.randomUUID() })).status,
    ).toBe(422);
  });

  it('is paused, goes on where it stopped, and takes no row twice', async () => {
    const rows = Array.from({ length: 800 }, (_, at) => row(10_000 + at));
    const { body } = await upload(`${heading}\n${rows.join('\n')}\n`);
    const { id } = (await stage.api('POST', `/intakes/${pollination}/imports`, { file: body.file.id })).body.import;
    expect((await stage.api('PUT', `/imports/${id}/state`, { state: 'paused' })).status).toBe(204);
    const paused = await importOf(id);
    expect(paused.done).toBeLessThan(800);
    expect((await stage.api('PUT', `/imports/${id}/state`, { state: 'running' })).status).toBe(204);
    const done = await finished(id);
    expect(done).toMatchObject({ state: 'done', done: 800 });
    const [counted] = await stage.db.$client.query(
      'SELECT COUNT(*) AS all_rows, COUNT(DISTINCT idempotency_key) AS different FROM submissions WHERE idempotency_key LIKE ?',
      [`file:${id}:%`],
    );
    expect(counted).toMatchObject([{ all_rows: 800, different: 800 }]);
  });

  it('is not taken in by an intake it has nothing to do with, or that is closed', async () => {
    const { body } = await upload('colour\nred\n');
    expect(await stage.api('POST', `/intakes/${pollination}/imports`, { file: body.file.id })).toMatchObject({
      status: 422,
      body: { errors: [{ field: 'file' }] },
    });
    expect((await stage.api('POST', `/intakes/${pollination}/imports`, { file: 'x' })).status).toBe(422);
  });

  const importOf = async (id: string) => (await stage.api('GET', `/imports/${id}/rows`)).body.import;
  async function finished(id: string) {
    for (let tries = 0; tries < 600; tries += 1) {
      const job = await importOf(id);
      if (job.state === 'done' || job.state === 'failed') return job;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error('the file is still on its way');
  }
});

describe('signed events', () => {
  let id: string;
  let secret: string;
  const event = { type: 'order.placed', data: { email: 'ada@hive.example', last: 'Moor' } };
  beforeAll(async () => {
    id = await intakeWith('orders', (document) => {
      document['source'] = { kind: 'events' };
      document['settings'].eventTypes = ['order.placed'];
      document['fields'] = [
        { name: 'data[email]', label: 'E-mail', type: 'email', required: true },
        { name: 'data[last]', label: 'Last name', type: 'text', required: true },
      ];
      const [step] = document['plan'].steps;
      step.lines = step.lines
        .filter(({ field }: { field: string }) => ['email', 'last_name'].includes(field))
        .map((line: { field: string }) => ({ ...line, from: [line.field === 'email' ? 'data[email]' : 'data[last]'] }));
    });
    secret = (await stage.api('POST', `/intakes/${id}/secrets`)).body.secret;
  });
  let sent = 0;
  const send = (body: string, more: { secret?: string; id?: string; at?: Date; signature?: string } = {}) => {
    const message = more.id ?? `msg_${(sent += 1)}`;
    const at = more.at ?? new Date();
    const headers = {
      'Content-Type': 'application/json',
      'webhook-id': message,
      'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
      'webhook-signature': more.signature ?? new Webhook(more.secret ?? secret).sign(message, at, body),
    };
    return fetch(`${stage.address}/in/orders`, { method: 'POST', headers, body });
  };
  const words = async (response: Response) => ({
    status: response.status,
    ...((await response.json()) as { detail?: string; submission?: string }),
  });

  it('are taken in when the signature is right, once however often they are sent', async () => {
    const first = await words(await send(JSON.stringify(event), { id: 'msg_once' }));
    expect(first.status).toBe(202);
    expect(await words(await send(JSON.stringify(event), { id: 'msg_once' }))).toEqual(first);
    await stage.settled();
    expect(await stage.people('ada@hive.example')).toHaveLength(1);
  });

  it('are refused when unsigned, signed by another, altered, or too old to be believed', async () => {
    const body = JSON.stringify(event);
    const plain = await fetch(`${stage.address}/in/orders`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body,
    });
    expect(await words(plain)).toMatchObject({ status: 401, detail: expect.stringContaining('webhook-id is missing') });
    const other = `whsec_${Buffer.alloc(32, 7).toString('base64')}`;
    expect(await words(await send(body, { secret: other }))).toMatchObject({
      status: 401,
      detail: expect.stringContaining('none of the keys'),
    });
    const at = new Date();
    const signature = new Webhook(secret).sign('msg_x', at, body);
    expect(await words(await send(body.replace('Moor', 'Noor'), { id: 'msg_x', at, signature }))).toMatchObject({
      status: 401,
    });
    expect(await words(await send(body, { id: 'msg_y', at, signature }))).toMatchObject({ status: 401 });
    const old = new Date(Date.now() - 10 * 60_000);
    expect(await words(await send(body, { at: old }))).toMatchObject({
      status: 401,
      detail: expect.stringContaining('5 minutes'),
    });
    expect(await words(await send(body, { signature: 'v1' }))).toMatchObject({ status: 401 });
  });

  it('of other kinds are passed over with a yes, so that they are not sent again', async () => {
    const response = await send(JSON.stringify({ ...event, type: 'order.refunded' }));
    expect(response.status).toBe(202);
    expect(await response.json()).toEqual({ passedOver: 'order.refunded is not among the kinds this intake takes.' });
  });

  it('may be signed with the old key or the new one while keys change over', async () => {
    const made = (await stage.api('POST', `/intakes/${id}/secrets`)).body;
    expect((await send(JSON.stringify(event))).status).toBe(202);
    expect((await send(JSON.stringify(event), { secret: made.secret })).status).toBe(202);
    const { secrets } = (await stage.api('GET', `/intakes/${id}/secrets`)).body;
    expect(secrets).toHaveLength(2);
    expect(JSON.stringify(secrets)).not.toContain(made.secret.slice(8, 30));
    const old = secrets.find((each: { id: string }) => each.id !== made.id);
    expect(old.goodUntil).not.toBeNull();
    expect((await stage.api('DELETE', `/intakes/${id}/secrets/${old.id}`)).status).toBe(204);
    expect((await send(JSON.stringify(event))).status).toBe(401);
    secret = made.secret;
  });
});

describe('pages that may send', () => {
  beforeAll(async () => {
    await intakeWith('fenced', (document) => {
      document['settings'].allowedOrigins = ['https://orchard.example'];
      document['fields'].push({ name: 'photo', label: 'A picture', type: 'file', required: false });
    });
  });
  const from = (origin: string | undefined) =>
    stage.submit('fenced', enquiry(), origin === undefined ? {} : { Origin: origin });

  it('are those named, and the answer may be read there', async () => {
    const response = await from('https://orchard.example');
    expect(response.status).toBe(202);
    expect(response.headers.get('access-control-allow-origin')).toBe('https://orchard.example');
    expect((await from(undefined)).status).toBe(202);
  });
  it('are no others', async () => {
    for (const origin of ['https://elsewhere.example', 'https://orchard.example.evil.example']) {
      const response = await from(origin);
      expect(response.status).toBe(403);
      expect(((await response.json()) as { detail: string }).detail).toContain('may not send');
    }
  });
  it('may send a file where the form has one; its name is kept, its contents are not', async () => {
    const form = new FormData();
    for (const [name, value] of Object.entries(enquiry())) form.append(name, value);
    form.append('photo', new Blob(['x'.repeat(3_000_000)]), 'swarm.jpg');
    const response = await fetch(`${stage.address}/in/fenced`, { method: 'POST', body: form });
    expect(response.status).toBe(202);
    const { submission } = (await response.json()) as { submission: string };
    const { body } = await stage.api('GET', `/submissions/${submission}`);
    expect(body.submission.values.photo).toBe('swarm.jpg');
  });
});

describe('a page read by its address', () => {
  const read = (address: string) => stage.api('POST', '/pages/read', { address });
  it('gives its forms, largest or not, with what is never taken in', async () => {
    const { status, body } = await read(`${stage.standins}/site/write-to-us`);
    expect(status).toBe(200);
    expect(
      body.forms.map(({ name, fields }: { name: string; fields: unknown[] }) => `${name} ${fields.length}`),
    ).toEqual(['suche 1', 'login 1', 'write-to-us 12']);
    expect(body.forms[1].left).toMatchObject([{ name: 'pw', reason: 'a password is never taken in' }]);
  });
  it.each([
    ['/site/nowhere', 'answers 404'],
    ['/crm/odata/', 'answers 401'],
  ])('%s %s', async (path, reason) => {
    expect(await read(`${stage.standins}${path}`)).toMatchObject({
      status: 422,
      body: { errors: [{ field: 'address', reason }] },
    });
  });
  it('says when nothing answers, or the address is none', async () => {
    expect((await read('http://127.0.0.1:1/')).body.errors[0].reason).toBe('can not be reached');
    expect((await read('file:///etc/passwd')).status).toBe(422);
    expect((await read('nonsense')).status).toBe(422);
  });
});

describe('draft against live', () => {
  it('tells which of the last submissions would come out differently, and in which field', async () => {
    await stage.submit('pollination-enquiry', enquiry({ contact_email: 'diff@biene.example', town: 'hollowbrook' }));
    await stage.settled();
    const { body } = await stage.api('GET', `/intakes/${pollination}`);
    const same = await stage.api('POST', `/intakes/${pollination}/compare`, { document: body.live, last: 3 });
    expect(same.body.compared.flatMap(({ differences }: { differences: unknown[] }) => differences)).toEqual([]);
    const document = structuredClone(body.live);
    document.plan.steps[0].lines.find(({ field }: { field: string }) => field === 'city').treatments = [
      { kind: 'case', case: 'upper' },
    ];
    const { compared } = (await stage.api('POST', `/intakes/${pollination}/compare`, { document, last: 3 })).body;
    expect(compared[0]).toMatchObject({ differences: [{ field: 'city', live: 'not written', draft: 'HOLLOWBROOK' }] });
  });
});

describe('what is learned', () => {
  it('counts what was published and what was passed over, once', async () => {
    await intakeWith('lessons', (document) => {
      document['fields'].push({ name: 'rank', label: 'Honigrang', type: 'text', required: false });
      document['plan'].steps[0].lines.push(makeLine('rank', 'notes'));
    });
    const { learned } = (await stage.api('GET', '/mapping/learned')).body;
    expect(learned).toContainEqual({ from: 'honigrang', entity: 'People', field: 'notes', accepted: 1, rejected: 0 });
    const entities = [
      { name: 'People', label: 'Person', fields: [{ name: 'notes', label: 'Notes', type: 'long text' }] },
    ];
    const { lines } = (
      await stage.api('POST', '/mapping/suggest', { fields: [{ name: 'r2', label: 'Honigrang' }], entities })
    ).body;
    expect(lines).toMatchObject([
      { from: ['r2'], field: 'notes', reasons: expect.arrayContaining(['chosen here before']) },
    ]);
  });
});

it('reach tells what every intake does with a field', async () => {
  const { body: systems } = await stage.api('GET', '/systems');
  const { uses } = (await stage.api('GET', `/reach?system=${systems.systems[0].id}&entity=People`)).body;
  const email = uses.filter(
    (use: { field: string; name: string }) => use.field === 'email' && use.name === 'Pollination enquiry',
  );
  expect(email).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ how: 'written', live: true, from: ['E-mail'] }),
      expect.objectContaining({ how: 'recognised by', live: true }),
    ]),
  );
});

it('the form of an intake goes out as a JSON Schema', async () => {
  const { body } = await stage.api('GET', `/intakes/${pollination}/form-schema`);
  expect(body).toMatchObject({
    $schema: expect.stringContaining('2020-12'),
    properties: { contact_email: { format: 'email' } },
  });
});
