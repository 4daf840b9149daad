import type { Measure, NearPair } from '@zusammen/core/api';
import {
  KeyMeter,
  keyValue,
  levelKey,
  priorOf,
  tuned,
  tuningOf,
  verdictAlone,
  whyOf,
  type Compared,
  type LearningPair,
  type PreparedRecord,
  type Recogniser,
} from '@zusammen/core/recognition';
import { packedAfter, type Database, type DecidedPair, type RecognitionRow } from '../../store/index.ts';
import type { Known } from './known.ts';

/** Known records that are compared with all that come into question for them. */
const SAMPLED = 1500;
/** Any two records, to see how often values agree by chance. */
const RANDOM = 5000;
const NEAR = 100;
/** Records read at once from the index. */
const PORTION = 5000;
/** How far from a line a pair is near it, in bits. */
const NEAR_BITS = 6;

/** All known records, portion by portion. */
export async function* everyKnown(
  db: Database,
  scope: number,
  recogniser: Recogniser,
): AsyncGenerator<PreparedRecord[]> {
  for (let after = 0; ; ) {
    const packed = await packedAfter(db, scope, after, PORTION);
    if (packed.length === 0) return;
    yield packed.map(({ recordId, packed: text }) => recogniser.kind.unpack(recordId, text));
    after = packed.at(-1)!.n;
  }
}

/** How common values are among all known records, and how well single keys tell them apart. */
export async function countKnownValues(
  db: Database,
  scope: number,
  recogniser: Recogniser,
): Promise<{ counts: Uint32Array[]; keys: ReturnType<KeyMeter['measures']>; known: number }> {
  const { recognition, kind } = recogniser;
  const common = kind.frequencies();
  const meter = new KeyMeter(
    recognition.kind,
    recognition.parts.map(({ part }) => part),
  );
  let known = 0;
  for await (const records of everyKnown(db, scope, recogniser)) {
    for (const record of records) {
      common.add(record);
      meter.add(record);
    }
    known += records.length;
  }
  return { counts: common.kept(), keys: meter.measures(), known };
}

/** A sample of the known records, and the pairs of it that come into question, compared by defaults. */
export interface Sampled {
  sample: PreparedRecord[];
  pairs: { a: PreparedRecord; b: PreparedRecord; compared: Compared }[];
}

/** By default weights, whatever was learned. */
const byDefault = (recogniser: Recogniser): Recogniser => recogniser.with({ ...recogniser.recognition, learned: [] });

/** Samples the known records evenly. */
export async function samplePairs(
  db: Database,
  known: Known,
  row: RecognitionRow,
  recogniser: Recogniser,
): Promise<Sampled> {
  const plain = byDefault(recogniser);
  const step = Math.max(1, Math.floor(row.known / SAMPLED));
  const sample: PreparedRecord[] = [];
  let at = 0;
  for await (const records of everyKnown(db, row.scope, recogniser))
    for (const record of records) if (at++ % step === 0 && sample.length < SAMPLED) sample.push(record);
  const seen = new Set<string>();
  const pairs: Sampled['pairs'] = [];
  for (const record of sample) {
    const others = (await known.candidates({ row, recogniser }, record)).filter(({ id }) => id !== record.id);
    const atHand = [record, ...others];
    for (const other of others) {
      const key = record.id < other.id ? `${record.id} ${other.id}` : `${other.id} ${record.id}`;
      if (seen.has(key)) continue;
      seen.add(key);
      pairs.push({ a: record, b: other, compared: plain.compare(record, other, atHand) });
    }
  }
  return { sample, pairs };
}

/** Any two of a sample, compared by defaults: how often values agree by chance. */
export async function randomPairs({ sample }: Sampled, recogniser: Recogniser): Promise<Compared[]> {
  const plain = byDefault(recogniser);
  const random: Compared[] = [];
  if (sample.length < 2) return random;
  for (let index = 0; index < RANDOM; index += 1) {
    const one = sample[(index * 7919) % sample.length]!;
    const other = sample[(index * 104_729 + 1 + Math.floor(index / sample.length)) % sample.length]!;
    if (one.id !== other.id) random.push(plain.compare(one, other, [one, other]));
    // Whoever else is served by this process comes in between.
    if (index % 200 === 0) await new Promise(setImmediate);
  }
  return random;
}

