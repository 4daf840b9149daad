import { setImmediate } from 'node:timers/promises';
import { compareAdapters, type AdapterDifference } from '@zusammen/core/adapters';
import { drift, type Difference, type Schema } from '@zusammen/core/schema';
import type { Sealer } from '../access/index.ts';
import { adapterOf, addSnapshot, changeSystem, snapshotsOf, type Database, type SystemRow } from '../store/index.ts';
import { lookAt, type SignInSecrets } from './json/index.ts';
import { valuesAlike } from './renamed-values.ts';
import { describeAnew, readerOf, type Via } from './registry.ts';
import { isSystemTrouble, NotUnderstood, type System } from './system.ts';

/** What reading systems works with. */
export interface Reader {
  db: Database;
  sealer: Sealer;
  via: Via;
}

/** Renames, and what has gone, are followed over so many readings. */
const READINGS = 20;

/** What was last read of a system's schema, the newest first. */
export const readingsOf = async (db: Database, systemId: string): Promise<Schema[]> =>
  (await snapshotsOf(db, systemId, READINGS)).map(({ schema }) => schema);

/**
 * Reads a system again: its schema, and what it can do, which is tried now and holds until the next reading. A reading
 * that shows nothing new of the schema isn't kept: the last one that did stays the newest.
 * @param unasked nobody waits for it: that it can't be read at this moment says nothing of the system's state
 * @returns how it differs from the reading before
 * @throws SystemTrouble when it can't be read; the state it is in is kept
 */
export async function readAgain(
  { db, sealer, via }: Reader,
  system: SystemRow,
  unasked = false,
): Promise<Difference[]> {
  try {
    if (system.kind === 'json') {
      await compareWithApi({ db, sealer, via }, system);
      const [newest, before] = await snapshotsOf(db, system.id, 2);
      return newest && before ? drift(before.schema, newest.schema) : [];
    }
    const [before] = await snapshotsOf(db, system.id);
    const token = sealer.open(system.sealedToken, system.id);
    const read = await describeAnew(system.address, token, via);
    const schema = before
      ? await withValues(
          db,
          system.id,
          before.schema,
          read.schema,
          readerOf(system.address, token, read.capabilities, via),
        )
      : read.schema;
    const differences = before ? await via.drift(before.schema, schema) : [];
    // A schema may be a large one: others are answered before it is kept.
    await setImmediate();
    if (!before || differences.length > 0) await addSnapshot(db, system.id, schema);
    await changeSystem(db, system.id, {
      ...{ state: 'answers', stateWords: null, checkedAt: new Date(), schemaReadAt: new Date() },
      ...{ latencyMs: read.latencyMs, capabilities: read.capabilities, recordPage: read.recordPage ?? null },
    });
    return differences;
  } catch (error) {
    if (isSystemTrouble(error) && !unasked)
      await changeSystem(db, system.id, { state: error.code, stateWords: error.message, checkedAt: new Date() });
    throw error;
  }
}

/** A schema with what values say of fields that have gone and come. That they can't be read now keeps nobody waiting. */
async function withValues(
  db: Database,
  systemId: string,
  before: Schema,
  after: Schema,
  system: System,
): Promise<Schema> {
  try {
    const alike = await valuesAlike(db, systemId, system, before, after);
    return alike.length === 0 ? after : { ...after, alike };
  } catch (error) {
    if (isSystemTrouble(error)) return after;
    throw error;
  }
}

/**
 * Reads the description of a system with an adapter again, or what it lists, and compares: in what its API is no longer
 * as it was when the adapter was made. The adapter itself stays; what was found is kept, for the checks.
 * @throws SystemTrouble when it can't be read
 */
export async function compareWithApi({ db, sealer, via }: Reader, system: SystemRow): Promise<AdapterDifference[]> {
  const row = await adapterOf(db, system.id, system.adapterVersion ?? 1);
  if (!row) throw new NotUnderstood('Nobody has said how this system is spoken to.');
  const { document, described } = row;
  if (document.describedAt === undefined || described === null)
    throw new NotUnderstood('Its adapter came as a file: it isn’t said where the API is described.');
  const secrets = JSON.parse(sealer.open(system.sealedToken, system.id)) as SignInSecrets;
  const look = { address: document.describedAt, signIn: document.signIn, secrets };
  const { adapter: now } = await lookAt(look, via.dispatcher, via.readDescription);
  const differences = compareAdapters(described, now, document);
  await changeSystem(db, system.id, {
    ...{ state: 'answers', stateWords: null, checkedAt: new Date() },
    adapterDrift: differences.length === 0 ? null : differences,
  });
  return differences;
}
