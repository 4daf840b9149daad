import iconv from 'iconv-lite';
import { enquiry, intakeLike, openStage, type Json, type Stage } from '../testing/stage.ts';
import { urlencodedPairs } from './form-body.ts';

/** What browsers really send: bytes as they put them on the line, from pages as they are. */
let stage: Stage;
const ORCHARD = 'https://orchard.example';
beforeAll(async () => {
  stage = await openStage({ people: 5 });
  await intakeLike(stage, 'letters', (document) => {
    document.fields.push(
      { name: 'Straße', label: 'Straße', type: 'text', required: false },
      { name: 'sort[]', label: 'Sorts', type: 'text', multiple: true, required: false },
      { name: 'Bild', label: 'Bild', type: 'file', required: false },
      { name: 'tel', label: 'By day', type: 'phone', required: false, place: 1 },
      { name: 'tel#2', label: 'In the evening', type: 'phone', required: false, place: 2 },
    );
  });
  await intakeLike(stage, 'fenced', (document) => {
    document.settings.allowedOrigins = [ORCHARD];
  });
  await intakeLike(stage, 'hidden', (document) => {
    document.settings.allowedOrigins = [ORCHARD];
    document.settings.hiddenOrigins = true;
  });
  await intakeLike(stage, 'polish', (document) => {
    document.source.charset = 'iso-8859-2';
  });
});
afterAll(() => stage.close());

it('inputs of one name are told apart by their order, blank or not; where one is missing they stay together', async () => {
  const sent = async (...tel: string[]): Promise<Json> => {
    const body = new URLSearchParams({ ...enquiry() });
    for (const each of tel) body.append('tel', each);
    return valuesOf(await send(body.toString(), FORM));
  };
  expect(await sent('030 1', '030 2')).toMatchObject({ tel: '030 1', 'tel#2': '030 2' });
  expect(await sent('', '030 2')).toMatchObject({ tel: '', 'tel#2': '030 2' });
  const alone = await sent('030 2');
  expect(alone['tel']).toBe('030 2');
  expect(alone).not.toHaveProperty(['tel#2']);
  // As many as a body may have are neither lost nor told apart by a guess.
  const many = Array.from({ length: 900 }, (_, at) => `030 ${at}`);
  expect((await sent(...many))['tel']).toHaveLength(900);
});

const BROWSER = { Accept: 'text/html,application/xhtml+xml,application/xml;q=0.9,*/*;q=0.8' };
const send = (body: Buffer | string, type: string, intake = 'letters', headers: Record<string, string> = {}) =>
  fetch(`${stage.address}/in/${intake}`, {
    method: 'POST',
    body: body as NonNullable<RequestInit['body']>,
    headers: { 'Content-Type': type, ...headers },
    redirect: 'manual',
  });
const valuesOf = async (response: Response): Promise<Json> => {
  const { submission, ...rest } = (await response.json()) as Json;
  if (submission === undefined) throw new Error(JSON.stringify(rest));
  return (await stage.api('GET', `/submissions/${submission}`)).body.submission.values;
};
const encoded = (values: Record<string, string>, encoding: string): string =>
  Object.entries(values)
    .map((pair) =>
      pair
        .map((text) =>
          [...iconv.encode(text, encoding)].map((byte) => `%${byte.toString(16).padStart(2, '0')}`).join(''),
        )
        .join('='),
    )
    .join('&');
const FORM = 'application/x-www-form-urlencoded';

/** A multipart body as browsers write it, in the page's encoding. */
function multipart(parts: [name: string, value: string, file?: string][], encoding: string): Buffer {
  const chunks = parts.flatMap(([name, value, file]) => [
    iconv.encode(
      `--Edge\r\nContent-Disposition: form-data; name="${name}"${file === undefined ? '' : `; filename="${file}"\r\nContent-Type: image/png`}\r\n\r\n`,
      encoding,
    ),
    file === undefined ? iconv.encode(value, encoding) : Buffer.from([0x89, 0x50, 0xff, 0xfe]),
    Buffer.from('\r\n'),
  ]);
  return Buffer.concat([...chunks, Buffer.from('--Edge--\r\n')]);
}
const MULTIPART = 'multipart/form-data; boundary=Edge';

