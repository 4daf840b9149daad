import {
  createLocalJWKSet,
  errors,
  jwtVerify,
  type JSONWebKeySet,
  type JWTVerifyOptions,
  type JWTVerifyResult,
} from 'jose';
import type { Dispatcher } from 'undici';
import { isSystemTrouble, NotUnderstood, overHttp } from '../systems/index.ts';

type KeySet = ReturnType<typeof createLocalJWKSet>;

interface Held {
  set: KeySet | undefined;
  /** When it was fetched last, and when that was tried. */
  at: number;
  triedAt: number;
  trouble: Error | undefined;
  fetching: Promise<void> | undefined;
}

const TIMEOUT_MS = 5_000;
const ANSWER_LIMIT = 256 * 1024;
const MOST_KEYS = 50;
/** Keys are good for so long without being fetched anew, and for so long where that isn't possible; milliseconds. */
const FRESH_MS = 10 * 60_000;
const GOOD_FOR_MS = 60 * 60_000;
/** A key that isn't known, and an address that gave none, are asked for again after so long. */
const UNKNOWN_AGAIN_MS = 60_000;
const FAILED_AGAIN_MS = 10_000;
/** Keys tried for a signature that names none. */
const MOST_TRIED = 5;
/** Never a shared secret: whoever knows the open key could sign with it. */
const ALGORITHMS = ['ES256', 'ES384', 'ES512', 'RS256', 'PS256', 'Ed25519', 'EdDSA'];

/**
 * Keys of those who sign (JWK Set, RFC 7517), fetched when they are needed: all who wait for them share one fetch, and
 * whoever names a key that isn't there makes nobody fetch more than once a minute.
 */
export class KeySets {
  private readonly held = new Map<string, Held>();

  constructor(
    private readonly dispatcher: Dispatcher,
    private readonly now: () => number = Date.now,
  ) {}

  /** @throws JOSEError for what isn't signed by one of the keys, or doesn't say what it has to; SystemTrouble without keys */
  async verify(address: string, token: string, options: JWTVerifyOptions): Promise<JWTVerifyResult> {
    const held = this.of(address);
    if (!held.set || this.now() - held.at > FRESH_MS) await this.fetch(address, held, FAILED_AGAIN_MS);
    const given = { ...options, algorithms: ALGORITHMS };
    try {
      return await verifiedBy(held.set!, token, given);
    } catch (error) {
      if (!(error instanceof errors.JWKSNoMatchingKey) || this.now() - held.triedAt < UNKNOWN_AGAIN_MS) throw error;
      // It may be new.
      await this.fetch(address, held, UNKNOWN_AGAIN_MS);
      return verifiedBy(held.set!, token, given);
    }
  }

  private of(address: string): Held {
    const held = this.held.get(address) ?? {
      set: undefined,
      at: 0,
      triedAt: 0,
      trouble: undefined,
      fetching: undefined,
    };
    this.held.set(address, held);
    return held;
  }

  private async fetch(address: string, held: Held, againMs: number): Promise<void> {
    if (!held.fetching && (held.triedAt === 0 || this.now() - held.triedAt > againMs || !held.trouble)) {
      held.triedAt = this.now();
      held.fetching = keysAt(address, this.dispatcher)
        .then((set) => {
          held.set = set;
          held.at = this.now();
          held.trouble = undefined;
        })
        .catch((error: unknown) => {
          held.trouble = error as Error;
        })
        .finally(() => {
          held.fetching = undefined;
        });
    }
    await held.fetching;
    // Older ones do while no newer ones are to be had, for a while.
    if (held.trouble && (!held.set || this.now() - held.at > GOOD_FOR_MS)) throw held.trouble;
  }
}

async function verifiedBy(set: KeySet, token: string, options: JWTVerifyOptions): Promise<JWTVerifyResult> {
  try {
    return await jwtVerify(token, set, options);
  } catch (error) {
    if (!(error instanceof errors.JWKSMultipleMatchingKeys)) throw error;
    let tried = 0;
    for await (const key of error) {
      if ((tried += 1) > MOST_TRIED) break;
      try {
        return await jwtVerify(token, key, options);
      } catch (other) {
        if (!(other instanceof errors.JWSSignatureVerificationFailed)) throw other;
      }
    }
    throw new errors.JWSSignatureVerificationFailed();
  }
}

async function keysAt(address: string, dispatcher: Dispatcher): Promise<KeySet> {
  const send = overHttp(TIMEOUT_MS, dispatcher, ANSWER_LIMIT);
  try {
    const headers = { Accept: 'application/jwk-set+json, application/json' };
    const { status, text } = await send({ method: 'GET', url: address, headers, repeatable: true });
    if (status !== 200) throw new NotUnderstood(`Its keys are not to be had: it answers ${status}.`);
    const read = JSON.parse(text) as JSONWebKeySet;
    if (!Array.isArray(read?.keys))
      throw new NotUnderstood('Its keys are not to be had: what it answers is no key set.');
    if (read.keys.length > MOST_KEYS) throw new NotUnderstood(`It shows more than ${MOST_KEYS} keys.`);
    return createLocalJWKSet(read);
  } catch (error) {
    if (isSystemTrouble(error)) throw error;
    throw new NotUnderstood('Its keys are not to be had: what it answers is no key set.');
  }
}
