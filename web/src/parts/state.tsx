import type { Outcome } from '@zusammen/core/plans';
import type { IntakeState, SubmissionState, SystemState } from '@zusammen/core/api';
import { Tag, type Tone } from './chip.tsx';

/** Every state has a word and a shape; colour only repeats them. */
const SUBMISSION: Record<SubmissionState, [shape: string, tone: Tone]> = {
  unpaid: ['¤', 'sand'],
  received: ['◌', 'sand'],
  applied: ['●', 'moss'],
  'in review': ['◆', 'saffron'],
  refused: ['✕', 'brick'],
  failed: ['▲', 'brick'],
  'set aside': ['–', 'sand'],
  'taken back': ['↶', 'plum'],
};

function Shaped({ shape, word, tone }: { shape: string; word: string; tone: Tone }) {
  return (
    <Tag tone={tone}>
      <span aria-hidden="true" className="text-[11px]">
        {shape}
      </span>
      {word}
    </Tag>
  );
}

export function SubmissionStateTag({ state }: { state: SubmissionState }) {
  const [shape, tone] = SUBMISSION[state];
  return <Shaped shape={shape} word={state} tone={tone} />;
}

const OUTCOMES: Record<Outcome, [shape: string, tone: Tone, word: string]> = {
  created: ['+', 'plum', 'new'],
  updated: ['●', 'moss', 'updates'],
  unchanged: ['=', 'sand', 'no change'],
  left: ['–', 'sand', 'left as it is'],
  skipped: ['–', 'sand', 'skipped'],
  asked: ['◆', 'saffron', 'asks'],
  stopped: ['■', 'sand', 'stops'],
  refused: ['✕', 'brick', 'refused'],
  failed: ['▲', 'brick', 'can’t go in'],
  waits: ['◌', 'sand', 'waits'],
  deleted: ['×', 'brick', 'deletes'],
  'taken back': ['↶', 'sand', 'taken back'],
};

export function OutcomeTag({ outcome }: { outcome: Outcome }) {
  const [shape, tone, word] = OUTCOMES[outcome];
  return <Shaped shape={shape} word={word} tone={tone} />;
}

const INTAKES: Record<IntakeState, [string, Tone, string]> = {
  draft: ['◌', 'sand', 'not published'],
  open: ['●', 'moss', 'open'],
  closed: ['–', 'saffron', 'closed'],
};

export function IntakeStateTag({ state }: { state: IntakeState }) {
  const [shape, tone, word] = INTAKES[state];
  return <Shaped shape={shape} word={word} tone={tone} />;
}

const SYSTEMS: Record<SystemState, [string, Tone]> = {
  answers: ['●', 'moss'],
  silent: ['✕', 'brick'],
  'in trouble': ['▲', 'brick'],
  'token refused': ['✕', 'brick'],
  'not understood': ['▲', 'brick'],
  'asks for patience': ['◆', 'saffron'],
};

export function SystemStateTag({ state }: { state: SystemState }) {
  const [shape, tone] = SYSTEMS[state];
  return <Shaped shape={shape} word={state} tone={tone} />;
}
