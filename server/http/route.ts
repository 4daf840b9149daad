import type { Request, RequestHandler, Response, Router } from 'express';
import { mayAct, userOf } from '../access/index.ts';
import type { AnswerOf, BodyOf, ParamsOf, QueryOf, Role, RouteName } from '@zusammen/core/api';
import type { Database, User } from '../store/index.ts';
import { readBody } from '../bodies/index.ts';
import type { Heavy, Wanted } from '../heavy/index.ts';
import { bytesOf } from './body.ts';
import type { Context } from './context.ts';
import { Problem } from './problem.ts';

type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';
type PathOf<Name extends string> = Name extends `${string} ${infer Path}` ? Path : never;

/** What a route's work gets to see. `user` is there on every route that isn't for anyone. */
export interface Call<Name extends RouteName = RouteName> {
  request: Request;
  response: Response;
  params: ParamsOf<PathOf<Name>>;
  /** As it came: texts, which the work reads. */
  query: { [Key in keyof QueryOf<Name>]?: string | undefined };
  body: BodyOf<Name>;
  user: User;
  /** What is worked out for this caller, and for how long they are there. */
  wanted: Wanted;
}

/** An answer before it is sent: moments are still moments. */
export type Unsent<Answer> = Answer extends string
  ? string extends Answer
    ? Answer | Date
    : Answer
  : Answer extends readonly (infer Each)[]
    ? readonly Unsent<Each>[]
    : Answer extends object
      ? { [Key in keyof Answer]: Unsent<Answer[Key]> }
      : Answer;

/** One operation of our API; its types are those of the contract (core/api, `Routes`). */
export interface Route<Name extends RouteName = RouteName> {
  method: Method;
  /** With `:name` for parameters. */
  path: PathOf<Name>;
  summary: string;
  /** The least role that may; `anyone` needs no sign-in. */
  role: Role | 'anyone';
  /** The class a JSON body must satisfy. */
  body?: new () => BodyOf<Name>;
  /** No body at all is as good as an empty one. */
  bodyOptional?: true;
  /** Its work is heavy: each caller may have a few such under way, and more are turned away before they are read. */
  heavy?: true;
  /** The largest body in bytes; 1 MiB where nothing is said. */
  limit?: number;
  /** Stands in front, e.g. a rate limit. */
  before?: RequestHandler;
  /** The result is sent as JSON; `undefined` means 204, unless the work has answered by itself. */
  work: (call: Call<Name>) => Promise<Unsent<AnswerOf<Name>> | undefined>;
}

/** A route as the contract has it; in a list with others its types are forgotten. */
export const route = <M extends Method, P extends string>(
  definition: { method: M; path: P } & (`${M} ${P}` extends RouteName ? Route<`${M} ${P}`> : never),
): Route => definition as unknown as Route;

export const SESSION_COOKIE = 'zusammen';

/** Puts routes on a router: sign-in, role, body, answer and errors are handled alike for all of them. */
export function mount(router: Router, { db, heavy }: Pick<Context, 'db' | 'heavy'>, routes: readonly Route[]): void {
  for (const each of routes) {
    const handler: RequestHandler = async (request, response) => {
      const user = each.role === 'anyone' ? undefined : await authorised(db, request, each.role);
      const query = Object.fromEntries(
        Object.entries(request.query).map(([name, value]) => [name, typeof value === 'string' ? value : undefined]),
      );
      const gone = new AbortController();
      response.once('close', () => {
        if (!response.writableFinished) gone.abort();
      });
      const wanted = { by: user?.id ?? String(request.ip), gone: gone.signal };
      const leave = each.heavy ? heavy.enter(wanted.by) : undefined;
      try {
        const body = each.body ? await bodyOf(each, request, heavy, wanted) : {};
        const params = request.params;
        const call = { request, response, params, query, body, user: user as User, wanted };
        const result = await each.work(call as unknown as Call);
        if (response.headersSent) return;
        if (result === undefined) response.status(204).end();
        else response.json(result);
      } finally {
        leave?.();
      }
    };
    router[each.method](each.path, ...(each.before ? [each.before] : []), handler);
  }
}

async function authorised(db: Database, request: Request, role: Role): Promise<User> {
  const token = tokenOf(request);
  const user = token === undefined ? undefined : await userOf(db, token);
  if (!user) throw new Problem(401, 'Not signed in', 'Sign in first.');
  if (!mayAct(user.role, role))
    throw new Problem(403, 'Not allowed', `This needs the role ${role}; yours is ${user.role}.`);
  return user;
}

export function tokenOf(request: Request): string | undefined {
  const cookies = request.headers.cookie?.split(/;\s*/) ?? [];
  return cookies.find((each) => each.startsWith(`${SESSION_COOKIE}=`))?.slice(SESSION_COOKIE.length + 1);
}

/** A body beyond this many bytes is read in a thread: its checks may take longer than others should wait. */
const READ_HERE = 64 * 1024;

async function bodyOf(each: Route, request: Request, heavy: Heavy, wanted: Wanted): Promise<object> {
  const bytes = await bytesOf(request, each.limit);
  if (bytes.length === 0 && each.bodyOptional) return {};
  const type = each.body!.name;
  const read = bytes.length > READ_HERE ? await heavy.run('readBody', { bytes, type }, wanted) : readBody(bytes, type);
  if (read.ok) return read.value;
  throw new Problem(
    read.status,
    read.status === 400 ? 'Not readable' : 'Not acceptable as it is',
    read.detail,
    read.complaints,
  );
}
