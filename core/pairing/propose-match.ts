import { entityOf, type Entity, type Field, type Values } from '../schema/index.ts';
import { fold } from '../values/index.ts';
import { MOST_HOPS, type KeyPart, type Match } from './model.ts';
import { namesAlone, type Around, type Reach } from './places.ts';
import { joined, keysOf } from './which.ts';
import type { Side, Sides } from './settle.ts';

/** Records of one side that something is measured on. */
export interface Sample {
  records: readonly { id: string; values: Values }[];
  /** The records that relations lead to, as far as they were read. */
  reach: Reach;
}

/** How a way of telling which goes with which does on real records. */
export interface Measured {
  /** Records of each side that were looked at. */
  of: Sides<number>;
  pairs: number;
  /** Records, of both sides, of which several go with one. */
  unsure: number;
  alone: Sides<number>;
}

/** Measures ways on samples of both sides, tried in order as a pairing does. */
export function measured(matches: readonly Match[], around: Sides<Around>, samples: Sides<Sample>): Measured {
  const keys = (side: Side) =>
    samples[side].records.map((record) => keysOf(matches, side, around, record, samples[side].reach));
  const { pairs, unsure, alone } = joined({ left: keys('left'), right: keys('right') }, matches.length);
  return {
    of: { left: samples.left.records.length, right: samples.right.records.length },
    pairs: pairs.length,
    unsure: unsure.reduce((sum, { left, right }) => sum + left.length + right.length, 0),
    alone: { left: alone.left.length, right: alone.right.length },
  };
}

/** A way that is proposed, with what it does on the records. */
export interface ProposedMatch {
  match: Match;
  measured: Measured;
}

/** Of what finds anything, at most this share may be unsure. */
const MOST_UNSURE = 0.1;
/** So many of the smaller side have to find something, or it is chance. */
const FEWEST = 0.02;
/** Ways measured at most. */
const MOST_TRIED = 80;

/**
 * Proposes how it is seen which record goes with which, measured on records of both sides: by a field that holds the
 * other's id, by a relation that may run through others, by what names a record or a person alone. The best comes first,
 * and after it what finds pairs that it doesn't.
 */
export function proposeMatches(around: Sides<Around>, samples: Sides<Sample>): ProposedMatch[] {
  const all = candidatesOf(around)
    .slice(0, MOST_TRIED)
    .map((match): ProposedMatch => ({ match, measured: measured([match], around, samples) }));
  const tried = all
    .filter(({ measured: { pairs, unsure, of } }) => {
      const smaller = Math.min(of.left, of.right);
      return pairs > 0 && pairs >= smaller * FEWEST && unsure <= (pairs + unsure) * MOST_UNSURE;
    })
    // Of what finds as many, an id says it surest, and few parts are better than many.
    .sort(
      (a, b) =>
        b.measured.pairs - a.measured.pairs ||
        rankOf(a.match, around) - rankOf(b.match, around) ||
        a.match.parts.length - b.match.parts.length,
    );
  const ids = tried.filter(({ match }) => rankOf(match, around) === 0);
  const [first] = ids.length > 0 ? ids : tried;
  if (!first) return [];
  const chosen = [first];
  for (const each of tried) {
    if (chosen.length === 3) break;
    const before = measured(
      chosen.map(({ match }) => match),
      around,
      samples,
    );
    const after = measured([...chosen.map(({ match }) => match), each.match], around, samples);
    const gained = after.pairs - before.pairs;
    if (gained > 0 && after.unsure - before.unsure <= Math.max(gained, after.pairs * MOST_UNSURE)) chosen.push(each);
  }
  return chosen;
}

/** An id of the other side says surest what goes together; then what names a record alone. */
function rankOf({ parts }: Match, around: Sides<Around>): number {
  const isId = (part: KeyPart): boolean =>
    (['left', 'right'] as const).some((side) => part[side].length === 1 && part[side][0] === around[side].entity.key);
  if (parts.some(isId)) return 0;
  return parts.every((part) =>
    (['left', 'right'] as const).some((side) => part[side].length === 1 && namesAlone(around[side], part[side][0]!)),
  )
    ? 1
    : 2;
}

