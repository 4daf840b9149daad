import { isDeepStrictEqual } from 'node:util';
import { and, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Finding } from '@zusammen/core/checks';
import { recordsRead, type IntakeDocument } from '@zusammen/core/intake';
import type { Actor } from './changes.ts';
import { noteChange } from './changes.ts';
import type { Database } from './database.ts';
import { atomically, type Drizzled } from './transaction.ts';
import { intakes, intakeVersions, samples, submissions, type IntakeState } from './schema.ts';

export type Intake = typeof intakes.$inferSelect;
export type IntakeVersion = typeof intakeVersions.$inferSelect;
export type Sample = typeof samples.$inferSelect;

/** All intakes but deleted ones. @param deleted those too: what they wrote stays on the ledger */
export async function listIntakes(db: Database, deleted = false): Promise<Intake[]> {
  const found = db.select().from(intakes);
  return (deleted ? found : found.where(isNull(intakes.deletedAt))).orderBy(intakes.createdAt);
}

export async function intakeById(db: Database, id: string): Promise<Intake | undefined> {
  return (await db.select().from(intakes).where(eq(intakes.id, id)))[0];
}

export async function intakeByKey(db: Database, key: string): Promise<Intake | undefined> {
  return (await db.select().from(intakes).where(eq(intakes.key, key)))[0];
}

/**
 * What a system can't be taken away from: the names of intakes whose draft or live version writes to it, and of those
 * that have submissions on their way under any version that does.
 */
export async function intakesUsing(db: Database, systemId: string): Promise<string[]> {
  const uses = (document: IntakeDocument | undefined): boolean =>
    document !== undefined &&
    [...document.plan.steps, ...recordsRead(document), document.source, document.form?.link].some(
      (each) => each?.system === systemId,
    );
  const names: string[] = [];
  for (const intake of await listIntakes(db)) {
    const versions = await versionsOf(db, intake.id);
    const live = versions.find(({ number }) => number === intake.liveVersion)?.document;
    const older = versions.filter(({ document }) => uses(document)).map(({ number }) => number);
    const waiting = older.length > 0 && (await hasWaiting(db, intake.id, older));
    if (uses(intake.draft)) names.push(intake.draft.name);
    else if (uses(live)) names.push(`${intake.draft.name} (version ${intake.liveVersion}, which is live)`);
    else if (waiting) names.push(`${intake.draft.name} (submissions that came under an earlier version)`);
  }
  return names;
}

async function hasWaiting(db: Database, intakeId: string, versions: readonly number[]): Promise<boolean> {
  const [rows] = await db.$client.query(
    "SELECT 1 FROM submissions WHERE intake_id = ? AND state IN ('received', 'in review') AND version IN (?) LIMIT 1",
    [intakeId, versions],
  );
  return (rows as unknown[]).length > 0;
}

/** @throws ER_DUP_ENTRY when the key is taken */
export async function addIntake(db: Database, key: string, draft: IntakeDocument, actor: Actor): Promise<Intake> {
  const now = new Date();
  const row: Intake = {
    id: uuid(),
    key,
    state: 'draft',
    draft,
    revision: 1,
    liveVersion: null,
    signed: false,
    createdAt: now,
    changedAt: now,
    putAwayAt: null,
    deletedAt: null,
  };
  await atomically(db, async (tx) => {
    await tx.insert(intakes).values(row);
    await noteChange(tx, actor, 'made the intake', row.id, { key, name: draft.name });
  });
  return row;
}

/** Replaces the draft if nobody else has changed it since `revision`. @returns the new revision, or undefined */
export async function saveDraft(
  db: Database,
  id: string,
  draft: IntakeDocument,
  revision: number,
): Promise<number | undefined> {
  const [result] = await db
    .update(intakes)
    .set({ draft, revision: revision + 1, changedAt: new Date() })
    .where(and(eq(intakes.id, id), eq(intakes.revision, revision)));
  return result.affectedRows === 1 ? revision + 1 : undefined;
}

