import { withBatches } from './batch.ts';
import type { HttpRequest, HttpResponse } from './http.ts';
import { SystemUnavailable } from './system.ts';

const base = 'https://crm.example/odata/';
const write = (name: string, group?: string): HttpRequest => ({
  method: 'POST',
  url: `${base}People`,
  headers: { Authorization: 'Bearer secret', 'Repeatability-Request-ID': name },
  body: JSON.stringify({ name }),
  repeatable: true,
  ...(group === undefined ? {} : { group }),
});
interface Part {
  id: string;
  body: { name: string };
  headers: Record<string, string>;
}

/** A system that answers batches as told, and everything else with 201. */
function system(answer: (parts: Part[]) => HttpResponse) {
  const asked: HttpRequest[] = [];
  const send = withBatches(
    async (request): Promise<HttpResponse> => {
      asked.push(request);
      if (!request.url.endsWith('$batch')) return { status: 201, headers: {}, text: request.body! };
      return answer((JSON.parse(request.body!) as { requests: Part[] }).requests);
    },
    { base, headers: () => ({ Authorization: 'Bearer secret' }) },
  );
  return { asked, send };
}
const ok = (responses: unknown[]): HttpResponse => ({ status: 200, headers: {}, text: JSON.stringify({ responses }) });
const done = ({ id, body }: Part) => ({ id, status: 201, headers: { ETag: 'W/"1"' }, body });

describe('writes that belong together', () => {
  it('go out as one batch, and each gets its own answer, in whatever order they come', async () => {
    const { asked, send } = system((parts) => ok(parts.map(done).reverse()));
    const answers = await Promise.all(['a', 'b', 'c'].map((name) => send(write(name, 'g'))));
    expect(asked).toHaveLength(1);
    expect(asked[0]).toMatchObject({ url: `${base}$batch`, repeatable: true });
    expect(answers.map(({ text, headers }) => [JSON.parse(text).name, headers['etag']])).toEqual([
      ['a', 'W/"1"'],
      ['b', 'W/"1"'],
      ['c', 'W/"1"'],
    ]);
    const parts = (JSON.parse(asked[0]!.body!) as { requests: Part[] }).requests;
    expect(parts.map(({ headers }) => headers['Repeatability-Request-ID'])).toEqual(['a', 'b', 'c']);
    expect(asked[0]!.body).not.toContain('secret');
  });

  it('stay apart from other groups, and a lone one goes out as it is', async () => {
    const { asked, send } = system((parts) => ok(parts.map(done)));
    await Promise.all([send(write('a', 'g')), send(write('b', 'h')), send(write('c'))]);
    expect(asked.map(({ url }) => url)).toEqual([`${base}People`, `${base}People`, `${base}People`]);
  });

  it('that a batch says nothing about are unknown, those it refuses are refused', async () => {
    const { send } = system(([first, second]) =>
      ok([done(first!), { id: second!.id, status: 400, body: { error: {} } }]),
    );
    const [a, b, c] = await Promise.allSettled(['a', 'b', 'c'].map((name) => send(write(name, 'g'))));
    expect(a).toMatchObject({ status: 'fulfilled', value: { status: 201 } });
    expect(b).toMatchObject({ status: 'fulfilled', value: { status: 400 } });
    expect(c).toMatchObject({ status: 'rejected', reason: expect.any(SystemUnavailable) });
  });

  it('wanted all or none go out as such, and each on its own where that is not known', async () => {
    const seen: (string | undefined)[] = [];
    const { send } = system((parts) => {
      const groups = (parts as (Part & { atomicityGroup?: string })[]).map(({ atomicityGroup }) => atomicityGroup);
      seen.push(...groups);
      return ok(parts.map((part) => (groups[0] ? { id: part.id, status: 501 } : done(part))));
    });
    const atomic = (name: string): HttpRequest => ({ ...write(name, 'g'), atomic: true });
    for (const round of [1, 2]) {
      const answers = await Promise.all(['a', 'b'].map((name) => send(atomic(`${name}${round}`))));
      expect(answers.map(({ status }) => status)).toEqual([201, 201]);
    }
    expect(seen).toEqual(['rows', 'rows', undefined, undefined, undefined, undefined]);
  });

  it('that each go on their own are sent once, also where the system does none of them yet', async () => {
    const { asked, send } = system((parts) => ok(parts.map(({ id }) => ({ id, status: 501 }))));
    const answers = await Promise.all(['a', 'b'].map((name) => send(write(name, 'g'))));
    expect(answers.map(({ status }) => status)).toEqual([501, 501]);
    expect(asked).toHaveLength(1);
  });

  it('lose no digit of a number within a batch', async () => {
    const bodies: string[] = [];
    const send = withBatches(
      async ({ body }) => {
        bodies.push(body!);
        const responses = ['0', '1'].map((id) => `{"id":"${id}","status":201,"body":{"n":9007199254740993}}`);
        return { status: 200, headers: {}, text: `{"responses":[${responses.join()}]}` };
      },
      { base, headers: () => ({}) },
    );
    const long = (name: string): HttpRequest => ({ ...write(name, 'g'), body: '{"n":9007199254740993}' });
    const [a] = await Promise.all([send(long('a')), send(long('b'))]);
    expect(bodies[0]).toContain('{"n":9007199254740993}');
    expect(a.text).toContain('9007199254740993');
  });

  it.each([501, 415, 400, 404, 405, 406])(
    'go out one by one where batches are answered with %i, from then on',
    async (status) => {
      const { asked, send } = system(() => ({ status, headers: {}, text: '' }));
      for (const round of [1, 2]) {
        const answers = await Promise.all(['a', 'b'].map((name) => send(write(`${name}${round}`, 'g'))));
        expect(answers.map(({ status }) => status)).toEqual([201, 201]);
      }
      expect(asked.filter(({ url }) => url.endsWith('$batch'))).toHaveLength(1);
    },
  );

  it('wait as long as one of the batch is asked to', async () => {
    const { send } = system((parts) =>
      ok(parts.map(({ id }) => ({ id, status: 429, headers: { 'Retry-After': '7' } }))),
    );
    const [a] = await Promise.allSettled([send(write('a', 'g')), send(write('b', 'g'))]);
    expect(a).toMatchObject({ status: 'rejected', reason: { waitMs: 7000 } });
  });
});

