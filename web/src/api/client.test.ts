/** @jest-environment @happy-dom/jest-environment */
import { apiLines, ApiProblem, call } from './client.ts';

let sent: { to: string; init: RequestInit }[] = [];
const answering = (make: () => Response | Promise<Response>): void => {
  sent = [];
  globalThis.fetch = (async (to: string, init: RequestInit) => {
    sent.push({ to, init });
    return make();
  }) as typeof fetch;
};
/** A body that comes in these pieces, cut wherever. */
const inPieces = (...pieces: Uint8Array[]): Response =>
  new Response(
    new ReadableStream<Uint8Array>({
      start(stream) {
        pieces.forEach((piece) => stream.enqueue(piece));
        stream.close();
      },
    }),
  );
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

describe('a call', () => {
  it('puts what is said into path, query and body, and leaves out what isn’t', async () => {
    answering(() => new Response('{"uses":[]}'));
    await call('get /reach', { query: { system: 'a b', entity: undefined } });
    await call('put /intakes/:id/draft', { params: { id: 'a/b' }, body: { revision: 1, document: {} as never } });
    expect(sent.map(({ to }) => to)).toEqual(['/api/reach?system=a+b', '/api/intakes/a%2Fb/draft']);
    expect(sent[0]!.init).toEqual({ method: 'GET', headers: {} });
    expect(sent[1]!.init).toMatchObject({ method: 'PUT', body: '{"revision":1,"document":{}}' });
  });

  it('that is refused is told in the server’s words, with the fields', async () => {
    const problem = {
      title: 'Not done',
      detail: 'A name is too long.',
      errors: [{ field: 'name', reason: 'too long' }],
    };
    answering(() => new Response(JSON.stringify(problem), { status: 422 }));
    const error = await call('get /systems').catch((caught: unknown) => caught);
    expect(error).toBeInstanceOf(ApiProblem);
    expect(error).toMatchObject({ status: 422, message: 'A name is too long.', errors: problem.errors });
  });

  it('that something in between answered, or nobody, is told in ours', async () => {
    answering(() => new Response('<html>Bad gateway</html>', { status: 502 }));
    await expect(call('get /systems')).rejects.toMatchObject({ status: 502, message: 'The server answers 502.' });
    answering(() => Promise.reject(new TypeError('fetch failed')));
    await expect(call('get /systems')).rejects.toMatchObject({ status: 0, title: 'No connection' });
  });
});

describe('an answer line by line', () => {
  it('is heard line by line, wherever it is cut, also within a letter', async () => {
    const whole = bytes('{"town":"Łódź"}\n{"town":"Köln"}\n');
    for (let at = 0; at <= whole.length; at += 1) {
      answering(() => inPieces(whole.slice(0, at), whole.slice(at)));
      const heard: object[] = [];
      await apiLines('/x', {}, (line) => heard.push(line));
      expect(heard).toEqual([{ town: 'Łódź' }, { town: 'Köln' }]);
    }
  });

  it('hears a last line without its end, and of trouble in the middle', async () => {
    answering(() => inPieces(bytes('{"at":1}\n{"at":2}')));
    const heard: object[] = [];
    await apiLines('/x', {}, (line) => heard.push(line));
    expect(heard).toEqual([{ at: 1 }, { at: 2 }]);
    answering(() =>
      inPieces(bytes('{"at":1}\n{"problem":{"status":503,"title":"Busy","detail":"Later."}}\n{"at":2}\n')),
    );
    const until: object[] = [];
    await expect(apiLines('/x', {}, (line) => until.push(line))).rejects.toMatchObject({
      status: 503,
      message: 'Later.',
    });
    expect(until).toEqual([{ at: 1 }]);
  });

  it('that is refused at once is told as any other', async () => {
    answering(() => new Response('{"title":"Too much","detail":"Wait for one of them."}', { status: 429 }));
    await expect(apiLines('/x', {}, () => undefined)).rejects.toMatchObject({ message: 'Wait for one of them.' });
  });
});
