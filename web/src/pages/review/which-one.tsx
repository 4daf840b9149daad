import { meaningsOf, tellingWords } from '@zusammen/core/mapping';
import type { StepReport } from '@zusammen/core/plans';
import type { Entity, RecordState } from '@zusammen/core/schema';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useMe, useSystem } from '../../api/hooks.ts';
import type { SubmissionPath } from '@zusammen/core/api';
import { Button } from '../../parts/button.tsx';
import { Tag } from '../../parts/chip.tsx';
import { useKeys } from '../../parts/keys.ts';
import { Empty } from '../../parts/states.tsx';
import { count } from '../../parts/time.tsx';
import { SetAside } from '../set-aside.tsx';
import { AllAlike, type ForAll } from './all-alike.tsx';
import { AnotherRecord } from './another-record.tsx';
import { Candidates } from './candidates.tsx';
import type { Done } from './settled.tsx';

type Answer = ForAll & { alike?: true };

/** Which of several records is meant: the submission beside each with what speaks for and against, and one key that decides. */
export function WhichOne({ told, many, done }: { told: SubmissionPath; many: number; done: (done: Done) => void }) {
  const { submission, steps } = told;
  const me = useMe();
  const [opened, setOpened] = useState<'aside' | 'another' | 'alike'>();
  const close = (): void => setOpened(undefined);
  const step = steps.find(({ outcome }) => outcome === 'asked');
  const system = useSystem(step?.system);
  const entity = system.data?.schema.entities.find(({ name }) => name === step?.entity);
  const answer = useDo(
    (body: Answer & { step: string; row?: number }) =>
      call('post /submissions/:id/answers', { params: { id: submission.id }, body }),
    ['submissions', 'submission', 'review', 'today', 'intakes', 'recognition'],
  );
  const [others, setOthers] = useState<RecordState[]>([]);
  const candidates = [...(step?.candidates ?? []), ...others];
  const may = me.data !== undefined && me.data.role !== 'viewer' && step !== undefined && !answer.isPending;
  const newOne = nameOfNew(entity);
  const decide = (chosen: Answer): void => {
    if (!may || !step) return;
    // By its promise: by then the next one stands here, and what a mutation is told to do afterwards isn't done.
    void answer.mutateAsync({ ...at(step), ...chosen }).then(
      ({ decided }) => {
        const meant = chosen.best ? 'the one that fits best' : chosen.anew ? newOne : `it is ${chosen.record}`;
        const alike = decided.length > 1 ? ` and ${decided.length - 1} alike` : '';
        done({
          submission: submission.id,
          words: `${submission.label || 'It'}${alike}: ${meant}.`,
          answered: decided,
        });
      },
      () => undefined,
    );
  };
  useKeys({
    n: () => decide({ anew: true }),
    o: () => may && setOpened('another'),
    x: () => may && setOpened('aside'),
    ...Object.fromEntries(
      candidates.slice(0, 9).map(({ id }, index) => [`${index + 1}`, () => decide({ record: id })]),
    ),
  });
  if (!step) return <Empty title="This has just been decided" />;
  return (
    <>
      <header className="flex items-center justify-between gap-4 border-b border-hair px-4 py-2.5">
        <h2 className="flex items-center gap-2 font-semibold">
          {step.weighed
            ? `Is this a ${entity?.label ?? step.entity} we know?`
            : `Which ${entity?.label ?? step.entity} is meant?`}{' '}
          <Tag tone="saffron">◆ {step.why}</Tag>
        </h2>
        <p className="shrink-0 text-small text-soft" title="Later submissions about the same record wait behind it.">
          Nothing is written until you decide.
        </p>
      </header>
      <Candidates {...{ told, step, entity, candidates, may }} choose={(record) => decide({ record })} />
      <footer className="flex flex-wrap items-center gap-2 border-t border-hair px-4 py-3">
        <Button hotkey="N" disabled={!may} onClick={() => decide({ anew: true })}>
          {newOne.charAt(0).toUpperCase() + newOne.slice(1)}
        </Button>
        {many > 1 && (
          <Button disabled={!may} onClick={() => setOpened('alike')}>
            All {count(many)} alike…
          </Button>
        )}
        <Button hotkey="O" disabled={!may} onClick={() => setOpened('another')}>
          Another record…
        </Button>
        <Button hotkey="X" disabled={!may} onClick={() => setOpened('aside')}>
          Set aside…
        </Button>
        {step.weighed && (
          <span className="ml-auto text-small text-soft">
            Your answers sharpen the{' '}
            <Link
              to={`/schema/recognition?system=${step.system}&entity=${step.entity}`}
              className="text-plum underline"
            >
              weights
            </Link>
            .
          </span>
        )}
        {answer.error && (
          <p role="alert" className="w-full text-brick">
            {answer.error.message}
          </p>
        )}
      </footer>
      {opened === 'aside' && <SetAside id={submission.id} many={many} close={close} />}
      {opened === 'another' && (
        <AnotherRecord
          submission={submission.id}
          step={step}
          entity={entity}
          take={(record) => {
            setOthers((held) => (candidates.some(({ id }) => id === record.id) ? held : [...held, record]));
            close();
          }}
          close={close}
        />
      )}
      {opened === 'alike' && (
        <AllAlike
          submission={submission.id}
          candidates={step.candidates?.map(({ id }) => id) ?? []}
          newOne={newOne}
          decide={(chosen) => {
            close();
            decide({ ...chosen, alike: true });
          }}
          close={close}
        />
      )}
    </>
  );
}

/** "Somebody new" is a person; an organisation or a booking is a new one of its kind. */
function nameOfNew(entity: Entity | undefined): string {
  const person = entity?.fields.some(({ label }) =>
    meaningsOf(tellingWords(label)).some(({ meaning }) => meaning === 'family name'),
  );
  return person ? 'somebody new' : `a new ${entity?.label ?? 'record'}`;
}

const at = ({ step, row }: StepReport): { step: string; row?: number } =>
  row === undefined ? { step } : { step, row };
