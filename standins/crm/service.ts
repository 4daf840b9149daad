import { createHash } from 'node:crypto';
import express, { type Request, type Response, type Router } from 'express';
import type { ResultSetHeader, RowDataPacket } from 'mysql2';
import { inTransaction, type Connection, type Pool } from '../database.ts';
import { ENTITY_TYPES, type EntityType } from './definition.ts';
import { ODataError } from './errors.ts';
import { metadataJson, metadataXml } from './metadata.ts';
import { optionsIn } from './options.ts';
import { entityNamed, keyed, read, send, visibleNames } from './reading.ts';
import { createRecord, deleteRecord, updateRecord } from './records.ts';
import { callerOf, type Caller } from './rights.ts';
import { etagOf, toEntity, type Row } from './tables.ts';

/** The most requests one batch may hold. */
const BATCH = 100;

/** A write as it came in: on its own, or within a batch. */
interface Call {
  method: string;
  /** Relative to the service's root, e.g. `People('P-00001')`. */
  target: string;
  header(name: string): string | undefined;
  body: unknown;
}

const callOf = (request: Request): Call => ({
  method: request.method,
  target: String(request.params['set']),
  header: (name) => request.get(name),
  body: request.body as unknown,
});

/** The OData 4.01 service of the CRM (OASIS OData Protocol 4.01, and Repeatable Requests 1.0). */
export function crmService(
  pool: Pool,
  administratorToken: string,
  personOf?: (token: string) => Caller | undefined,
): Router {
  const router = express.Router();
  router.use(express.json({ limit: '2mb', type: () => true }));
  router.use((_request, response, next) => {
    response.set('OData-Version', '4.01');
    // RFC 9652: where a person finds a record.
    response.set('Link-Template', '</crm/{entity}/{id}>; rel="alternate"; type="text/html"');
    next();
  });
  const guarded =
    (work: (request: Request, response: Response, caller: Caller) => Promise<void>) =>
    async (request: Request, response: Response) => {
      const caller = callerOf(request.headers.authorization, administratorToken, personOf);
      if (!caller) {
        response.set('WWW-Authenticate', 'Bearer');
        send(response, 401, new ODataError(401, 'Unauthorised', 'This token is not known here.').body());
        return;
      }
      try {
        await work(request, response, caller);
      } catch (error) {
        if (!(error instanceof ODataError)) throw error;
        send(response, error.status, error.body());
      }
    };

  router.get(
    '/',
    guarded(async (_request, response, caller) => {
      const value = ENTITY_TYPES.filter((entity) => caller.rights(entity).read).map(({ set }) => ({
        name: set,
        kind: 'EntitySet',
        url: set,
      }));
      send(response, 200, { '@odata.context': '$metadata', value });
    }),
  );
  router.get(
    '/$metadata',
    guarded(async (request, response, caller) => {
      const json = request.query['$format'] === 'json' || /json/.test(request.headers.accept ?? '');
      if (json) send(response, 200, metadataJson(caller));
      else response.status(200).type('application/xml').send(metadataXml(caller));
    }),
  );
  const readPath = guarded(async (request, response, caller) => {
    const { set, more } = request.params;
    const target = more === undefined ? String(set) : `${String(set)}/${String(more)}`;
    const found = await read(pool, target, optionsIn(request.originalUrl), request.get('Prefer') ?? '', caller);
    if (!found) return void response.status(204).end();
    response.set(found.headers);
    if (typeof found.body === 'string') response.status(200).type('text/plain').send(found.body);
    else send(response, 200, found.body);
  });
  router.get('/:set', readPath);
  router.get('/:set/:more', readPath);
  router.post(
    '/\\$batch',
    guarded(async (request, response, caller) => {
      send(response, 200, { responses: await batch(pool, request, caller) });
    }),
  );
  const written = guarded(async (request, response, caller) =>
    reply(response, await write(alone(pool), callOf(request), caller)),
  );
  router.post('/:set', written);
  router.patch('/:set', written);
  router.delete('/:set', written);
  return router;
}

/** Runs work in a transaction of its own, or within one that is open. */
type Run = <T>(work: (connection: Connection) => Promise<T>) => Promise<T>;

