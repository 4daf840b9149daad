import { allowInsecureRequests, customFetch, discovery, type ServerMetadata } from 'openid-client';
import type { Dispatcher } from 'undici';
import { oauthFetch } from '../systems/index.ts';

/** Where somebody's identity is told, as an authorization server publishes it. */
export interface FoundIssuer {
  issuer: string;
  keysAddress: string;
  tokenAddress: string;
  clientBy: 'header' | 'body';
}

/** Path segments of an address that may be part of an issuer's name. */
const MOST_SEGMENTS = 5;
const TIMEOUT_MS = 4_000;
const MOST_WORDS = 200;

/**
 * Looks where a system publishes who issues its tokens: as OAuth 2.0 Authorization Server Metadata (RFC 8414) of the
 * address, or of what it begins with, the longest first. What is published has to name that very issuer.
 * @returns what was found, or what was asked, and what came of it
 */
export async function findIssuer(
  address: string,
  dispatcher: Dispatcher,
): Promise<FoundIssuer | { asked: { issuer: string; said: string }[] }> {
  const asked: { issuer: string; said: string }[] = [];
  for (const issuer of candidatesOf(address)) {
    for (const algorithm of ['oauth2', 'oidc'] as const) {
      const found = await metadataOf(issuer, algorithm, dispatcher);
      if (typeof found === 'string') {
        if (algorithm === 'oauth2') asked.push({ issuer, said: found });
        continue;
      }
      const { jwks_uri: keysAddress, token_endpoint: tokenAddress } = found;
      if (!isWeb(keysAddress) || !isWeb(tokenAddress)) {
        asked.push({ issuer, said: 'It names no keys, or no place where tokens are exchanged.' });
        continue;
      }
      const ways = found.token_endpoint_auth_methods_supported;
      const clientBy = ways && !ways.includes('client_secret_basic') && ways.includes('client_secret_post');
      return { issuer: found.issuer, keysAddress, tokenAddress, clientBy: clientBy ? 'body' : 'header' };
    }
  }
  return { asked };
}

/** An address and what it begins with, as issuers are named: without a slash at the end, query or fragment. */
function candidatesOf(address: string): string[] {
  const { origin, pathname } = new URL(address);
  const segments = pathname.split('/').filter(Boolean).slice(0, MOST_SEGMENTS);
  return Array.from({ length: segments.length + 1 }, (_, less) =>
    [origin, ...segments.slice(0, segments.length - less)].join('/'),
  );
}

async function metadataOf(
  issuer: string,
  algorithm: 'oauth2' | 'oidc',
  dispatcher: Dispatcher,
): Promise<ServerMetadata | string> {
  try {
    const found = await discovery(new URL(issuer), 'nobody', undefined, undefined, {
      algorithm,
      [customFetch]: oauthFetch(dispatcher, TIMEOUT_MS),
      execute: issuer.startsWith('http:') ? [allowInsecureRequests] : [],
    });
    return found.serverMetadata();
  } catch (error) {
    const { message, cause } = error as Error;
    const told =
      cause instanceof Response ? `It answers ${cause.status}.` : ((cause as Error | undefined)?.message ?? message);
    return told.slice(0, MOST_WORDS);
  }
}

const isWeb = (address: string | undefined): address is string =>
  address !== undefined && address.length <= 500 && URL.canParse(address) && /^https?:/.test(address);
