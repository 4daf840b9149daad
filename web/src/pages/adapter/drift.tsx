import type { System } from '@zusammen/core/api';
import { allMended, type AdapterDifference } from '@zusammen/core/adapters';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { useDo, useMe } from '../../api/hooks.ts';
import { Button } from '../../parts/button.tsx';
import { Sheet } from '../../parts/sheet.tsx';
import { type AdapterDraft } from './draft.ts';

/** In what the API is no longer as the adapter says, each with its mend. */
export function Drift({
  system,
  draft,
  locked,
  caughtUp,
}: {
  system: System;
  draft: AdapterDraft;
  locked: boolean;
  caughtUp: () => void;
}) {
  const me = useMe();
  const [taken, setTaken] = useState<readonly AdapterDifference[]>([]);
  const compare = useDo(() => call('post /systems/:id/adapter/compare', { params: { id: system.id } }), ['systems']);
  const differences = (compare.data?.differences ?? system.adapterDrift ?? []).filter((each) => !taken.includes(each));
  const apply = (those: readonly AdapterDifference[]): void => {
    draft.set(
      // Places in lists hold as long as what stands behind them is mended first.
      allMended(draft.document, [...those].reverse()),
    );
    setTaken((before) => [...before, ...those]);
    if (those.length === differences.length) caughtUp();
  };
  const open = differences.filter(({ mend }) => mend);
  return (
    <div className="mb-3.5">
      {differences.length > 0 && (
        <Sheet
          title={<span className="text-saffron">◆ The API has changed</span>}
          aside={
            !locked &&
            open.length > 0 && <Button onClick={() => apply(differences)}>Take all {open.length} over</Button>
          }
          className="mb-2"
        >
          <ul>
            {differences.map((each) => (
              <li
                key={`${each.entity} ${each.part} ${each.what}`}
                className="flex items-center justify-between gap-3 border-b border-hair px-4 py-2 last:border-b-0"
              >
                <span>
                  <span className={each.breaks ? 'text-brick' : 'text-soft'}>{each.breaks ? '■ ' : '○ '}</span>
                  <b className="font-semibold">{each.entity}:</b> {each.what}
                </span>
                {!locked && each.mend && (
                  <Button onClick={() => apply([each])}>{each.mend.words.replace(/\.$/, '')}</Button>
                )}
              </li>
            ))}
          </ul>
        </Sheet>
      )}
      {me.data?.role !== 'viewer' && (
        <p className="text-small text-soft">
          <button
            type="button"
            className="font-semibold text-ink hover:underline"
            disabled={compare.isPending}
            onClick={() => compare.mutate(undefined)}
          >
            {compare.isPending ? 'Reading its description …' : 'Look whether the API has changed'}
          </button>
          {compare.error && (
            <span role="alert" className="text-brick">
              {' '}
              {compare.error.message}
            </span>
          )}
          {compare.data?.differences.length === 0 && (
            <span role="status" className="text-moss">
              {' '}
              It is as it was.
            </span>
          )}
          {taken.length > 0 && differences.length === 0 && (
            <span role="status"> All of it is taken over; it holds once it is saved.</span>
          )}
        </p>
      )}
    </div>
  );
}
