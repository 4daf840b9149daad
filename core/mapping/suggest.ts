import { assign, type Candidate as Assignable } from './assign.ts';
import { readSide, tellNamesApart } from './sides.ts';
import { joinedNames, splitFields } from './suggest-parts.ts';
import {
  learnedKey,
  OFFERED_FROM,
  SET_FROM,
  type Learned,
  type SourceField,
  type SuggestedLine,
  type TargetEntity,
} from './suggestion.ts';
import { surroundingsOf, weigh, type Evidence } from './weigh.ts';

type Candidate = Evidence & Assignable;

/**
 * Suggests lines for all fields of a form towards all fields of some entities: every pair of a form's field and a record's field gets a weight of evidence (log-odds, as in
 * logistic regression); the best one-to-one assignment over all entities at once is taken (Kuhn 1955, Munkres
 * 1957), each line with a confidence and the reasons for it. A wrong line that is set costs more than a missing one.
 * @param learned counts with what the words say: a pair accepted before gains, one rejected before loses
 */
export function suggestLines(
  sources: readonly SourceField[],
  entities: readonly TargetEntity[],
  learned: readonly Learned[] = [],
): SuggestedLine[] {
  const from = sources.map((field) => readSide(field.name, field.label, field, ''));
  tellNamesApart(from);
  const to = entities.flatMap((entity) =>
    entity.fields.map((field) => ({ entity, field, side: readSide(field.name, field.label, field, entity.label) })),
  );
  const around = surroundingsOf(
    from,
    to.map(({ side }) => side),
  );
  const candidates: Candidate[] = [];
  const known = new Map(learned.map((each) => [`${each.from}\n${each.entity}\n${each.field}`, each]));
  from.forEach((source, row) => {
    const key = known.size === 0 ? '' : learnedKey(sources[row]!);
    to.forEach((target, column) => {
      const past = known.get(`${key}\n${target.entity.name}\n${target.field.name}`);
      const evidence = weigh(source, target.side, around, past);
      if (evidence.confidence >= OFFERED_FROM) candidates.push({ row, column, ...evidence });
    });
  });
  const joined = [...joinedNames(from, to, sources), ...splitFields(from, to, sources)];
  const taken = new Set(joined.flatMap((line) => line.from));
  const lines = assign(candidates.filter(({ row }) => !taken.has(sources[row]!.name))).map(
    ({ row, column, confidence, reasons }): SuggestedLine => ({
      from: [sources[row]!.name],
      entity: to[column]!.entity.name,
      field: to[column]!.field.name,
      confidence,
      standing: confidence >= SET_FROM ? 'set' : 'offered',
      reasons,
    }),
  );
  const filled = new Set(joined.map((line) => `${line.entity}.${line.field}`));
  return [...joined, ...lines.filter((line) => !filled.has(`${line.entity}.${line.field}`))];
}
