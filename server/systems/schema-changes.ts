import {
  madeField,
  schemaFrom,
  withField,
  withOptions,
  type AdapterDocument,
  type NewField,
} from '@zusammen/core/adapters';
import { entityOf, type Entity, type Option } from '@zusammen/core/schema';
import { adapterOf, saveAdapter, systemById, type AdapterRow, type SystemRow } from '../store/index.ts';
import { lookAt, type SignInSecrets } from './json/index.ts';
import type { Reader } from './reading.ts';
import type { Systems } from './registry.ts';
import { isSystemTrouble, NotUnderstood, type SchemaAnswer } from './system.ts';

/** What changing a system's schema works with. */
export interface Changing extends Pick<Reader, 'db' | 'sealer'> {
  systems: Pick<Systems, 'client' | 'forget' | 'via'>;
}

/** Why a change of a schema wasn't made, in words. */
export class SchemaRefused extends Error {}

/** Two who change a schema at once: the second begins anew with what the first has kept. */
const ATTEMPTS = 3;

/**
 * Adds options to a field in its system, and knows of them from then on. What is there already is taken for added: an
 * answer may have been lost.
 * @param by who wants it @throws SchemaRefused, SystemTrouble
 */
export async function addOptions(
  changing: Changing,
  systemId: string,
  [entityName, field]: readonly [entity: string, field: string],
  options: readonly Option[],
  by: string,
): Promise<void> {
  const { client, entity, document: now } = await at(changing, systemId, entityName);
  const add = client.schemaChanges?.addOption;
  const labelled = now.schemaChanges?.addOption?.label !== undefined;
  if (!add) throw new SchemaRefused('Its options can’t be changed from here.');
  const added: Option[] = [];
  let refused: string | undefined;
  try {
    for (const option of options) {
      const answer = await add(entity, field, option);
      const done =
        answer.kind === 'done' ||
        (await isThere(changing, systemId, (now) =>
          fieldIn(now, entityName, field)?.options?.some(({ value }) => value === option.value),
        ));
      if (!done) {
        refused = wordsOf(answer);
        break;
      }
      added.push(labelled ? option : { ...option, label: option.value });
    }
  } finally {
    // What was added stays added, whatever became of the others.
    if (added.length > 0)
      await keep(changing, systemId, by, (document) => withOptions(document, entityName, field, added));
  }
  if (refused !== undefined) throw new SchemaRefused(refused);
}

/**
 * Adds a field to an entity in its system, of the kind that is nearest to what is wanted, and knows of it from then on.
 * @returns the field's name @throws SchemaRefused, SystemTrouble
 */
export async function addField(
  changing: Changing,
  systemId: string,
  entityName: string,
  wanted: NewField,
  by: string,
): Promise<string> {
  const { client, entity, document } = await at(changing, systemId, entityName);
  const add = client.schemaChanges?.addField;
  const operation = document.schemaChanges?.addField;
  const known = document.entities.find(({ name }) => name === entityName);
  if (!add || !operation || !known) throw new SchemaRefused('No fields can be made there from here.');
  const made = madeField(operation, known, wanted);
  if (typeof made === 'string') throw new SchemaRefused(made);
  const answer = await add(entity, wanted);
  const { name } = made.field;
  if (answer.kind === 'refused' && !(await isThere(changing, systemId, (now) => fieldIn(now, entityName, name))))
    throw new SchemaRefused(wordsOf(answer));
  await keep(changing, systemId, by, (now) =>
    fieldIn(now, entityName, name) ? now : withField(now, entityName, made.field),
  );
  return name;
}

const wordsOf = (answer: SchemaAnswer): string => (answer.kind === 'refused' ? answer.refusal.words : '');

const fieldIn = ({ entities }: AdapterDocument, entity: string, field: string) =>
  entities.find(({ name }) => name === entity)?.fields.find(({ name }) => name === field);

async function at({ db, systems }: Changing, systemId: string, entityName: string) {
  const { row, adapter } = await adapterNow(db, systemId);
  const client = await systems.client(row.id);
  if (!adapter) throw new SchemaRefused('Its schema can’t be changed from here.');
  const entity: Entity | undefined = entityOf(schemaFrom(adapter.document), entityName);
  if (!entity) throw new SchemaRefused(`It has no entity “${entityName.slice(0, 60)}”.`);
  return { client, entity, document: adapter.document };
}

async function adapterNow(
  db: Changing['db'],
  systemId: string,
): Promise<{ row: SystemRow; adapter: AdapterRow | undefined }> {
  const row = await systemById(db, systemId);
  if (!row) throw new NotUnderstood('This system is no longer connected.');
  return { row, adapter: row.adapterVersion === null ? undefined : await adapterOf(db, systemId, row.adapterVersion) };
}

/** Whether the system says itself that something is there by now; where it says nothing of itself, nobody knows. */
async function isThere(
  { db, sealer, systems: { via } }: Changing,
  systemId: string,
  seen: (now: AdapterDocument) => unknown,
): Promise<boolean> {
  const { row, adapter } = await adapterNow(db, systemId);
  const { describedAt, signIn } = adapter?.document ?? {};
  if (describedAt === undefined || !signIn) return false;
  const secrets = JSON.parse(sealer.open(row.sealedToken, row.id)) as SignInSecrets;
  try {
    const found = await lookAt({ address: describedAt, signIn, secrets }, via.dispatcher, via.readDescription);
    return Boolean(seen(found.adapter));
  } catch (error) {
    if (isSystemTrouble(error)) return false;
    throw error;
  }
}

/** Keeps a new version of the adapter, with the schema that follows from it. */
async function keep(
  { db, systems }: Changing,
  systemId: string,
  by: string,
  change: (document: AdapterDocument) => AdapterDocument,
): Promise<void> {
  for (let attempt = 0; attempt < ATTEMPTS; attempt += 1) {
    const { row, adapter } = await adapterNow(db, systemId);
    if (!adapter || row.adapterVersion === null) return;
    const document = change(adapter.document);
    if (document === adapter.document) return;
    const { reasons, described, unused } = adapter;
    const kept = { ...{ document, reasons, described, unused, by }, caughtUp: false, schema: schemaFrom(document) };
    if ((await saveAdapter(db, systemId, row.adapterVersion, kept)) !== undefined) {
      systems.forget();
      return;
    }
  }
  throw new SchemaRefused('Somebody else changes how the system is spoken to; look again.');
}
