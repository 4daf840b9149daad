import type { Entity } from '@zusammen/core/schema';
import type { Recognition } from '@zusammen/core/recognition';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { useDo } from '../../api/hooks.ts';
import type { NearPair } from '@zusammen/core/api';
import { useKnownRecords } from '../../api/recognition.ts';
import { Button } from '../../parts/button.tsx';
import { Outgoing } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Differing } from '../../parts/difference.tsx';
import { Bits, countedElsewhere, evidenceAt, VerdictTag } from '../../parts/evidence.tsx';
import { Key } from '../../parts/key.tsx';
import { useKeys } from '../../parts/keys.ts';
import { Sheet, TD, TH } from '../../parts/sheet.tsx';
import { Empty } from '../../parts/states.tsx';

/** Pairs of known records near the lines, one at a time: what they hold, what speaks for and against, and one's answer. */
export function NearPairs({
  system,
  entity,
  recognition,
  pairs,
  may,
}: {
  system: string;
  entity: Entity;
  recognition: Recognition;
  pairs: readonly NearPair[];
  may: boolean;
}) {
  const [at, setAt] = useState(0);
  const [answered, setAnswered] = useState<Record<string, boolean | null>>({});
  const pair = pairs[Math.min(at, pairs.length - 1)];
  const records = useKnownRecords(system, entity.name, pair ? [pair.a, pair.b] : [], may);
  const decide = useDo(
    (body: { a: string; b: string; same: boolean }) =>
      call('post /systems/:id/entities/:entity/recognition/decisions', {
        params: { id: system, entity: entity.name },
        body,
      }),
    ['recognition'],
  );
  const go = (to: number): void => setAt(Math.max(0, Math.min(pairs.length - 1, to)));
  const answer = (same: boolean | null): void => {
    if (!pair || !may || decide.isPending) return;
    const then = (): void => {
      setAnswered((held) => ({ ...held, [`${pair.a} ${pair.b}`]: same }));
      go(at + 1);
    };
    if (same === null) then();
    else decide.mutate({ a: pair.a, b: pair.b, same }, { onSuccess: then });
  };
  useKeys({
    j: () => go(at + 1),
    k: () => go(at - 1),
    y: () => answer(true),
    n: () => answer(false),
    u: () => answer(null),
  });
  if (!pair)
    return (
      <Sheet title="Pairs near the lines">
        <Empty title="No pair lies near a line">Where nothing is close, there is nothing to decide.</Empty>
      </Sheet>
    );
  const [a, b] = [pair.a, pair.b].map((id) => records.data?.find((each) => each.id === id));
  const gone = records.data !== undefined && !records.isPlaceholderData && (!a || !b);
  const given = answered[`${pair.a} ${pair.b}`];
  const who = recognition.kind === 'person' ? 'person' : 'organisation';
  return (
    <Sheet
      title={
        <>
          A pair near the lines <VerdictTag verdict={pair.verdict} weight={pair.weight} />
          {given !== undefined && (
            <span className="text-small font-normal text-soft">
              answered: {given === null ? 'can’t tell' : given ? 'the same' : 'two'}
            </span>
          )}
        </>
      }
      aside={
        <>
          <span className="font-mono">{Math.min(at, pairs.length - 1) + 1}</span> of{' '}
          <span className="font-mono">{pairs.length}</span> <Key name="J" /> <Key name="K" />
        </>
      }
    >
      <table className="w-full table-fixed">
        <thead>
          <tr>
            <th className={cx(TH, 'w-[21%] pl-4')}>Field</th>
            <th className={TH}>
              <Outgoing>{pair.a}</Outgoing>
            </th>
            <th className={TH}>
              <Outgoing>{pair.b}</Outgoing>
            </th>
            <th className={cx(TH, 'w-[25%] pr-4 text-right')}>Evidence</th>
          </tr>
        </thead>
        <tbody>
          {recognition.parts.map(({ field }) => {
            const [mine, theirs] = [a?.values[field], b?.values[field]];
            const found = evidenceAt(field, recognition, pair.evidence);
            if (!found && !mine && !theirs) return null;
            return (
              <tr key={field}>
                <td className={cx(TD, 'truncate pl-4')}>
                  {entity.fields.find(({ name }) => name === field)?.label ?? field}
                </td>
                <td className={cx(TD, 'truncate')}>
                  <Differing value={mine} other={theirs} />
                </td>
                <td className={cx(TD, 'truncate')}>
                  <Differing value={theirs} other={mine} />
                </td>
                <td className={cx(TD, 'pr-4')}>
                  <span className="flex items-baseline justify-end gap-2">
                    {found && (
                      <span className="truncate text-small text-soft" title={found.level}>
                        {found.level}
                      </span>
                    )}
                    {(found || !countedElsewhere(field, recognition, pair.evidence)) && <Bits bits={found?.bits} />}
                  </span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <footer className="flex flex-wrap items-center gap-2 border-t border-hair px-4 py-3">
        <Button look="moss" hotkey="Y" disabled={!may || gone} busy={decide.isPending} onClick={() => answer(true)}>
          The same {who}
        </Button>
        <Button hotkey="N" disabled={!may || gone} onClick={() => answer(false)}>
          Two {who === 'person' ? 'people' : 'organisations'}
        </Button>
        <Button hotkey="U" disabled={!may} onClick={() => answer(null)}>
          Can’t tell
        </Button>
        <span className="ml-auto text-small text-soft">
          {gone
            ? 'One of them is no longer there.'
            : (pair.why ?? 'Answers sharpen the weights; nothing is merged by them.')}
        </span>
        {decide.error && (
          <p role="alert" className="w-full text-brick">
            {decide.error.message}
          </p>
        )}
      </footer>
    </Sheet>
  );
}
