import type { SubmissionState } from '@zusammen/core/api';
import { and, asc, eq, inArray, lt, sql } from 'drizzle-orm';
import type { Database } from './database.ts';
import { payments, paymentServices, submissions, type PaymentState } from './schema.ts';

export type Payment = typeof payments.$inferSelect;
export type PaymentServiceRow = typeof paymentServices.$inferSelect;

export const listPaymentServices = (db: Database): Promise<PaymentServiceRow[]> =>
  db.select().from(paymentServices).orderBy(asc(paymentServices.name));

export async function paymentServiceById(db: Database, id: string): Promise<PaymentServiceRow | undefined> {
  return (await db.select().from(paymentServices).where(eq(paymentServices.id, id)))[0];
}

export async function savePaymentService(db: Database, row: PaymentServiceRow): Promise<void> {
  const { id: _, createdAt: __, ...set } = row;
  await db.insert(paymentServices).values(row).onDuplicateKeyUpdate({ set });
}

export async function removePaymentService(db: Database, id: string): Promise<void> {
  await db.delete(paymentServices).where(eq(paymentServices.id, id));
}

/** Payments of a service that may still be paid or paid back. */
export async function openPaymentsOf(db: Database, serviceId: string): Promise<number> {
  const [row] = await db
    .select({ count: sql<number>`count(*)` })
    .from(payments)
    .where(and(eq(payments.serviceId, serviceId), inArray(payments.state, ['due', 'refused'])));
  return Number(row?.count ?? 0);
}

export async function paymentById(db: Database, id: string): Promise<Payment | undefined> {
  return (await db.select().from(payments).where(eq(payments.id, id)))[0];
}

export async function paymentOf(db: Database, submissionId: string): Promise<Payment | undefined> {
  return (await db.select().from(payments).where(eq(payments.submissionId, submissionId)))[0];
}

/**
 * Brings a payment from one of some states to another.
 * @returns false when it was in none of them any more: somebody else has, or it is over
 */
export async function movePayment(
  db: Database,
  id: string,
  from: readonly PaymentState[],
  to: PaymentState,
  { words = null, at = new Date() }: { words?: string | null; at?: Date } = {},
): Promise<boolean> {
  const [done] = await db
    .update(payments)
    .set({ state: to, words: words?.slice(0, 400) ?? null, changedAt: at })
    .where(and(eq(payments.id, id), inArray(payments.state, [...from])));
  return done.affectedRows > 0;
}

/** Notes where a payment is made. The first that was begun stays. */
export async function noteSession(db: Database, id: string, session: string, page: string): Promise<void> {
  await db
    .update(payments)
    .set({ session, page })
    .where(and(eq(payments.id, id), sql`${payments.session} IS NULL`));
}

/**
 * Has somebody look at a submission whose payment isn't what it should be.
 * @returns false when it stands in none of the states any more
 */
export async function lookAtPaid(
  db: Database,
  submissionId: string,
  from: readonly SubmissionState[],
  words: string,
): Promise<boolean> {
  const [done] = await db
    .update(submissions)
    .set({ state: 'refused', words, reason: null, settledAt: new Date() })
    .where(and(eq(submissions.id, submissionId), inArray(submissions.state, [...from])));
  return done.affectedRows > 0;
}

/** Payments that nobody made before a moment, whose submissions still wait for them. */
export async function unpaidBefore(db: Database, before: Date, limit: number): Promise<Payment[]> {
  const rows = await db
    .select({ payment: payments })
    .from(payments)
    .innerJoin(submissions, eq(submissions.id, payments.submissionId))
    .where(
      and(inArray(payments.state, ['due', 'refused']), lt(payments.begunAt, before), eq(submissions.state, 'unpaid')),
    )
    .limit(limit);
  return rows.map(({ payment }) => payment);
}
