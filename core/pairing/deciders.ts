import type { Side, Sides } from './settle.ts';

/** Milliseconds since 1970, by our clock; undefined where the system doesn't tell it. */
export type Moments = Sides<number | undefined>;

/** Says whose value counts where both sides have changed and hold different values; or that somebody is asked. */
type Decide = (changed: Moments) => Side | 'ask';

/** The later change counts; of two at the same moment the left one, always. Where a moment isn't told, somebody is asked. */
const newest: Decide = ({ left, right }) =>
  left === undefined || right === undefined ? 'ask' : right > left ? 'right' : 'left';

/** Every decider there is: a new one is a function, and a line here. */
export const DECIDERS = {
  left: () => 'left',
  newest,
  right: () => 'right',
  ask: () => 'ask',
} as const satisfies Record<string, Decide>;

export type Decider = keyof typeof DECIDERS;
export const DECIDER_NAMES = Object.keys(DECIDERS) as Decider[];
