import { parse, stringify } from 'lossless-json';
import { parseJsonExactly } from '@zusammen/core/values';
import { Crowd } from './crowd.ts';
import type { HttpRequest, HttpResponse, Send } from './http.ts';
import { NotUnderstood, SystemUnavailable } from './system.ts';
import { retryAfter } from './http.ts';

/** What belongs together and comes within this time of one another goes out as one, in milliseconds. */
const GATHER_MS = 8;
/** What only happens to come at once is held back no longer than this, in milliseconds. */
const CROWD_MS = 4;
/** The most in one batch. */
const MOST = 50;

export interface BatchSettings {
  /** The service's root, ending with a slash. */
  base: string;
  headers: () => Record<string, string>;
  /** How many of those that only happen to come at once go out together. */
  crowd?: Crowd;
}

interface Waiting {
  request: HttpRequest;
  resolve: (response: HttpResponse) => void;
  reject: (error: unknown) => void;
}

/** What goes out as one. */
interface Gathering {
  waiting: Waiting[];
  timer: NodeJS.Timeout;
  /** Not because they belong together, but because many are under way. */
  crowded: boolean;
}

/**
 * Sends writes of the same `group` in one JSON batch (OData JSON Format 4.01, 19), each answered on its own, or done all
 * or none (an atomicity group) where that is wanted. While many requests are under way, small ones that don't belong
 * together go out in batches as well, reads apart from writes (crowd.ts). A lone one goes out as it is; so does all, once
 * a system turns out not to take batches.
 */
export function withBatches(send: Send, { base, headers, crowd = new Crowd() }: BatchSettings): Send {
  const gathering = new Map<string, Gathering>();
  let able = true;
  let readsAble = true;
  let groupsKnown = true;

  const release = (group: string): void => {
    const gathered = gathering.get(group);
    if (!gathered) return;
    clearTimeout(gathered.timer);
    gathering.delete(group);
    void sendAll(gathered);
  };
  const sendAll = async ({ waiting, crowded }: Gathering): Promise<void> => {
    if (waiting.length === 1) return singly(waiting);
    const started = performance.now();
    const went = (failed: boolean): void => {
      if (crowded) crowd.went({ failed, ms: performance.now() - started });
    };
    try {
      const requests = waiting.map(({ request }) => request);
      const asGroup = groupsKnown && requests.every(({ atomic }) => atomic);
      let answers = await batched(requests, asGroup);
      if (answers !== 'unable' && asGroup && answers.every((each) => 'status' in each && each.status === 501)) {
        // Batches it takes, but not all or none of one: then each on its own.
        groupsKnown = false;
        answers = await batched(requests, false);
      }
      if (answers === 'unable') {
        able = false;
        return singly(waiting);
      }
      went(false);
      settle(waiting, answers);
    } catch (error) {
      went(true);
      if (waiting.every(({ request }) => request.method === 'GET')) return singly(waiting);
      for (const { reject } of waiting) reject(error);
    }
  };
  const settle = (waiting: readonly Waiting[], answers: readonly (HttpResponse | Error)[]): void => {
    const again: Waiting[] = [];
    waiting.forEach((each, at) => {
      const answer = answers[at]!;
      // Not every service reads within a batch as it does outside: only what was surely read there counts.
      if (each.request.method === 'GET' && (answer instanceof Error || answer.status !== 200)) again.push(each);
      else if (answer instanceof Error) each.reject(answer);
      else each.resolve(answer);
    });
    if (again.length > 1 && again.length === waiting.length) readsAble = false;
    singly(again);
  };
  const singly = (waiting: readonly Waiting[]): void => {
    for (const { request, resolve, reject } of waiting) send(request).then(resolve, reject);
  };
  const batched = async (
    requests: readonly HttpRequest[],
    together: boolean,
  ): Promise<(HttpResponse | Error)[] | 'unable'> => {
    const response = await send({
      method: 'POST',
      url: `${base}$batch`,
      headers: { ...headers(), 'Content-Type': 'application/json', Prefer: 'odata.continue-on-error' },
      body: stringify({ requests: requests.map((request, at) => partOf(request, base, String(at), together)) }) ?? '',
      repeatable: requests.every(({ repeatable }) => repeatable),
    });
    // Some take batches in another form only (multipart, Protocol 4.01, 11.7.7), or say so in ways of their own.
    if (response.status === 501 || (response.status >= 400 && ![401, 403, 424, 429].includes(response.status)))
      return 'unable';
    // What holds for the whole batch holds for each of it.
    if (response.status !== 200) return requests.map(() => response);
    return answersOf(response, requests.length);
  };

  const gather = (group: string, request: HttpRequest, crowded: boolean, most: number): Promise<HttpResponse> =>
    new Promise((resolve, reject) => {
      const held = gathering.get(group);
      // What belongs together is waited for as long as more of it comes; a crowd isn't.
      if (held && !crowded) clearTimeout(held.timer);
      const timer = held && crowded ? held.timer : setTimeout(() => release(group), crowded ? CROWD_MS : GATHER_MS);
      const waiting = [...(held?.waiting ?? []), { request, resolve, reject }];
      gathering.set(group, { waiting, timer, crowded });
      if (waiting.length >= most) release(group);
    });

  return (request) =>
    crowd.with(() => {
      const { group, small, method } = request;
      if (!able) return send(request);
      if (group !== undefined) return gather(`belongs ${group}`, request, false, MOST);
      const isRead = method === 'GET';
      const { together } = crowd;
      if (!small || together < 2 || (isRead && !readsAble)) return send(request);
      return gather(isRead ? 'reads' : 'writes', request, true, together);
    });
}

function partOf({ method, url, headers, body }: HttpRequest, base: string, id: string, together: boolean): unknown {
  const { Authorization: _, ...rest } = headers;
  return {
    id,
    ...(together ? { atomicityGroup: 'rows' } : {}),
    method: method.toLowerCase(),
    url: url.startsWith(base) ? url.slice(base.length) : url,
    headers: rest,
    ...(body === undefined ? {} : { body: parse(body) }),
  };
}

/** The answers in the order of the requests; where one is missing it isn't known what became of it. */
function answersOf(response: HttpResponse, count: number): (HttpResponse | Error)[] {
  let responses: unknown;
  try {
    ({ responses } = parseJsonExactly(response.text) as { responses?: unknown });
  } catch {
    throw new NotUnderstood('Its answer to a batch is not JSON.');
  }
  if (!Array.isArray(responses)) throw new NotUnderstood('Its answer to a batch holds no list of responses.');
  const byId = new Map((responses as Part[]).map((part) => [String(part.id), part]));
  return Array.from({ length: count }, (_, at): HttpResponse | Error => {
    const part = byId.get(String(at));
    if (typeof part?.status !== 'number') return new SystemUnavailable('It answered a batch in part.');
    const headers = Object.fromEntries(
      Object.entries(part.headers ?? {}).map(([name, value]) => [name.toLowerCase(), value]),
    );
    if (part.status === 429 || (part.status >= 500 && part.status !== 501)) {
      const wait = retryAfter(headers['retry-after'], Date.now());
      return new SystemUnavailable(`Within a batch it answers ${part.status}.`, wait);
    }
    return { status: part.status, headers, text: part.body === undefined ? '' : JSON.stringify(part.body) };
  });
}

interface Part {
  id?: unknown;
  status?: unknown;
  headers?: Record<string, string>;
  body?: unknown;
}
