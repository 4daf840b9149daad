import type { CustomFetch } from 'openid-client';
import type { Dispatcher } from 'undici';
import { overHttp, withPatience, type HttpRequest } from './http.ts';

const TIMEOUT_MS = 15_000;
const ANSWER_LIMIT = 256 * 1024;

/** How an OAuth client asks: over our own connections, so that what may be reached is reached, and nothing for ever. */
export function oauthFetch(dispatcher: Dispatcher, timeoutMs = TIMEOUT_MS): CustomFetch {
  const send = withPatience(overHttp(timeoutMs, dispatcher, ANSWER_LIMIT));
  return async (url, { method, headers, body }) => {
    const text = body instanceof URLSearchParams ? body.toString() : typeof body === 'string' ? body : undefined;
    const response = await send({
      method: method as HttpRequest['method'],
      url,
      headers: headers,
      ...(text === undefined ? {} : { body: text }),
      repeatable: false,
    });
    const names = Object.entries(response.headers).flatMap(([name, value]) =>
      value === undefined || name === 'content-encoding' ? [] : [[name, value] as [string, string]],
    );
    return new Response([204, 304].includes(response.status) ? null : response.text, {
      status: response.status,
      headers: names,
    });
  };
}
