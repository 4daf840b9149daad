import type { Value } from '../schema/index.ts';
import { isBlank, sameValue, type Reading } from '../values/index.ts';
import { collected, type Bounds } from './collect.ts';
import { DECIDERS, type Decider, type Moments } from './deciders.ts';

/** The two records of a pair are its sides; which is which never changes. */
export type Side = 'left' | 'right';
export interface Sides<T> {
  left: T;
  right: T;
}
export const SIDES = ['left', 'right'] as const satisfies Side[];
export const across = (side: Side): Side => (side === 'left' ? 'right' : 'left');

/** In which direction values travel; `both`: whichever side has changed. */
export const WAYS = ['both', 'to right', 'to left'] as const;
export type Way = (typeof WAYS)[number];

/** What is done with one field of a pair. */
export interface Rule {
  way: Way;
  /** Whose value counts where both sides have changed, and otherwise. */
  decides: Decider;
  /** Only what is blank is filled. */
  onlyEmpty: boolean;
  /** A blank erases what the other side holds. Never so unless said. */
  blankErases: boolean;
  /** The receiving side gathers all values ever given, within these bounds. Only one way. */
  collects: Bounds | undefined;
  /** How a value of one side looks on the other; unreadable, with the reason, where it can't be had there. */
  carry: Sides<(value: Value) => Reading<Value>>;
}

/** What is known of one field of a pair. */
export interface Held {
  /** What each side held when the pair was last at rest; absent: it never was. */
  base: Sides<Value> | undefined;
  now: Sides<Value>;
  /** When each side's value was changed, as far as its system tells it. */
  changed: Moments;
  /** Whose value counts as somebody has decided, and of which two they did. */
  decided?: Decision | undefined;
}

/** Somebody's word on two values; it is good for these only. */
export interface Decision {
  side: Side;
  now: Sides<Value>;
}

/** What becomes of one field of a pair. */
export interface Settled {
  /** What is to be written to a side; nothing where it is absent. */
  write: Partial<Sides<Value>>;
  /** What both hold once that is written; the former base where somebody is asked or the value can't be had there. */
  base: Sides<Value> | undefined;
  /** Both have changed, and somebody has to say which counts. */
  ask?: true;
  /** The value of the other side can't be had on this one, and why. */
  stuck?: { side: Side; value: Value; reason: string };
  /** Both hold the same already. */
  agreed?: true;
  /** This side had a value of its own, which another takes the place of. */
  undone?: Side;
}

/**
 * Brings one field of a pair into step: a three-way comparison (as in merging with a common ancestor, Khanna, Kunal and
 * Pierce 2007, “A formal investigation of diff3”) in which the ancestor is what each side held when the pair was last at
 * rest. A side has changed when it differs from that; what only one has changed travels, where the rule lets it; where
 * both have changed otherwise, the decider says which counts.
 *
 * The base holds a value for each side, not one in common: what a conversion loses, what a system keeps otherwise than
 * it was sent, and what was taken back are differences at rest. So an echo of our own write changes nothing, and loops
 * end by themselves, without marks or clocks.
 */
export function settle(rule: Rule, held: Held): Settled {
  const { base, now } = held;
  const moved = movedSides(rule, held);
  if (rule.collects) return rule.way === 'both' ? atRest(now) : gather(rule, held, moved);
  if (agree(rule, now)) return { ...atRest(now), agreed: true };
  const word = held.decided;
  if (word && sameValue(word.now.left, now.left) && sameValue(word.now.right, now.right))
    return carry({ ...rule, onlyEmpty: false, blankErases: true }, held, word.side, true);
  if (!moved.left && !moved.right) return { write: {}, base };
  if (rule.way !== 'both') {
    const from = rule.way === 'to right' ? 'left' : 'right';
    return carry(rule, held, from, moved[across(from)]);
  }
  if (moved.left !== moved.right) return carry(rule, held, moved.left ? 'left' : 'right', false);
  if (rule.onlyEmpty) return isBlank(now.left) ? carry(rule, held, 'right', false) : carry(rule, held, 'left', false);
  const winner = DECIDERS[rule.decides](held.changed);
  if (winner === 'ask') return { write: {}, base, ask: true };
  return carry(rule, held, winner, true);
}

