import { readFileSync, readdirSync } from 'node:fs';
import ExcelJS from 'exceljs';
import { formOf, item } from '../../../core/testing/hosted.ts';
import { readPdf } from '../../testing/read-pdf.ts';
import { TooHeavy } from '../../heavy/index.ts';
import { visitorFiles } from '../../store/index.ts';
import { Housekeeper, LiveView } from '../../engine/index.ts';
import { intakeLike, openStage, type Json, type Stage } from '../../testing/stage.ts';
import { keepFile, plainName } from './files.ts';

/** Files that visitors send, and what they draw as a signature. */
let stage: Stage;
/** A picture as a browser makes one. */
const shot = `docs/screenshots/${readdirSync('docs/screenshots').find((name) => name.endsWith('.png'))!}`;
const png = readFileSync(shot);
let xlsx: Buffer;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
  const book = new ExcelJS.Workbook();
  book.addWorksheet('Bees').addRow(['hive', 3]);
  xlsx = Buffer.from(await book.xlsx.writeBuffer());
  const asked = new Set(['contact_first', 'contact_last', 'contact_email']);
  await intakeLike(stage, 'with-files', (document: Json) => {
    document.source = { kind: 'ours' };
    document.fields = [];
    document.form = formOf(
      [
        ...[...asked].map((name) => item(name.endsWith('email') ? 'email' : 'text', name, { required: true })),
        item('file', 'photo', { required: true, accepts: ['picture'], mostMebibytes: 2 }),
        item('file', 'papers', { accepts: ['pdf', 'sheet', 'text'] }),
        item('group', 'hives', { mostRows: 3, items: [item('text', 'name'), item('file', 'view')] }),
        item('signature', 'signed', { required: true }),
      ],
      { guard: { trap: true, leastSeconds: 0 } },
    );
    delete document.settings.allowedOrigins;
    document.settings.keepDays = 1;
    for (const step of document.plan.steps)
      step.lines = step.lines.filter(({ from }: { from: string[] }) => from.every((name) => asked.has(name)));
  });
});
afterAll(() => stage.close());

const STROKES = 'M10 20L30 40L500 170M5 5L6 6';
let counted = 0;
const said = (more: Record<string, string> = {}): Record<string, string> => ({
  ...{ contact_first: 'Jadzia', contact_last: 'Miodek', contact_email: `jadzia${(counted += 1)}@files.example` },
  ...{ signed: 'Jadzia Miodek', ...more },
});
const HTML = { Accept: 'text/html,application/xhtml+xml' };
type Sent = Record<string, [bytes: Buffer, name: string, type?: string]>;
/** Sends a form as a browser does. */
function send(fields: Record<string, string>, files: Sent = {}, headers: Record<string, string> = {}) {
  const body = new FormData();
  for (const [name, value] of Object.entries(fields)) body.append(name, value);
  for (const [name, [bytes, called, type = 'image/png']] of Object.entries(files))
    body.append(name, new Blob([new Uint8Array(bytes)], { type }), called);
  return fetch(`${stage.address}/f/with-files`, {
    method: 'POST',
    body,
    headers: { Accept: 'application/json', ...headers },
    redirect: 'manual',
  });
}
const alone = (question: string, name: string, bytes: Buffer, page = '') =>
  fetch(`${stage.address}/f/with-files/file?${new URLSearchParams({ question, name, page }).toString()}`, {
    method: 'POST',
    body: new Uint8Array(bytes),
    headers: { 'Content-Type': 'application/octet-stream' },
  });
const valuesOf = async (id: string): Promise<Record<string, string>> =>
  (await stage.api('GET', `/submissions/${id}`)).body.submission.values;
const open = (address: string) => fetch(address.replace(/^http:\/\/[^/]+/, stage.address));

it('a picture goes on as an address at which it is to be had, with what it was called', async () => {
  const response = await send(said(), { photo: [png, 'C:\\fakepath\\..\\Bienenstöcke "neu".png'] });
  const { submission } = (await response.json()) as Json;
  expect(response.status).toBe(202);
  const values = await valuesOf(submission);
  expect(values).toMatchObject({
    photo: expect.stringMatching(/\/files\/[\w-]{43}$/),
    photo_name: 'Bienenstöcke "neu".png',
  });
  const file = await open(values['photo']!);
  expect(Buffer.from(await file.arrayBuffer()).equals(png)).toBe(true);
  expect(Object.fromEntries(file.headers)).toMatchObject({
    'content-type': 'image/png',
    'content-disposition': expect.stringMatching(/^inline; .*filename\*=UTF-8''Bienenst%C3%B6cke/),
    'content-security-policy': "default-src 'none'; sandbox",
    'x-content-type-options': 'nosniff',
  });
});

