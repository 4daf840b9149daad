import { randomBytes } from 'node:crypto';
import {
  authorizationCodeGrant,
  buildAuthorizationUrl,
  calculatePKCECodeChallenge,
  randomPKCECodeVerifier,
} from 'openid-client';
import type { AdapterSignIn } from '@zusammen/core/adapters';
import { Sealer } from '../../access/index.ts';
import { createDatabase, migrateDatabase, openDatabase, type Database } from '../../store/index.ts';
import { oauthProvider, type OAuthProvider } from '../../testing/oauth/provider.ts';
import { MIGRATIONS } from '../../testing/stage.ts';
import type { HttpRequest } from '../http.ts';
import { outwards } from '../reach.ts';
import { SystemUnavailable, TokenRefused } from '../system.ts';
import { fetchToken, oauthClient, SharedTokens, tokenFrom, withSignIn, type FetchedToken } from './index.ts';

/** Tokens with an authorization server that nobody here wrote. */
const dispatcher = outwards('any');
const sealer = new Sealer(randomBytes(32));
let db: Database;
let provider: OAuthProvider;
beforeAll(async () => {
  const url = `${process.env['TEST_DATABASE_URL']!}tokens_${randomBytes(4).toString('hex')}`;
  await createDatabase(url);
  await migrateDatabase(url, MIGRATIONS);
  db = openDatabase(url, 6);
  provider = await oauthProvider();
});
afterAll(async () => {
  await provider.close();
  await db.$client.end();
  await dispatcher.close();
});

const machine = (): AdapterSignIn => ({ kind: 'client credentials', tokenAddress: `${provider.address}/token` });
const SECRETS = { clientId: 'machine', clientSecret: 'machine-secret' };
const shared = (
  system: string,
  fetch: () => Promise<FetchedToken> = () => fetchToken(machine(), SECRETS, dispatcher),
) => new SharedTokens(db, sealer, system, fetch);
const rows = async (system: string) =>
  (await db.$client.query('SELECT sealed, issue FROM system_tokens WHERE system_id = ?', [system]))[0] as unknown as {
    sealed: string;
    issue: number;
  }[];

it('client credentials are exchanged, named in the header or in the body', async () => {
  const { access, renewAt } = await fetchToken(machine(), SECRETS, dispatcher);
  expect(access.length).toBeGreaterThan(10);
  // Before its end: 300 seconds, less half a minute.
  expect(renewAt!.getTime()).toBeGreaterThan(Date.now() + 200_000);
  expect(renewAt!.getTime()).toBeLessThan(Date.now() + 275_000);
  const posted = { ...machine(), clientBy: 'body' as const };
  expect(await fetchToken(posted, { clientId: 'posted', clientSecret: 'posted-secret' }, dispatcher)).toHaveProperty(
    'access',
  );
});

it('a wrong secret is said in the server’s words, and a server that is down is trouble that passes', async () => {
  await expect(fetchToken(machine(), { ...SECRETS, clientSecret: 'wrong' }, dispatcher)).rejects.toBeInstanceOf(
    TokenRefused,
  );
  const nowhere: AdapterSignIn = { ...machine(), tokenAddress: 'http://127.0.0.1:1/token' };
  await expect(fetchToken(nowhere, SECRETS, dispatcher)).rejects.toBeInstanceOf(SystemUnavailable);
  await expect(fetchToken(nowhere, SECRETS, dispatcher)).rejects.toThrow(/token endpoint can’t be reached/);
});

it('one renews for all: many processes that need a token at once fetch it once, and it is kept sealed', async () => {
  const before = await provider.fetched();
  const processes = Array.from({ length: 6 }, () => shared('many'));
  const tokens = await Promise.all(processes.flatMap((each) => [each.token(), each.token(), each.token()]));
  expect(new Set(tokens.map(({ value }) => value)).size).toBe(1);
  expect((await provider.fetched()) - before).toBe(1);
  const [row] = await rows('many');
  expect(row!.sealed).not.toContain(tokens[0]!.value);
  expect(sealer.open(row!.sealed, 'many')).toContain(tokens[0]!.value);
});

it('one that is refused before its end is replaced once, by whoever notices', async () => {
  const [a, b] = [shared('early'), shared('early')];
  const first = await a.token();
  expect((await b.token()).value).toBe(first.value);
  a.refused(first.issue);
  const second = await a.token();
  expect(second.value).not.toBe(first.value);
  // The other hasn't noticed; as soon as it does, it takes what is there.
  b.refused(first.issue);
  expect(await b.token()).toMatchObject({ value: second.value });
});

