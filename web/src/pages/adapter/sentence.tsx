import {
  type AdapterOperation,
  type AdapterReasons,
  type AdapterTrial,
  type EntityAdapter,
} from '@zusammen/core/adapters';
import type { ReactNode } from 'react';
import { cx } from '../../parts/cx.ts';
import { span } from '../../parts/time.tsx';

export interface SentenceProps {
  entity: EntityAdapter;
  reasons: AdapterReasons;
  trials: readonly AdapterTrial[];
  /** Which operation's answer is shown beside. */
  shown: AdapterOperation | undefined;
  show: (operation: AdapterOperation) => void;
  change: (change: (entity: EntityAdapter) => EntityAdapter) => void;
  locked: boolean;
}

/** One sentence, with what came of trying it and why it is so. */
export function Sentence({
  operations,
  parts,
  children,
  entity,
  reasons,
  trials,
  shown,
  show,
}: SentenceProps & { operations: readonly AdapterOperation[]; parts: readonly string[]; children: ReactNode }) {
  const those = trials.filter((each) => operations.includes(each.operation));
  const [main] = those;
  const isShown = shown !== undefined && operations.includes(shown);
  const why = parts.flatMap((part) => reasons[`${entity.name}/${part}`] ?? []);
  return (
    <li className={cx('border-b border-hair px-4 py-2.5', isShown && 'shadow-[inset_3px_0_0_var(--color-plum)]')}>
      <div className="flex items-start justify-between gap-3">
        <p className="min-w-0 leading-[26px]">{children}</p>
        <span className="flex flex-none flex-col items-end gap-0.5">
          {those.map((trial, at) => (
            <button
              key={`${trial.operation} ${at}`}
              type="button"
              onClick={() => show(trial.operation)}
              aria-label={`${trial.operation}: ${trial.words} Show its answer`}
              className="min-h-6 min-w-6 text-small whitespace-nowrap hover:underline"
            >
              <TrialMark trial={trial} />
            </button>
          ))}
        </span>
      </div>
      {those.some(({ state }) => state === 'failed') && (
        <p className="text-small text-brick">{those.find(({ state }) => state === 'failed')!.words}</p>
      )}
      {why.length > 0 && (
        <p className="text-small text-soft">
          {sentenceOf([...new Set(why.map((each) => each.why))])} {sureness(Math.min(...why.map(({ sure }) => sure)))}
        </p>
      )}
      {main === undefined && why.length === 0 && <p className="text-small text-soft">not tried yet</p>}
    </li>
  );
}

/** How sure an inference is, in a word and a figure. */
export function sureness(sure: number): string {
  if (sure >= 1) return '';
  const word = sure >= 0.9 ? 'Sure' : sure >= 0.6 ? 'Likely' : 'A guess';
  return `${word}: ${Math.round(sure * 100)} %.`;
}

function TrialMark({ trial }: { trial: AdapterTrial }) {
  const { state, operation, ms } = trial;
  if (state === 'failed') return <span className="text-brick">■ {operation} fails</span>;
  if (state === 'untried') return <span className="text-soft">○ {operation} not tried</span>;
  return (
    <span className="text-moss">
      ● {operation}
      {ms !== undefined && <span className="font-mono"> {span(ms)}</span>}
    </span>
  );
}
const sentenceOf = (whys: readonly string[]): string => {
  const text = whys.join('; ');
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
};