function candidatesOf(around: Sides<Around>): Match[] {
  return [...byIds(around), ...byValues(around), ...byRelations(around)];
}

/** A field of one side that may hold the other's id. */
function byIds({ left, right }: Sides<Around>): Match[] {
  const holders = ({ entity }: Around, other: Around): Field[] =>
    readable(entity).filter(
      (field) =>
        field.name !== entity.key &&
        (field.relation === other.entity.name ||
          ((field.type === 'text' || field.type === 'id' || field.type === 'integer') && !field.options)),
    );
  return [
    ...holders(left, right).map(({ name }) => one([name], [right.entity.key])),
    ...holders(right, left).map(({ name }) => one([left.entity.key], [name])),
  ];
}

/** Fields that may hold the same on both sides, where they tell records apart. */
function byValues({ left, right }: Sides<Around>): Match[] {
  const telling = ({ entity }: Around): Field[] =>
    readable(entity).filter((field) => field.unique || field.type === 'email' || field.type === 'phone');
  const others = (entity: Entity, field: Field): Field[] =>
    readable(entity).filter(
      ({ type, label, unique }) =>
        (type === field.type &&
          (type === 'email' || type === 'phone' || unique || fold(label) === fold(field.label))) ||
        (type === 'text' && fold(label) === fold(field.label)),
    );
  const found = [
    ...telling(left).flatMap((field) => others(right.entity, field).map(({ name }) => one([field.name], [name]))),
    ...telling(right).flatMap((field) => others(left.entity, field).map(({ name }) => one([name], [field.name]))),
  ];
  return [...new Map(found.map((match) => [JSON.stringify(match), match])).values()];
}

/** Relations of both sides that lead to the same, alone and with a field that is called the same on both. */
function byRelations(around: Sides<Around>): Match[] {
  if (around.left.schema !== around.right.schema) return [];
  const ends = (side: Side): Map<string, string[][]> => relationsOf(around[side]);
  const right = ends('right');
  const shared = [...ends('left')].flatMap(([entity, paths]) =>
    paths.flatMap((path) => (right.get(entity) ?? []).map((other): KeyPart => ({ left: path, right: other }))),
  );
  // What only says whose records they are tells nobody apart.
  const alike = readable(around.left.entity).flatMap((field): KeyPart[] => {
    const same = readable(around.right.entity).find(
      ({ label, type, relation }) =>
        fold(label) === fold(field.label) && type === field.type && relation === field.relation,
    );
    const tells = same && !field.computed && ['text', 'integer', 'reference'].includes(field.type);
    return tells ? [{ left: [field.name], right: [same.name] }] : [];
  });
  return shared.flatMap((part) => [
    { parts: [part] },
    ...alike.filter(({ left }) => left[0] !== part.left[0]).map((more): Match => ({ parts: [part, more] })),
  ]);
}

/** The entities that a side's relations lead to, by the paths to them, the short ones first. */
function relationsOf({ schema, entity }: Around): Map<string, string[][]> {
  const found = new Map<string, string[][]>();
  const follow = (at: Entity, path: string[], passed: readonly string[]): void => {
    for (const { name, relation } of readable(at)) {
      const next = relation === undefined ? undefined : entityOf(schema, relation);
      if (!next || passed.includes(next.name)) continue;
      found.set(next.name, [...(found.get(next.name) ?? []), [...path, name]]);
      if (path.length + 1 < MOST_HOPS) follow(next, [...path, name], [...passed, next.name]);
    }
  };
  follow(entity, [], [entity.name]);
  return found;
}

const one = (left: string[], right: string[]): Match => ({ parts: [{ left, right }] });
const readable = ({ fields }: Entity): Field[] => fields.filter(({ rights }) => rights !== 'none');
