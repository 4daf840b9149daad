import { createLocalJWKSet, errors, jwtVerify, SignJWT } from 'jose';
import type { SigningKeys } from '../../access/index.ts';
import { Problem } from '../problem.ts';

/**
 * Links to a form that begin with a record: JSON Web Tokens (RFC 7519), signed with ES256. Whoever has one is shown what the
 * form begins with of that record, and changes it; nobody can make one for another record.
 */

export interface LinkTo {
  /** The intake's key. */
  intake: string;
  /** The record's entity, where it isn't the first that the form may be opened with; and its id. */
  entity?: string | undefined;
  record: string;
  /** Good for so many days. */
  days: number;
  /** Only one submission comes of it. */
  once: boolean;
}

/** What a link says, once its signature was found to be ours. */
export interface ReadLink {
  entity: string | undefined;
  record: string;
  /** Names the one submission that may come of it; undefined: it may be used often. */
  once: string | undefined;
}

/** Characters; a link of ours has about 400. */
const LONGEST = 2_000;
const CLOCK_SECONDS = 60;

export class Links {
  constructor(
    private readonly keys: SigningKeys,
    /** Who signs, and for whom: this installation's address. */
    private readonly issuer: string,
  ) {}

  private audience(intake: string): string {
    return `${this.issuer}/f/${intake}`;
  }

  /** @returns the address of the form with this record, and until when it is good */
  async make({ intake, entity, record, days, once }: LinkTo): Promise<{ address: string; until: Date }> {
    const [key] = await this.keys.all();
    const until = new Date(Date.now() + days * 86_400_000);
    const token = await new SignJWT({ once, ...(entity === undefined ? {} : { entity }) })
      .setProtectedHeader({ alg: 'ES256', kid: key!.kid, typ: 'JWT' })
      .setIssuer(this.issuer)
      .setAudience(this.audience(intake))
      .setSubject(record)
      .setJti(crypto.randomUUID())
      .setIssuedAt()
      .setExpirationTime(until)
      .sign(key!.secret);
    return { address: `/f/${intake}?link=${token}`, until };
  }

  /** @throws Problem 403 for what isn't ours, was altered, is for another form, or is too old */
  async read(token: string, intake: string): Promise<ReadLink> {
    if (token.length > LONGEST) throw notGood();
    const keys = createLocalJWKSet({ keys: (await this.keys.all()).map(({ shown }) => shown) });
    try {
      const { payload } = await jwtVerify(token, keys, {
        algorithms: ['ES256'],
        issuer: this.issuer,
        audience: this.audience(intake),
        requiredClaims: ['sub', 'exp', 'jti'],
        clockTolerance: CLOCK_SECONDS,
      });
      if (typeof payload.sub !== 'string' || payload.sub === '' || payload.sub.length > 255) throw notGood();
      const entity = typeof payload['entity'] === 'string' ? payload['entity'] : undefined;
      return { entity, record: payload.sub, once: payload['once'] === true ? payload.jti : undefined };
    } catch (error) {
      if (error instanceof errors.JWTExpired)
        throw new Problem(403, 'Too old', 'This link was good for a while only; please ask for another one.');
      throw error instanceof errors.JOSEError ? notGood() : error;
    }
  }
}

const notGood = (): Problem =>
  new Problem(
    403,
    'Not a good link',
    'This link isn’t one of ours, or isn’t complete; please open it just as it was sent.',
  );
