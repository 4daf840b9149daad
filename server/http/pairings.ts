import type {
  PairCause,
  PairedPlace,
  PairingDetail,
  PairingListed,
  PairingLook,
  PairingRehearsal,
  PairQuestion,
} from '@zusammen/core/api';
import type { PairingInput } from '@zusammen/core/checks';
import { titleOf } from '@zusammen/core/mapping';
import {
  placeName,
  readied,
  SIDES,
  textsOf,
  titleOfPair,
  type Pairing,
  type ReadyPairing,
  type Side,
  type Sides,
} from '@zusammen/core/pairing';
import { entityOf, type Values } from '@zusammen/core/schema';
import { fieldsOf, keptPairs, missingFor, sample } from '../engine/index.ts';
import type { LookedOver, PackedSample, Wanted } from '../heavy/index.ts';
import {
  beatsOf,
  dueOf,
  feedOf,
  listPairings,
  listSystems,
  fieldFamilies,
  livePairings,
  openPairs,
  pairCounts,
  pairingVersion,
  pairingVersionsOf,
  seenCount,
  seenNow,
  troubleCauses,
  troublesOf,
  type PairCounts,
  type PairingRow,
  type SystemRow,
  type TroubleCause,
} from '../store/index.ts';
import type { Context } from './context.ts';

type Around = Pick<Context, 'db' | 'live' | 'systems' | 'heavy' | 'pairings'>;

const NONE: PairCounts = { inStep: 0, onTheWay: 0, asked: 0, refused: 0, since: null };

/** All pairings, as a list shows them. */
export async function pairingsListed({ db, live }: Around, only?: PairingRow): Promise<PairingListed[]> {
  const [rows, counts, systems, schemas, words] = await Promise.all([
    only ? [only] : listPairings(db),
    pairCounts(db, only?.id),
    listSystems(db),
    live.allSchemas(),
    wordsOfJobs(db),
  ]);
  const place = (side: Pairing['left']): PairedPlace => placeOn(side, systems, schemas);
  return rows.map(({ id, state, draft, filled }) => {
    const { since, ...states } = counts.get(id) ?? NONE;
    return {
      ...{ id, state, filled, states, name: draft.name },
      left: place(draft.left),
      right: place(draft.right),
      behindMs: since === null ? 0 : Math.max(0, Date.now() - since),
      words: words.get(id) ?? null,
    };
  });
}

async function wordsOfJobs(db: Context['db']): Promise<Map<string, string | null>> {
  const [rows] = await db.$client.query("SELECT subject, words FROM jobs WHERE kind = 'pairing'");
  return new Map((rows as { subject: string; words: string | null }[]).map(({ subject, words }) => [subject, words]));
}

type Schemas = Awaited<ReturnType<Context['live']['allSchemas']>>;

function placeOn(
  { system, entity }: Pairing['left'],
  systems: readonly Pick<SystemRow, 'id' | 'name'>[],
  schemas: Schemas,
): PairedPlace {
  return {
    system,
    systemName: systems.find(({ id }) => id === system)?.name ?? 'a system that is no longer connected',
    entity,
    entityLabel: entityOf(schemas.get(system) ?? { entities: [] }, entity)?.label ?? entity,
  };
}

/** One pairing with all that its page shows. */
export async function pairingDetail(context: Around, row: PairingRow): Promise<PairingDetail> {
  const { db } = context;
  const [[listed], versions, live, causes, beats, progress] = await Promise.all([
    pairingsListed(context, row),
    pairingVersionsOf(db, row.id),
    row.liveVersion === null ? undefined : pairingVersion(db, row.id, row.liveVersion),
    troubleCauses(db, row.id),
    beatsOf(db, row.id, 60),
    row.filled || row.state === 'draft' ? null : progressOf(db, row),
  ]);
  return {
    ...listed!,
    draft: row.draft,
    revision: row.revision,
    liveVersion: row.liveVersion,
    live: live?.document ?? null,
    versions: versions.map(({ number, at, by }) => ({ number, at: at.toISOString(), by })),
    causes: await causesShown(context, row, causes),
    recognises: await recognisedOn(context, row.draft),
    makesFields: {
      left: await canMake(context, row.draft.left.system, 'addField'),
      right: await canMake(context, row.draft.right.system, 'addField'),
    },
    ...{ beats, progress },
  };
}

/** Causes for which it is looked whether options are missing; the most frequent come first. */
const MOST_LOOKED_INTO = 12;

