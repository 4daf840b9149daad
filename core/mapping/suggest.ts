import { assign, type Candidate as Assignable } from './assign.ts';
import type { Meaning } from './lexicon.ts';
import { familyOf, sidesOfEntity, sidesOfForm, type Side } from './sides.ts';
import { joinedFields, splitFields, type Home } from './suggest-parts.ts';
import {
  AGREES,
  learnedKey,
  OFFERED_FROM,
  SET_FROM,
  type Learned,
  type SourceField,
  type SuggestedLine,
  type TargetEntity,
} from './suggestion.ts';
import { OURS, surroundingsOf, weigh, type Evidence, type Judgement } from './weigh.ts';

type Candidate = Evidence & Assignable;

/**
 * Suggests lines for all fields of a form towards all fields of some entities. Each field is read for what it means and
 * whose it is; every pair is weighed (log-odds, logistic regression); the best one-to-one assignment over all entities at
 * once is taken (Kuhn 1955, Munkres 1957), each line with a confidence that says how often such lines are right, and the
 * reasons for it. A wrong line that is set costs more than a missing one.
 * @param learned counts with what the words say: a pair accepted before gains, one rejected before loses
 * @param by how fields are read and pairs weighed; another judgement only while it is learned
 */
export function suggestLines(
  sources: readonly SourceField[],
  entities: readonly TargetEntity[],
  learned: readonly Learned[] = [],
  by: Judgement = OURS,
): SuggestedLine[] {
  const from = sidesOfForm(sources, by.read);
  const to = homesIn(entities, by);
  const joined = [...joinedFields(from, to, sources), ...splitFields(from, to, sources)];
  const taken = new Set(joined.flatMap((line) => line.from));
  const filled = new Set(joined.map((line) => `${line.entity}.${line.field}`));
  const candidates = gathered(candidatesOf(from, to, sources, learned, by), to).filter(
    ({ row, column }) =>
      !taken.has(sources[row]!.name) && !filled.has(`${to[column]!.entity.name}.${to[column]!.field.name}`),
  );
  const lines = assign(candidates).map(
    ({ row, column, confidence, reasons }): SuggestedLine => ({
      from: [sources[row]!.name],
      entity: to[column]!.entity.name,
      field: to[column]!.field.name,
      ...settled(from[row]!, to[column]!.side, sources[row]!.label, confidence, reasons),
    }),
  );
  return [...joined, ...lines];
}

export const homesIn = (entities: readonly TargetEntity[], { read }: Judgement = OURS): Home[] =>
  entities.flatMap((entity) => {
    const sides = sidesOfEntity(entity, read);
    return entity.fields.map((field, at) => ({ entity, field, side: sides[at]! }));
  });

function candidatesOf(
  from: readonly Side[],
  to: readonly Home[],
  sources: readonly SourceField[],
  learned: readonly Learned[],
  by: Judgement,
): Candidate[] {
  const around = surroundingsOf(
    from,
    to.map(({ side }) => side),
  );
  const candidates: Candidate[] = [];
  const known = new Map(learned.map((each) => [`${each.from}\n${each.entity}\n${each.field}`, each]));
  from.forEach((source, row) => {
    const key = known.size === 0 ? '' : learnedKey(sources[row]!);
    to.forEach((target, column) => {
      const past = known.size === 0 ? undefined : known.get(`${key}\n${target.entity.name}\n${target.field.name}`);
      const evidence = weigh(source, target.side, around, past, by);
      if (evidence.confidence >= OFFERED_FROM) candidates.push({ row, column, ...evidence });
    });
  });
  return candidates;
}

/** So much less is a line worth that would bring in an entity which nothing else of the form goes to. */
const ALONE = 0.04;

/** A company's name belongs to the company's record sooner than to its employee's. */
const GUEST = 0.06;

/**
 * Of two places that are as good, that in the entity which more of the form goes to is taken: fields of one subject stay
 * together, and few entities are better than many.
 */
function gathered(candidates: readonly Candidate[], to: readonly Home[]): Candidate[] {
  const worth = new Map<string, Map<number, number>>();
  for (const { row, column, confidence } of candidates) {
    const { name } = to[column]!.entity;
    const rows = worth.get(name) ?? new Map<number, number>();
    rows.set(row, Math.max(rows.get(row) ?? 0, confidence));
    worth.set(name, rows);
  }
  const support = new Map([...worth].map(([name, rows]) => [name, [...rows.values()].reduce((a, b) => a + b, 0)]));
  const most = Math.max(1, ...support.values());
  return candidates.map((each) => {
    const { entity, side } = to[each.column]!;
    const apart = ALONE * (1 - support.get(entity.name)! / most) + (side.guest ? GUEST : 0);
    return { ...each, worth: each.confidence - apart };
  });
}

/** What somebody agrees to is never taken as given on a guess: another consent under its name would be against the law. */
const CONSENTS = new Set<Meaning>(['newsletter', 'consent', 'terms', 'privacy', 'follow-up']);

const isConsent = ({ reading }: Side): boolean =>
  [...reading.meanings].reduce((sum, [meaning, share]) => sum + (CONSENTS.has(meaning) ? share : 0), 0) > 0.2;

function settled(
  source: Side,
  target: Side,
  wording: string,
  confidence: number,
  reasons: readonly string[],
): Pick<SuggestedLine, 'confidence' | 'standing' | 'reasons'> {
  const agreeing = isConsent(target) || (isConsent(source) && familyOf(target) === 'yes/no');
  if (agreeing) return { confidence, standing: 'offered', reasons: [`${AGREES}“${wording}”`, ...reasons] };
  return { confidence, standing: confidence >= SET_FROM ? 'set' : 'offered', reasons: [...reasons] };
}
