import type { Weights } from '../../core/mapping/reading/softmax.ts';

/** One thing to learn from: what was seen, what it was, and how much it counts. */
export interface Example {
  seen: readonly string[];
  was: string;
  counts: number;
}

const ROUNDS = 200;
const RATE = 0.08;

/**
 * Fits multinomial logistic regression by gradient descent with steps of its own for each weight (Adam: D. Kingma, J. Ba
 * 2015), against the square of the weights. The same examples in the same order come to the same weights.
 * @param against how much large weights cost
 * @param least weights nearer to nothing are left out, and so are features seen less than twice
 */
export function fit(examples: readonly Example[], against: number, least: number): Weights {
  const classes = [...new Set(examples.map(({ was }) => was))].sort();
  const numbers = new Map(classes.map((each, at) => [each, at]));
  const times = new Map<string, number>();
  for (const { seen } of examples) for (const feature of seen) times.set(feature, (times.get(feature) ?? 0) + 1);
  const features = [...times].filter(([, count]) => count > 1).map(([feature]) => feature);
  const places = new Map(features.map((each, at) => [each, at]));
  const size = classes.length;
  const rows = examples.map(({ seen, was, counts }) => ({
    seen: Int32Array.from(seen.flatMap((feature) => places.get(feature) ?? [])),
    was: numbers.get(was)!,
    counts,
  }));
  const count = (features.length + 1) * size;
  const weights = new Float64Array(count);
  const slope = new Float64Array(count);
  const [mean, spread] = [new Float64Array(count), new Float64Array(count)];
  const total = rows.reduce((sum, { counts }) => sum + counts, 0);
  const bias = features.length * size;
  const sums = new Float64Array(size);
  const hardly = 2e-4 / total;
  for (let round = 1; round <= ROUNDS; round += 1) {
    for (let at = 0; at < count; at += 1) slope[at] = at >= bias ? 0 : (against * weights[at]!) / total;
    for (const { seen, was, counts } of rows) {
      for (let k = 0; k < size; k += 1) sums[k] = weights[bias + k]!;
      for (const feature of seen) for (let k = 0; k < size; k += 1) sums[k]! += weights[feature * size + k]!;
      let most = -Infinity;
      for (const sum of sums) if (sum > most) most = sum;
      let all = 0;
      for (let k = 0; k < size; k += 1) all += sums[k] = Math.exp(sums[k]! - most);
      for (let k = 0; k < size; k += 1) {
        const off = ((sums[k]! / all - (k === was ? 1 : 0)) * counts) / total;
        // What is hardly thought possible moves nothing.
        if (Math.abs(off) < hardly) continue;
        slope[bias + k]! += off;
        for (const feature of seen) slope[feature * size + k]! += off;
      }
    }
    const [a, b] = [1 - 0.9 ** round, 1 - 0.999 ** round];
    for (let at = 0; at < count; at += 1) {
      mean[at] = 0.9 * mean[at]! + 0.1 * slope[at]!;
      spread[at] = 0.999 * spread[at]! + 0.001 * slope[at]! ** 2;
      weights[at]! -= (RATE * (mean[at]! / a)) / (Math.sqrt(spread[at]! / b) + 1e-8);
    }
  }
  const kept = new Map<string, number[]>();
  features.forEach((feature, at) => {
    const mine: number[] = [];
    for (let k = 0; k < size; k += 1) {
      const weight = Math.round(weights[at * size + k]! * 100) / 100;
      if (Math.abs(weight) >= least) mine.push(k, weight);
    }
    if (mine.length > 0) kept.set(feature, mine);
  });
  return {
    classes,
    bias: [...weights.slice(bias)].map((weight) => Math.round(weight * 100) / 100),
    features: new Map([...kept].sort(([x], [y]) => (x < y ? -1 : 1))),
  };
}

/** A pair as it is weighed, and whether it is right. */
export interface Odds {
  evidence: readonly number[];
  right: boolean;
}

/**
 * Fits logistic regression to few, dense entries by Newton's method (iteratively reweighted least squares).
 * @param expected weights that stand where the pairs say little: some kinds of evidence are seldom on public pages
 */