/** What the screens show of a recognition, worked out on a sample. */
export function measureOf(
  { pairs, sample }: Sampled,
  row: Pick<RecognitionRow, 'known' | 'revision'>,
  recogniser: Recogniser,
  keys: ReturnType<KeyMeter['measures']>,
  now: Date,
): Measure {
  const { recognition } = recogniser;
  const { thresholds } = recognition;
  const tuning = tuningOf(recognition);
  const prior = priorOf(row.known);
  const counts = new Map<number, number>();
  const levels = new Map<string, { about: string; level: string; count: number; bits: number }>();
  const near: NearPair[] = [];
  const apart = keys.map(() => ({ apart: new Set<string>(), looked: new Set<string>() }));
  let vetoed = 0;
  for (const { a, b, compared: plain } of pairs) {
    const compared = tuned(plain, tuning);
    const weight = compared.weight - prior;
    const verdict = verdictAlone({ weight, compared }, thresholds);
    if (compared.veto?.atMost === 'different') vetoed += 1;
    else counts.set(Math.floor(weight), (counts.get(Math.floor(weight)) ?? 0) + 1);
    if (verdict !== 'different')
      for (const { about, level, bits } of compared.evidence) {
        const each = levels.get(levelKey(about, level)) ?? { about, level, count: 0, bits: 0 };
        each.bits += (bits - each.bits) / (each.count += 1);
        levels.set(levelKey(about, level), each);
      }
    const distance = Math.min(Math.abs(weight - thresholds.same), Math.abs(weight - thresholds.unsure));
    if (verdict === 'unsure' || (distance < NEAR_BITS && compared.veto?.atMost !== 'different')) {
      const why = whyOf({ weight, compared }, thresholds);
      near.push({
        a: a.id,
        b: b.id,
        weight,
        verdict,
        evidence: compared.evidence,
        ...(why === undefined ? {} : { why }),
      });
    }
    keys.forEach(({ parts }, at) => {
      const value = keyValue(recognition.kind, a, parts);
      if (value === undefined || value !== keyValue(recognition.kind, b, parts)) return;
      apart[at]!.looked.add(a.id);
      if (verdict === 'different') apart[at]!.apart.add(a.id);
    });
  }
  const bins = [...counts.keys()];
  const from = bins.length === 0 ? 0 : Math.min(...bins);
  const to = bins.length === 0 ? 0 : Math.max(...bins);
  const middle = (thresholds.same + thresholds.unsure) / 2;
  return {
    revision: row.revision,
    at: now.toISOString(),
    sampled: sample.length,
    pairs: pairs.length,
    bins: { from, counts: Array.from({ length: to - from + 1 }, (_, at) => counts.get(from + at) ?? 0) },
    vetoed,
    near: near.sort((a, b) => Math.abs(a.weight - middle) - Math.abs(b.weight - middle)).slice(0, NEAR),
    keys: keys.map((each, at) => ({ ...each, apart: apart[at]!.apart.size, looked: apart[at]!.looked.size })),
    levels: [...levels.values()].sort((a, b) => b.count - a.count),
  };
}

/** What learning works with: the sample, and what people decided; each pair compared by defaults. */
export function learningPairs({ pairs }: Sampled, decided: readonly DecidedPair[]): LearningPair[] {
  const answers = new Map(decided.map((each) => [`${each.a} ${each.b}`, each]));
  const isOpen = ({ a, b }: Sampled['pairs'][number]): boolean =>
    answers.size === 0 || !answers.has(a.id < b.id ? `${a.id} ${b.id}` : `${b.id} ${a.id}`);
  const open = pairs.flatMap((pair): LearningPair[] => (isOpen(pair) ? [{ compared: pair.compared }] : []));
  const told = decided.map(
    ({ evidence, same }): LearningPair => ({
      compared: { evidence, weight: evidence.reduce((sum, { bits }) => sum + bits, 0) },
      decided: same ? 'same' : 'different',
    }),
  );
  return [...open, ...told];
}
