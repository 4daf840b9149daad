import { errors } from 'jose';
import type { KeySets } from './key-sets.ts';

/** What a page tells of itself and of whoever looks at it, as its system has signed it. */
export interface SignedContext {
  person: string;
  name: string;
  email?: string;
  /** The record whose page it is; absent where it isn't one's. */
  entity?: string;
  record?: string;
  /** Names it among all of its issuer, and until when it can be good. */
  id: string;
  until: Date;
}

/** Why a signed context isn't taken, for whoever sees the page in its place. */
export class ContextRefused extends Error {}

/** Characters; a usual one has about 600. */
const LONGEST = 8_000;
/** A context is good for five minutes, whatever it says of itself; clocks may differ by half a minute. */
const GOOD_FOR_S = 300;
const CLOCK_S = 30;
const MOST_SAID = 255;

/**
 * Reads a signed context (JWS, RFC 7515; claims by RFC 7519).
 * @param expected who has to have signed it, with which keys, and for which addresses
 * @throws ContextRefused, or SystemTrouble where the keys aren't to be had
 */
export async function readContext(
  keys: KeySets,
  token: string,
  expected: { issuer: string; keysAddress: string; audience: string },
): Promise<SignedContext> {
  if (token.length > LONGEST) throw new ContextRefused(`It has more than ${LONGEST} characters.`);
  const { issuer, keysAddress, audience } = expected;
  try {
    const { payload } = await keys.verify(keysAddress, token, {
      ...{ issuer, audience, clockTolerance: CLOCK_S, maxTokenAge: GOOD_FOR_S },
      requiredClaims: ['sub', 'exp', 'iat', 'jti'],
    });
    const said = (claim: string): string | undefined => {
      const value = payload[claim];
      if (value === undefined) return undefined;
      if (typeof value !== 'string' || value === '' || value.length > MOST_SAID)
        throw new ContextRefused(`What it says as “${claim}” is no text of at most ${MOST_SAID} characters.`);
      return value;
    };
    const [person, id, email, entity, record] = [
      said('sub')!,
      said('jti')!,
      said('email'),
      said('entity'),
      said('record'),
    ];
    if ((entity === undefined) !== (record === undefined))
      throw new ContextRefused('It names an entity or a record, and not both.');
    return {
      ...{
        person,
        id,
        name: said('name') ?? person,
        until: new Date((payload.iat! + GOOD_FOR_S + 2 * CLOCK_S) * 1000),
      },
      ...(email === undefined ? {} : { email }),
      ...(entity === undefined || record === undefined ? {} : { entity, record }),
    };
  } catch (error) {
    if (error instanceof errors.JOSEError) throw new ContextRefused(whyNot(error, expected));
    throw error;
  }
}

function whyNot(error: errors.JOSEError, { issuer, audience }: { issuer: string; audience: string }): string {
  if (error instanceof errors.JWTExpired) return 'It is too old; the page has to be opened anew.';
  if (error instanceof errors.JWTClaimValidationFailed) {
    if (error.reason === 'missing') return `It doesn’t say its “${error.claim}”.`;
    if (error.claim === 'iss') return `It is not signed as ${issuer}.`;
    if (error.claim === 'aud') return `It is not meant for ${audience}.`;
    if (error.claim === 'iat') return 'It says that it was signed in the future.';
    return `What it says as “${error.claim}” won’t do.`;
  }
  if (error instanceof errors.JOSEAlgNotAllowed || error instanceof errors.JOSENotSupported)
    return 'It is signed in a way that isn’t taken.';
  if (error instanceof errors.JWKSNoMatchingKey) return 'It is signed with a key that its issuer doesn’t show.';
  if (error instanceof errors.JWSSignatureVerificationFailed) return 'Its signature is not the issuer’s.';
  return 'It is no signed context.';
}