/**
 * Which sides have changed since the pair was at rest; at first, those that hold something. Where values go both
 * ways, what looks the same on the other side is no change: else a time of day that only one side keeps would contradict the other's new date.
 */
function movedSides({ carry, way }: Rule, { base, now }: Held): Sides<boolean> {
  if (!base) return { left: !isBlank(now.left), right: !isBlank(now.right) };
  const moved = (side: Side): boolean => {
    if (sameValue(now[side], base[side])) return false;
    if (way !== 'both' || isBlank(now[side]) || isBlank(base[side])) return true;
    const [there, before] = [carry[side](now[side]), carry[side](base[side])];
    return !there.ok || !before.ok || !sameValue(there.value, before.value);
  };
  return { left: moved('left'), right: moved('right') };
}

const atRest = (now: Sides<Value>): Settled => ({ write: {}, base: { ...now } });

/** Both hold the same, as it looks on one side or on the other. A way that isn't gone says nothing. */
function agree({ carry, way }: Rule, { left, right }: Sides<Value>): boolean {
  if (isBlank(left) && isBlank(right)) return true;
  const is = (reading: Reading<Value>, value: Value): boolean => reading.ok && sameValue(reading.value, value);
  if (isBlank(left) || isBlank(right)) return false;
  return (way !== 'to left' && is(carry.left(left), right)) || (way !== 'to right' && is(carry.right(right), left));
}

/** Has a side's value on the other. @param contradicted the other has a value of its own */
function carry(rule: Rule, { base, now }: Held, from: Side, contradicted: boolean): Settled {
  const to = across(from);
  const value = now[from];
  if (isBlank(value) && (!rule.blankErases || rule.onlyEmpty)) return atRest(now);
  if (rule.onlyEmpty && !isBlank(now[to])) return atRest(now);
  const there: Reading<Value> = isBlank(value) ? { ok: true, value: null } : rule.carry[from](value);
  if (!there.ok) return { write: {}, base, stuck: { side: to, value, reason: there.reason } };
  if (sameValue(there.value, now[to])) return atRest(now);
  const undone = contradicted && !isBlank(now[to]) ? { undone: to } : {};
  return { write: write(to, there.value), base: sides(from, value, there.value), ...undone };
}

/** Adds what the giving side holds now to what the other has gathered. */
function gather(rule: Rule, { base, now }: Held, moved: Sides<boolean>): Settled {
  const from = rule.way === 'to right' ? 'left' : 'right';
  const to = across(from);
  if (!moved[from] || isBlank(now[from])) return atRest(now);
  const there = eachCarried(rule.carry[from], now[from]);
  const all = there.ok ? collected(now[to], there.value, rule.collects!) : there;
  if (!all.ok) return { write: {}, base, stuck: { side: to, value: now[from], reason: all.reason } };
  if (all.value === now[to] || sameOrder(all.value, now[to])) return atRest(now);
  return { write: write(to, all.value), base: sides(from, now[from], all.value) };
}

/** Several choices are gathered each on its own. */
function eachCarried(carryOne: (value: Value) => Reading<Value>, value: Value): Reading<Value> {
  if (!Array.isArray(value)) return carryOne(value);
  const entries: string[] = [];
  for (const each of value) {
    const there = carryOne([each]);
    if (!there.ok) return there;
    entries.push(...(Array.isArray(there.value) ? there.value : [String(there.value)]));
  }
  return { ok: true, value: entries };
}

const sameOrder = (a: Value, b: Value): boolean => JSON.stringify(a) === JSON.stringify(b);
const write = (side: Side, value: Value): Partial<Sides<Value>> =>
  side === 'left' ? { left: value } : { right: value };
const sides = (from: Side, mine: Value, other: Value): Sides<Value> =>
  from === 'left' ? { left: mine, right: other } : { left: other, right: mine };
