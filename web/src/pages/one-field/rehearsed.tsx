import type { FieldRehearsed } from '@zusammen/core/api';
import { Sheet } from '../../parts/sheet.tsx';
import { Empty } from '../../parts/states.tsx';
import { plural } from '../../parts/plural.ts';
import { count } from '../../parts/time.tsx';

/** What the lines did with real records and submissions; nothing was written. */
export function Rehearsed({ label, rehearsed }: { label: string; rehearsed: readonly FieldRehearsed[] }) {
  return (
    <Sheet title="Rehearsed" aside="nothing was made or written">
      {rehearsed.length === 0 && (
        <Empty title="Nothing to rehearse">No intake gets a line; pairings are rehearsed on their own page.</Empty>
      )}
      <ul>
        {rehearsed.map(({ id, name, of, carried, otherwise, assumed, example, troubles }) => (
          <li key={id} className="border-t border-hair px-4 py-2.5 first:border-t-0">
            <p>
              <strong className="font-semibold">{name}</strong>: {count(carried)} of {plural(of, 'tried', 'tried')}{' '}
              would get {label}
              {example && (
                <>
                  , such as <span className="font-mono text-[13px]">{example.value}</span> of {example.of}
                </>
              )}
              ;{' '}
              {otherwise === 0
                ? 'nothing else comes out otherwise.'
                : `${count(otherwise)} come out otherwise besides.`}
            </p>
            {assumed && (
              <p className="text-small text-soft">
                None of them has a value yet, so each was given one of the options in turn.
              </p>
            )}
            {troubles.length > 0 && (
              <ul aria-label={`What is odd in ${name}`} className="mt-1 text-small text-brick">
                {troubles.map(({ of: whose, words }, at) => (
                  <li key={at}>
                    {whose}: {words}
                  </li>
                ))}
              </ul>
            )}
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