/** @returns the version's number */
async function addVersion(
  tx: Drizzled,
  id: string,
  document: IntakeDocument,
  accepted: Finding[],
  actor: Actor,
): Promise<number> {
  const [top] = await tx
    .select({ number: sql<number | null>`max(${intakeVersions.number})` })
    .from(intakeVersions)
    .where(eq(intakeVersions.intakeId, id));
  const number = (top?.number ?? 0) + 1;
  await tx
    .insert(intakeVersions)
    .values({ intakeId: id, number, document, accepted, publishedAt: new Date(), publishedBy: actor.id });
  return number;
}

/**
 * Changes an intake's draft and what is live of it alike, each on its own: what somebody is at with the draft isn't
 * published by it. Open or closed, it stays so.
 * @param edit changes a document; one that it leaves as it was stays @returns whether there is such an intake
 */
export function editIntake(
  db: Database,
  id: string,
  edit: (document: IntakeDocument) => IntakeDocument,
  actor: Actor,
  what: string,
): Promise<IntakeDocument | undefined> {
  return atomically(db, async (tx) => {
    const [intake] = await tx.select().from(intakes).where(eq(intakes.id, id)).for('update');
    if (!intake || intake.deletedAt !== null) return undefined;
    const { liveVersion, revision } = intake;
    const [live] =
      liveVersion === null
        ? []
        : await tx
            .select()
            .from(intakeVersions)
            .where(and(eq(intakeVersions.intakeId, id), eq(intakeVersions.number, liveVersion)));
    const draft = edit(intake.draft);
    const next = live && edit(live.document);
    const changedAt = new Date();
    if (!isDeepStrictEqual(draft, intake.draft))
      await tx
        .update(intakes)
        .set({ draft, revision: revision + 1, changedAt })
        .where(eq(intakes.id, id));
    if (live && next && !isDeepStrictEqual(next, live.document)) {
      const number = await addVersion(tx, id, next, live.accepted, actor);
      await tx.update(intakes).set({ liveVersion: number, changedAt }).where(eq(intakes.id, id));
      await noteChange(tx, actor, `published version ${number}`, id, { because: what });
    }
    return next ?? draft;
  });
}

/** Makes a version of the draft, as it is at `revision`, and opens the intake with it. @returns its number, or undefined when the draft has moved on */
export async function publishDraft(
  db: Database,
  id: string,
  revision: number,
  accepted: Finding[],
  actor: Actor,
): Promise<number | undefined> {
  return atomically(db, async (tx) => {
    const [intake] = await tx.select().from(intakes).where(eq(intakes.id, id)).for('update');
    if (!intake || intake.revision !== revision) return undefined;
    const number = await addVersion(tx, id, intake.draft, accepted, actor);
    await tx
      .update(intakes)
      .set({ state: 'open', liveVersion: number, changedAt: new Date() })
      .where(eq(intakes.id, id));
    await noteChange(tx, actor, `published version ${number}`, id, {
      accepted: accepted.map(({ id: check, sentence }) => ({ check, sentence })),
    });
    return number;
  });
}

export async function setIntakeState(db: Database, id: string, state: IntakeState, actor: Actor): Promise<void> {
  await atomically(db, async (tx) => {
    await tx.update(intakes).set({ state, changedAt: new Date() }).where(eq(intakes.id, id));
    await noteChange(tx, actor, state === 'open' ? 'opened the intake' : 'closed the intake', id);
  });
}

/** Takes an intake out of sight, closed, or brings it back; brought back it stays closed. */
export async function putAway(db: Database, id: string, away: boolean, actor: Actor): Promise<void> {
  await atomically(db, async (tx) => {
    const now = new Date();
    await tx
      .update(intakes)
      .set({
        putAwayAt: away ? now : null,
        changedAt: now,
        ...(away ? { state: sql`IF(${intakes.state} = 'open', 'closed', ${intakes.state})` } : {}),
      })
      .where(eq(intakes.id, id));
    await noteChange(tx, actor, away ? 'put the intake away' : 'brought the intake back', id);
  });
}

