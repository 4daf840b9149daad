import type {
  PairedPlace,
  PairingDetail,
  PairingListed,
  PairingLook,
  PairQuestion,
  RehearsedPair,
} from '@zusammen/core/api';
import { checkPairing, type PairingInput } from '@zusammen/core/checks';
import { titleOf } from '@zusammen/core/mapping';
import {
  measured,
  placeName,
  readied,
  SIDES,
  type Pairing,
  type ReadyPairing,
  type Side,
  type Sides,
} from '@zusammen/core/pairing';
import { entityOf, type Field, type Values } from '@zusammen/core/schema';
import {
  assess,
  fieldsOf,
  overPairs,
  overSamples,
  sample,
  type LookedAt,
  triedLines,
  type PairSample,
} from '../engine/index.ts';
import {
  beatsOf,
  dueOf,
  feedOf,
  listPairings,
  listSystems,
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
} from '../store/index.ts';
import type { Context } from './context.ts';

type Around = Pick<Context, 'db' | 'live' | 'systems'>;

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
    causes: causes.map(({ lineId: line, pairingId: _, ...each }) => ({ ...each, line })),
    ...{ beats, progress },
  };
}

async function progressOf(db: Context['db'], { id, draft }: PairingRow): Promise<PairingDetail['progress']> {
  const read: Sides<number> = { left: 0, right: 0 };
  let reading = false;
  for (const side of SIDES) {
    const feed = await feedOf(db, draft[side].system, draft[side].entity);
    read[side] = feed ? await seenCount(db, feed.id) : 0;
    reading ||= feed?.seenAt == null;
  }
  const [rows] = await db.$client.query("SELECT total FROM jobs WHERE kind = 'pairing' AND subject = ?", [id]);
  const due = await dueOf(db, id);
  const total = Math.max((rows as { total: number }[])[0]?.total ?? 0, due.count);
  return { read, reading, total, done: total - due.count };
}

/** So many pairs of a pairing that is at work are looked at; a sample has as many as were read. */
const MOST_LOOKED_AT = 20_000;
/** How long a sample serves, in milliseconds: while somebody edits, the systems needn't be read for every change. */
const SAMPLE_FRESH_MS = 120_000;

/** Samples of both sides, kept while somebody works on a pairing. */
export class Samples {
  private readonly kept = new Map<string, { at: number; fields: string; found: Promise<PairSample> }>();

  constructor(private readonly context: Around) {}

  async of(on: Pick<Pairing, Side>, wanted: Parameters<typeof sample>[3], fields: string): Promise<PairSample> {
    const key = JSON.stringify([on.left, on.right]);
    const known = this.kept.get(key);
    if (known && known.fields === fields && Date.now() - known.at < SAMPLE_FRESH_MS) return known.found;
    const found = this.context.live
      .allSchemas()
      .then((schemas) => sample(this.context.systems, schemas, { left: on.left, right: on.right }, wanted));
    if (this.kept.size >= 4) this.kept.clear();
    this.kept.set(key, { at: Date.now(), fields, found });
    found.catch(() => this.kept.delete(key));
    return found;
  }

  /** A sample with the fields that a pairing looks at. */
  for(document: Pairing, ready: ReadyPairing): Promise<PairSample> {
    const wanted = fieldsOf(document, ready);
    const said = SIDES.map((side) => [...wanted(side, ready.around[side].entity)].sort());
    return this.of(document, wanted, JSON.stringify(said));
  }
}

