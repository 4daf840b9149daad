import { randomBytes } from 'node:crypto';
import express, { type Request, type RequestHandler, type Router } from 'express';
import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import { LettersError } from './errors.ts';
import { hashOf } from './tables.ts';

/** Seconds a token lasts. */
export const LASTS = 300;

export interface Client {
  id: string;
  secret: string;
  writes: boolean;
}
const CLIENTS: Client[] = [
  { id: 'demo', secret: 'demo-secret', writes: true },
  { id: 'reader', secret: 'reader-secret', writes: false },
];

/** The token endpoint: client credentials (RFC 6749, 4.4), the client named by Basic or in the body. */
export function tokenEndpoint(pool: Pool, lasts = LASTS): Router {
  const router = express.Router();
  router.post('/token', express.urlencoded({ extended: false }), async (request, response) => {
    response.set({ 'Cache-Control': 'no-store', Pragma: 'no-cache' });
    const body = (request.body ?? {}) as Record<string, unknown>;
    const no = (status: number, error: string, description: string): void =>
      void response.status(status).json({ error, error_description: description });
    if (!request.is('application/x-www-form-urlencoded'))
      return no(400, 'invalid_request', 'The body must be application/x-www-form-urlencoded.');
    const client = clientOf(request, body);
    if (!client) {
      response.set('WWW-Authenticate', 'Basic realm="letters"');
      return no(401, 'invalid_client', 'This client is not known, or its secret is another.');
    }
    if (body['grant_type'] !== 'client_credentials')
      return no(400, 'unsupported_grant_type', 'Only client_credentials are taken.');
    const token = randomBytes(24).toString('base64url');
    const ends = new Date(Date.now() + lasts * 1000);
    await pool.query('DELETE FROM tokens WHERE ends < ?', [new Date()]);
    await pool.query('INSERT INTO tokens (token_hash, client, ends) VALUES (?, ?, ?)', [
      hashOf(token),
      client.id,
      ends,
    ]);
    response.json({ access_token: token, token_type: 'Bearer', expires_in: lasts });
  });
  return router;
}

function clientOf(request: Request, body: Record<string, unknown>): Client | undefined {
  const basic = /^Basic (.+)$/i.exec(request.headers.authorization ?? '')?.[1];
  const [id, secret] =
    basic === undefined
      ? [body['client_id'], body['client_secret']]
      : Buffer.from(basic, 'base64').toString('utf8').split(':').map(formDecoded);
  return CLIENTS.find((client) => client.id === id && client.secret === secret);
}

/** Both parts are form-encoded before they are put together (RFC 6749, 2.3.1). */
const formDecoded = (text: string): string => new URLSearchParams(`x=${text}`).get('x') ?? '';

/** Lets through who has a token that still holds. */
export const guard =
  (pool: Pool): RequestHandler =>
  async (request, response, next) => {
    const token = /^Bearer (\S+)$/i.exec(request.headers.authorization ?? '')?.[1];
    const [rows] =
      token === undefined
        ? [[]]
        : await pool.query<RowDataPacket[]>('SELECT client FROM tokens WHERE token_hash = ? AND ends > ?', [
            hashOf(token),
            new Date(),
          ]);
    const client = CLIENTS.find(({ id }) => id === rows[0]?.['client']);
    if (!client) {
      response.set('WWW-Authenticate', token === undefined ? 'Bearer' : 'Bearer error="invalid_token"');
      throw new LettersError(401, 'no_token', 'A token that still holds is needed.');
    }
    if (!client.writes && request.method !== 'GET')
      throw new LettersError(403, 'not_allowed', 'This client may only read.');
    response.locals['client'] = client.id;
    next();
  };
