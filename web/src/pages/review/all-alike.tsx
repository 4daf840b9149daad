import type { AlikeLine } from '@zusammen/core/api';
import { useState } from 'react';
import { useAlike } from '../../api/hooks.ts';
import { Button } from '../../parts/button.tsx';
import { cx } from '../../parts/cx.ts';
import { Dialog } from '../../parts/dialog.tsx';
import { Differing } from '../../parts/difference.tsx';
import { Bits } from '../../parts/evidence.tsx';
import { plural } from '../../parts/plural.ts';
import { Radios } from '../../parts/radios.tsx';
import { isBlank } from '@zusammen/core/values';
import { ValueText } from '../../parts/values.tsx';

/** What is answered of each: somebody new, the record that the evidence speaks for most, or one and the same record. */
export interface ForAll {
  anew?: true;
  best?: true;
  record?: string;
}

/** So many values tell who somebody is. */
const VALUES = 4;
const NEW = 'anew';
const BEST = 'best';

/** One answer for all that wait for the same, given after they have been seen. */
export function AllAlike({
  submission,
  candidates,
  newOne,
  decide,
  close,
}: {
  submission: string;
  /** The records that the submission at hand may mean. */
  candidates: readonly string[];
  newOne: string;
  decide: (answer: ForAll) => void;
  close: () => void;
}) {
  const alike = useAlike(submission);
  const list = alike.data?.alike ?? [];
  const many = alike.data?.count ?? 0;
  const [answer, setAnswer] = useState(NEW);
  // Of those alike the one at hand comes first: what it can't be answered with, nobody is offered.
  const shared = candidates.filter((id) => list.filter(({ asked }) => asked?.candidates.includes(id)).length > 1);
  const options = [
    { value: NEW, label: newOne },
    ...(list[0]?.asked?.best ? [{ value: BEST, label: 'the one that fits best' }] : []),
    ...shared.map((id) => ({ value: id, label: `it is ${id}` })),
  ];
  const applies = ({ asked }: AlikeLine): boolean =>
    answer === NEW || (answer === BEST ? asked?.best !== undefined : asked?.candidates.includes(answer) === true);
  const left = list.filter((each) => !applies(each)).length;
  // Of very many not all are listed; whether the others fit is told only by answering.
  const sure = answer === NEW || many === list.length;
  const whom = !sure ? `Those of the ${many} that fit` : left === 0 ? `All ${many}` : `The ${many - left} that fit`;
  const label = options.find(({ value }) => value === answer)?.label ?? '';
  return (
    <Dialog
      open
      close={close}
      title={many === 0 ? 'Alike' : `${many} wait for the same answer`}
      description="Look through them before you answer for all. Each can be undone afterwards."
      width={720}
    >
      {alike.error && (
        <p role="alert" className="text-brick">
          {alike.error.message}
        </p>
      )}
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <span className="text-small text-soft">Each is</span>
        <Radios label="What each is" options={options} chosen={answer} choose={setAnswer} className="text-small" />
      </div>
      <ul tabIndex={0} aria-label="All alike" className="max-h-[42vh] overflow-auto rounded-[8px] border border-hair">
        {list.map((line) => (
          <li
            key={line.id}
            className={cx('border-t border-hair px-3 py-1.5 first:border-t-0', !applies(line) && 'bg-wash')}
          >
            <OneAlike line={line} best={answer === BEST} />
            {!applies(line) && (
              <span className="block text-small text-saffron">
                {answer === BEST
                  ? 'none fits best: it waits still'
                  : `${answer} isn’t among its records: it waits still`}
              </span>
            )}
          </li>
        ))}
        {many > list.length && <li className="px-3 py-1.5 text-small text-soft">and {many - list.length} more</li>}
      </ul>
      <div className="mt-4 flex items-center justify-end gap-2">
        {left > 0 && (
          <span className="mr-auto text-small text-saffron">
            ◆ {plural(left, 'of them doesn’t fit and waits', 'of them don’t fit and wait')} still.
          </span>
        )}
        <Button onClick={close}>Not now</Button>
        <Button
          look="strong"
          autoFocus
          disabled={many === 0}
          onClick={() =>
            decide(answer === NEW ? { anew: true } : answer === BEST ? { best: true } : { record: answer })
          }
        >
          {whom}: {label}
        </Button>
      </div>
    </Dialog>
  );
}

/** What came, and under it what the record that fits best holds of the same fields. */
function OneAlike({ line: { label, values, asked }, best }: { line: AlikeLine; best: boolean }) {
  const sent = Object.entries(asked?.sent ?? values)
    .filter(([, value]) => !isBlank(value))
    .slice(0, VALUES);
  return (
    <>
      <span className="font-semibold">{label || 'without a name'}</span>
      <span className="ml-3 text-small">
        {sent.map(([name, value]) => (
          <span key={name} className="mr-3">
            <ValueText value={value} tone="text-soft" />
          </span>
        ))}
      </span>
      {best && asked?.best && (
        <span className="flex flex-wrap items-baseline gap-x-3 text-small">
          <span className="font-mono text-moss">{asked.best.id}</span>
          {sent.map(([name, value]) => (
            <Differing key={name} value={asked.best!.values[name]} other={value} />
          ))}
          <span className="ml-auto">
            <Bits bits={asked.best.weight} />
          </span>
        </span>
      )}
    </>
  );
}
