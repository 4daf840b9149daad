import express, { type Request, type Response } from 'express';
import type { Server } from 'node:http';
import { Faults, type Fault } from './faults.ts';

/** Trouble that didn't strike would let everything pass: that it does is proven here. */
let server: Server;
let base: string;
let done: string[] = [];
beforeAll(async () => {
  const faults = new Faults();
  const app = express();
  app.use('/faults', faults.routes());
  const work = (request: Request, response: Response): void => {
    done.push(request.method);
    response.send(
      request.path.endsWith('/$batch')
        ? JSON.stringify({ responses: [{ id: '1' }, { id: '2' }, { id: '3' }] })
        : JSON.stringify({ ok: true }),
    );
  };
  app.use('/reed', faults.before('reed'), work);
  app.use('/wren', faults.before('wren'), work);
  server = await new Promise((resolve) => {
    const listening = app.listen(0, '127.0.0.1', () => resolve(listening));
  });
  base = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});
beforeEach(async () => {
  done = [];
  await fetch(`${base}/faults`, { method: 'DELETE' });
});

const arm = (fault: Partial<Fault>): Promise<globalThis.Response> =>
  fetch(`${base}/faults`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ system: 'reed', share: 1, ...fault }),
  });
const ask = async (path = '/reed', method = 'GET'): Promise<number | 'broken off'> =>
  fetch(base + path, { method }).then(
    ({ status }) => status,
    () => 'broken off',
  );

it.each<[Partial<Fault>, number | 'broken off', string[]]>([
  [{ kind: 'throttle' }, 429, []],
  [{ kind: 'fail' }, 503, []],
  [{ kind: 'fail', status: 500 }, 500, []],
  [{ kind: 'reject token' }, 401, []],
  [{ kind: 'error inside' }, 200, []],
  [{ kind: 'break before' }, 'broken off', []],
  // What is broken off afterwards was done all the same.
  [{ kind: 'break after' }, 'broken off', ['GET']],
  [{ kind: 'slow', ms: 5 }, 200, ['GET']],
])('%j answers %s', async (fault, answer, worked) => {
  expect((await arm(fault)).status).toBe(201);
  expect(await ask()).toBe(answer);
  expect(done).toEqual(worked);
  // Another system has no part in it.
  expect(await ask('/wren')).toBe(200);
});

it('throttling says when to go on', async () => {
  await arm({ kind: 'throttle', retryAfter: 7 });
  expect((await fetch(`${base}/reed`)).headers.get('retry-after')).toBe('7');
});

it('of a batch only the first half is told, though all of it was done', async () => {
  await arm({ kind: 'answer in part' });
  const response = await fetch(`${base}/reed/$batch`, { method: 'POST' });
  expect(await response.json()).toEqual({ responses: [{ id: '1' }, { id: '2' }] });
  const { batches, struck } = (await (await fetch(`${base}/faults/seen`)).json()) as {
    batches: number[];
    struck: number;
  };
  // What was answered is what is counted.
  expect(batches.at(-1)).toBe(2);
  expect(struck).toBeGreaterThan(0);
});

it('it strikes as often, and those methods, as was said, and then no more', async () => {
  await arm({ kind: 'fail', methods: ['POST'], times: 2 });
  expect(await ask('/reed', 'GET')).toBe(200);
  expect([await ask('/reed', 'POST'), await ask('/reed', 'POST'), await ask('/reed', 'POST')]).toEqual([503, 503, 200]);
});

it('a share of all requests meets it, the same ones for the same seed', async () => {
  const struck = async (seed: number): Promise<string> => {
    await fetch(`${base}/faults`, { method: 'DELETE' });
    await arm({ kind: 'fail', share: 0.3, seed });
    const answers: unknown[] = [];
    for (let at = 0; at < 200; at += 1) answers.push(await ask());
    return answers.map((each) => (each === 503 ? 'x' : '.')).join('');
  };
  const [first, again, other] = [await struck(5), await struck(5), await struck(6)];
  expect(again).toBe(first);
  expect(other).not.toBe(first);
  const share = first.split('x').length - 1;
  expect(share).toBeGreaterThan(35);
  expect(share).toBeLessThan(85);
});

it('trouble of an unknown kind, or of nobody, is refused, and all of it ends at once', async () => {
  expect((await arm({ kind: 'fire' as never })).status).toBe(400);
  expect((await arm({ kind: 'fail', share: 'half' as never })).status).toBe(400);
  expect((await arm({ kind: 'fail', system: 7 as never })).status).toBe(400);
  await arm({ kind: 'fail' });
  await arm({ kind: 'throttle' });
  expect(await (await fetch(`${base}/faults`)).json()).toHaveLength(2);
  await fetch(`${base}/faults`, { method: 'DELETE' });
  expect(await ask()).toBe(200);
});
