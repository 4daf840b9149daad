import type { Facts, KeyFacts } from '@zusammen/core/checks';
import {
  importsOf,
  listRecognitions,
  listSystems,
  pastValues,
  secretsOf,
  type Database,
  type Intake,
  type RecognitionRow,
} from '../store/index.ts';

/** How many of the newest submissions tell what arrives. */
const LATELY = 50;

/** What the checks may know of an intake besides its document; what its page holds now is asked of the page. */
export async function factsOf(
  db: Database,
  intake: Intake,
): Promise<Required<Omit<Facts, 'pageFields' | 'arrived'>> & Pick<Facts, 'arrived'>> {
  const [past, secrets, files, systems, recognitions] = await Promise.all([
    pastValues(db, intake.id, LATELY),
    secretsOf(db, intake.id),
    importsOf(db, intake.id),
    listSystems(db),
    listRecognitions(db),
  ]);
  return {
    arrived: past.map(({ values }) => values),
    everArrived: past.length > 0,
    secrets: secrets.length,
    files: files.length,
    published: intake.liveVersion !== null,
    personalSystems: new Set(systems.filter(({ personal }) => personal).map(({ id }) => id)),
    systemNames: new Map(systems.map(({ id, name }) => [id, name])),
    recognitions: new Map(
      recognitions.map(({ systemId, entity, document, measure }) => [
        `${systemId}/${entity}`,
        { document, keys: keysByField(document, measure?.keys) },
      ]),
    ),
    abilities: new Map(systems.map(({ id, capabilities }) => [id, capabilities])),
  };
}

/** What was measured of keys, by the fields that hold their parts. */
export function keysByField(
  { parts }: RecognitionRow['document'],
  keys: NonNullable<RecognitionRow['measure']>['keys'] = [],
): KeyFacts[] {
  const fieldOf = new Map(parts.map(({ part, field }) => [part, field]));
  return keys.map(({ parts: key, ...measured }) => ({
    fields: key.flatMap((part) => fieldOf.get(part) ?? []),
    ...measured,
  }));
}
