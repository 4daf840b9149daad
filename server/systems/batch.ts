import { parse, stringify } from 'lossless-json';
import { parseJsonExactly } from '@zusammen/core/values';
import type { HttpRequest, HttpResponse, Send } from './http.ts';
import { NotUnderstood, SystemUnavailable } from './system.ts';
import { retryAfter } from './http.ts';

/** Writes that belong together and come within this time of one another go out as one. */
const GATHER_MS = 8;
/** The most in one batch. */
const MOST = 50;

export interface BatchSettings {
  /** The service's root, ending with a slash. */
  base: string;
  headers: () => Record<string, string>;
}

interface Waiting {
  request: HttpRequest;
  resolve: (response: HttpResponse) => void;
  reject: (error: unknown) => void;
}

/**
 * Sends writes of the same `group` in one JSON batch (OData JSON Format 4.01, 19), each answered on its own, or done all
 * or none (an atomicity group) where that is wanted. A lone one, and anything without a group, goes out as it is; so does
 * all, once a system turns out not to take batches.
 */
export function withBatches(send: Send, { base, headers }: BatchSettings): Send {
  const gathering = new Map<string, { waiting: Waiting[]; timer: NodeJS.Timeout }>();
  let able = true;
  let groupsKnown = true;

  const release = (group: string): void => {
    const gathered = gathering.get(group);
    if (!gathered) return;
    clearTimeout(gathered.timer);
    gathering.delete(group);
    void sendAll(gathered.waiting);
  };
  const sendAll = async (waiting: readonly Waiting[]): Promise<void> => {
    if (waiting.length === 1) return singly(waiting);
    try {
      const requests = waiting.map(({ request }) => request);
      let answers = await batched(requests, groupsKnown && requests.every(({ atomic }) => atomic));
      if (answers !== 'unable' && groupsKnown && answers.every((each) => 'status' in each && each.status === 501)) {
        // Batches it takes, but not all or none of one: then each on its own.
        groupsKnown = false;
        answers = await batched(requests, false);
      }
      if (answers === 'unable') {
        able = false;
        return singly(waiting);
      }
      waiting.forEach(({ resolve, reject }, at) => {
        const answer = answers[at]!;
        if (answer instanceof Error) reject(answer);
        else resolve(answer);
      });
    } catch (error) {
      for (const { reject } of waiting) reject(error);
    }
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

  return (request) => {
    const { group } = request;
    if (group === undefined || !able) return send(request);
    return new Promise((resolve, reject) => {
      const held = gathering.get(group);
      if (held) clearTimeout(held.timer);
      const waiting = [...(held?.waiting ?? []), { request, resolve, reject }];
      gathering.set(group, { waiting, timer: setTimeout(() => release(group), GATHER_MS) });
      if (waiting.length >= MOST) release(group);
    });
  };
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
