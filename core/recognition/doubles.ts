import type { DoublePair } from './clusters.ts';
import { priorOf, verdictAlone, type Commonness, type Matcher, type Thresholds } from './matcher.ts';

export interface DoublesFound {
  pairs: DoublePair[];
  /** Pairs that were compared. */
  compared: number;
}

/**
 * Compares some of the known records with all that come into question for them; each pair once.
 * @param from the first record's number; @param to the one behind the last's
 */
export function findDoubles<
  Raw extends { id: string },
  Prepared extends { id: string },
  Frequencies extends Commonness<Prepared>,
>(matcher: Matcher<Raw, Prepared, Frequencies>, from: number, to: number, thresholds: Thresholds): DoublesFound {
  const prior = priorOf(matcher.size);
  const pairs: DoublePair[] = [];
  let compared = 0;
  for (let at = from; at < Math.min(to, matcher.size); at += 1) {
    const record = matcher.at(at);
    for (const other of matcher.candidates(record, at)) {
      if (other < at) continue;
      compared += 1;
      if (matcher.marksApart(at, other)) continue;
      const found = judged(matcher, record, matcher.at(other), prior, thresholds);
      if (found) pairs.push(found);
    }
  }
  return { pairs, compared };
}

/** The same between records from elsewhere and the known ones: `a` is from elsewhere, `b` known. */
export function findAcross<
  Raw extends { id: string },
  Prepared extends { id: string },
  Frequencies extends Commonness<Prepared>,
>(matcher: Matcher<Raw, Prepared, Frequencies>, records: Iterable<Prepared>, thresholds: Thresholds): DoublesFound {
  const prior = priorOf(matcher.size);
  const pairs: DoublePair[] = [];
  let compared = 0;
  for (const record of records) {
    for (const other of matcher.candidates(record)) {
      compared += 1;
      const found = judged(matcher, record, matcher.at(other), prior, thresholds);
      if (found) pairs.push(found);
    }
  }
  return { pairs, compared };
}

/** @param prior what evidence must outweigh, in bits */
function judged<Raw extends { id: string }, Prepared extends { id: string }, Frequencies extends Commonness<Prepared>>(
  matcher: Matcher<Raw, Prepared, Frequencies>,
  a: Prepared,
  b: Prepared,
  prior: number,
  thresholds: Thresholds,
): DoublePair | undefined {
  if (matcher.apart(a, b)) return undefined;
  const compared = matcher.compare(a, b);
  const weight = compared.weight - prior;
  const verdict = verdictAlone({ weight, compared }, thresholds);
  return verdict === 'different' ? undefined : { a: a.id, b: b.id, weight, verdict };
}
