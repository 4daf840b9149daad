import { jaroWinkler } from '../core/mapping/index.ts';
import {
  organisationMatcher,
  peopleMatcher,
  prepareOrganisation,
  preparePerson,
  type Answer,
} from '../core/recognition/index.ts';
import type { Result } from '../scripts/bench.ts';
import { makeWorld, type Asked, type Made } from './people.ts';

type Known = Made & { id: string };
type Verdicts = { query: Asked; record: string | undefined; verdict: Answer['verdict']; reached?: boolean }[];

/** Precision and recall of "same", the share of "unsure", beside exact e-mail and a hand-weighted Jaro-Winkler comparison. */
export async function bench(): Promise<Result[]> {
  const { records, queries } = makeWorld(8000, 6000, 77);
  const ours = byUs(records, queries);
  const byEmail = judged(ours.map(({ query }) => exactEmail(records, query)));
  const byHand = judged(handWeighted(records, queries));
  const us = judged(ours);
  printByError(ours);
  const row = (what: string, yardstick: number, mine: number, aim: string, notes: string): Result => ({
    what,
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
      '≥ 0.998',
      `weighted by hand ${byHand.precision.toFixed(3)}; ${us.wrong} wrong`,
    ),
    row('recall of same', byEmail.recall, us.recall, '≥ 0.95', `weighted by hand ${byHand.recall.toFixed(3)}`),
    row(
      'true pairs among those compared',
      byEmail.recall,
      us.reached,
      'as many as can be',
      'yardstick: those with the same e-mail',
    ),
    row('unsure', byEmail.unsure, us.unsure, '≤ 0.03', `weighted by hand ${byHand.unsure.toFixed(3)}`),
  ];
}

function byUs(records: readonly Known[], queries: readonly Asked[]): Verdicts {
  const of = (kind: Made['kind']) =>
    records.filter((each) => each.kind === kind).map(({ id, values }) => ({ ...values, id }));
  const matchers = { person: peopleMatcher(of('person')), organisation: organisationMatcher(of('organisation')) };
  /** Whether the one that is meant is among those that are compared at all. */
  const reaches = ({ kind, truth }: Asked, raw: Known['values'] & { id: string }): boolean =>
    kind === 'person'
      ? matchers.person.candidates(preparePerson(raw)).some((each) => matchers.person.idAt(each) === truth)
      : matchers.organisation
          .candidates(prepareOrganisation(raw))
          .some((each) => matchers.organisation.idAt(each) === truth);
  return queries.map((query, at) => {
    const raw = { ...query.values, id: `Q${at}` };
    const { record, verdict } = matchers[query.kind].match(raw);
    return { query, record, verdict, reached: reaches(query, raw) };
  });
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
  return {
    precision: right.length / Math.max(1, same.length),
    recall: right.length / real,
    unsure: verdicts.filter(({ verdict }) => verdict === 'unsure').length / verdicts.length,
    wrong: same.length - right.length,
    reached: verdicts.filter(({ query, reached }) => query.truth !== undefined && reached).length / real,
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
