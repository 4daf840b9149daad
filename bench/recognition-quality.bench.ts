import { jaroWinkler } from '../core/mapping/index.ts';
import {
  organisationMatcher,
  peopleMatcher,
  prepareOrganisation,
  preparePerson,
  priorOf,
  type Answer,
  type Compared,
} from '../core/recognition/index.ts';
import type { Result } from '../scripts/bench.ts';
import { makeWorld, type Asked, type Made } from './people.ts';
import { strangersWorld } from './strangers.ts';

type Known = Made & { id: string };
type Verdicts = {
  query: Asked;
  record: string | undefined;
  verdict: Answer['verdict'];
  reached?: boolean;
  /** A rule decides against clear evidence for the one that is meant. */
  overruled?: boolean;
}[];

/**
 * Precision and recall of "same", the share of "unsure", and how often a rule decides against the evidence, on people made
 * here and on strangers, beside exact e-mail and a hand-weighted Jaro-Winkler comparison.
 */
export async function bench(): Promise<Result[]> {
  return [
    ...measured(makeWorld(8000, 6000, 77), 'made here', { precision: '≥ 0.99', recall: '≥ 0.95', unsure: '≤ 0.05' }),
    ...measured(strangersWorld(20_000, 6000, 7), 'strangers', {
      precision: '≥ 0.99',
      recall: '≥ 0.95',
      unsure: '≤ 0.05',
    }),
  ];
}

function measured(
  { records, queries }: { records: readonly Known[]; queries: readonly Asked[] },
  whose: string,
  aims: { precision: string; recall: string; unsure: string },
): Result[] {
  const ours = byUs(records, queries);
  emails = undefined;
  const byEmail = judged(ours.map(({ query }) => exactEmail(records, query)));
  const byHand = judged(handWeighted(records, queries));
  const us = judged(ours);
  printByError(ours);
  const row = (what: string, yardstick: number, mine: number, aim: string, notes: string): Result => ({
    what: `${what} (${whose})`,
    unit: 'share; yardstick: exact e-mail',
    yardstick,
    ours: mine,
    ratio: mine,
    aim,
    notes,
  });
  return [
    row(
      'precision of same',
      byEmail.precision,
      us.precision,
      aims.precision,
      `weighted by hand ${byHand.precision.toFixed(3)}; ${us.wrong} wrong`,
    ),
    row('recall of same', byEmail.recall, us.recall, aims.recall, `weighted by hand ${byHand.recall.toFixed(3)}`),
    row(
      'true pairs among those compared',
      byEmail.recall,
      us.reached,
      'as many as can be',
      'yardstick: those with the same e-mail',
    ),
    row('unsure', byEmail.unsure, us.unsure, aims.unsure, `weighted by hand ${byHand.unsure.toFixed(3)}`),
    row('missed though 10 bits or more speak for it, by a rule', 0, us.overruled, 'few', 'of those that were missed'),
  ];
}

function byUs(records: readonly Known[], queries: readonly Asked[]): Verdicts {
  const of = (kind: Made['kind']) =>
    records.filter((each) => each.kind === kind).map(({ id, values }) => ({ ...values, id }));
  const matchers = { person: peopleMatcher(of('person')), organisation: organisationMatcher(of('organisation')) };
  return queries.map((query, at) => {
    const raw = { ...query.values, id: `Q${at}` };
    const { record, verdict } = matchers[query.kind].match(raw);
    const meant =
      query.kind === 'person'
        ? pairWith(matchers.person, preparePerson(raw), query.truth)
        : pairWith(matchers.organisation, prepareOrganisation(raw), query.truth);
    const overruled = meant?.veto !== undefined && meant.weight - priorOf(matchers[query.kind].size) >= CLEAR;
    return { query, record, verdict, reached: meant !== undefined, overruled };
  });
}

/** Bits against which a rule alone should decide nothing. */
const CLEAR = 10;

