import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { exportJWK, generateKeyPair, importJWK, SignJWT, type CryptoKey, type JWK } from 'jose';
import { outwards } from '../systems/index.ts';
import { findIssuer } from './index.ts';
import { answering } from '../testing/oauth/nasty.ts';
import { atCrm } from '../testing/panels.ts';
import { openStage, type Json, type Stage } from '../testing/stage.ts';

let stage: Stage;
let crm: string;
/** An authorization server that nobody here wrote; its key, by which contexts are signed here. */
let child: ChildProcess;
let issuer: string;
let key: CryptoKey;
beforeAll(async () => {
  const { privateKey } = await generateKeyPair('ES256', { extractable: true });
  const jwk: JWK = { ...(await exportJWK(privateKey)), kid: 'signs', alg: 'ES256', use: 'sig' };
  key = (await importJWK(jwk)) as CryptoKey;
  const program = join(process.cwd(), 'server/testing/oauth/exchange.mjs');
  child = spawn(process.execPath, [program, JSON.stringify({ keys: [jwk] })], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, NODE_OPTIONS: '' },
  });
  const port = await new Promise<string>((resolve) =>
    child.stdout!.on('data', (chunk: Buffer) => {
      const found = /listening on (\d+)/.exec(chunk.toString())?.[1];
      if (found) resolve(found);
    }),
  );
  issuer = `http://127.0.0.1:${port}`;
  stage = await openStage({ people: 10 });
  crm = (await stage.api('GET', '/systems')).body.systems.find((each: Json) => each.name === 'Co-op CRM').id;
});
afterAll(async () => {
  await stage.close();
  child.kill();
});

const audience = async (): Promise<string> => (await stage.api('GET', `/systems/${crm}/acting`)).body.audience;
const signed = async (sub: string, more: object = {}): Promise<string> =>
  new SignJWT({ name: 'Somebody', ...more })
    .setProtectedHeader({ alg: 'ES256', kid: 'signs' })
    .setIssuer(issuer)
    .setAudience(await audience())
    .setSubject(sub)
    .setJti(crypto.randomUUID())
    .setIssuedAt()
    .setExpirationTime('5m')
    .sign(key);
const ofProvider = () => ({
  ...{ issuer, keysAddress: `${issuer}/jwks`, tokenAddress: `${issuer}/token` },
  ...{ clientId: 'panel client', clientSecret: 'a secret: with % and +', clientBy: 'header' },
});
const tried = async (context: string): Promise<Json> =>
  (await stage.api('POST', `/systems/${crm}/acting/try`, { context })).body;

describe('who issues a system’s tokens', () => {
  it('is found from the address of a system that publishes it', async () => {
    const { body } = await stage.api('POST', `/systems/${crm}/acting/find`, {
      address: `${stage.standins}/crm/odata/`,
    });
    expect(body).toEqual({
      issuer: `${stage.standins}/crm`,
      keysAddress: `${stage.standins}/crm/jwks.json`,
      tokenAddress: `${stage.standins}/crm/oauth/token`,
      clientBy: 'header',
    });
  });
  it('is found of a server that nobody here wrote', async () => {
    expect(await findIssuer(`${issuer}/api/v1`, outwards('any'))).toMatchObject({
      ...{ issuer, keysAddress: `${issuer}/jwks`, tokenAddress: `${issuer}/token`, clientBy: 'header' },
    });
  });
  it('is nobody who names another, and what was asked is said', async () => {
    const server = await answering({
      '/.well-known/oauth-authorization-server': (_request, response) =>
        response
          .setHeader('Content-Type', 'application/json')
          .end(JSON.stringify({ issuer: 'https://else.example', token_endpoint: 'https://else.example/t' })),
    });
    const none = await stage.api('POST', `/systems/${crm}/acting/find`, { address: `${server.address}/a/b?c=d` });
    expect(none.status).toBe(422);
    expect(none.body.errors).toEqual([{ field: 'address', reason: expect.stringMatching(/publishes no issuer/) }]);
    expect(none.body.detail).toContain(`As ${server.address}/a/b: It answers 404.`);
    expect(none.body.detail).toMatch(/issuer/);
    await server.close();
  });
});

