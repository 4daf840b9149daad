import type { PairingLook, PairingProposal, PairingRehearsal, RehearsedPair } from '@zusammen/core/api';
import { checkPairing, type PairingInput } from '@zusammen/core/checks';
import type { Learned } from '@zusammen/core/mapping';
import {
  assess,
  historyFor,
  joinedSamples,
  measured,
  overKept,
  overSamples,
  proposeLines,
  proposeMatches,
  readied,
  SIDES,
  titleOfPair,
  triedLines,
  type KeptPair,
  type LineSettled,
  type LookedAt,
  type Pairing,
  type ReadyPairing,
  type Sample,
  type Sides,
} from '@zusammen/core/pairing';
import type { Schema } from '@zusammen/core/schema';
import { v7 as uuid } from 'uuid';
import { unpack, type Packed } from './packed.ts';

type ListedRecord = Sample['records'][number];

/** Records of a side, and by entity those that relations lead to: lists of `ListedRecord`, packed page by page. */
export interface PackedSide {
  own: Packed[];
  related: [entity: string, records: Packed[]][];
  /** All records of the side are among them. */
  whole: boolean;
}
export type PackedSample = Sides<PackedSide>;

/** Some pairs that are kept, and what relations of their records lead to. */
export interface KeptPairs {
  pairs: KeptPair[];
  related: Sides<[entity: string, records: ListedRecord[]][]>;
}

/** What is looked over: samples of both sides, or pairs that are kept (lists of `KeptPairs`). */
export type LookedOver = { by: 'sample'; sample: PackedSample } | { by: 'pairs'; pairs: Packed[] };

type Related = readonly (readonly [entity: string, records: readonly ListedRecord[]])[];

function reachOver(related: Related): Sample['reach'] {
  const found = new Map(
    related.map(([entity, records]) => [entity, new Map(records.map(({ id, values }) => [id, values]))]),
  );
  return (entity, id) => found.get(entity)?.get(id);
}

const unpackedAll = (pages: readonly Packed[]): ListedRecord[] => pages.flatMap((page) => unpack<ListedRecord[]>(page));

function samplesOf(packed: PackedSample): Sides<Sample> {
  const of = ({ own, related }: PackedSide): Sample => ({
    records: unpackedAll(own),
    reach: reachOver(related.map(([entity, pages]) => [entity, unpackedAll(pages)])),
  });
  return { left: of(packed.left), right: of(packed.right) };
}

function* overPairs(ready: ReadyPairing, batches: readonly Packed[]): Generator<LookedAt> {
  for (const batch of batches) {
    const { pairs, related } = unpack<KeptPairs>(batch);
    yield* overKept(ready, pairs, { left: reachOver(related.left), right: reachOver(related.right) });
  }
}

/** Milliseconds after which enough pairs have been looked at: how many it were is told. */
const LONGEST_LOOK_MS = 10_000;

/** What goes with what between two entities, and which fields are linked, measured on samples. */
export function propose({
  document,
  schemas,
  sample,
  learned,
}: {
  document: Pairing;
  schemas: ReadonlyMap<string, Schema>;
  sample: PackedSample;
  learned: Learned[];
}): PairingProposal {
  const ready = readied(document, schemas)!;
  const samples = samplesOf(sample);
  const matches = proposeMatches(ready.around, samples);
  const proposed: Pairing = { ...document, matches: matches.map(({ match }) => match) };
  const together = joinedSamples(proposed.matches, ready, samples).pairs.map((pair) => ({
    left: samples.left.records[pair.left]!,
    right: samples.right.records[pair.right]!,
  }));
  proposed.lines = proposeLines(ready.around, samples, together, learned, uuid);
  const [leftHistory, rightHistory] = SIDES.map((side) => historyFor(ready.around[side].schema));
  if (leftHistory) proposed.leftHistory = leftHistory;
  if (rightHistory) proposed.rightHistory = rightHistory;
  return { document: proposed, matches, offered: proposed.lines.filter(({ suggested }) => suggested !== undefined) };
}

/** What would happen to each field, and what the checks find. @param over absent: a side can't be seen */
export function look({ over, input }: { over?: LookedOver; input: PairingInput }): PairingLook {
  const ready = readied(input.pairing, input.schemas);
  if (!ready || !over) {
    const findings = checkPairing(input);
    return {
      ...{ by: 'sample', pairs: 0, measured: null, whole: { left: false, right: false } },
      ...{ lines: [], findings },
    };
  }
  const until = performance.now() + LONGEST_LOOK_MS;
  const samples = over.by === 'sample' ? samplesOf(over.sample) : undefined;
  const pairs = over.by === 'pairs' ? overPairs(ready, over.pairs) : overSamples(input.pairing, ready, samples!);
  const { assessment, values } = assess(ready, pairs, () => performance.now() > until);
  return {
    by: over.by,
    pairs: assessment.pairs,
    measured: samples ? measured(input.pairing.matches, ready.around, samples) : null,
    whole:
      over.by === 'sample'
        ? { left: over.sample.left.whole, right: over.sample.right.whole }
        : { left: true, right: true },
    lines: assessment.lines,
    findings: checkPairing({ ...input, outcomes: assessment.lines, tried: triedLines(ready, values) }),
  };
}

/** Characters that what is told of a rehearsal may have as JSON. */
const MOST_TOLD = 2_000_000;

/** What would be written to some pairs. */
export function rehearsed({
  document,
  schemas,
  over,
  most,
}: {
  document: Pairing;
  schemas: ReadonlyMap<string, Schema>;
  over: LookedOver;
  most: number;
}): PairingRehearsal {
  const ready = readied(document, schemas)!;
  const pairs =
    over.by === 'pairs' ? overPairs(ready, over.pairs) : overSamples(document, ready, samplesOf(over.sample));
  const whole = over.by === 'pairs' || (over.sample.left.whole && over.sample.right.whole);
  const rehearsal: PairingRehearsal = { pairs: [], looked: 0, changing: 0, writes: 0, whole };
  let told = 0;
  for (const { settled, records } of pairs) {
    rehearsal.looked += 1;
    const lines = settled.lines.flatMap(toldOfLine);
    if (lines.length > 0) {
      rehearsal.changing += 1;
      rehearsal.writes += lines.filter(({ write }) => write !== undefined).length;
      const pair = {
        ids: { left: records.left.id, right: records.right.id },
        title: titleOfPair(ready, records),
        lines,
      };
      told += JSON.stringify(pair).length;
      if (told <= MOST_TOLD) rehearsal.pairs.push(pair);
    }
    if (rehearsal.looked >= most) break;
  }
  return rehearsal;
}

/** A line of a pair, where anything would become of it. */
function toldOfLine({ line, now, before, write, ask, stuck }: LineSettled): RehearsedPair['lines'] {
  const side = SIDES.find((each) => write[each] !== undefined);
  if (!side && !ask && !stuck) return [];
  return [
    {
      ...{ line: line.id, now, base: before ?? null },
      ...(side ? { write: { side, value: write[side]! } } : {}),
      ...(ask ? { asked: true } : {}),
      ...(stuck ? { reason: stuck.reason } : {}),
    },
  ];
}