describe('letters beyond ASCII', () => {
  it('in the names of multipart fields and files arrive as they are', async () => {
    const parts: [string, string, string?][] = [
      ...Object.entries(enquiry()),
      ['Straße', 'Am Wehr 3'],
      ['Bild', '', 'Kätzchen „1“.png'],
    ];
    expect(await valuesOf(await send(multipart(parts, 'utf-8'), MULTIPART))).toMatchObject({
      Straße: 'Am Wehr 3',
      Bild: 'Kätzchen „1“.png',
    });
    const quotes: [string, string, string?][] = [...Object.entries(enquiry()), ['say %22hi%22%0D%0Ayou', 'x']];
    expect(await valuesOf(await send(multipart(quotes, 'utf-8'), MULTIPART))).toMatchObject({ 'say "hi"\nyou': 'x' });
  });
  it('of old pages are read, though nothing says how they are sent', async () => {
    const values = { ...enquiry(), contact_first: 'Jürgen', message: 'Grüße – „5 €“' };
    expect(await valuesOf(await send(encoded(values, 'windows-1252'), FORM))).toMatchObject(values);
    expect(await valuesOf(await send(multipart(Object.entries(values), 'windows-1252'), MULTIPART))).toMatchObject(
      values,
    );
  });
  it('of a page whose encoding is known are read in it', async () => {
    const values = { ...enquiry(), contact_first: 'Żółć', message: 'Łódź' };
    expect(await valuesOf(await send(encoded(values, 'iso-8859-2'), FORM, 'polish'))).toMatchObject(values);
    // A page that has become UTF-8 since is read as what it is.
    expect(await valuesOf(await send(encoded(values, 'utf-8'), FORM, 'polish'))).toMatchObject(values);
  });
  it('are read as the form says itself, by _charset_ or its type', async () => {
    const values = { ...enquiry(), contact_first: 'Żółć' };
    const said = `${encoded(values, 'windows-1250')}&_charset_=windows-1250`;
    const read = await valuesOf(await send(said, FORM));
    expect(read).toMatchObject(values);
    expect(read).not.toHaveProperty('_charset_');
    expect(await valuesOf(await send(encoded(values, 'windows-1250'), `${FORM}; charset=windows-1250`))).toMatchObject(
      values,
    );
    const parts: [string, string][] = [['_charset_', 'iso-8859-2'], ...Object.entries(values)];
    expect(await valuesOf(await send(multipart(parts, 'iso-8859-2'), MULTIPART))).toMatchObject(values);
  });
  it('that an old page has none of come as references, and are letters again', async () => {
    const body = `${encoded(enquiry(), 'windows-1252')}&message=${encodeURIComponent('M&#322;yn')}%fc`;
    expect(await valuesOf(await send(body, FORM))).toMatchObject({ message: 'Młynü' });
  });
  it('a percent sign that starts no byte is one', async () => {
    expect(await valuesOf(await send(`${encoded(enquiry(), 'utf-8')}&message=100%&x=%zz%4`, FORM))).toMatchObject({
      message: '100%',
      x: '%zz%4',
    });
    expect(urlencodedPairs(Buffer.from('a=%&b=+%20&=c&d'), undefined, { fields: 10 })).toEqual([
      ['a', '%'],
      ['b', '  '],
      ['', 'c'],
      ['d', ''],
    ]);
  });
});

describe('a page that hides where it is', () => {
  it('may send only where the intake allows it', async () => {
    const refused = await send(encoded(enquiry(), 'utf-8'), FORM, 'fenced', { Origin: 'null' });
    expect(refused.status).toBe(403);
    expect(((await refused.json()) as Json).detail).toMatch(/doesn’t say where it is/);
    const taken = await send(encoded(enquiry(), 'utf-8'), FORM, 'hidden', { Origin: 'null' });
    expect(taken.status).toBe(202);
    expect(taken.headers.get('access-control-allow-origin')).toBe('null');
    expect((await send(encoded(enquiry(), 'utf-8'), FORM, 'hidden', { Origin: 'https://x.example' })).status).toBe(403);
  });
});

