import type { Schema, Value } from '../schema/index.ts';
import { isBlank, sameValue, type Reading } from '../values/index.ts';
import type { Pairing } from './model.ts';
import { readied, receivers, type ReadyLine } from './pair.ts';
import { awkwardValues } from './rest.ts';
import { across, type Side } from './settle.ts';

/** Several pairings, each with the name by which it is known. */
export interface Known {
  id: string;
  pairing: Pairing;
}

/** A field of an entity of a system, as a node of the graph. */
interface Node {
  system: string;
  entity: string;
  field: string;
}

interface Edge {
  from: string;
  to: string;
  pairing: Known;
  line: ReadyLine;
  side: Side;
  carry: (value: Value) => Reading<Value>;
}

/** Pairings in a ring around which a value never comes to rest. */
export interface Ring {
  /** The pairings and lines gone through, in order. */
  way: { pairing: string; line: string; from: Node }[];
  value: Value;
  once: Value;
  twice: Value;
}

/** A field that two pairings write by different rules. */
export interface Contradiction {
  node: Node;
  pairings: { pairing: string; line: string; rule: string }[];
}

const keyOf = ({ system, entity, field }: Node): string => JSON.stringify([system, entity, field]);
const nodeOf = (key: string): Node => {
  const [system, entity, field] = JSON.parse(key) as [string, string, string];
  return { system, entity, field };
};

/** Rings with more pairings than this, and further rings than this many, are not looked for. */
const LONGEST = 8;
const MOST = 500;

/**
 * Looks for rings of fields over all pairings whose composition isn't settled after one round, with a value that shows
 * it. A ring is a simple cycle (Tiernan 1970) of at least two lines that aren't one line there and back.
 */
export function restlessRings(all: readonly Known[], schemas: ReadonlyMap<string, Schema>): Ring[] {
  const edges = edgesOf(all, schemas);
  const from = new Map<string, Edge[]>();
  for (const edge of edges) from.set(edge.from, [...(from.get(edge.from) ?? []), edge]);
  const found: Ring[] = [];
  let looked = 0;
  const starts = [...from.keys()].sort();
  for (const start of starts) {
    const path: Edge[] = [];
    const follow = (at: string): void => {
      for (const edge of from.get(at) ?? []) {
        if ((looked += 1) > MOST * LONGEST || path.some(({ line }) => line === edge.line)) continue;
        // Every ring is found from its first node in the order of names only.
        if (edge.to < start || path.some((each) => each.from === edge.to && each.from !== start)) continue;
        path.push(edge);
        if (edge.to === start) {
          // Within one pairing two lines that write one field are an error by themselves.
          const several = new Set(path.map(({ pairing }) => pairing.id)).size > 1;
          const ring = several ? restless(path) : undefined;
          if (ring) found.push(ring);
        } else if (path.length < LONGEST) follow(edge.to);
        path.pop();
      }
    };
    follow(start);
  }
  return found;
}

/** Fields that several pairings write, not by the same rule. */
export function contradictions(all: readonly Known[], schemas: ReadonlyMap<string, Schema>): Contradiction[] {
  const writers = new Map<string, Contradiction['pairings']>();
  for (const { to, pairing, line, side } of edgesOf(all, schemas)) {
    const { way, decides, onlyEmpty, collects } = line.line;
    if (onlyEmpty || collects) continue;
    // Seen from the field that is written, so that the same rule is the same whichever side the field is on.
    const rule =
      way !== 'both' || decides === side
        ? 'the other side decides'
        : decides === across(side)
          ? 'it decides itself'
          : decides;
    writers.set(to, [...(writers.get(to) ?? []), { pairing: pairing.id, line: line.line.id, rule }]);
  }
  return [...writers].flatMap(([key, pairings]) => {
    const several = new Set(pairings.map(({ pairing }) => pairing)).size > 1;
    const others = new Set(pairings.map(({ rule }) => rule)).size > 1;
    // Two masters of one field contradict each other as well.
    const masters = pairings.filter(({ rule }) => rule === 'the other side decides').length > 1;
    return several && (others || masters) ? [{ node: nodeOf(key), pairings }] : [];
  });
}

/** A field whose changes one line undoes, and others carry to the very field that the line takes its values from. */
export interface UndoneAndCarried {
  /** The line by which the other side decides, and the field that it writes. */
  pairing: string;
  line: string;
  node: Node;
  /** The first of those that carry the changes on. */
  by: { pairing: string; line: string };
}

/**
 * Lines of one way that are part of a ring: what is changed where they write is undone by them, and carried on by the rest
 * of the ring; which comes first is chance. Found by breadth-first search from what each writes.
 */
export function undoneAndCarried(all: readonly Known[], schemas: ReadonlyMap<string, Schema>): UndoneAndCarried[] {
  const edges = edgesOf(all, schemas);
  const from = new Map<string, Edge[]>();
  for (const edge of edges) from.set(edge.from, [...(from.get(edge.from) ?? []), edge]);
  return edges.flatMap((edge): UndoneAndCarried[] => {
    const { way, onlyEmpty, collects } = edge.line.line;
    if (way === 'both' || onlyEmpty || collects) return [];
    const first = new Map<string, Edge>();
    const open = [edge.to];
    for (let at = open.pop(); at !== undefined; at = open.pop())
      for (const next of from.get(at) ?? []) {
        if (next.line === edge.line || first.has(next.to)) continue;
        first.set(next.to, first.get(at) ?? next);
        open.push(next.to);
      }
    const by = first.get(edge.from);
    if (!by) return [];
    return [
      {
        ...{ pairing: edge.pairing.id, line: edge.line.line.id, node: nodeOf(edge.to) },
        by: { pairing: by.pairing.id, line: by.line.line.id },
      },
    ];
  });
}

function edgesOf(all: readonly Known[], schemas: ReadonlyMap<string, Schema>): Edge[] {
  return all.flatMap((pairing): Edge[] => {
    const ready = readied(pairing.pairing, schemas);
    return (ready?.lines ?? []).flatMap((line) =>
      receivers(line.line).flatMap((to): Edge[] => {
        const side = across(to);
        const [from, ...more] = line.line[side].path;
        // What is worked out or read through a relation is never written, so no ring goes through it.
        if (from === undefined || more.length > 0 || line.line[side].compute !== undefined) return [];
        const { left, right } = pairing.pairing;
        const at = { left, right };
        return [
          {
            from: keyOf({ ...at[side], field: from }),
            to: keyOf({ ...at[to], field: line.line[to].path[0]! }),
            ...{ pairing, line, side, carry: line.rule.carry[side] },
          },
        ];
      }),
    );
  });
}

/** Goes around a ring twice with values that stumble; what the second round changes again never rests. */
function restless(path: readonly Edge[]): Ring | undefined {
  const [first] = path as [Edge];
  const field = first.line.fields[first.side];
  const options = (field.options ?? []).map(({ value }) => (field.type === 'options' ? [value] : value));
  for (const value of [...options, ...awkwardValues(field)]) {
    const once = around(path, value);
    const twice = once === undefined ? undefined : around(path, once);
    if (once === undefined || twice === undefined || sameValue(once, twice)) continue;
    const way = path.map(({ pairing, line, from }) => ({
      pairing: pairing.id,
      line: line.line.id,
      from: nodeOf(from),
    }));
    return { way, value, once, twice };
  }
  return undefined;
}

function around(path: readonly Edge[], value: Value): Value | undefined {
  let at = value;
  for (const { carry } of path) {
    const reading = carry(at);
    if (!reading.ok || isBlank(reading.value)) return undefined;
    at = reading.value;
  }
  return at;
}
