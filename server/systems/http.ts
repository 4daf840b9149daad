import type { Readable } from 'node:stream';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import { request, type Dispatcher } from 'undici';
import { refusalOf } from './odata/refusal.ts';
import { NotPublic } from './reach.ts';
import { NotUnderstood, SystemUnavailable, type TroubleCode } from './system.ts';

export interface HttpRequest {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  url: string;
  headers: Record<string, string>;
  body?: string;
  /** May be sent again without knowing what became of the first: reading, or a repeatable write. */
  repeatable: boolean;
  /** Writes with the same may go out together (batch.ts). */
  group?: string;
  /** All of its group are done, or none. */
  atomic?: boolean;
  /** Little is sent and little comes back: it may go along with others while many are under way. */
  small?: boolean;
}

export interface HttpResponse {
  status: number;
  /** By lower-case name. */
  headers: Record<string, string | undefined>;
  text: string;
}

/** Layers wrap: each takes a sender and gives a sender, and knows nothing of the ones outside it. */
export type Send = (request: HttpRequest) => Promise<HttpResponse>;

/** Bytes taken of one answer, however it is sent. */
const ANSWER_LIMIT = 32 * 1024 * 1024;
/** An answer that drips is waited for this many times as long as its first byte may take. */
const OVERALL = 1.5;

/**
 * The innermost layer: one request, one answer.
 * @param timeoutMs how long the answer may take to begin, and to go on; the whole of it half as long again
 * @throws SystemUnavailable when there is none in that time, NotUnderstood when it is too large or not to be reached
 */
export function overHttp(timeoutMs: number, dispatcher: Dispatcher, answerLimit = ANSWER_LIMIT): Send {
  return async ({ method, url, headers, body }) => {
    // Put away when the answer is there: left to run out, each of them costs something half a minute later.
    const overall = new AbortController();
    const late = setTimeout(() => overall.abort(), timeoutMs * OVERALL);
    try {
      const {
        statusCode,
        headers: answered,
        body: stream,
      } = await request(url, {
        method,
        headers,
        ...(body === undefined ? {} : { body }),
        dispatcher,
        headersTimeout: timeoutMs,
        bodyTimeout: timeoutMs,
        signal: overall.signal,
      });
      return {
        status: statusCode,
        headers: Object.fromEntries(
          Object.entries(answered).map(([name, value]) => [name, Array.isArray(value) ? value.join(', ') : value]),
        ),
        text: await textWithin(unpacked(stream, String(answered['content-encoding'] ?? '')), answerLimit),
      };
    } catch (error) {
      if (error instanceof NotUnderstood) throw error;
      const { code, message } = error as Error & { code?: string };
      if (error instanceof NotPublic) throw new SystemUnavailable(error.message);
      if (overall.signal.aborted || code === 'UND_ERR_HEADERS_TIMEOUT' || code === 'UND_ERR_BODY_TIMEOUT')
        throw new SystemUnavailable(
          `No whole answer within ${(timeoutMs * (overall.signal.aborted ? OVERALL : 1)) / 1000} s.`,
        );
      throw new SystemUnavailable(`The connection failed (${code ?? message}).`);
    } finally {
      clearTimeout(late);
    }
  };
}

/** Some compress although nobody asked them to (RFC 9110, 8.4). */
function unpacked(stream: Readable, coding: string): Readable {
  const made = { gzip: createGunzip, 'x-gzip': createGunzip, deflate: createInflate, br: createBrotliDecompress };
  const unpack = made[coding.trim().toLowerCase() as keyof typeof made];
  if (!unpack) return stream;
  const unpacking = unpack();
  stream.once('error', (error) => unpacking.destroy(error));
  unpacking.once('close', () => stream.destroy());
  return stream.pipe(unpacking);
}

/** A body as text. @throws NotUnderstood as soon as it is larger than the limit, whatever its headers promised */
async function textWithin(stream: Readable, limit: number): Promise<string> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > limit) {
      stream.destroy();
      throw new NotUnderstood(`The answer is larger than ${limit / 1024 / 1024} MiB.`);
    }
    chunks.push(chunk);
  }
  return new TextDecoder().decode(Buffer.concat(chunks));
}

/** A secret shorter than this is part of many words. */
const SHORTEST_SECRET = 6;

/**
 * Takes our secret out of what a system says when something is wrong: it may echo the request, and its words are kept
 * and shown.
 */
