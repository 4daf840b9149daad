import type { FieldFamily } from '@zusammen/core/one-field';
import type { Schema } from '@zusammen/core/schema';
import type { ChangeStep } from '@zusammen/core/schema-changes';
import {
  addSchemaChange,
  noteChange,
  snapshotsOf,
  systemById,
  type Database,
  type SystemRow,
  type User,
} from '../store/index.ts';
import { actorOf, type Context } from './context.ts';
import { notFound, Problem } from './problem.ts';

/** A definition document with ten thousand options is larger than most bodies. */
export const DEFINITION_LIMIT = 4 * 1024 * 1024;

/** A system with its schema as it was read last, by whichever process. @throws Problem when there is none */
export async function readSystem(db: Database, id: string | undefined): Promise<{ row: SystemRow; schema: Schema }> {
  const row = id === undefined ? undefined : await systemById(db, id);
  if (!row) throw notFound('such system');
  return { row, schema: (await snapshotsOf(db, row.id))[0]?.schema ?? { entities: [] } };
}

/** Begins a change of schemas. @returns its id */
export async function beginChange(
  { db, jobs }: Pick<Context, 'db' | 'jobs'>,
  user: User,
  title: string,
  steps: ChangeStep[],
  oneField?: FieldFamily,
): Promise<string> {
  const id = await addSchemaChange(db, { title, steps, by: user.name, ...(oneField ? { oneField } : {}) });
  await noteChange(db, actorOf(user), 'changed a schema', id, { title, steps: steps.map(({ kind }) => kind) });
  jobs.look();
  return id;
}

export const unacceptable = (complaints: readonly { field: string; reason: string }[]): Problem => {
  const [first] = complaints;
  const detail = first ? `${first.field || 'The document'}: ${first.reason}.` : 'The document is not acceptable.';
  return new Problem(422, 'Not acceptable as it is', detail, complaints.slice(0, 100));
};
