import type { FieldFamily } from '@zusammen/core/one-field';
import type { ChangeDirection, ChangeStep, StepOutcome } from '@zusammen/core/schema-changes';
import { and, desc, eq, inArray, isNotNull } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Database } from './database.ts';
import { addJob, progressColumns, type JobProgress } from './jobs.ts';
import { jobs, schemaChanges } from './schema.ts';
import { atomically, type Query } from './transaction.ts';
import { addTurn } from './turns.ts';

export type SchemaChangeRow = typeof schemaChanges.$inferSelect;
/** With how far the job is that is at it, or was last. */
export type SchemaChangeLine = SchemaChangeRow & { job: JobProgress & { id: string } };

/** So many are listed. */
const LISTED = 100;

/** Notes a change that is to be made, and begins it. @returns its id */
export function addSchemaChange(
  db: Database,
  { title, steps, by, oneField }: { title: string; steps: ChangeStep[]; by: string; oneField?: FieldFamily },
): Promise<string> {
  return atomically(db, async (tx) => {
    const id = uuid();
    const turn = await addTurn(tx, { kind: 'schema', subject: id, actor: by, actingPerson: null });
    const outcomes = steps.map((): StepOutcome => ({ state: 'waiting' }));
    await tx.insert(schemaChanges).values({
      ...{ id, turn, title: title.slice(0, 200), steps, outcomes, direction: 'forth', at: new Date(), by },
      oneField: oneField ?? null,
    });
    await addJob(tx, { kind: 'schema', subject: id, by, total: steps.length });
    return id;
  });
}

export async function schemaChangeById(db: Database, id: string): Promise<SchemaChangeLine | undefined> {
  return (await withJobs(db, await db.select().from(schemaChanges).where(eq(schemaChanges.id, id))))[0];
}

/** The newest first. */
export async function listSchemaChanges(db: Database): Promise<SchemaChangeLine[]> {
  return withJobs(db, await db.select().from(schemaChanges).orderBy(desc(schemaChanges.turn)).limit(LISTED));
}

async function withJobs(db: Database, rows: readonly SchemaChangeRow[]): Promise<SchemaChangeLine[]> {
  if (rows.length === 0) return [];
  const found = await db
    .select({ ...progressColumns, id: jobs.id, subject: jobs.subject })
    .from(jobs)
    .where(
      and(
        eq(jobs.kind, 'schema'),
        inArray(
          jobs.subject,
          rows.map(({ id }) => id),
        ),
      ),
    )
    .orderBy(jobs.startedAt);
  const newest = new Map(found.map(({ subject, ...job }) => [subject, job]));
  return rows.flatMap((row) => {
    const job = newest.get(row.id);
    return job ? [{ ...row, job }] : [];
  });
}

/** What is one field in several places, as far as it was made so and not taken back. */
export async function fieldFamilies(db: Database): Promise<FieldFamily[]> {
  const rows = await db
    .select({ family: schemaChanges.oneField, steps: schemaChanges.steps, outcomes: schemaChanges.outcomes })
    .from(schemaChanges)
    .where(and(isNotNull(schemaChanges.oneField), eq(schemaChanges.direction, 'forth')))
    .orderBy(schemaChanges.turn);
  return rows.flatMap(({ family, steps, outcomes }) => {
    if (!family) return [];
    // A field is called as it was made, which may be otherwise than was planned.
    const made = (member: FieldFamily['members'][number]): string | undefined => {
      const at = steps.findIndex(
        (step) =>
          step.kind === 'field' &&
          step.system === member.system &&
          step.entity === member.entity &&
          step.field.name === member.field,
      );
      return outcomes[at]?.made?.[0];
    };
    return [{ ...family, members: family.members.map((each) => ({ ...each, field: made(each) ?? each.field })) }];
  });
}

/**
 * Begins a change anew where its job has come to rest: to go on, or to be undone.
 * @returns false when it is under way
 */
export function moveSchemaChange(db: Database, id: string, direction: ChangeDirection, by: string): Promise<boolean> {
  return atomically(db, async (tx) => {
    const [row] = await tx.select().from(schemaChanges).where(eq(schemaChanges.id, id)).for('update');
    const [running] = await tx
      .select({ id: jobs.id })
      .from(jobs)
      .where(and(eq(jobs.kind, 'schema'), eq(jobs.subject, id), eq(jobs.state, 'running')))
      .limit(1);
    if (!row || running) return false;
    await tx.update(schemaChanges).set({ direction }).where(eq(schemaChanges.id, id));
    await addJob(tx, { kind: 'schema', subject: id, by, total: row.steps.length });
    return true;
  });
}

/** Keeps what has become of a change's steps, in a transaction. */
export const keepOutcomes = (query: Query, id: string, outcomes: readonly StepOutcome[]): Promise<unknown> =>
  query('UPDATE schema_changes SET outcomes = ? WHERE id = ?', [JSON.stringify(outcomes), id]);
