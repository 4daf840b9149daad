import {
  SystemUnavailable,
  retryAfter,
  withBudget,
  withCircuit,
  withPatience,
  withRetry,
  withSharedPatience,
  type HttpRequest,
  type HttpResponse,
  type Send,
} from './index.ts';

const request: HttpRequest = { method: 'GET', url: 'http://x.example/', headers: {}, repeatable: true };
const answer = (status: number, headers: Record<string, string> = {}): HttpResponse => ({
  status,
  headers,
  text: '',
});
/** Answers one after another; an error is thrown. */
function answering(...answers: (HttpResponse | Error)[]): Send & { sent: number } {
  const send = async (): Promise<HttpResponse> => {
    const next = answers[Math.min(send.sent, answers.length - 1)]!;
    send.sent += 1;
    if (next instanceof Error) throw next;
    return next;
  };
  send.sent = 0;
  return send;
}

describe('patience', () => {
  it('passes on how long a system asks to wait', async () => {
    await expect(withPatience(answering(answer(429, { 'retry-after': '7' })))(request)).rejects.toMatchObject({
      waitMs: 7000,
    });
    await expect(withPatience(answering(answer(503)))(request)).rejects.toBeInstanceOf(SystemUnavailable);
    expect((await withPatience(answering(answer(404)))(request)).status).toBe(404);
  });
  it('reads seconds and dates, and never waits longer than an hour', () => {
    expect(retryAfter('3', 0)).toBe(3000);
    expect(retryAfter('Thu, 01 Jan 1970 00:00:10 GMT', 4000)).toBe(6000);
    expect(retryAfter('999999', 0)).toBe(3_600_000);
    expect(retryAfter('soon', 0)).toBeUndefined();
    expect(retryAfter(undefined, 0)).toBeUndefined();
  });
});

describe('retry', () => {
  const settings = { attempts: 3, pauseMs: 1, longestWaitMs: 20 };
  const trouble = new SystemUnavailable('down');
  it('sends repeatable requests again after short trouble', async () => {
    const send = answering(trouble, trouble, answer(200));
    expect((await withRetry(send, settings)(request)).status).toBe(200);
    expect(send.sent).toBe(3);
  });
  it('gives up after its attempts, and at once where sending twice might double', async () => {
    const send = answering(trouble);
    await expect(withRetry(send, settings)(request)).rejects.toBe(trouble);
    expect(send.sent).toBe(3);
    const once = answering(trouble, answer(200));
    await expect(withRetry(once, settings)({ ...request, repeatable: false })).rejects.toBe(trouble);
    expect(once.sent).toBe(1);
  });
  it('doesn’t wait out a long request for patience', async () => {
    const send = answering(new SystemUnavailable('wait', 60_000));
    await expect(withRetry(send, settings)(request)).rejects.toMatchObject({ waitMs: 60_000 });
    expect(send.sent).toBe(1);
  });
  it('doesn’t repeat what isn’t trouble of the network', async () => {
    const send = answering(new Error('a bug'));
    await expect(withRetry(send, settings)(request)).rejects.toThrow('a bug');
    expect(send.sent).toBe(1);
  });
});

describe('circuit', () => {
  it('opens after failures in a row, answers by itself meanwhile, and tries again after its rest', async () => {
    let now = 0;
    const send = answering(new SystemUnavailable('down'), new SystemUnavailable('down'), answer(200));
    const guarded = withCircuit(send, { failures: 2, restMs: 100 }, () => now);
    await expect(guarded(request)).rejects.toThrow('down');
    await expect(guarded(request)).rejects.toThrow('down');
    await expect(guarded(request)).rejects.toThrow(/in trouble/);
    expect(send.sent).toBe(2);
    now = 150;
    expect((await guarded(request)).status).toBe(200);
  });
});

it('patience asked of one process is kept by all, and until it has passed nothing is sent', async () => {
  let now = 1000;
  let until = 0;
  const shared = { until: async () => until, asked: (at: number) => void (until = Math.max(until, at)) };
  const first = answering(new SystemUnavailable('It asks for patience.', 5000));
  const second = answering(answer(200));
  await expect(withSharedPatience(first, shared, () => now)(request)).rejects.toThrow('patience');
  const other = withSharedPatience(second, shared, () => now);
  await expect(other(request)).rejects.toMatchObject({ waitMs: 5000 });
  expect(second.sent).toBe(0);
  now += 5001;
  expect((await other(request)).status).toBe(200);
});

it('a budget lets no more than its number through at once, and everybody in the end', async () => {
  let running = 0;
  let most = 0;
  const send = withBudget(async () => {
    running += 1;
    most = Math.max(most, running);
    await new Promise((resolve) => setTimeout(resolve, 2));
    running -= 1;
    return answer(200);
  }, 3);
  await Promise.all(Array.from({ length: 20 }, () => send(request)));
  expect(most).toBe(3);
});
