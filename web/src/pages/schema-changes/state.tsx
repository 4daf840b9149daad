import type { SchemaChangeTold } from '@zusammen/core/api';
import type { StepOutcome } from '@zusammen/core/schema-changes';
import { Tag, type Tone } from '../../parts/chip.tsx';

const STEPS: Record<StepOutcome['state'], [shape: string, tone: Tone, word: string]> = {
  waiting: ['◌', 'sand', 'waits'],
  done: ['●', 'moss', 'done'],
  refused: ['✕', 'brick', 'not taken'],
  'taken back': ['↶', 'plum', 'taken back'],
  stays: ['◆', 'saffron', 'stays there'],
};

export function StepTag({ state }: { state: StepOutcome['state'] }) {
  const [shape, tone, word] = STEPS[state];
  return (
    <Tag tone={tone}>
      <span aria-hidden="true">{shape}</span> {word}
    </Tag>
  );
}

/** How a change stands as a whole. */
export function ChangeTag({ change: { state, direction } }: { change: Pick<SchemaChangeTold, 'state' | 'direction'> }) {
  if (state === 'running') return <Tag tone="plum">◌ {direction === 'forth' ? 'under way' : 'being taken back'}</Tag>;
  if (state === 'done') return direction === 'forth' ? <Tag tone="moss">● done</Tag> : <Tag>↶ taken back</Tag>;
  return <Tag tone="brick">✕ {direction === 'forth' ? 'not whole' : 'not taken back whole'}</Tag>;
}