/** What would happen under a document: on the pairs that are kept where there are any, else on what goes together in samples. */
export async function lookAtPairing(
  context: Around,
  samples: Samples,
  row: PairingRow,
  document: Pairing,
): Promise<PairingLook> {
  const schemas = await context.live.allSchemas();
  const ready = readied(document, schemas);
  if (!ready)
    return {
      by: 'sample',
      pairs: 0,
      measured: null,
      whole: { left: false, right: false },
      lines: [],
      findings: checkPairing(await inputOf(context, row.id, document)),
    };
  const kept = row.liveVersion !== null && row.filled;
  const taken = kept ? undefined : await samples.for(document, ready);
  const pairs: AsyncIterable<LookedAt> = taken
    ? overSamples(document, ready, taken)
    : overPairs(context.db, row.id, document, ready, MOST_LOOKED_AT);
  const { assessment, values } = await assess(ready, pairs);
  const input = await inputOf(context, row.id, document);
  return {
    by: kept ? 'pairs' : 'sample',
    pairs: assessment.pairs,
    measured: taken ? measured(document.matches, ready.around, taken.sides) : null,
    whole: taken ? taken.whole : { left: true, right: true },
    lines: assessment.lines,
    findings: checkPairing({ ...input, outcomes: assessment.lines, tried: await triedLines(ready, values) }),
  };
}

/** What the checks may know of a pairing. */
export async function inputOf({ db, live }: Around, id: string, pairing: Pairing): Promise<PairingInput> {
  const [schemas, others, systems] = await Promise.all([live.allSchemas(), livePairings(db), listSystems(db)]);
  return {
    ...{ id, pairing, schemas },
    others: others
      .filter((each) => each.id !== id)
      .map(({ id: other, document }) => ({ id: other, pairing: document })),
    names: Object.fromEntries([...others.map(({ id: other, document }) => [other, document.name]), [id, pairing.name]]),
    systemNames: Object.fromEntries(systems.map(({ id: system, name }) => [system, name])),
    personalSystems: systems.filter(({ personal }) => personal).map(({ id: system }) => system),
    abilities: Object.fromEntries(systems.map(({ id: system, capabilities }) => [system, capabilities])),
  };
}

/** What would be written to some pairs; nothing is. Those that change come first. */
export async function rehearsePairing(
  context: Around,
  samples: Samples,
  row: PairingRow,
  most: number,
): Promise<{ pairs: RehearsedPair[]; looked: number; whole: boolean }> {
  const schemas = await context.live.allSchemas();
  const ready = readied(row.draft, schemas);
  if (!ready) return { pairs: [], looked: 0, whole: false };
  const kept = row.liveVersion !== null && row.filled;
  const taken = kept ? undefined : await samples.for(row.draft, ready);
  const over = taken ? overSamples(row.draft, ready, taken) : overPairs(context.db, row.id, row.draft, ready, most);
  const changing: RehearsedPair[] = [];
  const still: RehearsedPair[] = [];
  let looked = 0;
  for await (const { settled, records } of over) {
    looked += 1;
    const pair: RehearsedPair = {
      ids: { left: records.left?.id ?? '', right: records.right?.id ?? '' },
      title: titleOfPair(ready, records),
      lines: settled.lines.map(({ line, now, before, write, ask, stuck }) => {
        const side = SIDES.find((each) => write[each] !== undefined);
        return {
          ...{ line: line.id, now, base: before ?? null },
          ...(side ? { write: { side, value: write[side]! } } : {}),
          ...(ask ? { asked: true } : {}),
          ...(stuck ? { reason: stuck.reason } : {}),
        };
      }),
    };
    const changes = pair.lines.some(({ write, asked, reason }) => write ?? asked ?? reason);
    (changes ? changing : still).push(pair);
    if (looked >= most) break;
  }
  return { pairs: [...changing, ...still], looked, whole: taken ? taken.whole.left && taken.whole.right : true };
}

/** What a pair is called: as the records call what they are about. */
function titleOfPair(ready: ReadyPairing, records: Sides<{ id: string; values: Values } | undefined>): string {
  for (const side of ['right', 'left'] as const) {
    const record = records[side];
    const title = record
      ? titleOf(ready.around[side].entity.fields, textsOf(record.values, ready.around[side].entity.fields))
      : '';
    if (title !== '') return title;
  }
  return records.left?.id ?? records.right?.id ?? '';
}

/** The values that a record may be called by; the ids of others it leads to are none. */
const textsOf = (values: Values, fields: readonly Field[]): Values =>
  Object.fromEntries(
    fields.flatMap(({ name, type }) =>
      (type === 'text' || type === 'email' || type === 'phone') && typeof values[name] === 'string'
        ? [[name, values[name]]]
        : [],
    ),
  );

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