it('many processes at once that get another token again and again never stand in each other’s way', async () => {
  let fetched = 0;
  const fetch = async (): Promise<FetchedToken> => {
    fetched += 1;
    // It comes while the others are asking whether they may.
    await new Promise((resolve) => setTimeout(resolve, fetched % 8));
    return { access: `t${fetched}`, renewAt: null };
  };
  const processes = Array.from({ length: 24 }, () => shared('crowd', fetch));
  for (let round = 1; round <= 30; round += 1) {
    const tokens = await Promise.all(processes.map((each) => each.token()));
    expect(new Set(tokens.map(({ value }) => value))).toEqual(new Set([`t${round}`]));
    for (const each of processes) each.refused(tokens[0]!.issue);
  }
  expect(fetched).toBe(30);
});

it('a fetched token is kept although the database is away for a moment', async () => {
  let away = 2;
  const flaky = new Proxy(db, {
    get: (target, name, receiver) => {
      if (name === 'update' && away > 0 && fetchedOnce) {
        away -= 1;
        throw new Error('Connection lost.');
      }
      return Reflect.get(target, name, receiver) as unknown;
    },
  });
  let fetchedOnce = false;
  const tokens = new SharedTokens(flaky, sealer, 'away', async () => {
    fetchedOnce = true;
    return { access: 'good once', refresh: 'r', renewAt: null };
  });
  expect((await tokens.token()).value).toBe('good once');
  expect(away).toBe(0);
  expect(sealer.open((await rows('away'))[0]!.sealed, 'away')).toContain('good once');
});

it('one that has run out is renewed before it is used', async () => {
  let issued = 0;
  const tokens = shared('short', async () => ({
    access: `t${(issued += 1)}`,
    renewAt: new Date(Date.now() + (issued === 1 ? 30 : 60_000)),
  }));
  expect((await tokens.token()).value).toBe('t1');
  await new Promise((resolve) => setTimeout(resolve, 60));
  expect((await tokens.token()).value).toBe('t2');
});

it('what fails leaves the next one free to try', async () => {
  const failing = shared('failing', () => Promise.reject(new SystemUnavailable('Down.')));
  await expect(failing.token()).rejects.toThrow('Down.');
  expect(await shared('failing').token()).toHaveProperty('value');
});

it('a request that is turned away with a token that should hold is sent again with another', async () => {
  const sent: string[] = [];
  const tokens = shared('once');
  const send = withSignIn(
    async ({ headers }: HttpRequest) => {
      sent.push(headers['Authorization']!);
      return { status: sent.length === 1 ? 401 : 200, headers: {}, text: '{}' };
    },
    machine(),
    SECRETS,
    tokens,
  );
  const response = await send({ method: 'GET', url: 'http://x.example', headers: {}, repeatable: true });
  expect(response.status).toBe(200);
  expect(new Set(sent).size).toBe(2);
});

it('somebody signs in with a code and PKCE, and refresh tokens that are good once are renewed in turn', async () => {
  const signIn: AdapterSignIn = {
    kind: 'authorization code',
    tokenAddress: `${provider.address}/token`,
    authorizeAddress: `${provider.address}/auth`,
    scope: 'openid offline_access',
  };
  const secrets = { clientId: 'person', clientSecret: 'person-secret' };
  const redirect = 'http://127.0.0.1:1/systems/signed-in';
  const verifier = randomPKCECodeVerifier();
  const config = oauthClient(signIn, secrets, dispatcher);
  const address = buildAuthorizationUrl(config, {
    ...{ redirect_uri: redirect, scope: signIn.scope!, state: 'the-state', prompt: 'consent' },
    ...{ code_challenge: await calculatePKCECodeChallenge(verifier), code_challenge_method: 'S256' },
  });
  const back = await provider.signInAt(address.href);
  const first = await tokenFrom(() =>
    authorizationCodeGrant(config, back, { pkceCodeVerifier: verifier, expectedState: 'the-state' }),
  );
  expect(first.refresh).toBeDefined();
  const second = await fetchToken(signIn, secrets, dispatcher, first);
  expect([second.access === first.access, second.refresh === first.refresh]).toEqual([false, false]);
  // The one before is of no use any more, and nobody can go on without one.
  await expect(fetchToken(signIn, secrets, dispatcher, first)).rejects.toBeInstanceOf(TokenRefused);
  await expect(fetchToken(signIn, secrets, dispatcher)).rejects.toThrow(/sign in there first/);
});