describe('people who act as themselves', () => {
  it('are tried: who it is, and what they may less than the connection', async () => {
    const inspector = await atCrm(stage, 'inspector');
    const page = await fetch(`${stage.standins}/crm/panels/context`, {
      method: 'POST',
      body: new URLSearchParams({ audience: await audience() }),
      headers: { cookie: inspector.cookie },
    });
    const context = /<textarea[^>]*>([^<]+)</.exec(await page.text())![1]!;
    const found = await tried(context);
    expect(found).toMatchObject({ person: 'inspector', name: 'Ines Ortmann' });
    const of = (name: string) => found.entities.find((each: Json) => each.name === name);
    expect(of('Contracts')).toMatchObject({
      rights: { read: true, create: false },
      less: ['create', 'update', 'delete'],
    });
    expect(of('Visits').less).toEqual(['delete']);
    expect(of('People').fields).toContain('Family name');
    expect(of('People').fields).not.toContain('Phone');
    // It is good once.
    expect((await tried(context)).errors).toEqual([{ field: 'context', reason: expect.stringMatching(/used before/) }]);
  });
  it('get their tokens of a server that nobody here wrote, and one token serves until it runs out', async () => {
    expect((await stage.api('PUT', `/systems/${crm}/acting`, ofProvider())).status).toBe(200);
    // The CRM doesn't know these tokens: it says so when its schema is asked for with one.
    const { body } = await stage.api('POST', `/systems/${crm}/acting/try`, { context: await signed('ines') });
    expect(body.detail).toMatch(/does not accept this token/);
    const [rows] = await stage.db.$client.query('SELECT person, sealed, ends_at FROM acting_tokens WHERE person = ?', [
      'ines',
    ]);
    const [row] = rows as Json[];
    expect(row.ends_at.getTime()).toBeGreaterThan(Date.now() + 30_000);
    expect(row.ends_at.getTime()).toBeLessThan(Date.now() + 125_000);
    expect(row.sealed).toMatch(/^v1\./);
  });
  it.each([
    ['a secret that is another', { clientSecret: 'wrong' }, /doesn’t know this client|client authentication/],
    ['a place that exchanges nothing', { tokenAddress: () => `${stage.standins}/site/` }, /token endpoint/],
    ['a page in the place of tokens', { tokenAddress: () => `${stage.standins}/crm/sign-in` }, /token endpoint/],
    ['nobody there', { tokenAddress: () => 'http://127.0.0.1:1/token' }, /can’t be reached/],
  ])('get none with %s, and it is said why', async (_what, change: Record<string, unknown>, words) => {
    const said = Object.fromEntries(
      Object.entries(change).map(([name, value]) => [
        name,
        typeof value === 'function' ? (value as () => string)() : value,
      ]),
    );
    await stage.api('PUT', `/systems/${crm}/acting`, { ...ofProvider(), ...said });
    const { status, body } = await stage.api('POST', `/systems/${crm}/acting/try`, {
      context: await signed(`x${Math.random()}`),
    });
    expect(status).toBe(502);
    expect(body.detail).toMatch(words);
  });
  it('are said by administrators, and secrets are never told', async () => {
    const { body } = await stage.api('GET', `/systems/${crm}/acting`);
    expect(Object.keys(body.acting).sort()).toEqual(['clientBy', 'clientId', 'issuer', 'keysAddress', 'tokenAddress']);
    const wrong = await stage.api('PUT', `/systems/${crm}/acting`, { ...ofProvider(), issuer: 'ftp://x' });
    expect(wrong.body.errors).toEqual([{ field: 'issuer', reason: 'must be a web address' }]);
    expect((await stage.api('DELETE', `/systems/${crm}/acting`)).status).toBe(204);
    expect((await stage.api('GET', `/systems/${crm}/acting`)).body.acting).toBeNull();
    expect((await tried(await signed('ines'))).errors[0].reason).toMatch(/Nobody has said yet/);
    const bare: Json = { ...ofProvider() };
    delete bare.clientSecret;
    expect((await stage.api('PUT', `/systems/${crm}/acting`, bare)).body.errors).toEqual([
      { field: 'clientSecret', reason: 'is needed' },
    ]);
    const [rows] = await stage.db.$client.query('SELECT COUNT(*) AS count FROM acting_tokens');
    expect(Number((rows as Json[])[0].count)).toBe(0);
  });
});
