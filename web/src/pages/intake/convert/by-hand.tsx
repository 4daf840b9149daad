import type { ConvertedTold, RecordTold } from '@zusammen/core/api';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../../api/client.ts';
import { useDo } from '../../../api/hooks.ts';
import { Button } from '../../../parts/button.tsx';
import { Outgoing } from '../../../parts/chip.tsx';
import { TextField } from '../../../parts/form.tsx';
import { Sheet } from '../../../parts/sheet.tsx';
import { useDraft } from '../draft.tsx';

/** Converts records that somebody picks: by their id, e-mail address, name or number. */
export function ByHand({ label }: { label: string }) {
  const { detail, mayEdit } = useDraft();
  const { id, state } = detail.intake;
  const [text, setText] = useState('');
  const [picked, setPicked] = useState<readonly RecordTold[]>([]);
  const asked = text.trim();
  const found = useQuery({
    queryKey: ['conversions', id, 'records', asked],
    queryFn: () =>
      call('get /conversions/:intake/records', { params: { intake: id }, query: { text: asked, limit: 8 } }),
    enabled: mayEdit && asked.length > 1,
    placeholderData: keepPreviousData,
    staleTime: 5_000,
    retry: false,
  });
  const convert = useDo(
    () =>
      call('post /conversions/:intake', {
        params: { intake: id },
        body: { records: picked.map((record) => record.id) },
      }),
    ['submissions', 'intakes', 'conversions', 'ledger', 'today'],
  );
  const open = state === 'open';
  const records = asked.length > 1 ? (found.data?.records ?? []) : [];
  const pick = (record: RecordTold): void => {
    setPicked((held) => (held.some((each) => each.id === record.id) ? held : [...held, record]));
    setText('');
    convert.reset();
  };
  return (
    <Sheet title="By hand">
      <div className="space-y-3 p-4">
        {!open && <p className="text-saffron">Records are converted once a version is published and open.</p>}
        {mayEdit && (
          <TextField
            label={`Id, e-mail address, name or number of the ${label}`}
            value={text}
            error={found.error?.message}
            onChange={({ target }) => setText(target.value)}
            onKeyDown={({ key }) => key === 'Enter' && records[0] && pick(records[0])}
          />
        )}
        {asked.length > 1 && (
          <ul aria-label="Records found">
            {records.map((record) => (
              <li key={record.id}>
                <button
                  type="button"
                  className="flex w-full flex-wrap items-center gap-x-3 rounded-[6px] px-2 py-1 text-left hover:bg-wash"
                  onClick={() => pick(record)}
                >
                  <Outgoing>{record.id}</Outgoing>
                  <span className="min-w-0 truncate">{record.shown.join(', ')}</span>
                </button>
              </li>
            ))}
            {found.data && !found.isFetching && records.length === 0 && <li className="px-2 text-soft">No matches</li>}
          </ul>
        )}
        {picked.length > 0 && (
          <ul aria-label="To be converted" className="space-y-1">
            {picked.map((record) => (
              <li key={record.id} className="flex items-center gap-3">
                <Outgoing>{record.id}</Outgoing>
                <span className="min-w-0 flex-1 truncate">{record.shown.join(', ')}</span>
                <Became told={convert.data?.converted?.find(({ record: of }) => of === record.id)} />
                {!convert.data && (
                  <button
                    type="button"
                    aria-label={`Leave out ${record.id}`}
                    className="grid size-6 place-items-center text-soft hover:text-brick"
                    onClick={() => setPicked((held) => held.filter((each) => each !== record))}
                  >
                    ×
                  </button>
                )}
              </li>
            ))}
          </ul>
        )}
        {convert.error && (
          <p role="alert" className="text-brick">
            {convert.error.message}
          </p>
        )}
        {mayEdit && (
          <div className="flex gap-2">
            <Button
              look="strong"
              busy={convert.isPending}
              disabled={!open || picked.length === 0 || convert.data !== undefined}
              onClick={() => convert.mutate(undefined)}
            >
              Convert {picked.length > 1 ? `these ${picked.length}` : 'it'}
            </Button>
            {convert.data && (
              <Button
                onClick={() => {
                  setPicked([]);
                  convert.reset();
                }}
              >
                Others
              </Button>
            )}
          </div>
        )}
      </div>
    </Sheet>
  );
}

/** What became of a record: the way to all that was made of it. */
function Became({ told }: { told: ConvertedTold | undefined }) {
  if (!told) return null;
  if ('why' in told) return <span className="text-brick">{told.why}</span>;
  return (
    <Link to={`/ledger?submission=${told.submission}`} className="font-semibold text-plum hover:underline">
      {told.again ? 'converted before' : 'what came of it'}
    </Link>
  );
}
