import type { ReactNode } from 'react';
import { cx } from './cx.ts';

/** An incoming field: plum, with a bar at its left edge. */
export function Incoming({ children, muted = false }: { children: ReactNode; muted?: boolean }) {
  return (
    <span
      className={cx(
        'inline-block max-w-full truncate align-middle leading-[19px] border-l-[3px] border-plum bg-plum-wash px-2 py-0.5 text-small font-semibold text-plum rounded-r-[4px]',
        muted && 'border-dashed',
      )}
    >
      {children}
    </span>
  );
}

/** A record's field: moss, with a bar at its right edge. */
export function Outgoing({ children, muted = false }: { children: ReactNode; muted?: boolean }) {
  return (
    <span
      className={cx(
        'inline-block max-w-full truncate align-middle leading-[19px] border-r-[3px] border-moss bg-moss-wash px-2 py-0.5 text-small font-semibold text-moss rounded-l-[4px]',
        muted && 'border-dashed',
      )}
    >
      {children}
    </span>
  );
}

const TONES = {
  sand: 'bg-sand text-soft',
  plum: 'bg-plum-wash text-plum',
  moss: 'bg-moss-wash text-moss',
  saffron: 'bg-saffron-wash text-saffron',
  brick: 'bg-brick-wash text-brick',
};
export type Tone = keyof typeof TONES;

export function Tag({ tone = 'sand', children }: { tone?: Tone; children: ReactNode }) {
  return (
    <span
      className={cx(
        'inline-flex max-w-full min-w-0 items-center gap-1.5 rounded-[5px] align-middle leading-[19px] px-2 py-0.5 text-small font-semibold whitespace-nowrap',
        TONES[tone],
      )}
    >
      {children}
    </span>
  );
}
