import {
  allowInsecureRequests,
  ClientSecretBasic,
  ClientSecretPost,
  Configuration,
  customFetch,
  genericGrantRequest,
} from 'openid-client';
import type { Schema } from '@zusammen/core/schema';
import type { Sealer } from '../access/index.ts';
import {
  actingSystemOf,
  actingTokenOf,
  dropActingToken,
  keepActingToken,
  systemById,
  takeContext,
  type ActingSystem,
  type Database,
} from '../store/index.ts';
import { oauthFetch, tokenFrom, type ActingPerson, type Systems } from '../systems/index.ts';
import { ContextRefused, readContext, type SignedContext } from './context.ts';
import { KeySets } from './key-sets.ts';

/** Somebody who has come by a signed context, with a token of theirs. */
export interface Arrived {
  context: SignedContext;
  acting: ActingPerson;
  /** Their token is another than before: what waited for one can go on. */
  fresh: boolean;
  /**
   * Resolves when it is noted that the context was used; what is read meanwhile is shown to nobody before.
   * @throws ContextRefused where it was used before
   */
  once: Promise<void>;
}

const GRANT = 'urn:ietf:params:oauth:grant-type:token-exchange';
const JWT = 'urn:ietf:params:oauth:token-type:jwt';
const ACCESS_TOKEN = 'urn:ietf:params:oauth:token-type:access_token';
const EXCHANGE_MS = 8_000;
/** A token that doesn't say how long it lasts is used for so long, and none for longer than a day; milliseconds. */
const UNSAID_MS = 300_000;
const LONGEST_MS = 24 * 3_600_000;
/** A token with less than this left is exchanged anew when there is something to exchange. */
const LEFT_MS = 30_000;
/** How long it is known what somebody may; rights that are taken away are noticed so late beforehand, at once when sending. */
const RIGHTS_MS = 120_000;
/** Who issues a system's tokens is looked up again after so long. */
const SETTINGS_MS = 1_000;
/** And so is a token: it may have been taken from here by another process. */
const KEPT_MS = 5_000;
const MOST_KNOWN = 500;
const aboutToken = (systemId: string, person: string): string => `acting ${systemId} ${person}`;

/**
 * People who act in a system as themselves. A system's page signs who looks at it; that is exchanged for a token of the
 * person's (OAuth 2.0 Token Exchange, RFC 8693), which is kept sealed until it has run out. Whoever has a token that
 * still holds needs no other: a context of theirs speaks for them only once.
 */
export class ActingPeople {
  private readonly keys: KeySets;
  private readonly tokens = new Map<string, { token: string; endsAt: number; at: number }>();
  private readonly settings = new Map<string, { at: number; found: Promise<ActingSystem | undefined> }>();
  private readonly rights = new Map<string, { at: number; schema: Promise<Schema | undefined> }>();

  constructor(
    private readonly db: Database,
    private readonly sealer: Sealer,
    private readonly systems: Systems,
  ) {
    this.keys = new KeySets(systems.via.dispatcher);
  }

  /**
   * Takes a signed context, once: noting that goes on while the person's record is read already.
   * @throws ContextRefused, SystemTrouble
   */
  async arrive(systemId: string, token: string, audience: string): Promise<Arrived> {
    const settings = await this.settingsOf(systemId);
    if (!settings) throw new ContextRefused('Nobody has said yet how people act as themselves in this system.');
    const context = await readContext(this.keys, token, { ...settings, audience });
    const once = takeContext(this.db, `${settings.issuer} ${context.id}`, context.until).then((isFirst) => {
      if (!isFirst) throw new ContextRefused('It was used before; the page has to be opened anew.');
    });
    // Whoever waits for it hears of it; nobody may have come to wait yet.
    once.catch(() => undefined);
    const held = await this.tokenOf(systemId, context.person, LEFT_MS);
    if (held) return { context, acting: held, fresh: false, once };
    // It buys a token once, too.
    await once;
    return { context, acting: await this.exchange(settings, context.person, token), fresh: true, once };
  }

  /** Looks anew at once, after something was changed by our own hand. */
  forget(): void {
    this.settings.clear();
    this.tokens.clear();
  }

  private settingsOf(systemId: string): Promise<ActingSystem | undefined> {
    const known = this.settings.get(systemId);
    if (known && Date.now() - known.at < SETTINGS_MS) return known.found;
    const found = actingSystemOf(this.db, systemId);
    bounded(this.settings, systemId, { at: Date.now(), found });
    found.catch(() => this.settings.delete(systemId));
    return found;
  }