it('the page’s script sends a file by itself, and what speaks for it with the form; the same again is the same file', async () => {
  const page = await (await fetch(`${stage.address}/f/with-files`)).text();
  const shown = /name="_shown" value="([^"]+)"/.exec(page)![1]!;
  expect(page).toContain('enctype="multipart/form-data"');
  const [one, two] = await Promise.all([alone('photo', 'a.png', png, shown), alone('photo', 'a.png', png, shown)]);
  expect([one.status, two.status]).toEqual([201, 201]);
  const tokens = [((await one.json()) as Json).token, ((await two.json()) as Json).token];
  const fields = said();
  const answers: Json[] = [];
  for (const photo of tokens) {
    const response = await send({ ...fields, photo, _shown: shown });
    answers.push((await response.json()) as Json);
  }
  expect(answers[0].submission).toBeDefined();
  expect(answers[1].submission).toBe(answers[0].submission);
});

it('without a script, a file is kept while something else is put right', async () => {
  const wrong = await send({ ...said(), contact_email: 'none' }, { photo: [png, 'hives.png'] }, HTML);
  expect(wrong.status).toBe(422);
  const page = await wrong.text();
  expect(page).toContain('hives.png is here.');
  const token = /type="hidden" name="photo" value="([^"]+)"/.exec(page)![1]!;
  expect((await send({ ...said(), photo: token }, {}, HTML)).status).toBe(303);
});

it('takes files in rows, and of other sorts by what is in them', async () => {
  const files: Sent = {
    photo: [png, 'a.png'],
    papers: [xlsx, 'hives.xlsx', 'application/octet-stream'],
    'hives[1][view]': [png, 'b.png'],
  };
  const response = await send(said({ 'hives[1][name]': 'South' }), files);
  const body = (await response.json()) as Json;
  expect([response.status, body.errors]).toEqual([202, undefined]);
  const values = await valuesOf(body.submission);
  expect(values).toMatchObject({ papers_name: 'hives.xlsx' });
  const papers = await open(values['papers']!);
  expect(papers.headers.get('Content-Disposition')).toMatch(/^attachment/);
  expect(Object.keys(values)).toEqual(expect.arrayContaining(['hives[1][view]', 'hives[1][view_name]']));
});

const SVG = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>');
it.each<[string, Buffer, string, string]>([
  ['a drawing that runs scripts', SVG, 'a.png', 'sort'],
  ['a page', Buffer.from('<!doctype html><html><body>hi'), 'a.png', 'sort'],
  ['nothing', Buffer.alloc(0), 'a.png', 'empty'],
  ['a program', Buffer.from('MZ'.padEnd(400, '\0')), 'a.png', 'sort'],
  ['a picture that is none', Buffer.from('not a picture'), 'a.png', 'sort'],
  ['a sheet', Buffer.from('PK\u0003\u0004'.padEnd(300, 'x')), 'a.png', 'sort'],
  ['what is too large', Buffer.concat([png, Buffer.alloc(2 * 1024 * 1024)]), 'a.png', '2 MB'],
])('refuses %s, by itself and with the form', async (_, bytes, name, words) => {
  const refused = await alone('photo', name, bytes);
  expect(refused.status).toBe(422);
  expect(((await refused.json()) as Json).errors).toEqual([
    { field: 'photo', message: expect.stringContaining(words) },
  ]);
  const whole = await send(said(), { photo: [bytes, name] });
  expect(whole.status).toBe(422);
  expect(((await whole.json()) as Json).errors).toContainEqual({
    field: 'photo',
    message: expect.stringContaining(words),
  });
});

it('refuses what a text would be only to us', async () => {
  for (const bytes of [SVG, Buffer.from('<html>'), Buffer.from([0x61, 0, 0x62]), Buffer.from([0xff, 0xfe, 0xfd, 0x80])])
    expect((await alone('papers', 'a.txt', bytes)).status).toBe(422);
  expect((await alone('papers', 'a.csv', Buffer.from('name;hives\nZosia;3\n'))).status).toBe(201);
});

