import type { AnswerOf, RouteName } from '@zusammen/core/api';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { configure, render } from '@testing-library/react';
import userEvent, { type UserEvent } from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { MemoryRouter, Route, Routes, useLocation } from 'react-router';

// The machine may be slow; a condition that comes true is waited for no longer than it takes.
configure({ asyncUtilTimeout: 15_000 });

/** One call of our API as a page made it. */
export interface Asked {
  name: RouteName;
  params: Record<string, string>;
  query: Record<string, string>;
  body: unknown;
}

/** What an operation answers, or what makes the answer of the call. */
export type Answers = {
  [Name in RouteName]?: AnswerOf<Name> | ((asked: Asked) => AnswerOf<Name> | Response | Promise<Response>);
};

/** An answer that says no, as the server puts it (RFC 9457). */
export const refusal = (
  status: number,
  title: string,
  detail: string,
  errors?: readonly { field: string; reason: string }[],
): Response =>
  new Response(JSON.stringify({ title, detail, errors }), {
    status,
    headers: { 'Content-Type': 'application/problem+json' },
  });

/** An answer that comes line by line. */
export const lines = (...each: object[]): Response =>
  new Response(each.map((line) => `${JSON.stringify(line)}\n`).join(''), {
    headers: { 'Content-Type': 'application/x-ndjson' },
  });

let unanswered: string[] = [];
// A call nobody has an answer for is a mistake of the page, or of the test; either is told.
afterEach(() => {
  const told = unanswered;
  unanswered = [];
  expect(told).toEqual([]);
});

/**
 * Shows a page in a document of happy-dom, before an API that answers as said, in the shapes of the contract.
 * @param at the address of the page, which `path` has to match
 * @returns what the page has asked so far, somebody who types and clicks, and where the page is now
 */
export function show(
  page: ReactNode,
  { answers = {}, at = '/', path = '*' }: { answers?: Answers; at?: string; path?: string } = {},
): { asked: Asked[]; user: UserEvent; where: () => string; saidTo: (name: RouteName) => unknown[] } {
  const asked: Asked[] = [];
  globalThis.fetch = ((to: string, init?: RequestInit) => answer(to, init)) as typeof fetch;
  const answer = async (to: string, init: RequestInit = {}): Promise<Response> => {
    const url = new URL(to, 'http://here.example');
    const method = (init.method ?? 'GET').toLowerCase();
    for (const [name, said] of Object.entries(answers) as [RouteName, unknown][]) {
      const params = matched(name, method, url.pathname.replace(/^\/api/, ''));
      if (!params) continue;
      const body = typeof init.body === 'string' ? (JSON.parse(init.body) as unknown) : undefined;
      const call: Asked = { name, params, query: Object.fromEntries(url.searchParams), body };
      asked.push(call);
      const result = await (typeof said === 'function' ? (said as (asked: Asked) => unknown)(call) : said);
      return result instanceof Response ? result : new Response(JSON.stringify(result ?? {}));
    }
    unanswered.push(`${method} ${url.pathname}`);
    return refusal(501, 'Not answered', `The test says nothing for ${method} ${url.pathname}.`);
  };
  const location = { now: at };
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[at]}>
        <Whereabouts told={(now) => (location.now = now)} />
        <Routes>
          <Route path={path} element={page} />
          {path !== '*' && <Route path="*" element={<p>Another page</p>} />}
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return {
    asked,
    user: userEvent.setup(),
    where: () => location.now,
    saidTo: (name) => asked.filter((each) => each.name === name).map(({ body }) => body),
  };
}

function Whereabouts({ told }: { told: (now: string) => void }) {
  const { pathname, search } = useLocation();
  told(pathname + search);
  return null;
}

/** What stands in the places of `/systems/:id`, where the call is one of this operation. */
function matched(name: RouteName, method: string, path: string): Record<string, string> | undefined {
  const [verb = '', pattern = ''] = name.split(' ');
  const [wanted, got] = [pattern.split('/'), path.split('/')];
  if (verb !== method || wanted.length !== got.length) return undefined;
  const params: Record<string, string> = {};
  for (const [at, part] of wanted.entries()) {
    if (part.startsWith(':')) params[part.slice(1)] = decodeURIComponent(got[at]!);
    else if (part !== got[at]) return undefined;
  }
  return params;
}

const ROW = 34;

/** happy-dom lays nothing out; lists that show only what is in sight are given a sight. */
export function withHeight(pixels: number): void {
  for (const size of ['clientHeight', 'clientWidth'])
    Object.defineProperty(HTMLElement.prototype, size, { configurable: true, get: () => pixels });
  Object.defineProperty(HTMLElement.prototype, 'offsetHeight', {
    configurable: true,
    get(this: HTMLElement) {
      return this.dataset['index'] === undefined ? pixels : ROW;
    },
  });
}
