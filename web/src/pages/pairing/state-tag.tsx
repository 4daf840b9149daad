import type { PairingListed } from '@zusammen/core/api';
import { Tag } from '../../parts/chip.tsx';
import { span } from '../../parts/time.tsx';

/** Under this, in milliseconds, nobody would call it late. */
const LATE_MS = 30_000;

/** How a pairing stands, in a word, and how far behind it is. */
export function StateTag({
  pairing: { state, states, behindMs, filled, words },
}: {
  pairing: Pick<PairingListed, 'state' | 'states' | 'behindMs' | 'filled' | 'words'>;
}) {
  if (state === 'draft') return <Tag>○ not started</Tag>;
  if (state === 'paused') return <Tag tone="saffron">❙❙ paused{behind(behindMs)}</Tag>;
  if (words !== null) return <Tag tone="brick">✕ held up{behind(behindMs)}</Tag>;
  if (!filled) return <Tag tone="plum">◔ first fill</Tag>;
  if (states.onTheWay > 0 && behindMs > LATE_MS) return <Tag tone="saffron">◔ {span(behindMs)} behind</Tag>;
  return <Tag tone="moss">● in step{behind(behindMs)}</Tag>;
}

const behind = (ms: number): string => (ms < 1_000 ? '' : `, ${span(ms)} behind`);
