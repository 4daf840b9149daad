import fc from 'fast-check';
import {
  across,
  DECIDER_NAMES,
  freshLine,
  freshPairing,
  readied,
  SIDES,
  WAYS,
  type Decider,
  type Pairing,
  type PairLine,
  type ReadyPairing,
  type Side,
  type Sides,
} from '../pairing/index.ts';
import { sameValue, isBlank } from '../values/index.ts';
import type { Entity, Schema, Value, Values } from '../schema/index.ts';
import { makeEntity, makeField } from './world.ts';
import { PairWorld, type Happening } from './pairing-world.ts';

/**
 * The laws of pairing, each to be checked over any number of random histories: edits on both sides, pages late, twice and
 * out of order, processes that end, refusals.
 */

/** A line of each kind whose values are worth mixing up: what is alike, what loses something, what has another list. */
const KINDS = ['text', 'moment', 'choice', 'choices', 'gathered'] as const;
type LineKind = (typeof KINDS)[number];

const choices = (...values: string[]) => values.map((value) => ({ value, label: value }));
const FIELDS: Record<LineKind, Sides<ReturnType<typeof makeField>>> = {
  text: { left: makeField('text'), right: makeField('text', { maxBytes: 8 }) },
  moment: { left: makeField('moment', { type: 'date and time' }), right: makeField('moment', { type: 'date' }) },
  choice: {
    left: makeField('choice', { type: 'option', options: choices('honey', 'wax', 'queens') }),
    right: makeField('choice', { type: 'option', options: choices('honig', 'wachs') }),
  },
  choices: {
    left: makeField('choices', { type: 'options', options: choices('a', 'b', 'c') }),
    right: makeField('choices', { type: 'options', options: choices('a', 'b', 'c') }),
  },
  gathered: {
    left: makeField('gathered', { type: 'option', options: choices('a', 'b', 'c', 'd') }),
    right: makeField('gathered', { maxBytes: 7 }),
  },
};
const VALUES: Record<LineKind, Sides<Value[]>> = {
  text: { left: ['x', 'y', 'zz', 'too long for it', null, ''], right: ['x', 'y', 'w', null] },
  moment: {
    left: ['2027-04-01T10:30:00Z', '2027-04-01T00:00:00Z', '2027-05-02T23:00:00Z', null],
    right: ['2027-04-01', '2027-05-02', null],
  },
  choice: { left: ['honey', 'wax', 'queens', null], right: ['honig', 'wachs', null] },
  choices: { left: [['a'], ['a', 'b'], ['c'], []], right: [['b'], ['b', 'a'], ['c', 'a'], null] },
  gathered: { left: ['a', 'b', 'c', 'd', null], right: ['z', 'a; b', null] },
};

const side = fc.constantFrom<Side>(...SIDES);
const lineOf = (kind: LineKind): fc.Arbitrary<PairLine> =>
  fc
    .record({
      way: fc.constantFrom(...WAYS),
      decides: fc.constantFrom(...DECIDER_NAMES),
      onlyEmpty: fc.boolean(),
      blankErases: fc.boolean(),
    })
    .map((rule) => ({
      ...freshLine(kind, [kind], [kind]),
      ...rule,
      ...(kind === 'gathered' ? { way: 'to right' as const, collects: true, onlyEmpty: false } : {}),
      ...(kind === 'choice'
        ? {
            options: [
              { left: 'honey', right: 'honig' },
              { left: 'wax', right: 'wachs' },
            ],
          }
        : {}),
    }));

/** A pairing with a line of some of the kinds. */
const pairings: fc.Arbitrary<PairLine[]> = fc
  .subarray([...KINDS], { minLength: 1 })
  .chain((kinds) => fc.tuple(...kinds.map(lineOf)));

const edit = (kinds: readonly string[]): fc.Arbitrary<Happening> =>
  fc.record({ kind: fc.constantFrom(...kinds), side, pick: fc.nat(20) }).map(({ kind, side: at, pick }): Happening => {
    const values = VALUES[kind as LineKind][at];
    return { kind: 'edit', side: at, field: kind, value: values[pick % values.length]! };
  });
const other: fc.Arbitrary<Happening> = fc.oneof(
  side.map((at): Happening => ({ kind: 'ask', side: at })),
  fc.nat(12).map((page): Happening => ({ kind: 'deliver', page })),
  fc.constant<Happening>({ kind: 'work' }),
  fc.nat(2).map((after): Happening => ({ kind: 'crash', after })),
  fc.constantFrom(1_000, 5_000).map((ms): Happening => ({ kind: 'wait', ms })),
);
const starts = (kinds: readonly string[], same: boolean): fc.Arbitrary<Sides<Values>> =>
  fc.array(fc.tuple(fc.nat(20), fc.nat(20)), { minLength: kinds.length, maxLength: kinds.length }).map((picks) => {
    const of = (at: Side): Values =>
      Object.fromEntries(
        kinds.map((kind, index) => {
          const values = VALUES[kind as LineKind][at];
          return [kind, same ? null : values[picks[index]![at === 'left' ? 0 : 1] % values.length]!];
        }),
      );
    return { left: of('left'), right: of('right') };
  });

