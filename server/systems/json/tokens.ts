import {
  allowInsecureRequests,
  clientCredentialsGrant,
  ClientSecretBasic,
  ClientSecretPost,
  Configuration,
  customFetch,
  None,
  refreshTokenGrant,
  ResponseBodyError,
  WWWAuthenticateChallengeError,
  type ClientAuth,
  type TokenEndpointResponse,
} from 'openid-client';
import type { AdapterSignIn } from '@zusammen/core/adapters';
import type { Dispatcher } from 'undici';
import type { Sealer } from '../../access/index.ts';
import { claimRenewal, settleRenewal, tokenOf, type Database } from '../../store/index.ts';
import { oauthFetch } from '../oauth.ts';
import { isSystemTrouble, NotUnderstood, SystemUnavailable, TokenRefused } from '../system.ts';

/** What is needed to sign in, as it is sealed with the system; which of it, the way of signing in says. */
export interface SignInSecrets {
  key?: string;
  user?: string;
  password?: string;
  clientId?: string;
  clientSecret?: string;
}

/** A token as it was fetched (RFC 6749, 5.1). */
export interface FetchedToken {
  access: string;
  refresh?: string;
  /** When another one is to be fetched, by our own clock; null: when it is refused. */
  renewAt: Date | null;
}

/** Where requests get their token. */
export interface TokenSource {
  /** @throws SystemTrouble when there is none to be had */
  token(): Promise<{ value: string; issue: number }>;
  /** The system doesn't take this one, though it should still hold. */
  refused(issue: number): void;
}

/** Seconds before its end at which a token is renewed, or a fifth of its life where that is shorter. */
const MARGIN_S = 30;

/** The client at the token endpoint, over our own connections: what may be reached is reached, and nothing for ever. */
export function oauthClient(signIn: AdapterSignIn, secrets: SignInSecrets, dispatcher: Dispatcher): Configuration {
  const { tokenAddress, authorizeAddress } = signIn;
  if (tokenAddress === undefined) throw new NotUnderstood('It isn’t said where tokens are fetched.');
  const secret = secrets.clientSecret ?? '';
  const by: ClientAuth =
    secret === '' ? None() : signIn.clientBy === 'body' ? ClientSecretPost(secret) : ClientSecretBasic(secret);
  const server = {
    issuer: new URL(tokenAddress).origin,
    token_endpoint: tokenAddress,
    ...(authorizeAddress === undefined ? {} : { authorization_endpoint: authorizeAddress }),
  };
  const config = new Configuration(server, secrets.clientId ?? '', secret === '' ? undefined : secret, by);
  // Practice systems are often reached without TLS; whether that is allowed is decided where the address is entered.
  if (tokenAddress.startsWith('http:')) allowInsecureRequests(config);
  config[customFetch] = oauthFetch(dispatcher);
  return config;
}

/** Fetches a token: the first, or with what the last one left. @throws SystemTrouble */
export async function fetchToken(
  signIn: AdapterSignIn,
  secrets: SignInSecrets,
  dispatcher: Dispatcher,
  before?: Pick<FetchedToken, 'refresh'>,
): Promise<FetchedToken> {
  const config = oauthClient(signIn, secrets, dispatcher);
  const scope: Record<string, string> = signIn.scope ? { scope: signIn.scope } : {};
  if (signIn.kind === 'authorization code' && before?.refresh === undefined)
    throw new TokenRefused('Somebody has to sign in there first, so that Zusammen may act.');
  return tokenFrom(
    () =>
      signIn.kind === 'authorization code'
        ? refreshTokenGrant(config, before!.refresh!, scope)
        : clientCredentialsGrant(config, scope),
    before,
  );
}

/** What a grant gives, in our terms. @throws SystemTrouble */
export async function tokenFrom(
  grant: () => Promise<TokenEndpointResponse>,
  before?: Pick<FetchedToken, 'refresh'>,
): Promise<FetchedToken> {
  // By our own clock from before the asking: whatever the other one says, it holds so long.
  const asked = Date.now();
  try {
    const { access_token: access, refresh_token: refresh = before?.refresh, expires_in: lasts } = await grant();
    const margin = lasts === undefined ? 0 : Math.min(MARGIN_S, lasts / 5);
    return {
      access,
      ...(refresh === undefined ? {} : { refresh }),
      renewAt: lasts === undefined ? null : new Date(asked + (lasts - margin) * 1000),
    };
  } catch (error) {
    throw troubleOf(error);
  }
}