export function fitOdds(pairs: readonly Odds[], expected: readonly number[]): number[] {
  const size = expected.length;
  let weights = [...expected];
  for (let round = 0; round < 30; round += 1) {
    const slope = weights.map((weight, at) => (at === 0 ? 0 : (expected[at]! - weight) * RIDGE));
    const bend = weights.map((_, at) => weights.map((__, other) => (at === other ? RIDGE : 0)));
    for (const { evidence, right } of pairs) {
      const said = 1 / (1 + Math.exp(-evidence.reduce((sum, each, at) => sum + each * weights[at]!, 0)));
      const sure = said * (1 - said);
      for (let at = 0; at < size; at += 1) {
        slope[at]! += evidence[at]! * ((right ? 1 : 0) - said);
        for (let other = 0; other < size; other += 1) bend[at]![other]! += sure * evidence[at]! * evidence[other]!;
      }
    }
    let step = solved(bend, slope);
    const cost = costOf(pairs, weights, expected);
    // A step too far is taken half, until it leads down.
    while (
      costOf(
        pairs,
        weights.map((weight, at) => weight + step[at]!),
        expected,
      ) > cost &&
      Math.max(...step.map(Math.abs)) > 1e-6
    )
      step = step.map((each) => each / 2);
    weights = weights.map((weight, at) => weight + step[at]!);
    if (Math.max(...step.map(Math.abs)) < 1e-6) break;
  }
  return weights.map((weight) => Math.round(weight * 1000) / 1000);
}

function costOf(pairs: readonly Odds[], weights: readonly number[], expected: readonly number[]): number {
  let cost = weights.reduce((sum, weight, at) => sum + (at === 0 ? 0 : (RIDGE / 2) * (weight - expected[at]!) ** 2), 0);
  for (const { evidence, right } of pairs) {
    const odds = evidence.reduce((sum, each, at) => sum + each * weights[at]!, 0);
    cost += Math.log1p(Math.exp(-Math.abs(odds))) + Math.max(0, right ? -odds : odds);
  }
  return cost;
}

/** So many pairs' worth the expected weights count. */
const RIDGE = 12;

/** Solves a system of linear equations (Gauss, with the largest pivot). */
function solved(rows: readonly (readonly number[])[], right: readonly number[]): number[] {
  const table = rows.map((row, at) => [...row, right[at]!]);
  const size = table.length;
  for (let column = 0; column < size; column += 1) {
    let pivot = column;
    for (let row = column + 1; row < size; row += 1)
      if (Math.abs(table[row]![column]!) > Math.abs(table[pivot]![column]!)) pivot = row;
    [table[column], table[pivot]] = [table[pivot]!, table[column]!];
    for (let row = 0; row < size; row += 1) {
      if (row === column) continue;
      const share = table[row]![column]! / table[column]![column]!;
      for (let at = column; at <= size; at += 1) table[row]![at]! -= share * table[column]![at]!;
    }
  }
  return table.map((row, at) => row[size]! / row[at]!);
}

/** How often something was right by how sure it was said, never falling: pool adjacent violators (Ayer et al. 1955). */
export function risingCurve(said: readonly { said: number; right: boolean }[]): [number, number][] {
  const sorted = [...said].sort((a, b) => a.said - b.said);
  const pools: { said: number; right: number; count: number }[] = [];
  // Few of a pool say little: pools begin with a dozen.
  for (let at = 0; at < sorted.length; at += 12) {
    const some = sorted.slice(at, at + 12);
    pools.push({
      said: some.reduce((sum, each) => sum + each.said, 0),
      right: some.filter((each) => each.right).length,
      count: some.length,
    });
    while (pools.length > 1) {
      const [before, last] = pools.slice(-2) as [(typeof pools)[0], (typeof pools)[0]];
      if (before.right / before.count < last.right / last.count) break;
      pools.splice(-2, 2, {
        said: before.said + last.said,
        right: before.right + last.right,
        count: before.count + last.count,
      });
    }
  }
  const rounded = (number: number): number => Math.round(number * 1000) / 1000;
  const curve = pools.map(({ said: sum, right, count }): [number, number] => [
    rounded(sum / count),
    rounded((right + 0.5) / (count + 1)),
  ]);
  return curve.filter(([x], at) => at === 0 || x > curve[at - 1]![0]);
}