  /**
   * Somebody's token, where they have one that still holds.
   * @param leftMs it has to hold for so long yet
   */
  async tokenOf(systemId: string, person: string, leftMs = 0): Promise<ActingPerson | undefined> {
    const key = JSON.stringify([systemId, person]);
    const known = this.tokens.get(key);
    const now = Date.now();
    if (known && known.endsAt - leftMs > now && now - known.at < KEPT_MS) return { person, token: known.token };
    const kept = await actingTokenOf(this.db, systemId, person);
    if (!kept || kept.endsAt.getTime() - leftMs <= now) return undefined;
    const token = this.sealer.open(kept.sealed, aboutToken(systemId, person));
    this.remember(key, token, kept.endsAt);
    return { person, token };
  }

  /** The system doesn't know a token any more, whatever was said of how long it lasts. */
  async refused(systemId: string, { person, token }: ActingPerson): Promise<void> {
    const key = JSON.stringify([systemId, person]);
    if (this.tokens.get(key)?.token === token) this.tokens.delete(key);
    const kept = await actingTokenOf(this.db, systemId, person);
    if (kept && this.sealer.open(kept.sealed, aboutToken(systemId, person)) === token)
      await dropActingToken(this.db, systemId, person);
  }

  /** The system's schema with the rights that somebody has; undefined where it doesn't tell them apart. @throws SystemTrouble */
  schemaFor(systemId: string, acting: ActingPerson): Promise<Schema | undefined> {
    const key = JSON.stringify([systemId, acting.person]);
    const known = this.rights.get(key);
    if (known && Date.now() - known.at < RIGHTS_MS) return known.schema;
    const schema = this.systems.schemaAs(systemId, acting);
    bounded(this.rights, key, { at: Date.now(), schema });
    schema.catch(() => this.rights.delete(key));
    return schema;
  }

  private async exchange(settings: ActingSystem, person: string, context: string): Promise<ActingPerson> {
    const { systemId } = settings;
    const address = (await systemById(this.db, systemId))?.address;
    const secret = this.sealer.open(settings.sealedSecret, aboutSecret(systemId));
    const given = await exchanged(settings, secret, context, address, this.systems);
    const endsAt = new Date(Math.min(given.renewAt?.getTime() ?? Date.now() + UNSAID_MS, Date.now() + LONGEST_MS));
    const sealed = this.sealer.seal(given.access, aboutToken(systemId, person));
    await keepActingToken(this.db, { systemId, person, sealed, endsAt });
    this.remember(JSON.stringify([systemId, person]), given.access, endsAt);
    return { person, token: given.access };
  }

  private remember(key: string, token: string, endsAt: Date): void {
    bounded(this.tokens, key, { token, endsAt: endsAt.getTime(), at: Date.now() });
  }
}

/** To what a client's secret is bound. */
export const aboutSecret = (systemId: string): string => `acting ${systemId}`;

/** Exchanges a signed context for a token (RFC 8693, 2). @throws SystemTrouble */
function exchanged(
  settings: Pick<ActingSystem, 'issuer' | 'tokenAddress' | 'clientId' | 'clientBy'>,
  secret: string,
  context: string,
  resource: string | undefined,
  systems: Pick<Systems, 'via'>,
) {
  const { issuer, tokenAddress, clientId, clientBy } = settings;
  const by = clientBy === 'body' ? ClientSecretPost(secret) : ClientSecretBasic(secret);
  const config = new Configuration({ issuer, token_endpoint: tokenAddress }, clientId, secret, by);
  if (tokenAddress.startsWith('http:')) allowInsecureRequests(config);
  config[customFetch] = oauthFetch(systems.via.dispatcher, EXCHANGE_MS);
  return tokenFrom(() =>
    genericGrantRequest(config, GRANT, {
      ...{ subject_token: context, subject_token_type: JWT, requested_token_type: ACCESS_TOKEN },
      ...(resource === undefined ? {} : { resource }),
    }),
  );
}

/** Puts something into a map that holds the newest only. */
function bounded<V>(map: Map<string, V>, key: string, value: V): void {
  map.delete(key);
  map.set(key, value);
  if (map.size > MOST_KNOWN) map.delete(map.keys().next().value!);
}
