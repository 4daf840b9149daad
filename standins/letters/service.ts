import express, { type ErrorRequestHandler, type Request, type Response, type Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import type { RowDataPacket } from 'mysql2';
import { inTransaction, type Connection, type Pool } from '../database.ts';
import type { EntityDefinition } from './definition.ts';
import { LettersError } from './errors.ts';
import { addField, addOption, fieldsOf } from './fields.ts';
import { openApi } from './openapi.ts';
import { change, create, list, one, remove, type Listing } from './records.ts';
import { Totals } from './totals.ts';
import { entitiesNow, hashOf, shown } from './tables.ts';
import { guard, tokenEndpoint } from './token.ts';

export interface LettersSettings {
  /** Seconds a token lasts. */
  tokenLasts?: number;
  /** Requests each client may send within ten seconds. */
  requests?: number;
}

const WINDOW_MS = 10_000;
const MOST = 500;

/** The mailing system: plain JSON, poor fields, errors of its own shape. */
export function lettersService(pool: Pool, { tokenLasts, requests = 20_000 }: LettersSettings = {}): Router {
  const router = express.Router();
  router.use('/oauth', tokenEndpoint(pool, tokenLasts));
  router.get('/openapi.json', async (request, response) => {
    response.json(openApi(await entitiesNow(pool), `${request.protocol}://${request.get('host')}${request.baseUrl}`));
  });
  const totals = new Totals(pool);
  const api = express.Router();
  api.use(guard(pool));
  api.use(
    rateLimit({
      windowMs: WINDOW_MS,
      limit: requests,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      keyGenerator: (_request, response) => String(response.locals['client']),
      handler: () => {
        throw new LettersError(429, 'too_many', 'Too many requests; the headers say when to go on.');
      },
    }),
  );
  api.use(express.json({ limit: '200kb' }));
  const named = async (request: Request): Promise<EntityDefinition> => {
    const entity = (await entitiesNow(pool)).find(({ name }) => name === request.params['entity']);
    if (!entity) throw new LettersError(404, 'not_found', `There is no /v1/${request.params['entity']}.`);
    return entity;
  };

  api.get('/fields', async (_request, response) => void response.json({ items: fieldsOf(await entitiesNow(pool)) }));
  api.post('/fields', async (request, response) => void response.status(201).json(await addField(pool, request.body)));
  api.post('/fields/:entity/:name/options', async (request, response) => {
    const { entity, name } = request.params;
    response.status(201).json(await addOption(pool, entity, name, request.body));
  });
  api.get('/:entity', async (request, response) => {
    const entity = await named(request);
    const listing = listingOf(request, entity);
    const rows = await list(pool, entity, { ...listing, limit: listing.limit + 1 });
    const page = rows.slice(0, listing.limit);
    const last = page.at(-1);
    const next =
      rows.length > page.length && last
        ? Buffer.from(JSON.stringify([last.n, last.changed_at.toISOString()])).toString('base64url')
        : null;
    response.json({ items: page.map(shown), next, total: await totals.of(entity.name, listing) });
  });
  api.get('/:entity/:id', async (request, response) => {
    response.json(shown(await one(pool, await named(request), request.params.id)));
  });
  api.post('/:entity', async (request, response) => {
    const entity = await named(request);
    await once(pool, request, response, async (connection) => {
      const row = await create(connection, entity, request.body);
      return { status: 201, body: shown(row) };
    });
    totals.changed();
  });
  api.patch('/:entity/:id', async (request, response) => {
    const entity = await named(request);
    const row = await inTransaction(pool, (connection) => change(connection, entity, request.params.id, request.body));
    response.json(shown(row));
  });
  api.delete('/:entity/:id', async (request, response) => {
    const entity = await named(request);
    await inTransaction(pool, (connection) => remove(connection, entity, request.params.id));
    totals.changed();
    response.status(204).end();
  });
  router.use('/v1', api);
  router.use(((error: Error & { status?: number; type?: string }, _request, response, next) => {
    if (response.headersSent) return next(error);
    if (error instanceof LettersError) return void response.status(error.status).json(error.body());
    const status = error.status ?? 500;
    if (status >= 500) console.error(error);
    const said =
      status < 500
        ? new LettersError(status, 'unreadable', error.message)
        : new LettersError(status, 'trouble', 'The letters are in trouble.');
    response.status(status).json(said.body());
  }) satisfies ErrorRequestHandler);
  return router;
}

const TAKEN = new Set(['limit', 'cursor', 'changed_after']);

/** @throws LettersError 400 for what isn't a parameter, or no value of one */
function listingOf({ query }: Request, { fields }: EntityDefinition): Listing {
  const bad = (name: string, message: string): never => {
    throw new LettersError(400, 'bad_parameter', message, name);
  };
  const filters = new Set(fields.filter(({ filter }) => filter).map(({ name }) => name));
  for (const [name, value] of Object.entries(query)) {
    if (!TAKEN.has(name) && !filters.has(name)) bad(name, `There is no parameter ${name}.`);
    if (typeof value !== 'string') bad(name, `${name} comes twice.`);
  }
  const { limit = '50', cursor, changed_after: since, email } = query as Record<string, string | undefined>;
  const size = Number(limit);
  if (!/^\d{1,4}$/.test(limit) || size < 1 || size > MOST) bad('limit', `limit must be from 1 to ${MOST}.`);
  const changedAfter = since === undefined ? undefined : new Date(since);
  if (since !== undefined && (!/^\d{4}-\d{2}-\d{2}T[\d:.]+Z$/.test(since) || Number.isNaN(changedAfter!.getTime())))
    bad('changed_after', 'changed_after must be a moment in UTC such as 2027-03-31T10:00:00Z.');
  return { limit: size, email, changedAfter, after: cursor === undefined ? undefined : afterOf(cursor) };
}

function afterOf(cursor: string): { n: number; at: string } {
  try {
    const [n, at] = JSON.parse(Buffer.from(cursor, 'base64url').toString('utf8')) as [unknown, unknown];
    if (typeof n === 'number' && typeof at === 'string') return { n, at };
  } catch {
    // It is none of ours.
  }
  throw new LettersError(400, 'bad_parameter', 'This cursor is none of ours.', 'cursor');
}

const LONGEST_KEY = 200;

/**
 * What is sent again under the same `Idempotency-Key` is done once and answered as it was; the same key with something
 * else under it is refused (IETF draft "The Idempotency-Key HTTP Header Field").
 */
async function once(
  pool: Pool,
  request: Request,
  response: Response,
  work: (connection: Connection) => Promise<{ status: number; body: object }>,
): Promise<void> {
  const key = request.get('Idempotency-Key');
  if (key === undefined) {
    const { status, body } = await inTransaction(pool, work);
    return void response.status(status).json(body);
  }
  if (key.length > LONGEST_KEY)
    throw new LettersError(400, 'bad_key', `An Idempotency-Key has at most ${LONGEST_KEY} characters.`);
  const fingerprint = hashOf(`${request.method} ${request.originalUrl} ${JSON.stringify(request.body)}`);
  const done = await inTransaction(pool, async (connection) => {
    await connection.query('INSERT IGNORE INTO keys_used (idempotency_key, fingerprint, first_at) VALUES (?, ?, ?)', [
      key,
      fingerprint,
      new Date(),
    ]);
    const [rows] = await connection.query<RowDataPacket[]>(
      'SELECT fingerprint, status, body FROM keys_used WHERE idempotency_key = ? FOR UPDATE',
      [key],
    );
    const held = rows[0]!;
    if (held['fingerprint'] !== fingerprint)
      throw new LettersError(422, 'key_reused', 'This Idempotency-Key came with something else before.');
    if (held['status'] !== null)
      return { status: Number(held['status']), body: JSON.parse(String(held['body'])) as object };
    const made = await work(connection);
    await connection.query('UPDATE keys_used SET status = ?, body = ? WHERE idempotency_key = ?', [
      made.status,
      JSON.stringify(made.body),
      key,
    ]);
    return made;
  });
  response.status(done.status).json(done.body);
}
