import type { Dispatcher } from 'undici';
import { Webhook, WebhookVerificationError } from 'standardwebhooks';
import { parseJson, UnreadableBody } from '../bodies/index.ts';
import { NotUnderstood, overHttp, withoutSecret, withPatience } from '../systems/index.ts';
import { NotSigned, UnreadableEvent, type PaymentService, type PaymentEvent } from './service.ts';

export interface PaymentServiceSettings {
  /** Where its API begins: `…/v1/sessions` is asked beneath it. */
  address: string;
  key: string;
  /** By it its events are signed (Standard Webhooks). */
  signing: string;
}

const TIMEOUT_MS = 10_000;
/** An answer of it is a few hundred characters. */
const MOST_ANSWER = 64 * 1024;
const EVENT_LIMITS = { depth: 8, values: 200 };
const WHAT: Record<string, PaymentEvent['what']> = {
  'payment.paid': 'paid',
  'payment.failed': 'refused',
  'payment.refunded': 'refunded',
};

/** A payment service that is asked over HTTP with a key, and tells what became of payments by signed events. */
export function paymentsOverHttp(
  { address, key, signing }: PaymentServiceSettings,
  dispatcher: Dispatcher,
): PaymentService {
  const send = withPatience(withoutSecret(overHttp(TIMEOUT_MS, dispatcher, MOST_ANSWER), key));
  return {
    begin: async ({ reference, minor, currency, description, back }) => {
      const { status, text } = await send({
        method: 'POST',
        url: `${address.replace(/\/$/, '')}/v1/sessions`,
        headers: {
          'Content-Type': 'application/json',
          Accept: 'application/json',
          Authorization: `Bearer ${key}`,
          'Idempotency-Key': reference,
        },
        body: JSON.stringify({ reference, amount: minor, currency, description, return_address: back }),
        repeatable: true,
      });
      if (status >= 300) throw new NotUnderstood(`The payment service says ${status}: ${text.slice(0, 200)}`);
      const { id, page, amount } = asObject(text);
      const isPage =
        typeof page === 'string' && page.length <= 2000 && /^https?:\/\//i.test(page) && URL.canParse(page);
      if (typeof id !== 'string' || id === '' || id.length > 200 || !isPage)
        throw new NotUnderstood('The payment service answered without a payment’s number and page.');
      if (amount !== minor) throw new NotUnderstood('The payment service has begun a payment of another amount.');
      return { session: id, page };
    },
    ofEvent: (bytes, headers) => {
      verified(bytes, headers, signing);
      const event = read(bytes);
      const what = WHAT[String(event['type'])];
      if (what === undefined) return undefined;
      const { reference, amount, currency, test, words } = (event['data'] ?? {}) as Record<string, unknown>;
      if (typeof reference !== 'string' || reference.length > 100)
        throw new UnreadableEvent('data.reference', 'is needed');
      if (!Number.isSafeInteger(amount)) throw new UnreadableEvent('data.amount', 'is no whole number');
      if (typeof currency !== 'string' || currency.length !== 3)
        throw new UnreadableEvent('data.currency', 'is no currency');
      return {
        ...{
          what,
          reference,
          currency,
          minor: amount as number,
          test: test === true,
          at: momentOf(event['timestamp']),
        },
        ...(typeof words === 'string' && words !== '' ? { words: words.slice(0, 300) } : {}),
      };
    },
  };
}

/** A moment that is told; one that is none, or still to come, is now. */
function momentOf(told: unknown): Date {
  const now = new Date();
  const at = typeof told === 'string' && told.length <= 40 ? new Date(told) : now;
  return at.getTime() < now.getTime() ? at : now;
}

function asObject(text: string): Record<string, unknown> {
  try {
    const value: unknown = JSON.parse(text);
    return typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {};
  } catch {
    throw new NotUnderstood('The payment service answered with something that is no JSON.');
  }
}

/** @throws NotSigned unless it is signed by the key, lately */
function verified(bytes: Buffer, headers: Record<string, unknown>, signing: string): void {
  const signed = Object.fromEntries(
    ['webhook-id', 'webhook-timestamp', 'webhook-signature'].map((name) => [name, String(headers[name] ?? '')]),
  );
  try {
    new Webhook(signing).verify(bytes, signed, { jsonParse: false });
  } catch (error) {
    if (!(error instanceof WebhookVerificationError)) throw error;
    throw new NotSigned('The event isn’t signed by this payment service, or not lately.');
  }
}

function read(bytes: Buffer): Record<string, unknown> {
  try {
    const event = parseJson(bytes, EVENT_LIMITS);
    if (typeof event !== 'object' || event === null) throw new UnreadableEvent('', 'is no object');
    return event as Record<string, unknown>;
  } catch (error) {
    if (error instanceof UnreadableBody) throw new UnreadableEvent(error.field, error.reason);
    throw error;
  }
}
