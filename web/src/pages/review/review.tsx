import type { ReviewCause, SubmissionLine, SubmissionPath } from '@zusammen/core/api';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useCauses, useSubmission, useSubmissions } from '../../api/hooks.ts';
import { Tag } from '../../parts/chip.tsx';
import { useHeldPlace } from '../../parts/held-place.ts';
import { Key } from '../../parts/key.tsx';
import { useKeys } from '../../parts/keys.ts';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { Empty, Fetched } from '../../parts/states.tsx';
import { count, Moment } from '../../parts/time.tsx';
import { keyOf } from './cause-key.ts';
import { WaitingKinds } from './kinds.tsx';
import { Filters, useReviewSearch } from './filters.tsx';
import { PutRight } from './put-right.tsx';
import { Queue } from './queue.tsx';
import { Settled, type Done } from './settled.tsx';
import { WhichOne } from './which-one.tsx';

/** What waits for somebody, by cause: the queue on the left, one decision on the right; a key decides and the next comes up. */
export function Review() {
  const [params, setParams] = useSearchParams();
  const search = useReviewSearch();
  const causes = useCauses(search);
  const list = causes.data?.causes ?? [];
  // A link names a submission only; what it waits for tells among which others it stands.
  const linked = useSubmission((params.get('cause') === null && params.get('submission')) || undefined);
  const wanted = linked.data ? keyOf(causeIn(linked.data)) : (params.get('cause') ?? '');
  const group = useHeldPlace(list, keyOf, wanted);
  const waiting = useSubmissions(
    group === undefined
      ? {}
      : {
          intake: group.intakeId,
          cause: group.cause,
          state: group.state,
          text: search.text,
          from: search.from,
          to: search.to,
        },
    2_000,
    group !== undefined,
  );
  const ofGroup = (waiting.data?.submissions ?? []).filter(
    ({ state, intakeId }) => state === group?.state && intakeId === group.intakeId,
  );
  const inList = useHeldPlace(ofGroup, ({ id }) => id, params.get('submission') ?? '');
  const chosen = ofGroup.some(({ id }) => id === params.get('submission'))
    ? inList
    : (waitingStill(linked.data) ?? inList);
  // Counted, so that what is said of one decision isn't said of the next.
  const [done, setDone] = useState<Done & { turn: number }>();
  const tell = (next: Done): void => setDone((held) => ({ ...next, turn: (held?.turn ?? 0) + 1 }));
  const set = (changed: Record<string, string>): void =>
    setParams((held) => ({ ...Object.fromEntries(held), ...changed }), { replace: true });
  const choose = (next: ReviewCause, submission = ''): void => set({ cause: keyOf(next), submission });
  /** Up and down through what waits, over the borders of causes. */
  const move = (by: 1 | -1): void => {
    const next = ofGroup[ofGroup.findIndex(({ id }) => id === chosen?.id) + by];
    if (next) return set({ cause: group ? keyOf(group) : '', submission: next.id });
    const other = list[list.findIndex((each) => group && keyOf(each) === keyOf(group)) + by];
    if (other) choose(other);
  };
  useKeys({
    j: () => move(1),
    ArrowDown: () => move(1),
    k: () => move(-1),
    ArrowUp: () => move(-1),
  });
  const total = list.reduce((sum, each) => sum + each.count, 0);
  const oldest = list.map((each) => each.oldest).sort()[0];
  return (
    <>
      <Heading title="Review" actions={<Filters counts={causes.data} />}>
        <WaitingKinds />
        {total > 0 && <Tag tone="saffron">{total === 1 ? '1 waits' : `${count(total)} wait`}</Tag>}
        {oldest && (
          <span className="text-soft">
            the oldest <Moment at={oldest} />, <Key name="J" /> <Key name="K" /> move
          </span>
        )}
      </Heading>
      {done && <Settled key={done.turn} done={done} close={() => setDone(undefined)} />}
      <Fetched query={causes}>
        {() =>
          !group ? (
            <Sheet>
              {search.narrowed ? (
                <Empty title="No matches">Nothing that waits meets this search. Search for less.</Empty>
              ) : (
                <Empty title="Nothing waits for anybody">
                  Where a plan says “ask”, its questions come here; and what a system refused, to be put right.
                </Empty>
              )}
            </Sheet>
          ) : (
            <div className="grid grid-cols-[minmax(220px,300px)_minmax(0,1fr)] items-start gap-3.5 max-[900px]:grid-cols-1">
              <Queue
                causes={list}
                group={group}
                list={ofGroup}
                chosen={chosen?.id}
                choose={choose}
                pick={(id) => set({ cause: keyOf(group), submission: id })}
              />
              {chosen ? (
                <Decision key={chosen.id} line={chosen} many={group.count} told={tell} />
              ) : (
                <Sheet>
                  <Empty title="…" />
                </Sheet>
              )}
            </div>
          )
        }
      </Fetched>
    </>
  );
}

const causeIn = ({ submission }: SubmissionPath): Pick<ReviewCause, 'intakeId' | 'state' | 'cause'> => ({
  intakeId: submission.intakeId,
  state: submission.state as ReviewCause['state'],
  cause: submission.cause ?? '',
});

/** The submission of a link, while it waits: it may be older than those that are listed. */
const waitingStill = (told: SubmissionPath | undefined): Pick<SubmissionLine, 'id'> | undefined =>
  told && ['in review', 'refused', 'failed'].includes(told.submission.state) ? told.submission : undefined;

function Decision({
  line,
  many,
  told,
}: {
  line: Pick<SubmissionLine, 'id'>;
  many: number;
  told: (done: Done) => void;
}) {
  const path = useSubmission(line.id);
  return (
    <Sheet>
      <Fetched query={path}>
        {(found) => {
          const { state } = found.submission;
          const step = found.steps.find(({ outcome }) => outcome === 'asked');
          // A value that somebody is to put right asks for no record.
          if (state === 'in review' && step && (step.candidates !== undefined || step.verdict !== undefined))
            return <WhichOne told={found} many={many} done={told} />;
          if (state === 'in review' || state === 'refused' || state === 'failed')
            return <PutRight told={found} many={many} done={told} />;
          return <Empty title="This has just been decided" />;
        }}
      </Fetched>
    </Sheet>
  );
}
