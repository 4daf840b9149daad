import {
  expressionOf,
  TESTS,
  type Condition,
  type ConditionPart,
  type ExpressionField,
  type Test,
} from '@zusammen/core/expressions';
import { Button } from './button.tsx';
import { ExpressionBox } from './expression-box.tsx';

const BOX = 'h-[30px] rounded-[6px] border border-line bg-sheet px-2';
const ALWAYS: Condition = { match: 'all', parts: [] };

/** A field whose value is compared. */
type ConditionField = ExpressionField & {
  label: string;
  options?: readonly { value: string; label: string }[];
};

interface Props {
  condition: Condition | undefined;
  fields: readonly ConditionField[];
  /** By what name the fields are reached in an expression. */
  root?: 'form' | 'record';
  /** Comparisons can be picked only; whoever evaluates it knows no expressions. */
  pickedOnly?: boolean;
  /** Undefined: always. */
  change: (next: Condition | undefined) => void;
}

/** When something is done: comparisons that are picked, or an expression. */
export function ConditionEditor({ condition = ALWAYS, fields, root = 'form', pickedOnly = false, change }: Props) {
  const setPart = (at: number, part: ConditionPart): void =>
    change({ ...condition, parts: condition.parts.map((each, index) => (index === at ? part : each)) });
  const [first] = fields;
  if (condition.expression !== undefined) {
    return (
      <div className="space-y-2 p-2">
        <ExpressionBox
          label="Done when this comes to true (CEL)"
          value={condition.expression}
          fields={fields}
          root={root}
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
          fields={fields}
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
        {!pickedOnly && (
          <Button
            look="quiet"
            onClick={() => change({ ...condition, expression: expressionOf(condition, fields) ?? 'true' })}
          >
            write it in CEL
          </Button>
        )}
      </div>
    </div>
  );
}

function Part({
  part,
  fields,
  change,
  remove,
}: {
  part: ConditionPart;
  fields: readonly ConditionField[];
  change: (part: ConditionPart) => void;
  remove: () => void;
}) {
  const field = fields.find(({ name }) => name === part.field);
  const bare = part.test === 'is blank' || part.test === 'is not blank';
  const tests = TESTS.filter((test) =>
    field?.type === 'number' || field?.type === 'integer' ? true : !test.endsWith('than'),
  );
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <select
        aria-label="Field"
        className={`${BOX} max-w-[170px]`}
        value={part.field}
        onChange={({ target }) => change({ field: target.value, test: 'is not blank' })}
      >
        {fields.map(({ name, label }) => (
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
      {!bare && (
        <ComparedValue
          value={part.value ?? ''}
          options={field?.options}
          change={(value) => change({ ...part, value })}
        />
      )}
      <RemoveComparison remove={remove} />
    </div>
  );
}

/** The value that something is compared with: one of the field's options, or what is typed. */
export function ComparedValue({
  value,
  options,
  change,
}: {
  value: string;
  options: readonly { value: string; label: string }[] | undefined;
  change: (value: string) => void;
}) {
  return options ? (
    <select
      aria-label="Value"
      className={`${BOX} max-w-[140px]`}
      value={value}
      onChange={({ target }) => change(target.value)}
    >
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </select>
  ) : (
    <input
      aria-label="Value"
      className={`${BOX} w-[120px]`}
      maxLength={1000}
      value={value}
      onChange={({ target }) => change(target.value)}
    />
  );
}

export function RemoveComparison({ remove }: { remove: () => void }) {
  return (
    <button
      type="button"
      aria-label="Remove this comparison"
      className="grid size-6 place-items-center text-soft hover:text-brick"
      onClick={remove}
    >
      ×
    </button>
  );
}