async function causesShown(
  context: Around,
  { id, draft }: PairingRow,
  causes: readonly TroubleCause[],
): Promise<PairCause[]> {
  const pairing = causes.length === 0 ? undefined : await context.pairings.byId(id);
  return Promise.all(
    causes.map(async ({ lineId: line, pairingId: _, ...each }, at): Promise<PairCause> => {
      const looked = pairing && each.kind === 'refused' && at < MOST_LOOKED_INTO;
      const missing = looked ? await missingFor(context.db, pairing, line, each.cause) : undefined;
      if (!missing) return { ...each, line };
      const canAdd = await canMake(context, draft[missing.side].system, 'addOption');
      return { ...each, line, missing: { ...missing, canAdd } };
    }),
  );
}

/** Whether somebody has said how records of a side are recognised. */
async function recognisedOn({ live }: Around, on: Pick<Pairing, Side>): Promise<Sides<boolean>> {
  const [left, right] = await Promise.all([live.known.of(on.left), live.known.of(on.right)]);
  return { left: left !== undefined, right: right !== undefined };
}

/** Whether a system's schema can be changed from here. */
async function canMake({ systems }: Around, system: string, what: 'addOption' | 'addField'): Promise<boolean> {
  const client = await systems.client(system).catch(() => undefined);
  const { schemaChanges } = client ?? {};
  return schemaChanges?.[what] !== undefined || (what === 'addOption' && schemaChanges?.addOptions !== undefined);
}

async function progressOf(db: Context['db'], { id, draft, laid }: PairingRow): Promise<PairingDetail['progress']> {
  const read: Sides<number> = { left: 0, right: 0 };
  let reading = false;
  for (const side of SIDES) {
    const feed = await feedOf(db, draft[side].system, draft[side].entity);
    read[side] = feed ? await seenCount(db, feed.id) : 0;
    reading ||= feed?.seenAt == null;
  }
  const [rows] = await db.$client.query("SELECT total FROM jobs WHERE kind = 'pairing' AND subject = ?", [id]);
  // Those of a side that isn't begun with are yet to be marked as due.
  const unlaid = SIDES.slice(laid).reduce((sum, side) => sum + read[side], 0);
  const still = (await dueOf(db, id)).count + unlaid;
  const total = Math.max((rows as { total: number }[])[0]?.total ?? 0, still);
  return { read, reading, total, done: total - still };
}

/** So many pairs of a pairing that is at work are looked at; a sample has as many as were read. */
const MOST_LOOKED_AT = 20_000;
/** How long a sample serves, in milliseconds: while somebody edits, the systems needn't be read for every change. */
const SAMPLE_FRESH_MS = 120_000;
const MOST_SAMPLES = 4;

/** Samples of both sides, kept while somebody works on a pairing. */
export class Samples {
  private readonly kept = new Map<string, { at: number; fields: string; found: Promise<PackedSample> }>();

  constructor(private readonly context: Around) {}

  async of(on: Pick<Pairing, Side>, wanted: Parameters<typeof sample>[3], fields: string): Promise<PackedSample> {
    const key = JSON.stringify([on.left, on.right]);
    const known = this.kept.get(key);
    if (known && known.fields === fields && Date.now() - known.at < SAMPLE_FRESH_MS) return known.found;
    const found = this.context.live
      .allSchemas()
      .then((schemas) => sample(this.context.systems, schemas, { left: on.left, right: on.right }, wanted));
    if (this.kept.size >= MOST_SAMPLES) this.kept.clear();
    this.kept.set(key, { at: Date.now(), fields, found });
    found.catch(() => this.kept.delete(key));
    return found;
  }

  /** A sample with the fields that a pairing looks at. */
  for(document: Pairing, ready: ReadyPairing): Promise<PackedSample> {
    const wanted = fieldsOf(document, ready);
    const said = SIDES.map((side) => [...wanted(side, ready.around[side].entity)].sort());
    return this.of(document, wanted, JSON.stringify(said));
  }
}

/** The pairs that are kept where there are any, else samples of both sides. */
async function lookedOver(
  { db }: Around,
  samples: Samples,
  row: PairingRow,
  document: Pairing,
  ready: ReadyPairing,
  most: number,
): Promise<LookedOver> {
  return row.liveVersion !== null && row.filled
    ? { by: 'pairs', pairs: await keptPairs(db, row.id, document, ready, most) }
    : { by: 'sample', sample: await samples.for(document, ready) };
}

/** What would happen under a document. */
export async function lookAtPairing(
  context: Around,
  samples: Samples,
  row: PairingRow,
  document: Pairing,
  wanted: Wanted,
): Promise<PairingLook> {
  const input = await inputOf(context, row.id, document);
  const ready = readied(document, input.schemas);
  const over = ready && (await lookedOver(context, samples, row, document, ready, MOST_LOOKED_AT));
  return context.heavy.run('lookAtPairing', { input, ...(over ? { over } : {}) }, wanted);
}

