import type { ReachedUse } from '@zusammen/core/api';
import { recordsRead } from '@zusammen/core/intake';
import { usesOfPairing } from '@zusammen/core/pairing';
import { usesOf } from '@zusammen/core/plans';
import type { Schema } from '@zusammen/core/schema';
import {
  listIntakes,
  listPairings,
  listRecognitions,
  pairingVersion,
  versionOf,
  type Database,
} from '../store/index.ts';

type Schemas = ReadonlyMap<string, Schema>;
type Found = Omit<ReachedUse, 'by' | 'id' | 'name' | 'live'>;

/** Every use of the fields of a system, or of one of its entities, or of one field, by all intakes and pairings. */
export async function reachOf(
  db: Database,
  schemas: Schemas,
  wanted: { system?: string | undefined; entity?: string | undefined; field?: string | undefined },
): Promise<ReachedUse[]> {
  const uses = [...(await byIntakes(db)), ...(await byPairings(db, schemas))];
  return uses.filter(
    ({ system, entity, field }) =>
      (!wanted.system || system === wanted.system) &&
      (!wanted.entity || entity === wanted.entity) &&
      (!wanted.field || field === wanted.field),
  );
}

async function byIntakes(db: Database): Promise<ReachedUse[]> {
  const recognitions = new Map(
    (await listRecognitions(db)).map((each) => [`${each.systemId}/${each.entity}`, each.document]),
  );
  const uses: ReachedUse[] = [];
  for (const { id, liveVersion, draft } of await listIntakes(db)) {
    const live = liveVersion === null ? undefined : (await versionOf(db, id, liveVersion))?.document;
    const found = (document: typeof draft): Found[] => [...usesOf(document, recognitions), ...recordsRead(document)];
    uses.push(...liveAndPlanned({ by: 'intake', id, name: draft.name }, live ? found(live) : [], found(draft)));
  }
  return uses;
}

async function byPairings(db: Database, schemas: Schemas): Promise<ReachedUse[]> {
  const uses: ReachedUse[] = [];
  for (const { id, liveVersion, draft } of await listPairings(db)) {
    const live = liveVersion === null ? undefined : (await pairingVersion(db, id, liveVersion))?.document;
    const found = (document: typeof draft): Found[] =>
      usesOfPairing(document, schemas).map((use) => ({ ...use, treatments: [] }));
    uses.push(...liveAndPlanned({ by: 'pairing', id, name: draft.name }, live ? found(live) : [], found(draft)));
  }
  return uses;
}

/** What the live version does, and what only the draft would. */
function liveAndPlanned(at: Pick<ReachedUse, 'by' | 'id' | 'name'>, live: Found[], draft: Found[]): ReachedUse[] {
  const known = new Set(live.map(keyOf));
  return [
    ...live.map((use) => ({ ...use, ...at, live: true })),
    ...draft.filter((use) => !known.has(keyOf(use))).map((use) => ({ ...use, ...at, live: false })),
  ];
}

const keyOf = ({ system, entity, field, how, from }: Found): string =>
  JSON.stringify([system, entity, field, how, from]);
