import type { Value, Values } from '../schema/index.ts';
import { changedAtField } from '../schema/index.ts';
import { isBlank } from '../values/index.ts';
import { Assessment } from './assess.ts';
import type { Pairing } from './model.ts';
import { settlePair, type PairSettled, type ReadyPairing } from './pair.ts';
import type { Sample } from './propose-match.ts';
import { restlessness, type Witness } from './rest.ts';
import { SIDES, type Side, type Sides } from './settle.ts';
import { joined, keysOf, type Joined } from './which.ts';

/** A pair that was looked at, with what both hold and what would become of it. */
export interface LookedAt {
  settled: PairSettled;
  records: Sides<{ id: string; values: Values }>;
}

/** A pair that is kept, with what both sides held when it was last at rest and what they hold now. */
export interface KeptPair {
  base: Readonly<Record<string, Sides<Value>>>;
  records: Sides<{ id: string; values: Values }>;
  /** Milliseconds of Unix time. */
  changedAt: Partial<Sides<number | undefined>>;
}

/** What goes together in samples of both sides. */
export function joinedSamples(matches: Pairing['matches'], ready: ReadyPairing, samples: Sides<Sample>): Joined {
  const keys = (side: Side) =>
    samples[side].records.map((record) => keysOf(matches, side, ready.around, record, samples[side].reach));
  return joined({ left: keys('left'), right: keys('right') }, matches.length);
}

/** What goes together in samples, and what would become of each pair as a pairing begins. */
export function* overSamples(document: Pairing, ready: ReadyPairing, samples: Sides<Sample>): Generator<LookedAt> {
  const moments = momentsOf(ready);
  for (const { left, right } of joinedSamples(document.matches, ready, samples).pairs) {
    const records = { left: samples.left.records[left]!, right: samples.right.records[right]! };
    yield {
      records,
      settled: settlePair(ready, {
        base: {},
        records,
        reach: { left: samples.left.reach, right: samples.right.reach },
        changedAt: (side) => moments(side, records[side].values),
      }),
    };
  }
}

/** What would become of pairs that are kept. */
export function* overKept(
  ready: ReadyPairing,
  pairs: Iterable<KeptPair>,
  reach: Sides<Sample['reach']>,
): Generator<LookedAt> {
  for (const { base, records, changedAt } of pairs)
    yield { records, settled: settlePair(ready, { base, records, reach, changedAt: (side) => changedAt[side] }) };
}

/** When sampled records were changed, by what they say of it themselves. */
function momentsOf(ready: ReadyPairing): (side: Side, values: Values) => number | undefined {
  const names = {
    left: changedAtField(ready.around.left.entity)?.name,
    right: changedAtField(ready.around.right.entity)?.name,
  };
  return (side, values) => {
    const name = names[side];
    const at = name === undefined ? NaN : Date.parse(String(values[name] ?? ''));
    return Number.isNaN(at) ? undefined : at;
  };
}

/** Values kept of each line and side, to try whether they come to rest. */
const MOST_VALUES = 500;

/**
 * What would happen over pairs, and some of the values in use, by line.
 * @param enough asked after every pair: whether what was looked at is to be told as it is
 */
export function assess(
  ready: ReadyPairing,
  pairs: Iterable<LookedAt>,
  enough: () => boolean = () => false,
): { assessment: Assessment; values: Map<string, Sides<Value[]>> } {
  const assessment = new Assessment(ready.lines);
  const values = new Map(
    ready.lines.map(({ line }) => [line.id, { left: new Map<string, Value>(), right: new Map<string, Value>() }]),
  );
  for (const { settled, records } of pairs) {
    assessment.add(settled, { left: records.left.id, right: records.right.id });
    for (const { line, now } of settled.lines)
      for (const side of SIDES) {
        const known = values.get(line.id)![side];
        if (known.size < MOST_VALUES && !isBlank(now[side])) known.set(JSON.stringify(now[side]), now[side]);
      }
    if (enough()) break;
  }
  const lists = new Map(
    [...values].map(([line, { left, right }]) => [line, { left: [...left.values()], right: [...right.values()] }]),
  );
  return { assessment, values: lists };
}

/** Values of all lines together that are tried there and back. */
const MOST_TRIED_IN_ALL = 6_000;

/** Values of each line that never come to rest between its sides, each line tried by itself. */
export function triedLines(
  ready: ReadyPairing,
  values: ReadonlyMap<string, Sides<Value[]>>,
): Map<string, Witness | undefined> {
  const most = Math.max(10, Math.floor(MOST_TRIED_IN_ALL / ready.lines.length));
  return new Map(
    ready.lines.map((line) => {
      const { left = [], right = [] } = values.get(line.line.id) ?? {};
      return [line.line.id, restlessness(line, { left: left.slice(0, most), right: right.slice(0, most) })];
    }),
  );
}