it('takes nobody’s word for what is kept here', async () => {
  const { token } = (await (await alone('photo', 'a.png', png)).json()) as Json;
  const elsewhere = (await (await alone('papers', 'a.csv', Buffer.from('a;b\n1;2\n'))).json()) as Json;
  for (const photo of [
    'https://elsewhere.example/a.png',
    `${token}x`,
    token.replace('v1.', 'v1.A'),
    elsewhere.token,
    'x'.repeat(5000),
  ])
    expect([photo.slice(0, 20), (await send({ ...said(), photo })).status]).toEqual([photo.slice(0, 20), 422]);
  expect((await send({ ...said(), photo: token })).status).toBe(202);
  expect((await alone('contact_first', 'a.png', png)).status).toBe(404);
  expect((await alone('hives[0]', 'a.png', png)).status).toBe(404);
  // What nobody has sent off is nobody's yet.
  const [loose] = await stage.db.select().from(visitorFiles).limit(1);
  expect(loose!.id).toHaveLength(43);
  for (const id of ['nothing', '../../etc/passwd', 'A'.repeat(43), encodeURIComponent('\u0000'.repeat(43))])
    expect((await fetch(`${stage.address}/files/${id}`)).status).toBe(404);
  const gone = await fetch(`${stage.address}/files/${'A'.repeat(43)}`, { headers: HTML });
  expect([gone.status, gone.headers.get('Content-Type')]).toEqual([404, expect.stringContaining('text/html')]);
});

it('a signature is a name, and what was drawn is a picture of numbers only', async () => {
  expect((await send({ ...said(), signed: '' }, { photo: [png, 'a.png'] })).status).toBe(422);
  const { submission } = (await (
    await send(said({ signed_drawn: STROKES }), { photo: [png, 'a.png'] })
  ).json()) as Json;
  const values = await valuesOf(submission);
  expect(values['signed']).toBe('Jadzia Miodek');
  const picture = await open(values['signed_drawn']!);
  expect(picture.headers.get('Content-Type')).toMatch(/^image\/svg\+xml/);
  expect(await picture.text()).toContain(`d="${STROKES}"`);
  const { paper } = (await stage.api('GET', `/submissions/${submission}`)).body;
  const pdf = readPdf(Buffer.from(await (await fetch(`${stage.address}${paper}`)).arrayBuffer()));
  expect(pdf.text).toContain('Jadzia Miodek');
  expect(pdf.text).toContain('a.png');
  expect(pdf.roles).toContain('Figure');
  for (const drawn of ['M1 1"/><script>', 'M9999 1', 'L1 1', `M1 1${'L1 1'.repeat(6000)}`]) {
    const body = (await (await send(said({ signed_drawn: drawn }), { photo: [png, 'a.png'] })).json()) as Json;
    expect(await valuesOf(body.submission)).not.toHaveProperty('signed_drawn');
  }
});

it('is gone when what it came with is forgotten, and after a day when nobody sends it off', async () => {
  const { submission } = (await (await send(said(), { photo: [png, 'forgotten.png'] })).json()) as Json;
  const address = (await valuesOf(submission))['photo']!;
  expect((await open(address)).status).toBe(200);
  await alone('photo', 'loose.png', png);
  const keeper = new Housekeeper(
    stage.db,
    { client: () => Promise.reject(new Error()) },
    new LiveView(stage.db, 0),
    () => undefined,
  );
  const soon = new Date(Date.now() + 3 * 86_400_000);
  for (let tries = 0; tries < 100 && (await open(address)).status === 200; tries += 1) {
    await keeper.forget(soon);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  expect((await open(address)).status).toBe(404);
  expect((await stage.db.select().from(visitorFiles)).map(({ name }) => name)).not.toContain('loose.png');
});

it('many at once are taken in turn', async () => {
  const statuses = await Promise.all(
    Array.from({ length: 12 }, () => alone('photo', 'a.png', png).then(({ status }) => status)),
  );
  expect(new Set(statuses)).toEqual(new Set(statuses.includes(503) ? [201, 503] : [201]));
  expect(statuses).toContain(201);
});

it('isn’t called a file of the wrong kind because others are being looked at', async () => {
  const busy = { run: () => Promise.reject(new TooHeavy('too many', 'Three are.')) };
  const file = { name: 'a.png', bytes: png };
  const by = { language: 'en', page: 'p', by: 'somebody' };
  const keeping = { db: stage.db, heavy: busy } as unknown as Parameters<typeof keepFile>[0];
  await expect(
    keepFile(keeping, 'i', { id: 'x', kind: 'file', label: { en: 'Photo' } }, file, by),
  ).rejects.toMatchObject({ status: 503 });
});

it.each([
  ['../../etc/passwd', 'passwd'],
  ['C:\\x\\y.png', 'y.png'],
  ['..', 'file'],
  ['', 'file'],
  ['a\u0000\u202Egnp.exe', 'agnp.exe'],
  ['x'.repeat(400), 'x'.repeat(120)],
  ['.htaccess', 'htaccess'],
])('a file that says it is “%s” is called “%s”', (given, name) => {
  expect(plainName(given)).toBe(name);
});