const entityOf = (at: Side, kinds: readonly LineKind[]): Entity =>
  makeEntity(
    at,
    kinds.map((kind) => FIELDS[kind][at]),
  );

/** A pairing of two entities in two systems, ready; or the same with its sides swapped. */
function ready(lines: readonly PairLine[], mirrored = false): ReadyPairing {
  const kinds = lines.map(({ id }) => id as LineKind);
  const schema = (at: Side): Schema => ({ entities: [entityOf(at, kinds)] });
  const schemas = new Map(SIDES.map((at) => [at as string, schema(at)]));
  const pairing: Pairing = {
    ...freshPairing('laws', { system: 'left', entity: 'left' }, { system: 'right', entity: 'right' }),
    lines: [...lines],
  };
  return readied(mirrored ? mirror(pairing) : pairing, schemas)!;
}

const MIRRORED: Record<Decider, Decider> = { left: 'right', right: 'left', newest: 'newest', ask: 'ask' };

function mirror(pairing: Pairing): Pairing {
  return {
    ...pairing,
    left: pairing.right,
    right: pairing.left,
    lines: pairing.lines.map((line) => ({
      ...line,
      left: line.right,
      right: line.left,
      way: line.way === 'to left' ? 'to right' : line.way === 'to right' ? 'to left' : 'both',
      decides: MIRRORED[line.decides],
      ...(line.options ? { options: line.options.map(({ left, right }) => ({ left: right, right: left })) } : {}),
    })),
  };
}

/** A side that won't take one of the values. */
const refusing = (at: Side | undefined) => (where: Side, _field: string, value: Value) =>
  where === at && (value === 'y' || sameValue(value, ['c']));

const histories = (lines: readonly PairLine[]) => {
  const kinds = lines.map(({ id }) => id);
  return fc.record({
    lines: fc.constant(lines),
    start: starts(kinds, false),
    happenings: fc.array(fc.oneof({ weight: 3, arbitrary: edit(kinds) }, { weight: 4, arbitrary: other }), {
      maxLength: 30,
    }),
    refuses: fc.constantFrom<Side | undefined>(undefined, 'left', 'right'),
  });
};

function fails(words: string, world: PairWorld): never {
  throw new Error(
    `${words}: ${JSON.stringify({ left: world.systems.left.values, right: world.systems.right.values })}`,
  );
}

/** 1. When edits stop, a bounded number of steps later both sides hold what the rules say, and nothing more is written. */
export function lawOfRest(runs: number): void {
  fc.assert(
    fc.property(pairings.chain(histories), ({ lines, start, happenings, refuses }) => {
      const made = ready(lines);
      const world = new PairWorld(made, start, refusing(refuses));
      for (const each of happenings) world.happen(each);
      if (world.quieten() > 6) fails('it never comes to rest', world);
      const before = world.writes.length;
      world.quieten();
      if (world.writes.length !== before) fails('it is written again at rest', world);
      for (const { key, line, rule } of made.lines) {
        if (world.open.has(key) || rule.onlyEmpty || rule.collects) continue;
        const now = { left: world.value('left', line.id), right: world.value('right', line.id) };
        const [from, to] = line.way === 'to left' ? (['right', 'left'] as const) : (['left', 'right'] as const);
        if ((isBlank(now.left) || isBlank(now.right)) && !rule.blankErases) continue;
        const there = isBlank(now[from]) ? null : rule.carry[from](now[from]);
        const back = isBlank(now[to]) || line.way !== 'both' ? null : rule.carry[to](now[to]);
        const agrees =
          (there === null && isBlank(now[to])) ||
          (there?.ok === true && sameValue(there.value, now[to])) ||
          (back?.ok === true && sameValue(back.value, now[from]));
        if (!agrees) fails(`“${line.id}” differs at rest though nothing is in its way`, world);
      }
    }),
    { numRuns: runs },
  );
}

