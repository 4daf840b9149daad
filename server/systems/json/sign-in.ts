import type { AdapterSignIn } from '@zusammen/core/adapters';
import { withoutSecret, type HttpRequest, type Send } from '../http.ts';
import type { SignInSecrets, TokenSource } from './tokens.ts';

/**
 * Says with every request who asks, as the adapter has it, and takes the secret out of what the system says of it. A
 * token that is refused although it should still hold is replaced once.
 */
export function withSignIn(send: Send, signIn: AdapterSignIn, secrets: SignInSecrets, tokens: TokenSource): Send {
  if (signIn.kind === 'none') return send;
  const own = ownSignIn(send, signIn, secrets, tokens);
  // Somebody acts as themselves, and has said so already.
  return (request) => (request.headers['Authorization'] === undefined ? own(request) : send(request));
}

function ownSignIn(send: Send, signIn: AdapterSignIn, secrets: SignInSecrets, tokens: TokenSource): Send {
  const { kind } = signIn;
  if (kind === 'client credentials' || kind === 'authorization code')
    return async (request) => {
      const { value, issue } = await tokens.token();
      const response = await bearing(send, request, value);
      if (response.status !== 401) return response;
      tokens.refused(issue);
      const other = await tokens.token();
      return other.issue === issue ? response : bearing(send, request, other.value);
    };
  if (kind === 'basic') {
    const { user = '', password = '' } = secrets;
    const pair = Buffer.from(`${user}:${password}`, 'utf8').toString('base64');
    const hidden = withoutSecret(withoutSecret(send, password), pair);
    return (request) => hidden(withHeader(request, 'Authorization', `Basic ${pair}`));
  }
  const { key = '' } = secrets;
  if (kind === 'query') {
    const hidden = withoutSecret(send, key);
    return (request) => hidden({ ...request, url: withParameter(request.url, signIn.name ?? 'key', key) });
  }
  if (kind === 'header') {
    const hidden = withoutSecret(send, key);
    const value = signIn.prefix === undefined ? key : `${signIn.prefix} ${key}`;
    return (request) => hidden(withHeader(request, signIn.name ?? 'Authorization', value));
  }
  return (request) => bearing(send, request, key);
}

/** With somebody's own token in place of the connection's (OAuth 2.0 bearer, RFC 6750). */
export const withBearer =
  (send: Send, token: string): Send =>
  (request) =>
    bearing(send, request, token);

const bearing = (send: Send, request: HttpRequest, token: string) =>
  withoutSecret(send, token)(withHeader(request, 'Authorization', `Bearer ${token}`));

const withHeader = (request: HttpRequest, name: string, value: string): HttpRequest => ({
  ...request,
  headers: { ...request.headers, [name]: value },
});

const withParameter = (url: string, name: string, value: string): string =>
  `${url}${url.includes('?') ? '&' : '?'}${encodeURIComponent(name)}=${encodeURIComponent(value)}`;
