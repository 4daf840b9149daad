import type { Meaning } from './lexicon.ts';
import { takesText, type Side } from './sides.ts';
import { SET_FROM, type SourceField, type SuggestedLine, type TargetEntity } from './suggestion.ts';

/** A field of an entity, and what it says of itself. */
export interface Home {
  entity: TargetEntity;
  field: TargetEntity['fields'][number];
  side: Side;
}

/** Parts that are one field on the other side: first + last name → full name, street + house number → street. */
export function joinedNames(from: Side[], to: Home[], sources: readonly SourceField[]): SuggestedLine[] {
  const lines: SuggestedLine[] = [];
  const only = (meaning: Meaning): number => {
    const at = from.flatMap((side, index) => (side.meanings.has(meaning) && side.qualifiers.size === 0 ? [index] : []));
    return at.length === 1 ? at[0]! : -1;
  };
  const target = (meaning: Meaning) =>
    to.filter(({ side }) => side.meanings.has(meaning) && side.qualifiers.size === 0 && takesText(side));
  const join = (parts: [Meaning, Meaning], whole: Meaning[], what: string) => {
    const [a, b] = [only(parts[0]), only(parts[1])];
    const wholes = whole.flatMap((meaning) => target(meaning));
    const apart = target(parts[1]).length > 0;
    if (a < 0 || b < 0 || a === b || apart || wholes.length !== 1) return;
    const [{ entity, field }] = wholes as [(typeof wholes)[0]];
    lines.push({
      from: [sources[a]!.name, sources[b]!.name],
      entity: entity.name,
      field: field.name,
      confidence: 0.9,
      standing: 'set',
      reasons: [what],
    });
  };
  join(['given name', 'family name'], ['full name'], 'first and last name make the full name');
  join(['street', 'house number'], ['street', 'address'], 'street and house number are one field there');
  return lines;
}

/** One field that is two on the other side: a full name → given and family name, an address line → street and number. */
export function splitFields(from: Side[], to: Home[], sources: readonly SourceField[]): SuggestedLine[] {
  const lines: SuggestedLine[] = [];
  const plain = (side: Side): boolean => side.qualifiers.size === 0;
  const sourcesOf = (...meanings: Meaning[]): number[] =>
    from.flatMap((side, at) => (plain(side) && meanings.some((meaning) => side.meanings.has(meaning)) ? [at] : []));
  const split = (
    whole: Meaning[],
    parts: [Meaning, NonNullable<SuggestedLine['part']>][],
    confidence: (side: Side) => number,
    reason: string,
  ): void => {
    const [source, ...others] = sourcesOf(...whole);
    if (
      source === undefined ||
      others.length > 0 ||
      parts.some(([meaning]) => sourcesOf(meaning).some((at) => at !== source))
    )
      return;
    const homes = new Map<string, (typeof to)[number][]>();
    for (const [meaning] of parts) {
      const fitting = to.filter(({ side }) => plain(side) && side.meanings.has(meaning) && takesText(side));
      for (const each of fitting) homes.set(each.entity.name, [...(homes.get(each.entity.name) ?? []), each]);
    }
    const whole1 = new Set(
      to.filter(({ side }) => side.meanings.has('full name') && plain(side)).map(({ entity }) => entity.name),
    );
    const able = [...homes.values()].filter(
      (found) => found.length === parts.length && !(whole.includes('full name') && whole1.has(found[0]!.entity.name)),
    );
    if (able.length !== 1) return;
    const sure = confidence(from[source]!);
    able[0]!.forEach(({ entity, field }, at) => {
      lines.push({
        from: [sources[source]!.name],
        entity: entity.name,
        field: field.name,
        confidence: sure,
        standing: sure >= SET_FROM ? 'set' : 'offered',
        reasons: [reason],
        part: parts[at]![1],
      });
    });
  };
  split(
    ['full name', 'name'],
    [
      ['given name', 'given'],
      ['family name', 'family'],
    ],
    (side) => (side.meanings.has('full name') ? 0.88 : 0.7),
    'a full name makes first and family name',
  );
  split(
    ['street', 'address'],
    [
      ['street', 'street'],
      ['house number', 'number'],
    ],
    () => 0.75,
    'street and house number are two fields there',
  );
  return lines;
}
