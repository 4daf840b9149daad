import { Webhook, WebhookVerificationError } from 'standardwebhooks';
import { Problem } from './problem.ts';

/** Where a signed message says who it is (Standard Webhooks). */
export const EVENT_ID = 'webhook-id';

/**
 * Checks that a message is signed with one of the keys, lately (5 minutes either way), as Standard Webhooks says.
 * @param keys several while one takes over from another; the signature header may hold several too
 * @returns the message's id, under which it has its effect once however often it is sent
 * @throws Problem 401 that says what is wrong with the signature, never which key was tried
 */
export function verifySignature(bytes: Buffer, headers: Record<string, unknown>, keys: readonly string[]): string {
  if (keys.length === 0)
    throw unsigned('This intake takes signed events only, and none of its keys is good any more; nothing is taken.');
  const text = (name: string): string => (typeof headers[name] === 'string' ? headers[name] : '');
  const signed = {
    [EVENT_ID]: text(EVENT_ID),
    'webhook-timestamp': text('webhook-timestamp'),
    'webhook-signature': text('webhook-signature'),
  };
  const missing = Object.entries(signed).find(([, value]) => value === '')?.[0];
  if (missing) throw unsigned(`The header ${missing} is missing; this intake takes signed events only.`);
  if (signed[EVENT_ID]!.length > 150) throw unsigned(`${EVENT_ID} has more than 150 characters.`);
  let words = '';
  for (const key of keys) {
    try {
      new Webhook(key).verify(bytes, signed, { jsonParse: false });
      return signed[EVENT_ID]!;
    } catch (error) {
      if (!(error instanceof WebhookVerificationError)) throw error;
      words = error.message;
    }
  }
  throw unsigned(
    /too (old|new)/.test(words)
      ? 'The event was signed more than 5 minutes from now; it is not taken, so that nobody can play it back.'
      : 'The signature fits none of the keys of this intake.',
  );
}

const unsigned = (detail: string): Problem => new Problem(401, 'Not signed as it should be', detail);
