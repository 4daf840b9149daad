import {
  describeCondition,
  expressionOf,
  holds,
  TESTS,
  type Condition,
  type ConditionPart,
  type Test,
} from '@zusammen/core/expressions';
import { doneWhen, type Step } from '@zusammen/core/plans';
import { Button } from '../../../parts/button.tsx';
import { Editable } from '../../../parts/editable.tsx';
import { ExpressionBox } from '../../../parts/expression-box.tsx';
import { useDraft } from '../draft.tsx';

const BOX = 'h-[30px] rounded-[6px] border border-line bg-sheet px-2';

/** When the step is done: comparisons that are picked, or an expression; with how many samples it holds for. */
export function WhenDone({ step, edit }: { step: Step; edit: (work: (step: Step) => Step) => void }) {
  const { document, samples, mayEdit } = useDraft();
  const { condition } = step;
  const labelOf = (name: string): string => document.fields.find((field) => field.name === name)?.label ?? name;
  const optionOf = (name: string, value: string): string =>
    document.fields.find((field) => field.name === name)?.options?.find((option) => option.value === value)?.label ??
    value;
  const empty = expressionOf(condition, document.fields) === undefined;
  const met = samples.filter(({ values }) => {
    const result = holds(condition, values, document.fields);
    return result.ok && result.holds;
  }).length;
  const change = (next: Condition | undefined): void => edit((held) => doneWhen(held, next));
  return (
    <>
      {empty ? 'Always, ' : 'Only if '}
      <Editable
        label="Condition of this step"
        wide
        disabled={!mayEdit}
        shown={empty ? 'whatever was sent' : describeCondition(condition, labelOf, optionOf)}
      >
        {() => <Editor condition={condition ?? { match: 'all', parts: [] }} change={change} />}
      </Editable>
      {!empty && samples.length > 0 && (
        <span className="ml-1 font-mono text-[13px] text-soft">
          {met} of {samples.length}
        </span>
      )}
      :{' '}
    </>
  );
}

function Editor({ condition, change }: { condition: Condition; change: (next: Condition | undefined) => void }) {
  const { document } = useDraft();
  const setPart = (at: number, part: ConditionPart): void =>
    change({ ...condition, parts: condition.parts.map((each, index) => (index === at ? part : each)) });
  const [first] = document.fields;
  if (condition.expression !== undefined) {
    return (
      <div className="space-y-2 p-2">
        <ExpressionBox
          label="Done when this comes to true (CEL)"
          value={condition.expression}
          fields={document.fields}
          change={(expression) => change({ ...condition, expression })}
        />
        <Button
          onClick={() => {
            const { expression: _, ...rest } = condition;
            change(rest.parts.length === 0 ? undefined : rest);
          }}
        >
          {condition.parts.length === 0 ? 'Always' : 'Back to picking'}
        </Button>
      </div>
    );
  }
  return (
    <div className="space-y-2 p-2">
      {condition.parts.map((part, at) => (
        <Part
          key={at}
          part={part}
          change={(next) => setPart(at, next)}
          remove={() => {
            const parts = condition.parts.filter((_, index) => index !== at);
            change(parts.length === 0 ? undefined : { ...condition, parts });
          }}
        />
      ))}
      {condition.parts.length > 1 && (
        <label className="block text-small">
          <select
            className={BOX}
            value={condition.match}
            onChange={({ target }) => change({ ...condition, match: target.value as 'all' | 'any' })}
          >
            <option value="all">all of these</option>
            <option value="any">any of these</option>
          </select>{' '}
          must hold
        </label>
      )}
      <div className="flex gap-2">
        <Button
          disabled={!first}
          onClick={() =>
            change({ ...condition, parts: [...condition.parts, { field: first!.name, test: 'is not blank' }] })
          }
        >
          Add a comparison
        </Button>
        <Button
          look="quiet"
          onClick={() => change({ ...condition, expression: expressionOf(condition, document.fields) ?? 'true' })}
        >
          write it in CEL
        </Button>
      </div>
    </div>
  );
}

function Part({
  part,
  change,
  remove,
}: {
  part: ConditionPart;
  change: (part: ConditionPart) => void;
  remove: () => void;
}) {
  const { document } = useDraft();
  const field = document.fields.find(({ name }) => name === part.field);
  const bare = part.test === 'is blank' || part.test === 'is not blank';
  const tests = TESTS.filter((test) => (field?.type === 'number' ? true : !test.endsWith('than')));
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <select
        aria-label="Field"
        className={`${BOX} max-w-[170px]`}
        value={part.field}
        onChange={({ target }) => change({ field: target.value, test: 'is not blank' })}
      >
        {document.fields.map(({ name, label }) => (
          <option key={name} value={name}>
            {label}
          </option>
        ))}
      </select>
      <select
        aria-label="Comparison"
        className={BOX}
        value={part.test}
        onChange={({ target }) => {
          const test = target.value as Test;
          change(
            test === 'is blank' || test === 'is not blank'
              ? { field: part.field, test }
              : { ...part, test, value: part.value ?? field?.options?.[0]?.value ?? '' },
          );
        }}
      >
        {tests.map((test) => (
          <option key={test}>{test}</option>
        ))}
      </select>
      {!bare &&
        (field?.options ? (
          <select
            aria-label="Value"
            className={`${BOX} max-w-[140px]`}
            value={part.value ?? ''}
            onChange={({ target }) => change({ ...part, value: target.value })}
          >
            {field.options.map(({ value, label }) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
        ) : (
          <input
            aria-label="Value"
            className={`${BOX} w-[120px]`}
            value={part.value ?? ''}
            onChange={({ target }) => change({ ...part, value: target.value })}
          />
        ))}
      <button
        type="button"
        aria-label="Remove this comparison"
        className="grid size-6 place-items-center text-soft hover:text-brick"
        onClick={remove}
      >
        ×
      </button>
    </div>
  );
}
