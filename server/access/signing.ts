import { calculateJwkThumbprint, exportJWK, generateKeyPair, importJWK, type CryptoKey, type JWK } from 'jose';
import { sealedKeys, type Database } from '../store/index.ts';
import type { Sealer } from './sealing.ts';

/** A key as it signs, and as whoever checks it knows it (JWK, RFC 7517). */
export interface SigningKey {
  kid: string;
  secret: CryptoKey;
  shown: JWK;
}

const ABOUT = 'signing keys';
const ALGORITHM = 'ES256';

/**
 * The keys that this installation signs links with (ES256, RFC 7518). They are made when first needed, kept sealed in the
 * database, and shown at `/.well-known/jwks.json` without their secret half.
 */
export class SigningKeys {
  private known: Promise<SigningKey[]> | undefined;

  constructor(
    private readonly db: Database,
    private readonly sealer: Sealer,
  ) {}

  /** All of them, the one that signs first. */
  all(): Promise<SigningKey[]> {
    this.known ??= this.read();
    this.known.catch(() => (this.known = undefined));
    return this.known;
  }

  private async read(): Promise<SigningKey[]> {
    const sealed = await sealedKeys(this.db, () => this.fresh());
    const kept = JSON.parse(this.sealer.open(sealed, ABOUT)) as JWK[];
    return Promise.all(
      kept.map(async (jwk) => {
        const { d: _, ...shown } = jwk;
        const kid = await calculateJwkThumbprint(shown);
        const secret = (await importJWK(jwk, ALGORITHM)) as CryptoKey;
        return { kid, secret, shown: { ...shown, kid, alg: ALGORITHM, use: 'sig' } };
      }),
    );
  }

  private async fresh(): Promise<string> {
    const { privateKey } = await generateKeyPair(ALGORITHM, { extractable: true });
    return this.sealer.seal(JSON.stringify([await exportJWK(privateKey)]), ABOUT);
  }
}
