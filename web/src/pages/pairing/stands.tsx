import type { PairCause, PairingDetail } from '@zusammen/core/api';
import { placeName } from '@zusammen/core/pairing';
import { listed } from '@zusammen/core/values';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo } from '../../api/hooks.ts';
import { Sheet } from '../../parts/sheet.tsx';
import { Sparkline } from '../../parts/sparkline.tsx';
import { count, span } from '../../parts/time.tsx';
import { cx } from '../../parts/cx.ts';
import type { Editing } from './pairing.tsx';

/** How the pairs stand, what is refused and why, and how far a first fill is. */
export function StandsNow({ editing, compare }: { editing: Editing; compare: (() => void) | undefined }) {
  const { pairing } = editing;
  if (pairing.state === 'draft')
    return <p className="sheet px-4 py-3 text-soft">Nothing has been written. It begins when it is started.</p>;
  const { inStep, onTheWay, asked, refused } = pairing.states;
  const all = inStep + asked + refused;
  return (
    <>
      <Sheet
        title={`State of ${count(all)} pairs`}
        aside={
          compare && (
            <button
              type="button"
              className="min-h-6 text-plum hover:underline"
              onClick={compare}
              title="All records of both sides are read again"
            >
              compare anew
            </button>
          )
        }
      >
        <dl className="grid grid-cols-[1fr_auto] gap-y-1 px-4 py-3">
          <Line name="In step" value={inStep} />
          <Line name="On the way" value={onTheWay} />
          <dt>
            {asked > 0 ? (
              <Link to="/review/pairs" className="text-plum underline">
                Waiting for an answer
              </Link>
            ) : (
              'Waiting for an answer'
            )}
          </dt>
          <dd className="text-right font-mono">{count(asked)}</dd>
          <Line name="Refused by a system" value={refused} tone={refused > 0 ? 'text-brick' : ''} />
        </dl>
        <ul>
          {pairing.causes
            .filter(({ kind }) => kind === 'refused')
            .slice(0, 6)
            .map((cause) => (
              <Cause key={`${cause.cause} ${cause.line}`} cause={cause} editing={editing} refused={refused} />
            ))}
        </ul>
      </Sheet>
      {pairing.progress && <FirstFill pairing={pairing} editing={editing} />}
      <Behind pairing={pairing} />
    </>
  );
}

function Line({ name, value, tone = '' }: { name: string; value: number; tone?: string }) {
  return (
    <>
      <dt>{name}</dt>
      <dd className={cx('text-right font-mono', tone)}>{count(value)}</dd>
    </>
  );
}

/** What is refused for one reason, and what mends it. */
function Cause({ cause, editing, refused }: { cause: PairCause; editing: Editing; refused: number }) {
  const { document, around, pairing, mayEdit } = editing;
  const line = document.lines.find(({ id }) => id === cause.line);
  const { missing } = cause;
  const again = useDo(
    (add: boolean) =>
      call('post /pairings/:id/again', {
        params: { id: pairing.id },
        body: { cause: cause.cause, ...(add ? { add } : {}) },
      }),
    ['pairings', 'systems', 'schemas'],
  );
  const which = cause.count === refused && refused > 1 ? `All ${count(refused)}` : count(cause.count);
  const these = cause.count === 1 ? 'send it again' : `send these ${count(cause.count)} again`;
  const added =
    missing &&
    listed(
      missing.options.map(({ label }) => label),
      { quoted: true },
    );
  return (
    <li className="border-t border-hair px-4 py-2 text-small">
      <span className="font-semibold">{which}</span>
      {line && <>, {placeName(line[cause.side], around[cause.side])}</>}: {cause.words}
      {missing && !missing.canAdd && (
        <>
          {' '}
          {added} can’t be added to {pairing[missing.side].systemName} from here: add it there, read its schema, and
        </>
      )}{' '}
      {mayEdit && (
        <span className="inline-flex flex-wrap gap-x-3">
          {missing?.canAdd && (
            <Again busy={again.isPending} go={() => again.mutate(true)}>
              Add {added} there and {these}
            </Again>
          )}
          {!missing?.canAdd && (
            <Again busy={again.isPending} go={() => again.mutate(false)}>
              {missing ? these : cause.count === 1 ? 'Send it again' : 'Send them again'}
            </Again>
          )}
        </span>
      )}
      {again.error && (
        <span role="alert" className="block text-brick">
          {again.error.message}
        </span>
      )}
    </li>
  );
}

function Again({ busy, go, children }: { busy: boolean; go: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      className="min-h-6 text-left font-semibold text-plum hover:underline"
      disabled={busy}
      onClick={go}
    >
      {busy ? 'sending …' : children}
    </button>
  );
}

function FirstFill({ pairing, editing }: { pairing: PairingDetail; editing: Editing }) {
  const { read, reading, total, done } = pairing.progress!;
  const left = total - done;
  const part = total === 0 ? 0 : done / total;
  return (
    <Sheet title={pairing.liveVersion === 1 ? 'First fill' : 'Comparing anew'}>
      <div className="px-4 py-3">
        {reading ? (
          <p>
            Reading: <span className="font-mono">{count(read.left)}</span> {editing.pairing.left.entityLabel},{' '}
            <span className="font-mono">{count(read.right)}</span> {editing.pairing.right.entityLabel} so far
          </p>
        ) : (
          <>
            <p>
              <span className="font-mono">{count(done)}</span> of <span className="font-mono">{count(total)}</span>{' '}
              records looked at
            </p>
            <div
              className="mt-2 h-2 overflow-hidden rounded bg-sand"
              role="progressbar"
              aria-valuenow={Math.round(part * 100)}
              aria-label="Looked at"
            >
              <div
                className="h-full bg-[linear-gradient(to_right,var(--color-plum),var(--color-moss))]"
                style={{ width: `${part * 100}%` }}
              />
            </div>
            <p className="mt-1 text-small text-soft">
              <span className="font-mono">{count(left)}</span> left{pairing.state === 'paused' ? ', paused' : ''}
            </p>
          </>
        )}
      </div>
    </Sheet>
  );
}

/** Minutes shown. */
const MINUTES = 60;

function Behind({ pairing: { beats } }: { pairing: PairingDetail }) {
  const now = Math.floor(Date.now() / 60_000);
  const by = new Map(beats.map((beat) => [beat.minute, beat]));
  const minutes = Array.from({ length: MINUTES }, (_, at) => by.get(now - MINUTES + 1 + at)?.behindMs ?? 0);
  const written = beats.reduce((sum, beat) => sum + beat.written, 0);
  const most = Math.max(...minutes);
  return (
    <Sheet title="Behind, last hour" aside={`${count(written)} written`}>
      <div className="px-4 py-3">
        <Sparkline values={minutes} label={`Behind, by minute; ${span(most)} at most`} pitch={4.75} />
        <p className="mt-1 text-small text-soft">at most {span(most)} from a change to the other side</p>
      </div>
    </Sheet>
  );
}
