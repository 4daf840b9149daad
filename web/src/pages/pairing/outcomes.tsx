import type { PairingLook } from '@zusammen/core/api';
import { placeName, type OutcomeExample, type PairLine, type PairOutcome } from '@zusammen/core/pairing';
import type { Value } from '@zusammen/core/schema';
import { Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Sheet, TD, TH } from '../../parts/sheet.tsx';
import { Skeleton } from '../../parts/states.tsx';
import { count } from '../../parts/time.tsx';
import type { Editing } from './pairing.tsx';

/** One field over real pairs: last in step, both sides now, and what becomes of them. */
export function WhatWouldHappen({
  editing,
  line,
  look,
  loading,
}: {
  editing: Editing;
  line: PairLine;
  look: PairingLook | undefined;
  loading: boolean;
}) {
  const { pairing, around } = editing;
  const of = look?.lines.find((each) => each.line === line.id);
  const kinds = of
    ? (Object.entries(of.counts) as [PairOutcome, number][]).filter(([kind, n]) => kind !== 'same' && n > 0)
    : [];
  return (
    <Sheet
      title={`${placeName(line.left, around.left)}: what would happen`}
      aside={
        look && (
          <span>
            {loading ? 'looking again … ' : ''}
            {look.by === 'pairs' ? 'over' : 'over what goes together in'}{' '}
            <span className="font-mono">{count(look.pairs)}</span> pairs
            {look.whole.left && look.whole.right ? '' : ' of the first records'}
          </span>
        )
      }
    >
      {!look ? (
        <Skeleton rows={3} />
      ) : !of ? (
        <p className="px-4 py-3 text-soft">
          {line.suggested !== undefined
            ? 'It counts for nothing until somebody has said yes.'
            : 'It can’t be applied as it is.'}
        </p>
      ) : of.differ === 0 ? (
        <p className="px-4 py-3">Both sides hold the same in all of them.</p>
      ) : (
        <>
          <p className="flex flex-wrap gap-x-5 gap-y-1 px-4 py-2 text-small">
            {kinds.map(([kind, n]) => (
              <span key={kind}>
                <span className="font-mono">{count(n)}</span> {KINDS[kind](editing)}
              </span>
            ))}
          </p>
          <table className="w-full table-fixed">
            <thead>
              <tr>
                <th className={cx(TH, 'w-[20%] pl-4')}>Last in step</th>
                <th className={cx(TH, 'w-[22%]')}>{pairing.left.entityLabel} now</th>
                <th className={cx(TH, 'w-[22%]')}>{pairing.right.entityLabel} now</th>
                <th className={TH}>Outcome</th>
              </tr>
            </thead>
            <tbody>
              {of.examples.map((example) => (
                <Example
                  key={`${example.ids.left} ${example.ids.right}`}
                  example={example}
                  editing={editing}
                  line={line}
                />
              ))}
            </tbody>
          </table>
        </>
      )}
    </Sheet>
  );
}

const KINDS: Record<PairOutcome, (editing: Editing) => string> = {
  same: () => 'the same',
  'to right': ({ pairing }) => `change ${pairing.right.entityLabel}`,
  'to left': ({ pairing }) => `change ${pairing.left.entityLabel}`,
  undone: () => 'undo a change',
  asked: () => 'ask somebody',
  stuck: () => 'can’t be had on the other side',
  left: () => 'differ and stay so',
};

function Example({ example, editing, line }: { example: OutcomeExample; editing: Editing; line: PairLine }) {
  const { base, now } = example;
  return (
    <tr>
      <td className={cx(TD, 'truncate pl-4 font-mono text-soft')}>{base ? text(base.left) : 'never'}</td>
      <Held value={now.left} changed={base !== null && text(base.left) !== text(now.left)} />
      <Held value={now.right} changed={base !== null && text(base.right) !== text(now.right)} />
      <td className={TD}>
        <Outcome example={example} editing={editing} line={line} />
      </td>
    </tr>
  );
}

function Held({ value, changed }: { value: Value; changed: boolean }) {
  const shown = text(value);
  return (
    <td className={cx(TD, 'truncate font-mono', changed && 'font-bold', shown === '' && 'text-soft')} title={shown}>
      {shown === '' ? 'blank' : shown}
    </td>
  );
}

function Outcome({ example, editing, line }: { example: OutcomeExample; editing: Editing; line: PairLine }) {
  const { pairing } = editing;
  const { outcome, write, reason } = example;
  if (outcome === 'asked') return <>Somebody is asked.</>;
  if (outcome === 'stuck')
    return (
      <>
        Stays as it is. <Tag tone="saffron">{reason}</Tag>
      </>
    );
  if (outcome === 'left') return <>Both stay as they are.</>;
  if (!write) return null;
  const decides =
    outcome === 'undone' && line.way === 'both' && line.decides !== 'newest'
      ? `${pairing[line.decides === 'left' ? 'left' : 'right'].entityLabel} decides: `
      : outcome === 'undone' && line.way === 'both'
        ? 'Newest counts: '
        : '';
  return (
    <span className="inline-flex max-w-full flex-wrap items-center gap-x-1.5">
      {decides}
      {pairing[write.side].entityLabel} becomes{' '}
      <span className="truncate font-mono">{text(write.value) || 'blank'}</span>
      {outcome === 'undone' && <Tag tone="saffron">a change is undone</Tag>}
    </span>
  );
}

/** A value as it is compared. */
export const text = (value: Value): string =>
  value === null
    ? ''
    : Array.isArray(value)
      ? value.join(', ')
      : typeof value === 'boolean'
        ? value
          ? 'yes'
          : 'no'
        : String(value);