describe('a visitor', () => {
  it.each([
    [
      'from a page that isn’t named',
      () => send(encoded(enquiry(), 'utf-8'), FORM, 'fenced', { ...BROWSER, Origin: 'https://x.example' }),
      403,
      /may not send/,
    ],
    ['with nothing in the form', () => send('', FORM, 'letters', BROWSER), 422, /holds no values/],
    ['of an intake that isn’t there', () => send('a=b', FORM, 'nowhere', BROWSER), 404, /no such intake/],
    [
      'whose form says method=get',
      () => fetch(`${stage.address}/in/letters?a=b`, { headers: BROWSER }),
      405,
      /method=&#34;post&#34;/,
    ],
  ])('%s sees a page in words, never JSON', async (_, ask, status, words) => {
    const response = await ask();
    expect(response.status).toBe(status);
    expect(response.headers.get('content-type')).toMatch(/^text\/html/);
    expect(response.headers.get('content-security-policy')).toContain("default-src 'none'");
    const page = await response.text();
    expect(page).toMatch(words);
    expect(page).toContain('This was not sent');
    expect(page).not.toContain('{"');
  });
  it('a script gets a problem to read all the same, and may read it', async () => {
    const response = await send('', FORM, 'fenced', { Origin: ORCHARD });
    expect(response.status).toBe(422);
    expect(response.headers.get('content-type')).toContain('application/problem+json');
    expect(response.headers.get('access-control-allow-origin')).toBe(ORCHARD);
  });
});

describe('scripts of other sites', () => {
  it('may send the headers that their libraries add', async () => {
    const response = await fetch(`${stage.address}/in/letters`, {
      method: 'OPTIONS',
      headers: {
        Origin: ORCHARD,
        'Access-Control-Request-Method': 'POST',
        'Access-Control-Request-Headers': 'content-type,x-requested-with',
      },
    });
    expect(response.status).toBe(204);
    expect(response.headers.get('access-control-allow-headers')).toBe('content-type,x-requested-with');
  });
  it('may read every answer, also that an intake is closed', async () => {
    const { body } = await stage.api('GET', '/intakes');
    const { id } = body.intakes.find(({ key }: Json) => key === 'hidden');
    await stage.api('PUT', `/intakes/${id}/state`, { state: 'closed' });
    for (const [intake, status] of [
      ['hidden', 410],
      ['nowhere', 404],
      ['fenced', 403],
    ] as const) {
      const response = await send('a=b', FORM, intake, { Origin: 'https://x.example' });
      expect(response.status).toBe(status);
      expect(response.headers.get('access-control-allow-origin')).toMatch(/^(\*|https:\/\/x\.example)$/);
    }
  });
});

describe('events', () => {
  beforeAll(async () => {
    await intakeLike(stage, 'placed', (document) => {
      document.settings.eventTypes = ['order.placed'];
    });
  });
  const event = (body: object, headers: Record<string, string> = {}, type = 'application/json') =>
    send(JSON.stringify(body), type, 'placed', headers);
  it('of no type, or another, are passed over where certain ones are taken', async () => {
    for (const body of [enquiry(), { ...enquiry(), type: 'order.cancelled' }]) {
      const response = await event(body);
      expect(response.status).toBe(202);
      expect(((await response.json()) as Json).passedOver).toMatch(/not among the kinds/);
    }
    expect(await valuesOf(await event({ ...enquiry(), type: 'order.placed' }))).toBeDefined();
  });
  it('as CloudEvents write them, with the type in the body or in a header', async () => {
    const structured = { specversion: '1.0', id: '1', source: '/shop', type: 'order.placed', data: enquiry() };
    expect(await valuesOf(await event(structured, {}, 'application/cloudevents+json'))).toMatchObject({
      type: 'order.placed',
    });
    expect(await valuesOf(await event(enquiry(), { 'ce-type': 'order.placed', 'ce-id': '1' }))).toBeDefined();
  });
  it('a list fills the field that a form would send it under', async () => {
    const read = await valuesOf(
      await send(JSON.stringify({ ...enquiry(), sort: ['Apple', 'Pear'] }), 'application/json'),
    );
    expect(read['sort[]']).toEqual(['Apple', 'Pear']);
    expect(read).not.toHaveProperty('sort');
  });
});
