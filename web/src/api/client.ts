import type { AnswerOf, BodyOf, ParamsOf, QueryOf, RouteName } from '@zusammen/core/api';

/** What the server answered when it didn't do as asked (RFC 9457). */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly errors: { field: string; reason: string }[] = [],
  ) {
    super(detail);
  }
}

type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
type PathOf<Name extends RouteName> = Name extends `${string} ${infer Path}` ? Path : never;
/** What a call has to say: what stands in the path, the query, and the body; as the contract has them (core/api). */
export type Said<Name extends RouteName> = (object extends ParamsOf<PathOf<Name>>
  ? object
  : { params: ParamsOf<PathOf<Name>> }) & {
  query?: { [Key in keyof QueryOf<Name>]?: QueryOf<Name>[Key] | number | undefined };
  body?: BodyOf<Name>;
};

/**
 * Calls an operation of our API by its name, such as `get /systems/:id`.
 * @throws ApiProblem with the server's words; status 0 when it can't be reached
 */
export function call<Name extends RouteName>(
  name: Name,
  ...[said]: object extends Said<Name> ? [said?: Said<Name>] : [said: Said<Name>]
): Promise<AnswerOf<Name>> {
  const { params = {}, query = {}, body } = (said ?? {}) as Loose;
  const [method = '', path = ''] = name.split(' ');
  const at = path.replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(params[key] ?? ''));
  const asked = Object.entries(query).filter(([, value]) => value !== undefined && value !== '');
  const text = new URLSearchParams(asked.map(([key, value]) => [key, String(value)])).toString();
  return api(method.toUpperCase() as Method, text === '' ? at : `${at}?${text}`, body);
}

interface Loose {
  params?: Record<string, string>;
  query?: Record<string, unknown>;
  body?: unknown;
}

/** Sends a call and reads its answer. @throws ApiProblem */
async function api<T>(method: Method, path: string, body?: unknown): Promise<T> {
  const response = await send(method, path, body);
  const text = await response.text();
  if (response.ok) return (text === '' ? undefined : JSON.parse(text)) as T;
  throw problemOf(response.status, text);
}

/**
 * Calls our API where it answers line by line (`application/x-ndjson`).
 * @param hear is given each line as it comes @throws ApiProblem, also where trouble comes in the middle
 */
export async function apiLines<T extends object>(
  path: string,
  body: unknown,
  hear: (line: T) => void,
  signal?: AbortSignal,
): Promise<void> {
  const response = await send('POST', path, body, { Accept: 'application/x-ndjson' }, signal);
  if (!response.ok || !response.body) throw problemOf(response.status, await response.text());
  const reader = response.body.getReader();
  const decoder = new TextDecoder();
  const read = (line: string): void => {
    if (line === '') return;
    const said = JSON.parse(line) as T | { problem: { status: number; title: string; detail: string } };
    if ('problem' in said) throw new ApiProblem(said.problem.status, said.problem.title, said.problem.detail);
    hear(said as T);
  };
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    const lines = (rest + decoder.decode(value, { stream: !done })).split('\n');
    rest = lines.pop()!;
    lines.forEach(read);
    if (done) return read(rest);
  }
}

async function send(
  method: Method,
  path: string,
  body: unknown,
  headers: Record<string, string> = {},
  signal?: AbortSignal,
): Promise<Response> {
  try {
    return await fetch(`/api${path}`, {
      method,
      headers: { ...headers, ...(body === undefined ? {} : { 'Content-Type': 'application/json' }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      ...(signal ? { signal } : {}),
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new ApiProblem(0, 'No connection', 'Zusammen can’t be reached. Check the connection and try again.');
  }
}

function problemOf(status: number, text: string): ApiProblem {
  let problem: { title?: string; detail?: string; errors?: { field: string; reason: string }[] } = {};
  try {
    problem = JSON.parse(text) as typeof problem;
  } catch {
    // Something between us and the server answered; its words help nobody.
  }
  return new ApiProblem(
    status,
    problem.title ?? 'Not done',
    problem.detail ?? `The server answers ${status}.`,
    problem.errors,
  );
}
