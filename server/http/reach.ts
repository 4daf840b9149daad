import { usesOf, type Use } from '@zusammen/core/plans';
import { listIntakes, listRecognitions, versionOf, type Database } from '../store/index.ts';

export interface ReachedUse extends Use {
  intakeId: string;
  intake: string;
  /** The live version does so, or only the draft would. */
  live: boolean;
}

/** Every use of the fields of a system, or of one of its entities, by all intakes. */
export async function reachOf(db: Database, system?: string, entity?: string): Promise<ReachedUse[]> {
  const recognitions = new Map(
    (await listRecognitions(db)).map((each) => [`${each.systemId}/${each.entity}`, each.document]),
  );
  const uses: ReachedUse[] = [];
  for (const intake of await listIntakes(db)) {
    const live =
      intake.liveVersion === null ? undefined : (await versionOf(db, intake.id, intake.liveVersion))?.document;
    const at = { intakeId: intake.id, intake: intake.draft.name };
    const running = live ? usesOf(live, recognitions).map((use) => ({ ...use, ...at, live: true })) : [];
    const known = new Set(running.map(keyOf));
    const planned = usesOf(intake.draft, recognitions)
      .filter((use) => !known.has(keyOf(use)))
      .map((use) => ({ ...use, ...at, live: false }));
    uses.push(...running, ...planned);
  }
  return uses.filter((use) => (!system || use.system === system) && (!entity || use.entity === entity));
}

const keyOf = ({ system, entity, field, how, from }: Use): string => JSON.stringify([system, entity, field, how, from]);
