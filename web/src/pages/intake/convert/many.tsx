import { SUBMISSION_STATES, type BulkTold } from '@zusammen/core/api';
import type { RecordPart } from '@zusammen/core/intake';
import type { Entity } from '@zusammen/core/schema';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../../api/client.ts';
import { useDo } from '../../../api/hooks.ts';
import { asking } from '../../../api/live.ts';
import { Button } from '../../../parts/button.tsx';
import { Outgoing, Tag } from '../../../parts/chip.tsx';
import { plural } from '../../../parts/plural.ts';
import { Progress } from '../../../parts/progress.tsx';
import { Sheet } from '../../../parts/sheet.tsx';
import { count, Moment, span } from '../../../parts/time.tsx';
import { useDraft } from '../draft.tsx';
import { partsInWords, RecordParts } from './record-parts.tsx';

/** Converts all records that meet a condition: how many they are is seen first, then how far it is. */
export function Many({ entity }: { entity: Entity | undefined }) {
  const { detail, mayEdit } = useDraft();
  const { id, state } = detail.intake;
  const [parts, setParts] = useState<RecordPart[]>([]);
  const bulks = useQuery({
    queryKey: ['conversions', id],
    queryFn: async () => (await call('get /conversions/:intake', { params: { intake: id } })).bulks,
    refetchInterval: ({ state: held }) =>
      held.data?.some((bulk) => bulk.state === 'running') ? 1_000 : asking(10_000)(),
  });
  const counting = useDo(
    () => call('post /conversions/:intake/count', { params: { intake: id }, body: { where: parts } }),
    [],
  );
  const start = useDo(
    () => call('post /conversions/:intake', { params: { intake: id }, body: { where: parts } }),
    ['conversions', 'submissions', 'intakes', 'today'],
  );
  const counted = counting.data;
  return (
    <Sheet title="Many at once">
      {mayEdit && (
        <div className="space-y-3 p-4">
          <RecordParts
            parts={parts}
            entity={entity}
            change={(next) => {
              setParts(next);
              counting.reset();
              start.reset();
            }}
          />
          <div className="flex flex-wrap items-center gap-2">
            <Button busy={counting.isPending} onClick={() => counting.mutate(undefined)}>
              Count them
            </Button>
            {counted && (
              <Button
                look="strong"
                busy={start.isPending}
                disabled={state !== 'open' || counted.count === 0 || start.data !== undefined}
                onClick={() => start.mutate(undefined)}
              >
                Convert {counted.whole ? `the ${count(counted.count)}` : 'all of them'}
              </Button>
            )}
          </div>
          {(counting.error ?? start.error) && (
            <p role="alert" className="text-brick">
              {(counting.error ?? start.error)!.message}
            </p>
          )}
          {counted && (
            <div role="status">
              <p>
                {counted.whole ? '' : 'more than '}
                {plural(counted.count, 'record meets', 'records meet')} it
                {counted.records.length > 0 ? '; the first of them:' : '.'}
              </p>
              <ul className="mt-1 max-h-[150px] overflow-auto text-small" tabIndex={0} aria-label="The first of them">
                {counted.records.map(({ id: record, shown }) => (
                  <li key={record} className="flex gap-3 py-0.5">
                    <Outgoing muted>{record}</Outgoing>
                    <span className="min-w-0 truncate">{shown.join(', ')}</span>
                  </li>
                ))}
              </ul>
            </div>
          )}
        </div>
      )}
      {bulks.error && (
        <p role="alert" className="px-4 pb-3 text-brick">
          {bulks.error.message}
        </p>
      )}
      <ul aria-label="Conversions of many, newest first">
        {(bulks.data ?? []).map((bulk) => (
          <Bulk key={bulk.id} bulk={bulk} entity={entity} mayEdit={mayEdit} />
        ))}
        {bulks.data?.length === 0 && (
          <li className="border-t border-hair px-4 py-2.5 text-small text-soft">None yet.</li>
        )}
      </ul>
    </Sheet>
  );
}

const SAID: Record<BulkTold['state'], string> = {
  running: 'being converted',
  paused: 'paused',
  done: 'done',
  failed: 'failed',
  cancelled: 'ended',
};

function Bulk({ bulk, entity, mayEdit }: { bulk: BulkTold; entity: Entity | undefined; mayEdit: boolean }) {
  const { detail } = useDraft();
  const [told, setTold] = useState(false);
  const move = useDo(
    (state: 'paused' | 'running' | 'cancelled') =>
      call('put /bulk-conversions/:id/state', { params: { id: bulk.id }, body: { state } }),
    ['conversions'],
  );
  const { state, total, done, startedAt, endedAt, words, problems, before, wrong } = bulk;
  const since = new Date(startedAt).getTime();
  const left =
    state === 'running' && done > 0 && total > done ? ((Date.now() - since) / done) * (total - done) : undefined;
  const ends = SUBMISSION_STATES.filter((each) => each !== 'received' && (bulk.ends[each] ?? 0) > 0);
  return (
    <li className="space-y-1.5 border-t border-hair px-4 py-2.5">
      <p className="flex flex-wrap items-center gap-x-3">
        <span className="min-w-0 flex-1 font-semibold">{partsInWords(bulk.where as RecordPart[], entity)}</span>
        <Tag tone={state === 'done' ? 'moss' : state === 'failed' ? 'brick' : state === 'running' ? 'plum' : 'saffron'}>
          {SAID[state]}
        </Tag>
      </p>
      <Progress label="How far it is" done={bulk.counted ? done : undefined} of={total} />
      <p className="flex flex-wrap items-center gap-x-3 text-small text-soft">
        <span>
          {bulk.counted ? `${count(done)} of ${count(total)}` : `counting, ${count(total)} so far`}
          {left !== undefined && `, ${span(left)} left`}
        </span>
        {ends.map((each) => (
          <Link
            key={each}
            to={`/intakes/${detail.intake.id}/history?state=${encodeURIComponent(each)}`}
            className={each === 'applied' ? 'text-moss hover:underline' : 'text-saffron hover:underline'}
          >
            {count(bulk.ends[each]!)} {each === 'applied' ? 'converted' : each}
          </Link>
        ))}
        {before > 0 && <span>{count(before)} had been before</span>}
        {wrong > 0 && (
          <button type="button" className="text-brick hover:underline" onClick={() => setTold(!told)}>
            {plural(wrong, 'could not be taken in', 'could not be taken in')}
          </button>
        )}
        <span className="ml-auto">
          {bulk.startedBy}, <Moment at={startedAt} />
          {endedAt !== null && `, took ${span(new Date(endedAt).getTime() - since)}`}
        </span>
      </p>
      {words && <p className={state === 'failed' ? 'text-brick' : 'text-saffron'}>{words}</p>}
      {told && (
        <ul className="text-small text-brick">
          {problems.slice(0, 50).map(({ record, what }) => (
            <li key={record}>
              {record}: {what}
            </li>
          ))}
          {wrong > 50 && <li>and {count(wrong - 50)} more</li>}
        </ul>
      )}
      {mayEdit && (state === 'running' || state === 'paused' || state === 'failed') && (
        <div className="flex gap-2">
          {state === 'running' ? (
            <Button busy={move.isPending} onClick={() => move.mutate('paused')}>
              Pause
            </Button>
          ) : (
            <Button busy={move.isPending} onClick={() => move.mutate('running')}>
              Go on
            </Button>
          )}
          <Button look="quiet" onClick={() => move.mutate('cancelled')}>
            End it
          </Button>
        </div>
      )}
    </li>
  );
}
