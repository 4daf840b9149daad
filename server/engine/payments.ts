import { FEE_FIELDS, amountOf } from '@zusammen/core/forms/hosted';
import type { SubmittedValues } from '@zusammen/core/forms';
import { lanesOf } from '@zusammen/core/plans';
import type { PaymentEvent } from '../payments/index.ts';
import {
  hashed,
  lookAtPaid,
  movePayment,
  paymentById,
  queueAgain,
  settleByHand,
  submissionById,
  unpaidBefore,
  type Database,
  type Payment,
  type Submission,
} from '../store/index.ts';
import { KeyUsedOtherwise, type Acceptor } from './accept.ts';
import type { LiveView } from './live.ts';

/** What becomes of submissions when they are paid, not paid, or paid back. */

export interface Settling {
  db: Database;
  live: LiveView;
  acceptor: Acceptor;
}

/** So long a payment may take, in milliseconds; then what waits for it is set aside. */
export const PAID_WITHIN_MS = 24 * 3_600_000;
export const LAPSED = 'It wasn’t paid within a day.';

/**
 * Takes in what a payment service says of a payment: its submission is carried out when it is paid, exactly once, however
 * often that is said, and whatever comes first.
 * @returns false where no such payment is known: what is told comes before what it is about, or is about nothing of ours
 */
export async function settlePayment(settling: Settling, serviceId: string, event: PaymentEvent): Promise<boolean> {
  const { db } = settling;
  const payment = await paymentById(db, event.reference);
  if (!payment || payment.serviceId !== serviceId) return false;
  const submission = await submissionById(db, payment.submissionId);
  if (!submission) return false;
  if (event.what === 'refused') {
    await movePayment(db, payment.id, ['due', 'refused'], 'refused', { words: event.words ?? null, at: event.at });
    return true;
  }
  if (event.what === 'refunded') {
    await refund(settling, payment, submission, event.at);
    return true;
  }
  const differs = differenceOf(payment, event);
  if (differs !== undefined) {
    if (await movePayment(db, payment.id, ['due', 'refused', 'lapsed'], 'differs', { words: differs, at: event.at }))
      await lookAtPaid(db, submission.id, ['unpaid', 'set aside'], differs);
    return true;
  }
  // First it is queued, which works once only; broken off in between, the same event is sent again and finds it queued.
  const from = payment.state === 'lapsed' ? (['unpaid', 'set aside'] as const) : (['unpaid'] as const);
  if (payment.state !== 'paid' && payment.state !== 'refunded' && submission.forgottenAt === null)
    if (!(await queuePaid(settling, payment, submission, from, event.at)))
      await lookAtPaid(db, submission.id, ['set aside'], 'It was paid after somebody had set it aside.');
  await movePayment(db, payment.id, ['due', 'refused', 'lapsed'], 'paid', { at: event.at });
  return true;
}

/** What was paid otherwise than it was asked for. */
function differenceOf({ minor, currency, test }: Payment, event: PaymentEvent): string | undefined {
  if (event.minor !== minor || event.currency !== currency)
    return `${amountOf(Math.abs(event.minor), currency)} ${event.currency} was paid where ${amountOf(minor, currency)} ${currency} was asked for.`;
  if (event.test !== test)
    return event.test
      ? 'It was paid in test mode: no money was moved.'
      : 'Money was moved, though it was in test mode.';
  return undefined;
}

async function queuePaid(
  { db, live }: Settling,
  payment: Payment,
  submission: Submission,
  from: readonly ('unpaid' | 'set aside')[],
  at: Date,
): Promise<boolean> {
  const values = { ...submission.values, ...paidValues(payment, at) };
  const document = await live.document(submission.intakeId, submission.version);
  const lanes = lanesOf(document, values, await live.allSchemas(), await live.known.recognitions()).map(hashed);
  return queueAgain(db, submission.id, [...from], {
    lanes,
    version: submission.version,
    values,
    label: submission.label,
  });
}

/** A payment's number as people and systems take it: 26 digits and capital letters (of its id, to base 32). */
export const paymentNumber = (id: string): string =>
  BigInt(`0x${id.replaceAll('-', '')}`)
    .toString(32)
    .toUpperCase()
    .padStart(26, '0');

/** What goes on with what was sent once it is paid. */
export const paidValues = (
  { id, minor, currency }: Pick<Payment, 'id' | 'minor' | 'currency'>,
  at: Date,
): SubmittedValues => ({
  [FEE_FIELDS.amount]: amountOf(minor, currency),
  [FEE_FIELDS.currency]: currency,
  [FEE_FIELDS.payment]: paymentNumber(id),
  [FEE_FIELDS.paidAt]: at.toISOString(),
});

/** It is paid back: that is told another intake, where the form names one, once. */
async function refund(
  { db, live, acceptor }: Settling,
  payment: Payment,
  submission: Submission,
  at: Date,
): Promise<void> {
  const { form } = await live.document(submission.intakeId, submission.version);
  const to = form?.fee?.refunded === undefined ? undefined : await live.intake(form.fee.refunded);
  if (to && typeof to !== 'string' && submission.forgottenAt === null)
    await acceptor
      .accept(to, {
        ...{ values: submission.values, via: 'event', receivedAt: new Date() },
        idempotencyKey: `refund ${payment.id}`,
      })
      .catch((error: unknown) => {
        // It was told before; what somebody has put right since doesn't have it told again.
        if (!(error instanceof KeyUsedOtherwise)) throw error;
      });
  // What was never told to be paid is not carried out any more.
  await settleByHand(db, submission.id, ['unpaid'], 'set aside', 'It was paid back.');
  await movePayment(db, payment.id, ['due', 'refused', 'lapsed', 'differs', 'paid'], 'refunded', { at });
}

/** Sets aside what nobody has paid in time. Paid all the same later on, it is carried out then. */
export async function setAsideUnpaid(db: Database, now: Date): Promise<number> {
  const late = await unpaidBefore(db, new Date(now.getTime() - PAID_WITHIN_MS), 200);
  for (const { id, submissionId } of late)
    if (await movePayment(db, id, ['due', 'refused', 'lapsed'], 'lapsed', { words: LAPSED }))
      await settleByHand(db, submissionId, ['unpaid'], 'set aside', LAPSED);
  return late.length;
}
