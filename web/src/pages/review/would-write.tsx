import { useQuery } from '@tanstack/react-query';
import type { StepReport } from '@zusammen/core/plans';
import type { Entity } from '@zusammen/core/schema';
import { call } from '../../api/client.ts';
import { ValueText } from '../../parts/values.tsx';

/** What would be written if it were this one, field by field. */
export function WouldWrite({
  submission,
  step,
  record,
  entity,
}: {
  submission: string;
  step: StepReport;
  record: string;
  entity: Entity | undefined;
}) {
  const query = { step: step.step, record, row: step.row };
  const would = useQuery({
    queryKey: ['submission', submission, 'would', query],
    queryFn: async () => (await call('get /submissions/:id/would', { params: { id: submission }, query })).step,
    staleTime: 10_000,
    retry: false,
  });
  const changes = (would.data?.changes ?? []).filter(({ kept }) => kept === undefined);
  const kept = (would.data?.changes ?? []).filter(
    (change) => change.kept === 'kept' || change.kept === 'new records only',
  );
  if (would.error) return <span className="text-small text-soft">can’t be said now: {would.error.message}</span>;
  if (would.data === undefined) return <span className="late text-small text-soft">…</span>;
  return (
    <div role="group" aria-label={`If it is ${record}`} className="space-y-1 text-small">
      {changes.length === 0 && <p className="text-soft">nothing</p>}
      {changes.map(({ field, label, before, after }) => (
        <p key={field}>
          <span className="text-soft">{entity?.fields.find(({ name }) => name === field)?.label ?? label}: </span>
          {before !== null && (
            <>
              <span className="line-through decoration-soft">
                <ValueText value={before} />
              </span>{' '}
            </>
          )}
          <ValueText value={after} tone="font-bold text-moss" />
        </p>
      ))}
      {kept.length > 0 && <p className="text-soft">stays as it is: {kept.map(({ label }) => label).join(', ')}</p>}
    </div>
  );
}