/** 2. An edit that nobody contradicted is on both sides in the end, or named. */
export function lawOfNothingLost(runs: number): void {
  const oneSided = (lines: readonly PairLine[]) =>
    fc.record({
      lines: fc.constant(lines),
      editor: side,
      happenings: fc.array(
        fc.oneof({ weight: 3, arbitrary: edit(lines.map(({ id }) => id)) }, { weight: 4, arbitrary: other }),
        { maxLength: 30 },
      ),
      refuses: fc.constantFrom<Side | undefined>(undefined, 'left', 'right'),
    });
  fc.assert(
    fc.property(pairings.chain(oneSided), ({ lines, editor, happenings, refuses }) => {
      const made = ready(lines);
      const world = new PairWorld(made, { left: {}, right: {} }, refusing(refuses));
      for (const each of happenings) if (each.kind !== 'edit' || each.side === editor) world.happen(each);
      world.quieten();
      const to = across(editor);
      for (const { key, line, rule } of made.lines) {
        const value = world.value(editor, line.id);
        const goes = line.way === 'both' || line.way === (editor === 'left' ? 'to right' : 'to left');
        if (!goes || world.open.has(key) || isBlank(value) || rule.onlyEmpty) continue;
        const there = rule.carry[editor](value);
        const held = world.value(to, line.id);
        const arrived = rule.collects
          ? String(held).split('; ').at(-1) === String(value)
          : there.ok && sameValue(there.value, held);
        if (!arrived) fails(`an edit of “${line.id}” is lost`, world);
      }
    }),
    { numRuns: runs },
  );
}

/**
 * 3. Any order of delivery ends in the same values. A field is changed once on each side meanwhile: of one that goes there
 * and back again, what was seen in between is a change like any other, and may have been answered.
 */
export function lawOfOrder(runs: number): void {
  const ordered = (lines: readonly PairLine[]) => {
    const kinds = lines.map(({ id }) => id);
    const asked = side.map((at): Happening => ({ kind: 'ask', side: at }));
    const delivered = fc.array(
      fc.oneof(
        { weight: 3, arbitrary: fc.nat(8).map((page): Happening => ({ kind: 'deliver', page })) },
        { weight: 2, arbitrary: fc.constant<Happening>({ kind: 'work' }) },
        { weight: 1, arbitrary: fc.constant<Happening>({ kind: 'wait', ms: 5_000 }) },
      ),
      { maxLength: 16 },
    );
    return fc.record({
      lines: fc.constant(lines),
      start: starts(kinds, false),
      edits: fc.uniqueArray(
        fc.oneof(
          { weight: 3, arbitrary: edit(kinds) },
          { weight: 2, arbitrary: fc.tuple(asked, fc.nat(1_000)).map(([each, nth]) => ({ ...each, nth })) },
        ),
        { maxLength: 16, selector: (each) => ('nth' in each ? each.nth : JSON.stringify({ ...each, value: null })) },
      ),
      one: delivered,
      another: delivered,
    });
  };
  fc.assert(
    fc.property(pairings.chain(ordered), ({ lines, start, edits, one, another }) => {
      const ends = [one, another].map((deliveries) => {
        // A blank that erases nothing leaves what is there when it is looked at.
        const erasing = lines.map((line) => ({ ...line, blankErases: true }));
        const world = new PairWorld(ready(erasing), start);
        // The pair was at rest before, with no question open: what is decided then is decided alike.
        world.quieten();
        fc.pre(world.open.size === 0);
        for (const each of [...edits, ...deliveries]) world.happen(each);
        world.quieten();
        return world;
      });
      const [first, second] = ends as [PairWorld, PairWorld];
      // What gathers values, or fills what is empty, goes by what was there when it was looked at; what can't be had on
      // the other side waits for somebody.
      for (const at of SIDES)
        for (const { key, line } of ready(lines).lines) {
          const { id, collects, onlyEmpty } = line;
          if (collects || onlyEmpty || first.open.has(key) || second.open.has(key)) continue;
          if (!sameValue(first.value(at, id), second.value(at, id)))
            fails(`the order of delivery decides “${id}”: ${JSON.stringify(second.systems)}`, first);
        }
    }),
    { numRuns: runs },
  );
}

/** 4. Swapping the sides and the rules swaps the outcome. */
export function lawOfMirror(runs: number): void {
  fc.assert(
    fc.property(pairings.chain(histories), ({ lines, start, happenings }) => {
      // Of two changes at the same moment the left counts; so at first both hold nothing.
      const plain = new PairWorld(ready(lines), lines.some(({ decides }) => decides === 'newest') ? BLANK : start);
      const swapped = new PairWorld(ready(lines, true), {
        left: plain.systems.right.values,
        right: plain.systems.left.values,
      });
      // What ends a process ends it after its first write or its second; which side that is of isn't mirrored.
      for (const each of happenings) {
        if (each.kind === 'crash') continue;
        plain.happen(each);
        swapped.happen('side' in each ? { ...each, side: across(each.side) } : each);
      }
      plain.quieten();
      swapped.quieten();
      for (const { id } of lines)
        for (const at of SIDES)
          if (!sameValue(plain.value(at, id), swapped.value(across(at), id)))
            fails(`“${id}” depends on which side is left: ${JSON.stringify(swapped.systems)}`, plain);
    }),
    { numRuns: runs },
  );
}

const BLANK: Sides<Values> = { left: {}, right: {} };