function troubleOf(error: unknown): Error {
  if (isSystemTrouble(error)) return error;
  if (error instanceof ResponseBodyError) {
    const words = error.error_description ?? error.error;
    return new TokenRefused(`Its token endpoint says: ${words.slice(0, 300)}`);
  }
  if (error instanceof WWWAuthenticateChallengeError)
    return new TokenRefused('Its token endpoint doesn’t know this client, or its secret.');
  const { cause, message } = error as Error;
  if (isSystemTrouble(cause))
    return new SystemUnavailable(
      `Its token endpoint can’t be reached. ${cause.message}`,
      (cause as SystemUnavailable).waitMs,
    );
  // No answer as OAuth has it: a page, or something that stands in front. What is sent stays until that is over.
  const status = cause instanceof Response ? cause.status : undefined;
  if (status !== undefined && status >= 400 && status < 500)
    return new TokenRefused(`Its token endpoint answers ${status}.`);
  return new SystemUnavailable(`Its token endpoint isn’t understood: ${message.slice(0, 300)}`);
}

/** A token of this process alone, for what is tried before a system is connected. */
export function ownToken(fetch: () => Promise<FetchedToken>): TokenSource {
  let held: Promise<FetchedToken> | undefined;
  let issue = 0;
  return {
    token: async () => {
      held ??= fetch();
      held.catch(() => (held = undefined));
      const got = await held;
      if (got.renewAt !== null && got.renewAt.getTime() <= Date.now()) {
        held = fetch();
        issue += 1;
      }
      return { value: (await held).access, issue };
    },
    refused: (which) => {
      if (which !== issue) return;
      held = undefined;
      issue += 1;
    },
  };
}

/** How long one process may take to renew a token before another tries, and how often the others look. */
const LEASE_MS = 30_000;
const LOOK_MS = 100;
/** How often it is tried to keep a token that was fetched: some six seconds, well within the lease. */
const KEPT_AGAIN = 6;

/** Tokens in the database, shared by all processes: one renews at a time, the others wait for what comes of it. */
export class SharedTokens implements TokenSource {
  private held: { value: string; issue: number; renewAt: number } | undefined;
  private getting: Promise<{ value: string; issue: number; renewAt: number }> | undefined;
  private refusedUpTo = -1;

  constructor(
    private readonly db: Database,
    private readonly sealer: Sealer,
    private readonly systemId: string,
    private readonly fetch: (before: Pick<FetchedToken, 'refresh'> | undefined) => Promise<FetchedToken>,
  ) {}

  async token(): Promise<{ value: string; issue: number }> {
    const { held } = this;
    if (held && held.renewAt > Date.now() && held.issue > this.refusedUpTo) return held;
    this.getting ??= this.get().finally(() => (this.getting = undefined));
    this.held = await this.getting;
    return this.held;
  }

  refused(issue: number): void {
    this.refusedUpTo = Math.max(this.refusedUpTo, issue);
  }

  private async get(): Promise<{ value: string; issue: number; renewAt: number }> {
    for (const until = Date.now() + LEASE_MS + 5_000; Date.now() < until; ) {
      const kept = await tokenOf(this.db, this.systemId);
      const opened = kept?.sealed ? this.open(kept.sealed) : undefined;
      const holds =
        kept && (kept.endsAt === null || kept.endsAt.getTime() > Date.now()) && kept.issue > this.refusedUpTo;
      if (opened?.access !== undefined && holds)
        return { value: opened.access, issue: kept.issue, renewAt: kept.endsAt?.getTime() ?? Infinity };
      const issue = kept?.issue ?? 0;
      if (await claimRenewal(this.db, this.systemId, issue, LEASE_MS)) return this.renew(issue, opened);
      await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    }
    throw new SystemUnavailable('Its token is being renewed.', 1_000);
  }

  private async renew(issue: number, before: FetchedToken | undefined) {
    let fetched: FetchedToken;
    try {
      fetched = await this.fetch(before);
    } catch (error) {
      await this.settle(undefined);
      throw error;
    }
    const { renewAt, ...token } = fetched;
    const sealed = this.sealer.seal(JSON.stringify(token), this.systemId);
    await this.settle({ sealed, endsAt: renewAt, issue: issue + 1 });
    return { value: token.access, issue: issue + 1, renewAt: renewAt?.getTime() ?? Infinity };
  }

  /** A refresh token that is good once must not be lost because the database was away for a moment. */
  private async settle(token: Parameters<typeof settleRenewal>[2]): Promise<void> {
    for (let attempt = 1; ; attempt += 1) {
      try {
        return await settleRenewal(this.db, this.systemId, token);
      } catch (error) {
        if (attempt === KEPT_AGAIN) throw error;
        await new Promise((resolve) => setTimeout(resolve, LOOK_MS * 2 ** attempt));
      }
    }
  }

  private open(sealed: string): FetchedToken {
    return { ...(JSON.parse(this.sealer.open(sealed, this.systemId)) as Omit<FetchedToken, 'renewAt'>), renewAt: null };
  }
}