/** Creates, changes or deletes one record. @throws ODataError */
async function write(run: Run, call: Call, caller: Caller): Promise<Answer> {
  if (call.method === 'POST') {
    const entity = entityNamed(call.target, caller, 'create');
    const assign = !/assignment=none/.test(call.header('Prefer') ?? '');
    return repeatable(run, call, caller, async (connection) => {
      const row = await createRecord(connection, entity, call.body as Row, caller, assign);
      return answerWith(entity, row, caller, call, 201);
    });
  }
  if (call.method === 'PATCH') {
    const { entity, id } = keyed(call.target, caller, 'update');
    return repeatable(run, call, caller, async (connection) => {
      const row = await updateRecord(connection, entity, id, call.body as Row, caller, call.header('If-Match'));
      return answerWith(entity, row, caller, call, 200);
    });
  }
  const { entity, id } = keyed(call.target, caller, 'delete');
  return repeatable(run, call, caller, async (connection) => {
    await deleteRecord(connection, entity, id, caller, call.header('If-Match'));
    return { status: 204, headers: {}, body: '' };
  });
}

const alone =
  (pool: Pool): Run =>
  (work) =>
    inTransaction(pool, work);

interface BatchRequest {
  id?: unknown;
  method?: unknown;
  url?: unknown;
  headers?: Record<string, string>;
  body?: unknown;
  atomicityGroup?: unknown;
}

/** Reads and writes in one request, one after another, each on its own (OData JSON Format 4.01, 19). */
async function batch(pool: Pool, request: Request, caller: Caller): Promise<unknown[]> {
  const requests = (request.body as { requests?: unknown } | undefined)?.requests;
  if (!Array.isArray(requests)) throw new ODataError(400, 'BadBatch', 'A batch holds a list named requests.');
  if (requests.length > BATCH) throw new ODataError(413, 'BadBatch', `A batch holds at most ${BATCH} requests.`);
  const goesOn = /continue-on-error(?!=false)/.test(request.get('Prefer') ?? '');
  const responses: { status: number }[] = [];
  const parts = requests as BatchRequest[];
  for (let at = 0; at < parts.length; ) {
    const group = parts[at]!.atomicityGroup;
    const end =
      group === undefined ? -1 : parts.findIndex((each, index) => index > at && each.atomicityGroup !== group);
    const together = group === undefined ? [parts[at]!] : parts.slice(at, end < 0 ? parts.length : end);
    const answers =
      group === undefined
        ? [await answerInBatch(pool, alone(pool), parts[at]!, caller)]
        : await allOrNone(pool, together, caller);
    responses.push(...answers);
    at += together.length;
    if (answers.some(({ status }) => status >= 400) && !goesOn) break;
  }
  return responses;
}

/** An atomicity group: where one is refused, none is done, and the others say that they failed with it (RFC 4918). */
async function allOrNone(pool: Pool, parts: readonly BatchRequest[], caller: Caller): Promise<{ status: number }[]> {
  class Undone extends Error {
    constructor(readonly answers: { status: number }[]) {
      super('undone');
    }
  }
  return inTransaction(pool, async (connection) => {
    const answers: { status: number }[] = [];
    for (const part of parts) answers.push(await answerInBatch(pool, (work) => work(connection), part, caller));
    if (answers.some(({ status }) => status >= 400)) throw new Undone(answers);
    return answers;
  }).catch((error: unknown) => {
    if (!(error instanceof Undone)) throw error;
    return error.answers.map((answer, at) =>
      answer.status >= 400 ? answer : { id: String(parts[at]!.id), status: 424 },
    );
  });
}

