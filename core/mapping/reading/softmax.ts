/**
 * Multinomial logistic regression (softmax) over features that are there or not: the weight of each feature for each
 * class, added up, made probabilities.
 */
export interface Weights {
  classes: readonly string[];
  /** For each class, what speaks for it when nothing is seen. */
  bias: readonly number[];
  /** For each feature, class and weight in turns; classes it says nothing about are left out. */
  features: ReadonlyMap<string, readonly number[]>;
}

/** The probability of each class, in the order of the classes. Features that were never seen say nothing. */
export function probabilities({ classes, bias, features }: Weights, seen: readonly string[]): Float64Array {
  const sums = Float64Array.from(bias);
  for (const feature of seen) {
    const weights = features.get(feature);
    if (!weights) continue;
    for (let at = 0; at < weights.length; at += 2) sums[weights[at]!]! += weights[at + 1]!;
  }
  let most = -Infinity;
  for (const sum of sums) if (sum > most) most = sum;
  let total = 0;
  for (let at = 0; at < classes.length; at += 1) total += sums[at] = Math.exp(sums[at]! - most);
  for (let at = 0; at < classes.length; at += 1) sums[at]! /= total;
  return sums;
}

/** Weights as one short text: a line a feature, weights in hundredths, classes by their numbers. */
export function packWeights({ classes, bias, features }: Weights): string {
  const hundredths = (weight: number): number => Math.round(weight * 100);
  const lines = [...features].map(
    ([feature, weights]) =>
      `${feature}\t${weights.map((each, at) => (at % 2 === 0 ? each : hundredths(each))).join(' ')}`,
  );
  return [classes.join('\t'), bias.map(hundredths).join(' '), ...lines].join('\n');
}

export function unpackWeights(text: string): Weights {
  const [classes = '', bias = '', ...lines] = text.split('\n');
  const features = new Map<string, number[]>();
  for (const line of lines) {
    const [feature, weights] = line.split('\t');
    if (!feature || !weights) continue;
    features.set(
      feature,
      weights.split(' ').map((each, at) => (at % 2 === 0 ? Number(each) : Number(each) / 100)),
    );
  }
  return { classes: classes.split('\t'), bias: bias.split(' ').map((each) => Number(each) / 100), features };
}
