import { describeCondition, expressionOf, holds, type Condition } from '@zusammen/core/expressions';
import { doneWhen, type Step } from '@zusammen/core/plans';
import { ConditionEditor } from '../../../parts/condition-editor.tsx';
import { Editable } from '../../../parts/editable.tsx';
import { useDraft } from '../draft.tsx';

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
        {() => <ConditionEditor condition={condition} fields={document.fields} change={change} />}
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
