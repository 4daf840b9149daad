import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { StepReport } from '@zusammen/core/plans';
import type { Entity, RecordState } from '@zusammen/core/schema';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { Outgoing } from '../../parts/chip.tsx';
import { Dialog } from '../../parts/dialog.tsx';
import { TextField } from '../../parts/form.tsx';
import { ValueText } from '../../parts/values.tsx';

/** Finds a record that isn't among the candidates; it then stands beside them, with what would be written to it. */
export function AnotherRecord({
  submission,
  step,
  entity,
  take,
  close,
}: {
  submission: string;
  step: StepReport;
  entity: Entity | undefined;
  take: (record: RecordState) => void;
  close: () => void;
}) {
  const [text, setText] = useState('');
  const asked = text.trim();
  const query = { step: step.step, row: step.row, text: asked };
  const found = useQuery({
    queryKey: ['submission', submission, 'records', query],
    queryFn: () => call('get /submissions/:id/records', { params: { id: submission }, query }),
    enabled: asked.length > 1,
    placeholderData: keepPreviousData,
    staleTime: 10_000,
    retry: false,
  });
  const records = asked.length > 1 ? (found.data?.records ?? []) : [];
  const told = (entity?.fields ?? []).filter(({ type, rights }) => rights !== 'none' && type !== 'id').slice(0, 6);
  return (
    <Dialog open close={close} title={`Another ${entity?.label ?? 'record'}`} width={620}>
      <TextField
        label="Its id, e-mail address, whole name or number"
        autoFocus
        value={text}
        onChange={({ target }) => setText(target.value)}
        error={found.error?.message}
      />
      <ul aria-label="Records found" className="mt-3">
        {records.map((record) => (
          <li key={record.id}>
            <button
              type="button"
              className="flex w-full flex-wrap items-center gap-x-3 rounded-[6px] px-2 py-1.5 text-left hover:bg-wash"
              onClick={() => take(record)}
            >
              <Outgoing>{record.id}</Outgoing>
              {told.map(({ name }) => (
                <ValueText key={name} value={record.values[name] ?? null} tone="text-soft" />
              ))}
            </button>
          </li>
        ))}
        {asked.length > 1 && found.data && !found.isFetching && records.length === 0 && (
          <li className="px-2 text-soft">No matches</li>
        )}
      </ul>
    </Dialog>
  );
}
