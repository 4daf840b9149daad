import type { DifferenceTold } from '@zusammen/core/api';
import { listed } from '@zusammen/core/values';
import { useState } from 'react';
import { Button } from '../parts/button.tsx';
import { Moment } from '../parts/time.tsx';
import { plural } from '../parts/plural.ts';

/** So many stand there at first. */
const FIRST = 8;

/** How a system's schema differs from what it was before, and what of ours each difference concerns. */
export function WhatDiffers({
  readAt,
  differences,
}: {
  /** When the newest reading that brought anything new was taken. */
  readAt: string | undefined;
  differences: readonly DifferenceTold[];
}) {
  const [all, setAll] = useState(false);
  if (differences.length === 0) return null;
  const shown = all ? differences : differences.slice(0, FIRST);
  return (
    <section aria-label="What the last reading found" className="border-b border-hair px-4 py-2.5">
      <p className="font-semibold">
        {readAt !== undefined && (
          <>
            Read <Moment at={readAt} />:{' '}
          </>
        )}
        {plural(differences.length, 'thing is', 'things are')} otherwise than before.
      </p>
      <ul className="mt-1 grid gap-1 text-small">
        {shown.map((each) => (
          <Told key={`${each.kind} ${each.entity} ${each.field ?? ''}`} of={each} />
        ))}
      </ul>
      {differences.length > shown.length && (
        <Button onClick={() => setAll(true)}>Show {differences.length - shown.length} more</Button>
      )}
    </section>
  );
}

function Told({ of: { entity, what, harm, uses } }: { of: DifferenceTold }) {
  const weight = uses.length === 0 ? undefined : harm;
  const named = (wanted: 'writes' | 'reads'): string[] =>
    uses.flatMap(({ how, name }) => (how === wanted ? [name] : []));
  const [writes, reads] = [named('writes'), named('reads')];
  return (
    <li className="grid grid-cols-[16px_1fr]">
      <span
        role={weight ? 'img' : undefined}
        aria-label={weight && (weight === 'stops' ? 'stops' : 'wants a look')}
        aria-hidden={weight ? undefined : true}
        className={weight === 'stops' ? 'text-brick' : weight === 'look' ? 'text-saffron' : 'text-soft'}
      >
        {weight === 'stops' ? '■' : weight === 'look' ? '▲' : '·'}
      </span>
      <span>
        {entity}: {what}
        {writes.length > 0 && `; written by ${listed(writes, { most: 4, quoted: true })}`}
        {reads.length > 0 && `; read by ${listed(reads, { most: 4, quoted: true })}`}
        {uses.length === 0 && harm !== undefined && <span className="text-soft">; nothing here uses it</span>}
      </span>
    </li>
  );
}