async function answerInBatch(pool: Pool, run: Run, each: BatchRequest, caller: Caller): Promise<{ status: number }> {
  const headers = new Map(Object.entries(each.headers ?? {}).map(([name, value]) => [name.toLowerCase(), value]));
  const id = String(each.id);
  try {
    if (String(each.method).toUpperCase() === 'GET')
      return await readInBatch(pool, each, headers.get('prefer') ?? '', caller);
    if (!['POST', 'PATCH', 'DELETE'].includes(String(each.method).toUpperCase()))
      throw new ODataError(501, 'BadBatch', 'A batch holds GET, POST, PATCH and DELETE.');
    const call = {
      method: String(each.method).toUpperCase(),
      target: decodeURIComponent(String(each.url).replace(/^\//, '')),
      header: (name: string) => headers.get(name.toLowerCase()),
      body: each.body,
    };
    const answer = await write(run, call, caller);
    return {
      ...{ id, status: answer.status, headers: answer.headers },
      ...(answer.body === '' ? {} : { body: JSON.parse(answer.body) as unknown }),
    };
  } catch (error) {
    if (!(error instanceof ODataError)) throw error;
    return { ...{ id, status: error.status }, ...{ body: error.body() as unknown } };
  }
}

async function readInBatch(
  pool: Pool,
  { id, url }: BatchRequest,
  prefer: string,
  caller: Caller,
): Promise<{ status: number }> {
  const address = String(url).replace(/^\//, '');
  const found = await read(pool, decodeURIComponent(address.split('?')[0]!), optionsIn(address), prefer, caller);
  const part = { id: String(id), status: found ? 200 : 204 };
  return found ? { ...part, ...{ headers: found.headers, body: found.body } } : part;
}

interface Answer {
  status: number;
  headers: Record<string, string>;
  body: string;
}

function answerWith(entity: EntityType, row: Row, caller: Caller, call: Call, status: number): Answer {
  const body = toEntity(entity, row, visibleNames(entity, caller));
  const headers: Record<string, string> = { ETag: etagOf(row), Location: `${entity.set}('${String(body['id'])}')` };
  const minimal =
    /return=minimal/.test(call.header('Prefer') ?? '') ||
    (status === 200 && !/return=representation/.test(call.header('Prefer') ?? ''));
  if (minimal)
    return {
      status: 204,
      headers: { ...headers, 'OData-EntityId': headers['Location']!, 'Preference-Applied': 'return=minimal' },
      body: '',
    };
  return {
    status,
    headers: { ...headers, 'Content-Type': 'application/json' },
    body: JSON.stringify({ '@odata.context': `$metadata#${entity.set}/$entity`, ...body }),
  };
}

/**
 * Carries a write out, once per Repeatability-Request-ID: a repeated request gets the first one's answer
 * (OASIS Repeatable Requests 1.0). The key is committed together with what it stands for.
 */
async function repeatable(
  run: Run,
  call: Call,
  caller: Caller,
  work: (connection: Connection) => Promise<Answer>,
): Promise<Answer> {
  const id = call.header('Repeatability-Request-ID');
  if (id === undefined) return run(work);
  if (!call.header('Repeatability-First-Sent'))
    throw new ODataError(400, 'Repeatability', 'Repeatability-First-Sent is missing.');
  const key = createHash('sha256').update(`${caller.name} ${id}`).digest('hex');
  const answer = await run(async (connection) => {
    const [claimed] = await connection.query<ResultSetHeader>(
      'INSERT IGNORE INTO repeated (request_id, first_at) VALUES (?, ?)',
      [key, new Date()],
    );
    if (claimed.affectedRows === 0) {
      const [rows] = await connection.query<RowDataPacket[]>(
        'SELECT status, headers, body FROM repeated WHERE request_id = ?',
        [key],
      );
      const stored = rows[0] as { status: number; headers: string | Record<string, string>; body: string };
      return {
        status: stored.status,
        headers: typeof stored.headers === 'string' ? JSON.parse(stored.headers) : stored.headers,
        body: stored.body,
      } as Answer;
    }
    const fresh = await work(connection);
    await connection.query('UPDATE repeated SET status = ?, headers = ?, body = ? WHERE request_id = ?', [
      fresh.status,
      JSON.stringify(fresh.headers),
      fresh.body,
      key,
    ]);
    return fresh;
  });
  return { ...answer, headers: { ...answer.headers, 'Repeatability-Result': 'accepted' } };
}

function reply(response: Response, { status, headers, body }: Answer): void {
  response.status(status).set(headers);
  response.send(body === '' ? undefined : body);
}