/** The comparison with the one that is meant; undefined where it isn't among those that are compared at all. */
function pairWith<Prepared extends { id: string }>(
  matcher: {
    candidates(record: Prepared): number[];
    idAt(index: number): string;
    at(index: number): Prepared;
    compare(a: Prepared, b: Prepared): Compared;
  },
  record: Prepared,
  truth: string | undefined,
): Compared | undefined {
  const at = matcher.candidates(record).find((each) => matcher.idAt(each) === truth);
  return at === undefined ? undefined : matcher.compare(record, matcher.at(at));
}

let emails: Map<string, string> | undefined;
function exactEmail(records: readonly Known[], query: Asked): Verdicts[number] {
  emails ??= new Map(records.map(({ id, values }) => [(values['email'] ?? '').toLowerCase(), id]));
  const email = (query.values['email'] ?? '').toLowerCase();
  const record = email === '' ? undefined : emails.get(email);
  return { query, record, verdict: record ? 'same' : 'different' };
}

/** Half name, a quarter address, a quarter e-mail and telephone; everything compared with those of the same first letter. */
function handWeighted(records: readonly Known[], queries: readonly Asked[]): Verdicts {
  const called = ({ kind, values }: Made): string =>
    (kind === 'person' ? `${values['last_name']} ${values['first_name']}` : (values['name'] ?? '')).toLowerCase();
  const like = (a: string | undefined, b: string | undefined): number | undefined =>
    a && b ? jaroWinkler(a.toLowerCase(), b.toLowerCase()) : undefined;
  const blocks = new Map<string, Known[]>();
  for (const record of records) {
    const key = `${record.kind} ${called(record).slice(0, 2)}`;
    blocks.set(key, [...(blocks.get(key) ?? []), record]);
  }
  return queries.map((query) => {
    let best: { id: string; score: number } | undefined;
    for (const record of blocks.get(`${query.kind} ${called(query).slice(0, 2)}`) ?? []) {
      const parts: [number, number | undefined][] = [
        [0.5, jaroWinkler(called(query), called(record))],
        [0.25, like(query.values['street'], record.values['street'])],
        [0.15, like(query.values['email'], record.values['email'])],
        [0.1, like(query.values['phone'], record.values['phone'])],
      ];
      const known = parts.filter(([, value]) => value !== undefined) as [number, number][];
      const total = known.reduce((sum, [weight]) => sum + weight, 0);
      const score = known.reduce((sum, [weight, value]) => sum + weight * value, 0) / total;
      if (!best || score > best.score) best = { id: record.id, score };
    }
    const verdict = !best || best.score < 0.85 ? 'different' : best.score < 0.92 ? 'unsure' : 'same';
    return { query, record: best?.id, verdict };
  });
}

function judged(verdicts: Verdicts) {
  const same = verdicts.filter(({ verdict }) => verdict === 'same');
  const right = same.filter(({ query, record }) => query.truth !== undefined && record === query.truth);
  const real = verdicts.filter(({ query }) => query.truth !== undefined).length;
  const missed = verdicts.filter(({ query, verdict }) => query.truth !== undefined && verdict === 'different');
  return {
    precision: right.length / Math.max(1, same.length),
    recall: right.length / real,
    unsure: verdicts.filter(({ verdict }) => verdict === 'unsure').length / verdicts.length,
    wrong: same.length - right.length,
    reached: verdicts.filter(({ query, reached }) => query.truth !== undefined && reached).length / real,
    overruled: missed.filter(({ overruled }) => overruled).length / Math.max(1, missed.length),
  };
}

function printByError(verdicts: Verdicts): void {
  const errors = [...new Set(verdicts.map(({ query }) => query.error))].sort();
  console.table(
    errors.map((error) => {
      const of = verdicts.filter(({ query }) => query.error === error);
      const count = (verdict: string): number => of.filter((each) => each.verdict === verdict).length;
      const wrong = of.filter(({ verdict, query, record }) => verdict === 'same' && record !== query.truth).length;
      return {
        error,
        queries: of.length,
        same: count('same'),
        unsure: count('unsure'),
        different: count('different'),
        wrong,
        reached: `${of.filter(({ reached }) => reached).length} of ${of.filter(({ query }) => query.truth !== undefined).length}`,
      };
    }),
  );
}