/** What the checks find without looking at any pairs. */
export const findingsOf = async (
  context: Around,
  { id, draft }: PairingRow,
  wanted: Wanted,
): Promise<PairingLook['findings']> =>
  (await context.heavy.run('lookAtPairing', { input: await inputOf(context, id, draft) }, wanted)).findings;

/** What the checks may know of a pairing. */
async function inputOf(context: Around, id: string, pairing: Pairing): Promise<PairingInput> {
  const { db, live } = context;
  const [schemas, others, systems, families] = await Promise.all([
    live.allSchemas(),
    livePairings(db),
    listSystems(db),
    fieldFamilies(db),
  ]);
  return {
    ...{ id, pairing, schemas, families },
    others: others
      .filter((each) => each.id !== id)
      .map(({ id: other, document }) => ({ id: other, pairing: document })),
    names: Object.fromEntries([...others.map(({ id: other, document }) => [other, document.name]), [id, pairing.name]]),
    systemNames: Object.fromEntries(systems.map(({ id: system, name }) => [system, name])),
    personalSystems: systems.filter(({ personal }) => personal).map(({ id: system }) => system),
    recognised: await recognisedOn(context, pairing),
    abilities: Object.fromEntries(systems.map(({ id: system, capabilities }) => [system, capabilities])),
  };
}

/** What would be written to some pairs; nothing is. */
export async function rehearsePairing(
  context: Around,
  samples: Samples,
  row: PairingRow,
  most: number,
  wanted: Wanted,
): Promise<PairingRehearsal> {
  const schemas = await context.live.allSchemas();
  const document = row.draft;
  const ready = readied(document, schemas);
  if (!ready) return { pairs: [], looked: 0, changing: 0, writes: 0, whole: false };
  const over = await lookedOver(context, samples, row, document, ready, most);
  return context.heavy.run('rehearsePairing', { document, schemas, over, most }, wanted);
}

/** So many questions are told at once. */
const MOST_QUESTIONS = 100;

/** All pairs that wait for somebody's word, the oldest first. */
export async function pairQuestions({ db, live }: Around): Promise<PairQuestion[]> {
  const [troubles, open, pairings, systems, schemas] = await Promise.all([
    troublesOf(db, { kind: 'asked', limit: MOST_QUESTIONS }),
    openPairs(db, undefined, MOST_QUESTIONS),
    livePairings(db),
    listSystems(db),
    live.allSchemas(),
  ]);
  const byId = new Map(pairings.map((each) => [each.id, each]));
  const asked = [
    ...troubles.map((each) => ({ ...each, field: each })),
    ...open.map((each) => ({ ...each, pair: each.id, field: undefined })),
  ];
  const questions: PairQuestion[] = [];
  for (const each of asked) {
    const document = byId.get(each.pairingId)?.document;
    const ready = document && readied(document, schemas);
    if (!document || !ready) continue;
    const named = async (side: Side, ids: readonly string[]): Promise<Map<string, Values>> => {
      const feed = await feedOf(db, document[side].system, document[side].entity);
      const seen = feed ? await seenNow(db, feed.id, ids) : new Map<string, never>();
      return new Map([...seen].map(([id, record]) => [id, record.values]));
    };
    const ids = { left: each.leftId, right: each.rightId };
    const records: Sides<{ id: string; values: Values } | undefined> = { left: undefined, right: undefined };
    for (const side of SIDES) {
      const id = ids[side];
      const values = id === null ? undefined : (await named(side, [id])).get(id);
      if (id !== null && values) records[side] = { id, values };
    }
    const question: PairQuestion = {
      pair: each.pair,
      pairing: each.pairingId,
      pairingName: document.name,
      left: placeOn(document.left, systems, schemas),
      right: placeOn(document.right, systems, schemas),
      ids,
      title: titleOfPair(ready, records),
      at: each.at.toISOString(),
    };
    if (each.field) {
      const line = document.lines.find(({ id }) => id === each.field.lineId);
      if (!line) continue;
      const label = { left: placeName(line.left, ready.around.left), right: placeName(line.right, ready.around.right) };
      question.field = { line: line.id, label, base: each.field.base, now: each.field.now };
    } else if ('state' in each && each.state === 'unsure') {
      const side: Side = ids.left === null ? 'left' : 'right';
      const candidates = each.candidates?.[side] ?? [];
      const values = await named(side, candidates);
      question.unsure = {
        side,
        candidates: candidates.map((id) => ({
          id,
          title:
            titleOf(
              ready.around[side].entity.fields,
              textsOf(values.get(id) ?? {}, ready.around[side].entity.fields),
            ) || id,
        })),
      };
    } else question.lost = records.left ? 'right' : 'left';
    questions.push(question);
  }
  return questions;
}
