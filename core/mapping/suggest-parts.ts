import type { Meaning } from './lexicon.ts';
import { takesText, type Side } from './sides.ts';
import { SET_FROM, type SourceField, type SuggestedLine, type TargetEntity } from './suggestion.ts';

/** A field of an entity, and what it says of itself. */
export interface Home {
  entity: TargetEntity;
  field: TargetEntity['fields'][number];
  side: Side;
}

/** Several fields of a form that are one in a record, in the order in which their values are put together. */
interface Joining {
  parts: readonly (readonly Meaning[])[];
  whole: readonly Meaning[];
  separator: string;
  what: string;
  /** What the record's field takes; a text unless said otherwise. */
  into?: (side: Side) => boolean;
}

const JOININGS: readonly Joining[] = [
  {
    parts: [['given name'], ['family name']],
    whole: ['full name'],
    separator: ' ',
    what: 'first and last name make the full name',
  },
  {
    parts: [['street'], ['house number']],
    whole: ['street', 'address'],
    separator: ' ',
    what: 'street and house number are one field there',
  },
  {
    parts: [
      ['birth year', 'year'],
      ['birth month', 'month'],
      ['birth day', 'day'],
    ],
    whole: ['birth date', 'date'],
    separator: '/',
    what: 'year, month and day make one date',
    into: ({ type }) => type === 'date' || type === 'text',
  },
  {
    parts: [['hour'], ['minute']],
    whole: ['time'],
    separator: ':',
    what: 'hour and minute make one time',
    into: ({ type }) => type === 'time' || type === 'text',
  },
  {
    parts: [['dialling code'], ['phone', 'mobile']],
    whole: ['phone', 'mobile'],
    separator: ' ',
    what: 'the country’s code belongs before the number',
    into: ({ type }) => type === 'phone' || type === 'text',
  },
];

/** How sure it is that a field means one of these, and is whose the record's field is. */
function sureness({ reading, qualifiers }: Side, meanings: readonly Meaning[], target: Side): number {
  if ([...qualifiers].some((each) => !target.qualifiers.has(each))) return 0;
  const meant = meanings.reduce((sum, meaning) => sum + (reading.meanings.get(meaning) ?? 0), 0);
  let same = 0;
  for (const [whose, share] of reading.whose) same += share * (target.reading.whose.get(whose) ?? 0);
  return meant * Math.min(1, same * 1.25);
}

/** The one field that is surest to mean one of these; undefined where none is, or two are. */
function onlyOne(
  from: readonly Side[],
  meanings: readonly Meaning[],
  target: Side,
): { at: number; sure: number } | undefined {
  const likely = from
    .map((side, at) => ({ at, sure: sureness(side, meanings, target) }))
    .filter(({ sure }) => sure > 0.3)
    .sort((a, b) => b.sure - a.sure);
  return likely.length === 1 ? likely[0] : undefined;
}

const standingOf = (sure: number): SuggestedLine['standing'] => (sure >= SET_FROM ? 'set' : 'offered');

const means = (side: Side, meanings: readonly Meaning[]): boolean =>
  side.meaning !== undefined && meanings.includes(side.meaning);

/** Parts that are one field on the other side: first + last name → full name, day + month + year → date of birth. */
export function joinedFields(
  from: readonly Side[],
  to: readonly Home[],
  sources: readonly SourceField[],
): SuggestedLine[] {
  return JOININGS.flatMap(({ parts, whole, separator, what, into = takesText }): SuggestedLine[] => {
    const wholes = to.filter(({ side }) => means(side, whole) && into(side));
    return wholes.flatMap((home): SuggestedLine[] => {
      // A record that has a field for the part keeps it apart.
      const ownParts = to.some(
        ({ entity, side }) => entity === home.entity && means(side, parts.at(-1)!) && !means(side, whole),
      );
      const found = parts.map((meanings) => onlyOne(from, meanings, home.side));
      if (ownParts || found.some((each) => each === undefined)) return [];
      const at = found.map((each) => each!.at);
      if (new Set(at).size < at.length || (whole.length > 1 && !sameTopic(home.side, at, from))) return [];
      // Parts mean the whole only together: one that is unsure makes it so.
      const confidence = Math.round(Math.min(...found.map((each) => each!.sure)) * 1000) / 1000;
      return [
        {
          from: at.map((each) => sources[each]!.name),
          entity: home.entity.name,
          field: home.field.name,
          confidence,
          standing: standingOf(confidence),
          reasons: [what],
          ...(separator === ' ' ? {} : { separator }),
        },
      ];
    });
  }).filter((line, at, all) => all.findIndex((other) => other.from.some((each) => line.from.includes(each))) === at);
}

/** A date in three fields is the one that it says it is: a birthday is no day of arrival. */
function sameTopic(home: Side, at: readonly number[], from: readonly Side[]): boolean {
  if (home.meaning === 'birth date') return at.some((each) => from[each]!.meaning?.startsWith('birth ') === true);
  if (home.meaning === 'date') return at.every((each) => from[each]!.meaning?.startsWith('birth ') !== true);
  if (home.meaning === 'mobile') return at.some((each) => from[each]!.meaning === 'mobile');
  return true;
}

interface Splitting {
  whole: readonly Meaning[];
  parts: readonly (readonly [Meaning, NonNullable<SuggestedLine['part']>])[];
  what: string;
  /** How often what is taken apart comes out right. */
  works: number;
}

const SPLITTINGS: readonly Splitting[] = [
  {
    whole: ['full name', 'name'],
    parts: [
      ['given name', 'given'],
      ['family name', 'family'],
    ],
    what: 'a full name makes first and family name',
    works: 0.97,
  },
  {
    whole: ['street', 'address'],
    parts: [
      ['street', 'street'],
      ['house number', 'number'],
    ],
    what: 'street and house number are two fields there',
    works: 0.85,
  },
];

/** One field that is two on the other side: a full name → given and family name, an address line → street and number. */
export function splitFields(
  from: readonly Side[],
  to: readonly Home[],
  sources: readonly SourceField[],
): SuggestedLine[] {
  return SPLITTINGS.flatMap(({ whole, parts, what, works }): SuggestedLine[] => {
    const entities = [...new Set(to.map(({ entity }) => entity))];
    const able = entities.flatMap((entity) => {
      const mine = to.filter((home) => home.entity === entity);
      // Where the record has one field for the whole, nothing is taken apart.
      if (mine.some(({ side }) => means(side, whole) && !parts.some(([meaning]) => means(side, [meaning])))) return [];
      const homes = parts.map(([meaning]) => mine.filter(({ side }) => means(side, [meaning]) && takesText(side)));
      return homes.every(({ length }) => length === 1) ? [homes.map(([home]) => home!)] : [];
    });
    if (able.length !== 1) return [];
    const [homes] = able as [Home[]];
    const source = onlyOne(from, whole, homes[0]!.side);
    const apart = parts.some(([meaning]) => !whole.includes(meaning) && onlyOne(from, [meaning], homes[0]!.side));
    if (!source || apart) return [];
    const confidence = Math.round(source.sure * works * 1000) / 1000;
    if (confidence < 0.5) return [];
    return homes.map(({ entity, field }, at) => ({
      from: [sources[source.at]!.name],
      entity: entity.name,
      field: field.name,
      confidence,
      standing: standingOf(confidence),
      reasons: [what],
      part: parts[at]![1],
    }));
  });
}
