import { useQuery } from '@tanstack/react-query';
import { call } from '../../api/client.ts';
import { useDraft } from './draft.tsx';

/** So many of the newest submissions are carried out both ways, without writing. */
const LAST = 50;

/** Before a version goes live: how many of the newest submissions would come out differently by it, and an example. */
export function WhatWouldChange() {
  const { detail, document } = useDraft();
  const compared = useQuery({
    queryKey: ['compare', detail.intake.id, document, LAST],
    queryFn: () =>
      call('post /intakes/:id/compare', { params: { id: detail.intake.id }, body: { document, last: LAST } }),
    enabled: detail.intake.liveVersion !== null,
    staleTime: 10_000,
  });
  if (detail.intake.liveVersion === null) return null;
  if (compared.error)
    return <p className="mb-4 text-soft">What it changes can’t be told now: {compared.error.message}</p>;
  if (!compared.data)
    return (
      <p role="status" className="mb-4 text-soft">
        Comparing with version {detail.intake.liveVersion}, which is live …
      </p>
    );
  const all = compared.data.compared;
  const differing = all.filter(({ differences }) => differences.length > 0);
  const [first] = differing;
  const example = first?.differences[0];
  return (
    <div className="mb-4 rounded-[8px] bg-sand px-4 py-3">
      {all.length === 0 ? (
        <p className="text-soft">Nothing has arrived yet to compare with.</p>
      ) : (
        <p>
          <strong className="font-semibold">
            {differing.length} of the last {all.length}
          </strong>{' '}
          {all.length === 1 ? 'submission' : 'submissions'} would come out differently than by version{' '}
          {compared.data.version}.
        </p>
      )}
      {first && example && (
        <p className="mt-1 text-small text-soft">
          {first.label || 'One without a name'}: {example.label}{' '}
          <span className="font-mono text-ink">{example.live || 'blank'}</span> →{' '}
          <span className="font-mono font-bold text-moss">{example.draft || 'blank'}</span>
        </p>
      )}
    </div>
  );
}
