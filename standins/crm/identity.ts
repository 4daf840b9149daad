import { createHash, randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';
import express, { type Request, type Router } from 'express';
import {
  calculateJwkThumbprint,
  createLocalJWKSet,
  errors,
  exportJWK,
  generateKeyPair,
  importJWK,
  jwtVerify,
  SignJWT,
  type CryptoKey,
  type JWK,
} from 'jose';
import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import { personCalled, SIGN_INS } from './people.ts';
import type { Caller } from './rights.ts';

export interface IdentitySettings {
  /** The address under which the CRM is reached, e.g. `http://localhost:4610/crm`: it issues under that name. */
  issuer: string;
  /** Whose token opens what only administrators may. */
  administratorToken: string;
  /** Seconds a person's token lasts. */
  lasts?: number;
}

/** The one program that may act for people here. */
const CLIENT = { id: 'zusammen', secret: 'demo-panel-secret' };
const LASTS = 300;
/** Seconds for which a signed context is good. */
const CONTEXT_LASTS = 300;
const ALGORITHM = 'ES256';
const EXCHANGE = 'urn:ietf:params:oauth:grant-type:token-exchange';
const JWT = 'urn:ietf:params:oauth:token-type:jwt';
const ACCESS_TOKEN = 'urn:ietf:params:oauth:token-type:access_token';

interface Key {
  kid: string;
  secret: CryptoKey;
  shown: JWK;
}

/** What a context is signed of: a record that somebody looks at, for whom it is meant. */
export interface ContextOf {
  login: string;
  audience: string;
  entity?: string;
  record?: string;
}

/**
 * Who people are to other programs: contexts are signed for panels (JWS, RFC 7515), with keys shown at a JWK Set
 * (RFC 7517) of which the second takes over when the first is retired; a context is exchanged, once, for a token of the
 * person's (RFC 8693). Where all that is, is told as OAuth 2.0 Authorization Server Metadata (RFC 8414).
 */
export class Identity {
  private keys: Key[] = [];
  private readonly tokens = new Map<string, { login: string; until: number }>();
  private readonly exchanged = new Map<string, number>();
  private readonly withdrawn = new Map<string, ReadonlySet<string>>();

  constructor(
    private readonly pool: Pool,
    private readonly settings: IdentitySettings,
  ) {}

  /** Finds its keys, or makes them the first time. */
  async open(): Promise<void> {
    await this.pool.query(
      'CREATE TABLE IF NOT EXISTS signing_keys (n BIGINT AUTO_INCREMENT PRIMARY KEY, jwk JSON NOT NULL)',
    );
    const [rows] = await this.pool.query<RowDataPacket[]>('SELECT jwk FROM signing_keys ORDER BY n DESC LIMIT 2');
    for (const { jwk } of rows.toReversed())
      this.keys.push(await keyOf((typeof jwk === 'string' ? JSON.parse(jwk) : jwk) as JWK));
    while (this.keys.length < 2) await this.addKey();
  }

  private async addKey(): Promise<void> {
    const { privateKey } = await generateKeyPair(ALGORITHM, { extractable: true });
    const jwk = await exportJWK(privateKey);
    await this.pool.query('INSERT INTO signing_keys (jwk) VALUES (?)', [JSON.stringify(jwk)]);
    this.keys.push(await keyOf(jwk));
  }

  /** Signs what a page tells a panel of itself and of whoever looks at it. */
  async context({ login, audience, entity, record }: ContextOf): Promise<string> {
    const [key] = this.keys;
    const { name } = SIGN_INS.find((each) => each.login === login)!;
    return new SignJWT({ name, ...(entity === undefined ? {} : { entity, record }) })
      .setProtectedHeader({ alg: ALGORITHM, kid: key!.kid, typ: 'JWT' })
      .setIssuer(this.settings.issuer)
      .setAudience(audience)
      .setSubject(login)
      .setJti(randomUUID())
      .setIssuedAt()
      .setExpirationTime(`${CONTEXT_LASTS}s`)
      .sign(key!.secret);
  }

  /** Whose token it is; undefined where it is nobody's any more. */
  personOf(token: string): Caller | undefined {
    const held = this.tokens.get(hashOf(token));
    return held && held.until > Date.now() ? personCalled(held.login, this.withdrawn) : undefined;
  }

  /** What stands below the issuer. */
  routes(): Router {
    const router = express.Router();
    router.get('/jwks.json', (_request, response) => {
      response.set('Cache-Control', 'public, max-age=60').type('application/jwk-set+json');
      response.send(JSON.stringify({ keys: this.keys.map(({ shown }) => shown) }));
    });
    router.post('/oauth/token', express.urlencoded({ extended: false, limit: '20kb' }), async (request, response) => {
      response.set({ 'Cache-Control': 'no-store', Pragma: 'no-cache' });
      const answer = await this.exchange(request);
      if (answer.status === 401) response.set('WWW-Authenticate', 'Basic realm="crm"');
      response.status(answer.status).json(answer.body);
    });
    router.use(['/keys', '/withdrawn'], (request, response, next) => {
      if (request.get('Authorization') === `Bearer ${this.settings.administratorToken}`) return next();
      response.status(401).json({ error: 'Only administrators may.' });
    });
    // The key that signs is retired: the one that has been shown beside it takes over, and a new one is shown.
    router.post('/keys/rotate', async (_request, response) => {
      await this.addKey();
      this.keys.shift();
      response.status(204).end();
    });
    router.put('/withdrawn/:login', express.json(), (request, response) => {
      this.withdrawn.set(request.params.login, new Set(request.body as string[]));
      response.status(204).end();
    });
    // Nobody is signed in any more: tokens that were given count for nothing from now on.
    router.delete('/withdrawn', (_request, response) => {
      this.tokens.clear();
      response.status(204).end();
    });
    return router;
  }

  /** Where everything is (RFC 8414, 3.2). */
  metadata(): object {
    const { issuer } = this.settings;
    return {
      issuer,
      token_endpoint: `${issuer}/oauth/token`,
      jwks_uri: `${issuer}/jwks.json`,
      response_types_supported: [],
      grant_types_supported: [EXCHANGE],
      token_endpoint_auth_methods_supported: ['client_secret_basic', 'client_secret_post'],
    };
  }

  private async exchange(request: Request): Promise<{ status: number; body: object }> {
    const no = (status: number, error: string, error_description: string) => ({
      status,
      body: { error, error_description },
    });
    if (!request.is('application/x-www-form-urlencoded'))
      return no(400, 'invalid_request', 'The body must be application/x-www-form-urlencoded.');
    const said = (request.body ?? {}) as Record<string, unknown>;
    if (!isClient(request, said))
      return no(401, 'invalid_client', 'This client is not known, or its secret is another.');
    if (said['grant_type'] !== EXCHANGE) return no(400, 'unsupported_grant_type', 'Only tokens are exchanged here.');
    const { subject_token: subject, subject_token_type: type, requested_token_type: wanted = ACCESS_TOKEN } = said;
    if (typeof subject !== 'string' || type !== JWT)
      return no(400, 'invalid_request', 'A subject_token must be given, and its type be that of a JWT.');
    if (wanted !== ACCESS_TOKEN) return no(400, 'invalid_request', 'Only access tokens are given.');
    const resource = said['resource'] ?? said['audience'];
    if (resource !== undefined && !String(resource).startsWith(this.settings.issuer))
      return no(400, 'invalid_target', 'There is no such resource here.');
    const keys = createLocalJWKSet({ keys: this.keys.map(({ shown }) => shown) });
    try {
      const { payload } = await jwtVerify(subject, keys, {
        ...{ algorithms: [ALGORITHM], issuer: this.settings.issuer, requiredClaims: ['sub', 'exp', 'jti', 'aud'] },
      });
      if (this.exchanged.has(payload.jti!)) return no(400, 'invalid_grant', 'This context has been exchanged before.');
      this.exchanged.set(payload.jti!, Date.now());
      return { status: 200, body: this.give(payload.sub!) };
    } catch (error) {
      if (!(error instanceof errors.JOSEError)) throw error;
      return no(400, 'invalid_grant', 'The subject token is none of ours, or no longer good.');
    }
  }

  private give(login: string): object {
    const { lasts = LASTS } = this.settings;
    const token = randomBytes(24).toString('base64url');
    const now = Date.now();
    for (const [hash, { until }] of this.tokens) if (until < now) this.tokens.delete(hash);
    for (const [jti, at] of this.exchanged) if (at < now - 2 * CONTEXT_LASTS * 1000) this.exchanged.delete(jti);
    this.tokens.set(hashOf(token), { login, until: now + lasts * 1000 });
    return { access_token: token, issued_token_type: ACCESS_TOKEN, token_type: 'Bearer', expires_in: lasts };
  }
}

const hashOf = (text: string): string => createHash('sha256').update(text).digest('base64url');

async function keyOf(jwk: JWK): Promise<Key> {
  const { d: _, ...open } = jwk;
  const kid = await calculateJwkThumbprint(open);
  const secret = (await importJWK(jwk, ALGORITHM)) as CryptoKey;
  return { kid, secret, shown: { ...open, kid, alg: ALGORITHM, use: 'sig' } };
}

/** By HTTP Basic, or in the body (RFC 6749, 2.3.1): both parts of the first are form-encoded before they are put together. */
function isClient(request: Request, said: Record<string, unknown>): boolean {
  const basic = /^Basic (.+)$/i.exec(request.headers.authorization ?? '')?.[1];
  const decoded = (text: string): string => new URLSearchParams(`x=${text}`).get('x') ?? '';
  const [id, secret] =
    basic === undefined
      ? [said['client_id'], said['client_secret']]
      : Buffer.from(basic, 'base64').toString('utf8').split(':').map(decoded);
  const given = Buffer.from(createHash('sha256').update(String(secret)).digest());
  return id === CLIENT.id && timingSafeEqual(given, createHash('sha256').update(CLIENT.secret).digest());
}