/**
 * Deletes an intake for everybody: nothing comes in, nobody sees it, its key is free. Its versions stay as long as what
 * its submissions wrote does, since the ledger is read by them.
 * @returns how many submissions are on their way, which keep it from being deleted
 */
export function deleteIntake(db: Database, id: string, actor: Actor): Promise<number> {
  return atomically(db, async (tx) => {
    const [intake] = await tx.select().from(intakes).where(eq(intakes.id, id)).for('update');
    const [found] = await tx
      .select({ waiting: sql<number>`count(*)` })
      .from(submissions)
      .where(and(eq(submissions.intakeId, id), inArray(submissions.state, ['received', 'in review'])));
    const waiting = Number(found?.waiting ?? 0);
    if (!intake || waiting > 0) return waiting;
    const now = new Date();
    await tx
      .update(intakes)
      .set({
        deletedAt: now,
        changedAt: now,
        state: 'closed',
        key: `${intake.key.slice(0, 50)} deleted ${id.slice(-12)}`,
      })
      .where(eq(intakes.id, id));
    await tx.delete(samples).where(eq(samples.intakeId, id));
    await noteChange(tx, actor, 'deleted the intake', id, { key: intake.key, name: intake.draft.name });
    return 0;
  });
}

/** Makes an earlier version the live one again; a closed intake stays closed. */
export async function goLiveWith(db: Database, id: string, number: number, actor: Actor): Promise<void> {
  await atomically(db, async (tx) => {
    await tx.update(intakes).set({ liveVersion: number, changedAt: new Date() }).where(eq(intakes.id, id));
    await noteChange(tx, actor, `went live with version ${number}`, id);
  });
}

export async function versionsOf(db: Database, id: string): Promise<IntakeVersion[]> {
  return db.select().from(intakeVersions).where(eq(intakeVersions.intakeId, id)).orderBy(desc(intakeVersions.number));
}

export async function versionOf(db: Database, id: string, number: number): Promise<IntakeVersion | undefined> {
  return (
    await db
      .select()
      .from(intakeVersions)
      .where(and(eq(intakeVersions.intakeId, id), eq(intakeVersions.number, number)))
  )[0];
}

export async function samplesOf(db: Database, intakeId: string): Promise<Sample[]> {
  return db.select().from(samples).where(eq(samples.intakeId, intakeId)).orderBy(desc(samples.createdAt)).limit(200);
}

/**
 * What samples and submissions of an intake hold, by their ids, in the order asked for; null where there is none of that
 * id, or it has been forgotten.
 */
export async function valuesOf(
  db: Database,
  intakeId: string,
  ids: readonly string[],
): Promise<(Sample['values'] | null)[]> {
  if (ids.length === 0) return [];
  const [kept, sent] = await Promise.all([
    db
      .select({ id: samples.id, values: samples.values })
      .from(samples)
      .where(and(eq(samples.intakeId, intakeId), inArray(samples.id, [...ids]))),
    db
      .select({ id: submissions.id, values: submissions.values })
      .from(submissions)
      .where(
        and(eq(submissions.intakeId, intakeId), inArray(submissions.id, [...ids]), isNull(submissions.forgottenAt)),
      ),
  ]);
  const byId = new Map([...kept, ...sent].map(({ id, values }) => [id, values]));
  return ids.map((id) => byId.get(id) ?? null);
}

export async function addSample(db: Database, intakeId: string, values: Sample['values']): Promise<Sample> {
  // Submitted values have no prototype, which Drizzle can't take.
  const row = { id: uuid(), intakeId, values: { ...values }, createdAt: new Date() };
  await db.insert(samples).values(row);
  return row;
}

export async function removeSample(db: Database, intakeId: string, id: string): Promise<boolean> {
  const [result] = await db.delete(samples).where(and(eq(samples.id, id), eq(samples.intakeId, intakeId)));
  return result.affectedRows > 0;
}
