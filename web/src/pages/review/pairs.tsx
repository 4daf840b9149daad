import type { PairQuestion } from '@zusammen/core/api';
import type { Value } from '@zusammen/core/schema';
import { Link } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useMe } from '../../api/hooks.ts';
import { usePairQuestions } from '../../api/pairings.ts';
import { useAddress } from '../../parts/address.ts';
import { Button } from '../../parts/button.tsx';
import { Incoming, Outgoing, Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { useHeldPlace } from '../../parts/held-place.ts';
import { listKeys, useKeys } from '../../parts/keys.ts';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { Empty, Fetched } from '../../parts/states.tsx';
import { Moment } from '../../parts/time.tsx';
import { WaitingKinds } from './kinds.tsx';

const keyOf = ({ pair, field }: PairQuestion): string => `${pair} ${field?.line ?? ''}`;

/** Pairs that wait for somebody: the queue on the left, one decision on the right; one key decides, the next comes up. */
export function PairsInReview() {
  const questions = usePairQuestions();
  const [params, change] = useAddress();
  const list = questions.data ?? [];
  const chosen = useHeldPlace(list, keyOf, params.get('at') ?? '');
  const at = chosen ? list.findIndex((each) => keyOf(each) === keyOf(chosen)) : 0;
  useKeys(listKeys(list.length, at, (to) => list[to] && change({ at: keyOf(list[to]) })));
  return (
    <>
      <Heading title="Review">
        <WaitingKinds />
      </Heading>
      <Fetched query={questions}>
        {() =>
          !chosen ? (
            <Sheet>
              <Empty title="No pair waits for anybody">
                Where both sides have changed and the pairing says “ask”, where several records go with one, or one of
                two is gone, the question comes here.
              </Empty>
            </Sheet>
          ) : (
            <div className="grid grid-cols-[minmax(220px,300px)_minmax(0,1fr)] items-start gap-3.5 max-[900px]:grid-cols-1">
              <Sheet>
                <ul>
                  {list.map((each) => (
                    <li key={keyOf(each)}>
                      <button
                        type="button"
                        aria-current={each === chosen}
                        className={cx(
                          'block w-full border-t border-hair px-4 py-2 text-left first:border-t-0 hover:bg-wash',
                          each === chosen && 'bg-plum-wash/50 shadow-[inset_3px_0_0_var(--color-plum)]',
                        )}
                        onClick={() => change({ at: keyOf(each) })}
                      >
                        <span className="block truncate font-semibold">{each.title}</span>
                        <span className="block truncate text-small text-soft">
                          {kindOf(each)}, {each.pairingName}
                        </span>
                      </button>
                    </li>
                  ))}
                </ul>
              </Sheet>
              <Question key={keyOf(chosen)} question={chosen} />
            </div>
          )
        }
      </Fetched>
    </>
  );
}

const kindOf = ({ field, unsure, lost, left, right }: PairQuestion): string =>
  field
    ? field.label.left
    : unsure
      ? 'several go with one'
      : `${lost === 'left' ? left.entityLabel : right.entityLabel} is gone`;

type Answer = Parameters<typeof call<'post /pairings/:id/pairs/:pair/answer'>>[1]['body'];

function Question({ question }: { question: PairQuestion }) {
  const me = useMe();
  const mayDecide = me.data !== undefined && me.data.role !== 'viewer';
  const decide = useDo(
    (body: Answer) =>
      call('post /pairings/:id/pairs/:pair/answer', {
        params: { id: question.pairing, pair: String(question.pair) },
        body,
      }),
    ['pairings', 'today'],
  );
  const answers = answersTo(question);
  const busy = decide.isPending || decide.isSuccess;
  useKeys(
    Object.fromEntries(
      answers.map(({ hotkey, answer }) => [hotkey.toLowerCase(), () => !busy && decide.mutate(answer)]),
    ),
    mayDecide,
  );
  const { left, right, field, unsure, lost } = question;
  return (
    <Sheet
      title={question.title}
      aside={
        <>
          <Link className="text-plum underline" to={`/pairings/${question.pairing}`}>
            {question.pairingName}
          </Link>
          <Moment at={question.at} />
        </>
      }
    >
      <div className="px-4 py-4">
        {field && (
          <>
            <p className="mb-3">Both sides have changed since they last agreed. Which value counts?</p>
            <table className="w-full table-fixed">
              <thead>
                <tr className="text-left text-small text-soft">
                  <th className="w-[24%] pb-2 font-semibold">Last in step</th>
                  <th className="pb-2 font-semibold">
                    <Incoming>
                      {left.systemName}: {field.label.left}
                    </Incoming>
                  </th>
                  <th className="pb-2 font-semibold">
                    <Outgoing>
                      {right.systemName}: {field.label.right}
                    </Outgoing>
                  </th>
                </tr>
              </thead>
              <tbody>
                <tr className="align-top font-mono">
                  <td className="border-t border-hair py-2 pr-3 text-soft">
                    {field.base ? shown(field.base.left) : 'never'}
                  </td>
                  <td className="border-t border-hair py-2 pr-3 font-bold break-words">{shown(field.now.left)}</td>
                  <td className="border-t border-hair py-2 font-bold break-words">{shown(field.now.right)}</td>
                </tr>
              </tbody>
            </table>
          </>
        )}
        {unsure && (
          <>
            <p className="mb-3">
              {unsure.candidates.length} {unsure.side === 'left' ? left.entityLabel : right.entityLabel} may go with{' '}
              <strong className="font-semibold">{question.title}</strong>. Which one does?
            </p>
            <ul>
              {unsure.candidates.map(({ id, title }) => (
                <li key={id} className="border-t border-hair py-2">
                  {title} <span className="font-mono text-small text-soft">{id}</span>
                </li>
              ))}
            </ul>
          </>
        )}
        {lost && (
          <p>
            Its {lost === 'left' ? left.entityLabel : right.entityLabel} in{' '}
            {lost === 'left' ? left.systemName : right.systemName} has been deleted. What becomes of the{' '}
            {lost === 'left' ? right.entityLabel : left.entityLabel} in{' '}
            {lost === 'left' ? right.systemName : left.systemName}?
          </p>
        )}
        {decide.error && (
          <p role="alert" className="mt-3 text-brick">
            {decide.error.message}
          </p>
        )}
        {decide.isSuccess && (
          <p role="status" className="mt-3 text-moss">
            Decided; it is on its way.
          </p>
        )}
        {mayDecide ? (
          <div className="mt-4 flex flex-wrap gap-2">
            {answers.map(({ name, hotkey, answer, look }) => (
              <Button key={name} look={look} hotkey={hotkey} disabled={busy} onClick={() => decide.mutate(answer)}>
                {name}
              </Button>
            ))}
          </div>
        ) : (
          <p className="mt-4">
            <Tag>A specialist decides</Tag>
          </p>
        )}
      </div>
    </Sheet>
  );
}

/** What may be said, each by one key. */
function answersTo({ field, unsure, left, right }: PairQuestion): {
  name: string;
  hotkey: string;
  answer: Answer;
  look: 'strong' | 'moss' | 'plain' | 'danger';
}[] {
  if (field)
    return [
      {
        name: `${left.systemName} counts`,
        hotkey: '1',
        answer: { kind: 'field', line: field.line, side: 'left' },
        look: 'strong',
      },
      {
        name: `${right.systemName} counts`,
        hotkey: '2',
        answer: { kind: 'field', line: field.line, side: 'right' },
        look: 'moss',
      },
    ];
  if (unsure)
    return [
      ...unsure.candidates.slice(0, 9).map(({ id, title }, at) => ({
        name: `${title} (${id})`,
        hotkey: String(at + 1),
        answer: { kind: 'with' as const, record: id },
        look: 'plain' as const,
      })),
      { name: 'None of them', hotkey: '0', answer: { kind: 'none' }, look: 'plain' },
    ];
  return [
    { name: 'It stays', hotkey: '1', answer: { kind: 'keep' }, look: 'plain' },
    { name: 'Delete it as well', hotkey: 'X', answer: { kind: 'delete' }, look: 'danger' },
  ];
}

const shown = (value: Value): string =>
  value === null || value === '' ? 'blank' : Array.isArray(value) ? value.join(', ') || 'blank' : String(value);
