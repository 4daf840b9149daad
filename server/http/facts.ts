import type { Abilities, Facts, KeyFacts } from '@zusammen/core/checks';
import { formOn, type FormField } from '@zusammen/core/forms';
import type { IntakeDocument } from '@zusammen/core/intake';
import { across, followedFields, type Pairing } from '@zusammen/core/pairing';
import type { Wanted } from '../heavy/index.ts';
import {
  adapterOf,
  fieldFamilies,
  importsOf,
  listActingSystems,
  listIntakes,
  listPaymentServices,
  listRecognitions,
  listSystems,
  livePairings,
  panelSightOf,
  pastValues,
  secretsOf,
  type Database,
  type Intake,
  type RecognitionRow,
  type SystemRow,
} from '../store/index.ts';
import type { Context } from './context.ts';
import { readPage } from './pages.ts';
import { Problem } from './problem.ts';

/** How many of the newest submissions tell what arrives. */
const LATELY = 50;
/** How long whoever publishes waits for the page, in milliseconds. */
const PAGE_PATIENCE_MS = 4_000;

/** What the checks may know of an intake besides its document; what its page holds now is asked of the page. */
export async function factsOf(
  db: Database,
  intake: Intake,
): Promise<Required<Omit<Facts, 'pageFields' | 'arrived'>> & Pick<Facts, 'arrived'>> {
  const [past, secrets, files, systems, recognitions, pairings, services, intakes, acting, sight, families] =
    await Promise.all([
      pastValues(db, intake.id, LATELY),
      secretsOf(db, intake.id),
      importsOf(db, intake.id),
      listSystems(db),
      listRecognitions(db),
      livePairings(db),
      listPaymentServices(db),
      listIntakes(db),
      listActingSystems(db),
      panelSightOf(db, intake.id),
      fieldFamilies(db),
    ]);
  return {
    arrived: past.map(({ values }) => values),
    everArrived: past.length > 0,
    secrets: secrets.length,
    files: files.length,
    published: intake.liveVersion !== null,
    personalSystems: systems.filter(({ personal }) => personal).map(({ id }) => id),
    systemNames: Object.fromEntries(systems.map(({ id, name }) => [id, name])),
    paymentServices: services.map(({ id }) => id),
    actingSystems: acting.map(({ systemId }) => systemId),
    panelSeen: Boolean(sight?.seenAt),
    openIntakes: intakes.filter(({ state }) => state === 'open').map(({ key }) => key),
    recognitions: Object.fromEntries(
      recognitions.map(({ systemId, entity, document, measure }) => [
        `${systemId}/${entity}`,
        { document, keys: keysByField(document, measure?.keys) },
      ]),
    ),
    abilities: Object.fromEntries([
      ...systems.map(({ id, capabilities }) => [id, capabilities] as const),
      ...(await Promise.all(systems.map((system) => abilitiesByEntity(db, system)))).flat(),
    ]),
    followed: Object.fromEntries(pairings.flatMap(({ document }) => followedBy(document, systems))),
    families,
    drifted: Object.fromEntries(systems.flatMap(driftOf)),
  };
}

/** Fields that a pairing brings back to what the other side holds. */
function followedBy(pairing: Pairing, systems: readonly SystemRow[]): [string, { pairing: string; decides: string }][] {
  return followedFields(pairing).map(({ side, field }) => {
    const { system, entity } = pairing[side];
    const other = pairing[across(side)];
    const decides = `${other.entity} in ${systems.find(({ id }) => id === other.system)?.name ?? 'the other system'}`;
    return [`${system}/${entity}/${field}`, { pairing: pairing.name, decides }];
  });
}

/** What a system with an adapter can do, by entity. */
async function abilitiesByEntity(db: Database, { id, adapterVersion }: SystemRow): Promise<[string, Abilities][]> {
  const adapter = adapterVersion === null ? undefined : await adapterOf(db, id, adapterVersion);
  return (adapter?.document.entities ?? []).map(({ name, repeat, update, remove, version, read }) => [
    `${id}/${name}`,
    {
      repeatability: repeat.by === 'key' || repeat.by === 'marker',
      ...(repeat.by === 'none' ? { untold: true } : {}),
      batch: false,
      etags: version !== undefined || !(update ?? remove),
      byKey: read !== undefined,
    },
  ]);
}

function driftOf({ id, adapterDrift }: SystemRow): [string, string[]][] {
  const breaks = (adapterDrift ?? []).filter((each) => each.breaks);
  return [...new Set(breaks.map(({ entity }) => entity))].map((entity) => [
    `${id}/${entity}`,
    breaks.filter((each) => each.entity === entity).map(({ what }) => what),
  ]);
}

/** The form's fields as its page has them now; undefined where it names none, or can't be read: nothing is known then. */
export async function pageFieldsOf(
  { systems, heavy }: Pick<Context, 'systems' | 'heavy'>,
  { source, fields }: IntakeDocument,
  wanted: Wanted,
): Promise<FormField[] | undefined> {
  const { page, formName } = source;
  if (page === undefined || !/^https?:\/\/[^/]+/.test(page) || fields.length === 0) return undefined;
  const read = await readPage(page, systems.via.dispatcher, heavy, wanted, PAGE_PATIENCE_MS).catch((error: unknown) => {
    if (error instanceof Problem) return undefined;
    throw error;
  });
  return read && formOn(read.forms, formName)?.fields;
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
