import type { Facts } from '@zusammen/core/checks';
import { importsOf, listSystems, pastValues, secretsOf, type Database, type Intake } from '../store/index.ts';

/** How many of the newest submissions tell what arrives. */
const LATELY = 50;

/** What the checks may know of an intake besides its document; what its page holds now is asked of the page. */
export async function factsOf(
  db: Database,
  intake: Intake,
): Promise<Required<Omit<Facts, 'pageFields' | 'arrived'>> & Pick<Facts, 'arrived'>> {
  const [past, secrets, files, systems] = await Promise.all([
    pastValues(db, intake.id, LATELY),
    secretsOf(db, intake.id),
    importsOf(db, intake.id),
    listSystems(db),
  ]);
  return {
    arrived: past.map(({ values }) => values),
    everArrived: past.length > 0,
    secrets: secrets.length,
    files: files.length,
    published: intake.liveVersion !== null,
    personalSystems: new Set(systems.filter(({ personal }) => personal).map(({ id }) => id)),
    systemNames: new Map(systems.map(({ id, name }) => [id, name])),
    abilities: new Map(systems.map(({ id, capabilities }) => [id, capabilities])),
  };
}