describe('what comes while many are under way', () => {
  const read = (name: string): HttpRequest => ({
    ...{ method: 'GET', url: `${base}People?$filter=name eq '${name}'`, headers: {}, repeatable: true, small: true },
  });
  interface Read {
    id: string;
    method: string;
    url: string;
  }
  const found = ({ id, url }: Read) => ({ id, status: 200, body: { value: [{ url }] } });

  /** A system that answers batches as told, and reads outside of them. */
  function crowded(answer: (parts: Read[]) => HttpResponse | Promise<HttpResponse>) {
    const asked: HttpRequest[] = [];
    const send = withBatches(
      async (request): Promise<HttpResponse> => {
        asked.push(request);
        await new Promise(setImmediate);
        if (!request.url.endsWith('$batch')) return { status: 200, headers: {}, text: `singly ${request.url}` };
        return answer((JSON.parse(request.body!) as { requests: Read[] }).requests);
      },
      { base, headers: () => ({}) },
    );
    const batches = (): HttpRequest[] => asked.filter(({ url }) => url.endsWith('$batch'));
    return { asked, batches, send };
  }
  const names = Array.from({ length: 24 }, (_, at) => `n${at}`);

  it('goes out together, reads apart from writes, and each gets its own answer', async () => {
    const { batches, send } = crowded((parts) =>
      ok(parts.map((part) => (part.method === 'get' ? found(part) : done(part as unknown as Part)))),
    );
    const [reads, writes] = await Promise.all([
      Promise.all(names.map((name) => send(read(name)))),
      Promise.all(names.map((name) => send({ ...write(name), small: true }))),
    ]);
    expect(reads.map(({ text }, at) => text.includes(`'${names[at]}'`))).toEqual(names.map(() => true));
    expect(writes.map(({ text }, at) => text.includes(`"${names[at]}"`))).toEqual(names.map(() => true));
    expect(batches().length).toBeGreaterThan(1);
    for (const { body } of batches()) {
      const methods = (JSON.parse(body!) as { requests: Read[] }).requests.map(({ method }) => method);
      expect(new Set(methods).size).toBe(1);
    }
  });

  it('goes out by itself where much is sent or comes back', async () => {
    const { batches, send } = crowded((parts) => ok(parts.map(found)));
    await Promise.all(names.map((name) => send({ ...read(name), small: false })));
    expect(batches()).toEqual([]);
  });

  it.each([
    ['finds nothing within a batch', (parts: Read[]) => ok(parts.map(({ id }) => ({ id, status: 404 })))],
    ['says nothing about some', (parts: Read[]) => ok(parts.slice(1).map(found))],
    ['doesn’t answer a batch', () => Promise.reject(new SystemUnavailable('It is away.'))],
    ['takes no batches', () => ({ status: 501, headers: {}, text: '' })],
  ])('is read singly from a system that %s', async (_, answer) => {
    const { send } = crowded(answer);
    const answers = await Promise.all(names.map((name) => send(read(name))));
    expect(answers.map(({ status, text }, at) => status === 200 && text.includes(`'${names[at]}'`))).toEqual(
      names.map(() => true),
    );
  });

  it('isn’t read in batches again by a system that never gives anything there', async () => {
    const { batches, send } = crowded((parts) => ok(parts.map(({ id }) => ({ id, status: 404 }))));
    await Promise.all(names.map((name) => send(read(name))));
    const before = batches().length;
    await Promise.all(names.map((name) => send(read(name))));
    expect(batches()).toHaveLength(before);
  });

  it('is written once: where a batch gets no answer nobody knows, and nothing is sent again', async () => {
    const { asked, send } = crowded(() => Promise.reject(new SystemUnavailable('It is away.')));
    const answers = await Promise.allSettled(names.map((name) => send({ ...write(name), small: true })));
    expect(answers.filter(({ status }) => status === 'rejected').length).toBeGreaterThan(10);
    const sent = asked.flatMap(({ url, body }) =>
      url.endsWith('$batch') ? (JSON.parse(body!) as { requests: Part[] }).requests.map((part) => part.body.name) : [],
    );
    expect(new Set(sent).size).toBe(sent.length);
  });
});
