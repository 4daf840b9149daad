import type { Finding } from '@zusammen/core/checks';
import { Tag } from '../../parts/chip.tsx';
import { Sheet } from '../../parts/sheet.tsx';

/** What the checks have found: what stops it first. */
export function Findings({
  findings,
  choose,
  loading,
}: {
  findings: readonly Finding[];
  choose: (line: string) => void;
  loading: boolean;
}) {
  if (findings.length === 0)
    return loading ? null : (
      <p className="sheet px-4 py-2.5 text-small text-moss">● Comes to rest, and nothing is lost in silence.</p>
    );
  const stops = findings.filter(({ severity }) => severity === 'stops').length;
  return (
    <Sheet
      title="Checks"
      aside={
        stops > 0 ? (
          <Tag tone="brick">{stops === 1 ? 'one stops it' : `${stops} stop it`}</Tag>
        ) : (
          <Tag tone="saffron">{findings.length} to look at</Tag>
        )
      }
    >
      <ul className="max-h-[260px] overflow-auto">
        {findings.map(({ id, severity, sentence, place }) => (
          <li
            key={`${id} ${place.line ?? ''} ${sentence}`}
            className="flex gap-2 border-t border-hair px-4 py-2 text-small first:border-t-0"
          >
            <span
              className={severity === 'stops' ? 'text-brick' : 'text-saffron'}
              aria-label={severity === 'stops' ? 'stops' : 'wants a look'}
            >
              {severity === 'stops' ? '■' : '▲'}
            </span>
            {place.line === undefined ? (
              sentence
            ) : (
              <button type="button" className="min-h-6 text-left hover:underline" onClick={() => choose(place.line!)}>
                {sentence}
              </button>
            )}
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
