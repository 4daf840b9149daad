import { pointerOf, isObject, type AdapterTrial, type FieldAdapter, type Finder } from '@zusammen/core/adapters';
import type { HttpRequest, HttpResponse } from '../http.ts';
import { type Answer } from '../system.ts';

/** One request with its answer, as it went. */
export interface Exchange {
  request: HttpRequest;
  response: HttpResponse;
  ms: number;
}

/** Values made up for a record of our own, where it isn't said which are needed. */
export const MOST_MADE_UP = 30;

export const placeOf = ({ parameter }: Finder): string => pointerOf('find', `{parameter=${parameter}}`);

export const fitted = (text: string, { maxLength = Infinity, maxBytes = Infinity }: FieldAdapter): string =>
  text.slice(0, Math.min(maxLength, maxBytes));

/** Whether a value is of another kind than its field. */
export function isStrange(value: unknown, { type, form }: FieldAdapter): boolean {
  if (value === undefined || value === null || form !== undefined) return false;
  if (type === 'integer' || type === 'number') return typeof value !== 'number';
  if (type === 'yes/no') return typeof value !== 'boolean';
  if (type === 'options') return !Array.isArray(value);
  if (type === 'date' || type === 'date and time')
    return typeof value !== 'string' || (value !== '' && !/^\d{4}-\d{2}-\d{2}/.test(value));
  return typeof value === 'object';
}

export function wordsOf(answer: Answer): string {
  if (answer.kind === 'refused') return answer.refusal.words;
  return answer.kind === 'unclear'
    ? 'It can’t be told which record was made.'
    : 'The record is gone, or was changed meanwhile.';
}

/** A trial as it is kept: what was sent and answered holds people's values, and is shown to who asked only. */
export const withoutAnswer = ({ answer: _, body: _body, ...rest }: AdapterTrial): AdapterTrial => rest;

const LONGEST_ANSWER = 6_000;

export function exchangeShown(
  { request, response, ms }: Exchange,
  address: string,
): Pick<AdapterTrial, 'request' | 'body' | 'status' | 'ms' | 'answer'> {
  const where = request.url.startsWith(address) ? request.url.slice(address.length) : request.url;
  return {
    request: `${request.method} ${where}`.slice(0, 500),
    ...(request.body === undefined ? {} : { body: request.body.slice(0, 2_000) }),
    status: response.status,
    ms,
    answer: shortened(response.text),
  };
}

/** An answer as it is shown: lists with their first two, long texts cut. */
function shortened(text: string): string {
  try {
    const short = (value: unknown, depth: number): unknown => {
      if (typeof value === 'string') return value.length > 120 ? `${value.slice(0, 120)}…` : value;
      if (Array.isArray(value))
        return depth > 6 ? [] : value.slice(0, value.every(isObject) ? 2 : 12).map((each) => short(each, depth + 1));
      if (!isObject(value)) return value;
      return Object.fromEntries(
        Object.entries(value)
          .slice(0, 60)
          .map(([name, each]) => [name, depth > 6 ? null : short(each, depth + 1)]),
      );
    };
    return JSON.stringify(short(JSON.parse(text), 0)).slice(0, LONGEST_ANSWER);
  } catch {
    return text.slice(0, 1_000);
  }
}