export function withoutSecret(send: Send, secret: string): Send {
  if (secret.length < SHORTEST_SECRET) return send;
  const forms = [secret, encodeURIComponent(secret), Buffer.from(secret).toString('base64')];
  const cleaned = (text: string): string => forms.reduce((said, form) => said.replaceAll(form, '•••'), text);
  return async (request) => {
    const response = await send(request);
    const trouble = response.status >= 300 || /^\s*\{\s*"error"\s*:/.test(response.text);
    if (!trouble) return response;
    const headers = Object.entries(response.headers).map(([name, value]) => [name, value && cleaned(value)]);
    return { ...response, text: cleaned(response.text), headers: Object.fromEntries(headers) };
  };
}

/**
 * Turns answers that mean "not now" (429, 5xx) into errors that carry how long to wait. What a system doesn't do at all
 * (501, RFC 9110, 15.6.2; 505) it won't do later either: that is an answer like any other.
 * @param waits further statuses by which a system asks for patience
 */
export function withPatience(send: Send, waits: readonly number[] = []): Send {
  return async (request) => {
    const response = await send(request);
    const { status } = response;
    const later = status === 429 || waits.includes(status);
    if (!later && (status < 500 || FINAL.has(status))) return response;
    const wait = retryAfter(response.headers['retry-after'], Date.now()) ?? (later ? untilReset(response) : undefined);
    const said = wordsOf(response);
    throw new SystemUnavailable(
      later ? 'It asks for patience.' : `It answers ${status}${said === undefined ? '.' : `: ${said}`}`,
      wait ?? (later ? 1000 : undefined),
      later ? 429 : status,
    );
  };
}

/**
 * How long until there may be more, in milliseconds: the RateLimit header's `t` (IETF draft "RateLimit header fields for
 * HTTP"), or its older RateLimit-Reset, in seconds.
 */
function untilReset({ headers }: HttpResponse): number | undefined {
  const said = /[;,]\s*t=(\d{1,6})\b/.exec(headers['ratelimit'] ?? '')?.[1] ?? headers['ratelimit-reset'];
  return said !== undefined && /^\d{1,6}$/.test(said) ? Math.min(Number(said) * 1000, 3_600_000) : undefined;
}

/** Not Implemented, and HTTP Version Not Supported. */
const FINAL = new Set([501, 505]);

/** What an error says in its own words, as far as it is words. */
function wordsOf({ text, status }: HttpResponse): string | undefined {
  const { words } = refusalOf({ text: text.slice(0, 10_000), status });
  const whole = words.replace(/\s+/g, ' ').trim();
  return whole === '' || whole === `It answers ${status}.` ? undefined : whole.slice(0, 300);
}

/** Retry-After (RFC 9110, 10.2.3) in milliseconds: seconds or a date; at most an hour. */
export function retryAfter(header: string | undefined, now: number): number | undefined {
  if (header === undefined) return undefined;
  const ms = /^\d+$/.test(header.trim()) ? Number(header) * 1000 : Date.parse(header) - now;
  return Number.isFinite(ms) ? Math.min(Math.max(0, ms), 3_600_000) : undefined;
}

/** What any process was asked by a system, shared by all of them. */
export interface SharedPatience {
  /** Until when it is to be left alone, in milliseconds since 1970. */
  until(): Promise<number>;
  /** It has asked for it. */
  asked(until: number): void;
}

/** Keeps to the patience that a system has asked of any process of ours, not only of this one. */
export function withSharedPatience(send: Send, shared: SharedPatience, now: () => number = Date.now): Send {
  return async (request) => {
    const until = await shared.until();
    if (until > now())
      throw new SystemUnavailable('It asks for patience.', until - now(), undefined, 'asks for patience');
    try {
      return await send(request);
    } catch (error) {
      if (error instanceof SystemUnavailable && error.waitMs !== undefined) shared.asked(now() + error.waitMs);
      throw error;
    }
  };
}

export interface RetrySettings {
  /** Times a request is sent at most. */
  attempts: number;
  /** The first pause in milliseconds; doubles with every failure, with full jitter. */
  pauseMs: number;
  /** A longer wait asked for by the system isn't waited out here, but passed on. */
  longestWaitMs: number;
}

/** Sends repeatable requests again after short trouble. */
export function withRetry(
  send: Send,
  { attempts, pauseMs, longestWaitMs }: RetrySettings,
  random: () => number = Math.random,
): Send {
  return async (request) => {
    for (let attempt = 1; ; attempt += 1) {
      try {
        return await send(request);
      } catch (error) {
        if (!(error instanceof SystemUnavailable) || !request.repeatable || attempt >= attempts) throw error;
        const wait = error.waitMs ?? random() * pauseMs * 2 ** (attempt - 1);
        if (wait > longestWaitMs) throw error;
        await new Promise((resolve) => setTimeout(resolve, wait));
      }
    }
  };
}

export interface CircuitSettings {
  /** Failures in a row after which nothing is sent for a while. */
  failures: number;
  /** Milliseconds of silence before one request tries again. */
  restMs: number;
}

/** Spares a system in trouble, and everybody else the waiting: after some failures in a row it answers by itself. */
export function withCircuit(send: Send, { failures, restMs }: CircuitSettings, now: () => number = Date.now): Send {
  let failed = 0;
  let closedUntil = 0;
  let probing = false;
  let trouble: TroubleCode = 'in trouble';
  return async (request) => {
    const wait = closedUntil - now();
    // After the rest one goes ahead and tries; the others wait for what comes of it.
    if (wait > 0 || probing)
      throw new SystemUnavailable(
        'It has been in trouble; the next try comes soon.',
        Math.max(wait, PROBE_MS),
        undefined,
        trouble,
      );
    const probe = failed >= failures;
    probing = probe;
    try {
      const response = await send(request);
      failed = 0;
      closedUntil = 0;
      return response;
    } catch (error) {
      if (error instanceof SystemUnavailable) {
        failed += 1;
        trouble = error.code;
        // Patience asked for is kept for everybody who wants to send.
        if (error.waitMs !== undefined)
          closedUntil = Math.max(closedUntil, now() + Math.min(error.waitMs, restMs * 10));
        else if (failed >= failures) closedUntil = now() + restMs;
      }
      throw error;
    } finally {
      if (probe) probing = false;
    }
  };
}

/** How soon those look again that came while one was trying, in milliseconds. */
const PROBE_MS = 200;

/** At most `limit` requests of ours are with a system at once. */
export function withBudget(send: Send, limit: number): Send {
  let running = 0;
  const waiting: (() => void)[] = [];
  return async (request) => {
    if (running >= limit) await new Promise<void>((resolve) => waiting.push(resolve));
    else running += 1;
    try {
      return await send(request);
    } finally {
      // The place goes straight to whoever waits, so `running` stays as it is.
      const next = waiting.shift();
      if (next) next();
      else running -= 1;
    }
  };
}
