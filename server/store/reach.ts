import type { IntakeDocument } from '@zusammen/core/intake';
import type { Pairing } from '@zusammen/core/pairing';
import { and, eq, inArray, isNull, or } from 'drizzle-orm';
import type { Database } from './database.ts';
import { intakes, intakeVersions, pairings, pairingVersions, recognitions } from './schema.ts';
import { fromJson } from './seen.ts';

/** A document that may change, named by its draft and by the version that is live. */
export interface Standing {
  id: string;
  revision: number;
  liveVersion: number | null;
}

/** A draft, with what is live of it. */
export interface Documents<Of> {
  id: string;
  draft: Of;
  live: Of | undefined;
}

/** What there is that may read or write records, without the documents themselves. */
export async function standingDocuments(
  db: Database,
): Promise<{ intakes: Standing[]; pairings: Standing[]; recognitions: string }> {
  const [ofIntakes, ofPairings, ofRecognitions] = await Promise.all([
    db
      .select({ id: intakes.id, revision: intakes.revision, liveVersion: intakes.liveVersion })
      .from(intakes)
      .where(isNull(intakes.deletedAt))
      .orderBy(intakes.createdAt),
    db
      .select({ id: pairings.id, revision: pairings.revision, liveVersion: pairings.liveVersion })
      .from(pairings)
      .orderBy(pairings.createdAt),
    db.select({ scope: recognitions.scope, revision: recognitions.revision }).from(recognitions),
  ]);
  const told = ofRecognitions.map(({ scope, revision }) => `${scope}.${revision}`).sort();
  return { intakes: ofIntakes, pairings: ofPairings, recognitions: told.join(' ') };
}

/** Documents are large; so many are fetched by one query. */
const AT_ONCE = 100;

async function inPortions<T>(of: readonly Standing[], fetch: (some: Standing[]) => Promise<T[]>): Promise<T[]> {
  const found: T[] = [];
  for (let at = 0; at < of.length; at += AT_ONCE) found.push(...(await fetch(of.slice(at, at + AT_ONCE))));
  return found;
}

const isLive = (each: Standing): each is Standing & { liveVersion: number } => each.liveVersion !== null;

/** Drafts and live versions of some intakes. */
export function intakeDocuments(db: Database, of: readonly Standing[]): Promise<Documents<IntakeDocument>[]> {
  return inPortions(of, async (some) => {
    const ids = some.map(({ id }) => id);
    const drafts = await db
      .select({ id: intakes.id, draft: intakes.draft })
      .from(intakes)
      .where(inArray(intakes.id, ids));
    const live = some.filter(isLive);
    const versions =
      live.length === 0
        ? []
        : await db
            .select({ id: intakeVersions.intakeId, document: intakeVersions.document })
            .from(intakeVersions)
            .where(
              or(
                ...live.map((each) =>
                  and(eq(intakeVersions.intakeId, each.id), eq(intakeVersions.number, each.liveVersion)),
                ),
              ),
            );
    const byId = new Map(versions.map(({ id, document }) => [id, document]));
    return drafts.map(({ id, draft }) => ({ id, draft, live: byId.get(id) }));
  });
}

/** Drafts and live versions of some pairings. */
export function pairingDocuments(db: Database, of: readonly Standing[]): Promise<Documents<Pairing>[]> {
  return inPortions(of, async (some) => {
    const ids = some.map(({ id }) => id);
    const drafts = await db
      .select({ id: pairings.id, draft: pairings.draft })
      .from(pairings)
      .where(inArray(pairings.id, ids));
    const live = some.filter(isLive);
    const versions =
      live.length === 0
        ? []
        : await db
            .select({ id: pairingVersions.pairingId, document: pairingVersions.document })
            .from(pairingVersions)
            .where(
              or(
                ...live.map((each) =>
                  and(eq(pairingVersions.pairingId, each.id), eq(pairingVersions.number, each.liveVersion)),
                ),
              ),
            );
    const byId = new Map(versions.map(({ id, document }) => [id, fromJson(document)]));
    return drafts.map(({ id, draft }) => ({ id, draft: fromJson(draft), live: byId.get(id) }));
  });
}
