import { kindOfRefusal, type Refusal } from '@zusammen/core/plans';
import type { HttpResponse } from '../http.ts';

/** Failed Dependency (RFC 4918, 11.4): one that was to be done together with this one was refused. */
const NOT_ALONE = 424;

/** An OData error body (JSON Format 4.01, 21.1) in our terms; anything else in as many of its words as are safe to keep. */
export function refusalOf(response: Pick<HttpResponse, 'status' | 'text'>): Refusal {
  const refusal: Refusal = {
    kind: kindOfRefusal(response.status),
    words: `It answers ${response.status}.`,
    fields: [],
    status: response.status,
  };
  if (response.status === NOT_ALONE) return { ...refusal, words: 'Not done, since another row was refused.' };
  try {
    const { error } = JSON.parse(response.text) as {
      error?: { message?: unknown; target?: unknown; details?: unknown };
    };
    const message = wordsIn(error?.message);
    if (message !== undefined) refusal.words = message.slice(0, 2000);
    const details = Array.isArray(error?.details) ? error.details : [error];
    refusal.fields = (details as { message?: unknown; target?: unknown }[]).flatMap((each) =>
      typeof each?.target === 'string' && typeof each.message === 'string'
        ? [{ field: each.target, words: each.message.slice(0, 500) }]
        : [],
    );
  } catch {
    if (!/^\s*</.test(response.text) && response.text !== '') refusal.words = response.text.slice(0, 500);
  }
  return refusal;
}

/** A message is a text; in OData 2 and 3 it was an object with a language, and some still send that. */
function wordsIn(message: unknown): string | undefined {
  if (typeof message === 'string') return message === '' ? undefined : message;
  const value = (message as { value?: unknown } | null | undefined)?.value;
  return typeof value === 'string' && value !== '' ? value : undefined;
}

/** What it answered, in a sentence: the status, and its own words where it has any. */
export function saidIn(response: Pick<HttpResponse, 'status' | 'text'>): string {
  const { words } = refusalOf(response);
  const status = `It answers ${response.status}`;
  return words.startsWith(status) ? words : `${status}: ${words}`;
}

/** The words of an error that came under a status of success: nothing can be relied upon then. */
export function errorInside(text: string): string | undefined {
  if (!/^\s*\{\s*"error"\s*:/.test(text)) return undefined;
  try {
    const { error } = JSON.parse(text) as { error?: { message?: unknown } };
    return wordsIn(error?.message)?.slice(0, 500) ?? 'no words';
  } catch {
    return undefined;
  }
}
