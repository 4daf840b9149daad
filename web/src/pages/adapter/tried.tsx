import type { AdapterMend, AdapterTrial, Mark } from '@zusammen/core/adapters';
import { Fragment, type ReactNode } from 'react';
import { Button } from '../../parts/button.tsx';
import { cx } from '../../parts/cx.ts';
import { Sheet } from '../../parts/sheet.tsx';

const MARKS: Record<Mark['as'], string> = {
  records: 'bg-plum-wash text-plum',
  next: 'bg-plum-wash text-plum',
  id: 'bg-moss-wash text-moss',
  version: 'bg-saffron-wash text-saffron',
  changed: 'bg-saffron-wash text-saffron',
  words: 'bg-brick-wash text-brick',
};
const MARK_WORDS: Record<Mark['as'], string> = {
  records: 'the records',
  next: 'the next page',
  id: 'the id',
  version: 'the version',
  changed: 'when it was changed',
  words: 'the words',
};

/** What an operation was asked and answered, the parts that are made use of marked. */
export function Tried({ trial, apply }: { trial: AdapterTrial | undefined; apply?: (mend: AdapterMend) => void }) {
  if (!trial)
    return (
      <Sheet title="Tried">
        <p className="px-4 py-3 text-soft">
          Nothing has been tried yet. Trying asks the system itself, and shows what it answers.
        </p>
      </Sheet>
    );
  return (
    <Sheet
      title={`Tried: ${trial.operation}`}
      aside={trial.request && <span className="font-mono text-[12px] break-all">{trial.request}</span>}
    >
      <p
        className={cx(
          'px-4 pt-2.5',
          trial.state === 'failed' ? 'text-brick' : trial.state === 'worked' ? 'text-moss' : 'text-soft',
        )}
      >
        {trial.words}
      </p>
      {trial.mend && apply && (
        <p className="px-4 pt-1.5 text-saffron">
          ◆ {trial.mend.words} <Button onClick={() => apply(trial.mend!)}>Make use of it</Button>
        </p>
      )}
      {trial.body && (
        <p className="px-4 pt-2 font-mono text-[12.5px] break-all">
          <span className="text-soft">sent </span>
          {trial.body}
        </p>
      )}
      {trial.status !== undefined && (
        <p className="px-4 pt-2 text-small text-soft">
          answered {trial.status}
          {trial.ms !== undefined && ` in ${trial.ms} ms`}
          {trial.answer === undefined && '; what it answered isn’t kept: try it again to see it'}
        </p>
      )}
      {trial.answer !== undefined && (
        <pre
          tabIndex={0}
          aria-label="What it answered"
          className="max-h-[420px] overflow-auto px-4 py-2.5 font-mono text-[12.5px] leading-[19px] whitespace-pre-wrap"
        >
          <Answer text={trial.answer} marks={trial.marks ?? []} />
        </pre>
      )}
    </Sheet>
  );
}

/** An answer, one line a value, with its marked places. */
function Answer({ text, marks }: { text: string; marks: readonly Mark[] }) {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    return <>{text}</>;
  }
  const at = new Map(marks.map((mark) => [mark.at, mark.as]));
  return <>{drawn(parsed, '', 0, at)}</>;
}

function drawn(value: unknown, place: string, depth: number, marks: ReadonlyMap<string, Mark['as']>): ReactNode {
  const pad = '  '.repeat(depth + 1);
  const name = (key: string, where: string): ReactNode => {
    const as = marks.get(where);
    const shown = JSON.stringify(key);
    return as ? (
      <mark className={cx('rounded-[3px] px-0.5 font-semibold', MARKS[as])} title={MARK_WORDS[as]}>
        {shown}
      </mark>
    ) : (
      shown
    );
  };
  if (Array.isArray(value)) {
    if (!value.some((each) => typeof each === 'object' && each !== null)) return JSON.stringify(value);
    return (
      <>
        {'[\n'}
        {value.map((each, at) => (
          <Fragment key={at}>
            {pad}
            {drawn(each, `${place}/${at}`, depth + 1, marks)}
            {at < value.length - 1 ? ',\n' : '\n'}
          </Fragment>
        ))}
        {'  '.repeat(depth)}]
      </>
    );
  }
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const entries = Object.entries(value);
  return (
    <>
      {'{\n'}
      {entries.map(([key, each], at) => {
        const where = `${place}/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`;
        return (
          <Fragment key={key}>
            {pad}
            {name(key, where)}: {drawn(each, where, depth + 1, marks)}
            {at < entries.length - 1 ? ',\n' : '\n'}
          </Fragment>
        );
      })}
      {'  '.repeat(depth)}
      {'}'}
    </>
  );
}
