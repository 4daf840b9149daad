import {
  fieldAt,
  optionsBetween,
  placeName,
  type PairedOption,
  type PairLine,
  type Side,
} from '@zusammen/core/pairing';
import {
  freshTreatment,
  treatmentGroups,
  type Around,
  type Treatment,
  type TreatmentKind,
} from '@zusammen/core/mapping';
import type { Field } from '@zusammen/core/schema';
import { Combobox } from '../../parts/combobox.tsx';
import { Editable } from '../../parts/editable.tsx';
import { TreatmentEditor } from '../intake/plan/treatment-editor.tsx';
import type { Editing } from './pairing.tsx';

/** How a value of one side looks on the other, and what else goes for it. */
export function LineSettings({ editing, line }: { editing: Editing; line: PairLine }) {
  const { around, change, changeLine } = editing;
  const left = around.left && fieldAt(line.left, around.left);
  const right = around.right && fieldAt(line.right, around.right);
  const isOneWay = line.way !== 'both';
  return (
    <div className="p-2">
      <p className="mb-2 font-semibold">
        {placeName(line.left, around.left)} and {placeName(line.right, around.right)}
      </p>
      {left?.options && right?.options && (
        <OptionTable
          line={line}
          left={left}
          right={right}
          editing={editing}
          change={(options) => changeLine(line.id, { options })}
        />
      )}
      {(['right', 'left'] as const)
        .filter((to) => line.way === 'both' || line.way === `to ${to}`)
        .map((to) => (
          <Treatments
            key={to}
            to={to}
            line={line}
            editing={editing}
            from={to === 'right' ? left : right}
            field={to === 'right' ? right : left}
          />
        ))}
      <Check
        label="Only what is empty is filled"
        help="A value that is there stays as it is."
        checked={line.onlyEmpty === true}
        change={(onlyEmpty) => changeLine(line.id, { onlyEmpty, ...(onlyEmpty ? { collects: false } : {}) })}
      />
      <Check
        label="All values ever given are gathered"
        help={
          isOneWay ? 'Each once, the newest last, as many as the field holds.' : 'Only where values travel one way.'
        }
        disabled={!isOneWay}
        checked={line.collects === true && isOneWay}
        change={(collects) => changeLine(line.id, { collects, ...(collects ? { onlyEmpty: false } : {}) })}
      />
      <Check
        label="A blank erases what the other side holds"
        checked={line.blankErases === true}
        change={(blankErases) => changeLine(line.id, { blankErases })}
      />
      <button
        type="button"
        className="mt-2 min-h-6 text-small text-brick hover:underline"
        onClick={() => change((before) => ({ ...before, lines: before.lines.filter(({ id }) => id !== line.id) }))}
      >
        No longer link these two
      </button>
    </div>
  );
}

/** What a treatment does must be seen from the one value alone: others of the record are worked out in CEL. */
const OF_ONE_VALUE = new Set<TreatmentKind>([
  ...(['trim', 'case', 'replace', 'shorten', 'default', 'split', 'list', 'name part', 'address part'] as const),
  ...(['phone', 'email', 'web address', 'country', 'language', 'number', 'money', 'date'] as const),
]);

/** What is done to a value on its way to one side, step by step. */
function Treatments({
  to,
  line,
  editing,
  from,
  field,
}: {
  to: Side;
  line: PairLine;
  editing: Editing;
  from: Field | undefined;
  field: Field | undefined;
}) {
  const { pairing, changeLine, around: sides } = editing;
  const held = to === 'right' ? line.there : line.back;
  const set = (next: Treatment[]): void => changeLine(line.id, to === 'right' ? { there: next } : { back: next });
  const around: Around = { field, sources: from ? [from] : [], settings: {}, schema: sides[to]?.schema };
  const way = `on the way to ${pairing[to].entityLabel}`;
  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-2">
      <span className="text-small text-soft">{way}</span>
      {held.map((treatment, at) => (
        <TreatmentEditor
          key={at}
          treatment={treatment}
          around={around}
          change={(next) => set(held.map((each, index) => (index === at ? next : each)))}
          remove={() => set(held.filter((_, index) => index !== at))}
        />
      ))}
      {held.length < 10 && (
        <Editable label={`Add a treatment ${way}`} bare className="text-plum" shown="+ treatment">
          {(close) => (
            <Combobox
              placeholder="Find a treatment"
              items={treatmentGroups().flatMap(({ group, kinds }) =>
                kinds
                  .filter(({ kind }) => OF_ONE_VALUE.has(kind))
                  .map(({ kind, name }) => ({ value: kind, label: name, words: `${name} ${kind}`, group })),
              )}
              choose={(kind) => {
                set([...held, freshTreatment(kind as TreatmentKind, around)]);
                close();
              }}
            />
          )}
        </Editable>
      )}
    </div>
  );
}

function Check({
  label,
  help,
  checked,
  change,
  disabled = false,
}: {
  label: string;
  help?: string;
  checked: boolean;
  change: (checked: boolean) => void;
  disabled?: boolean;
}) {
  return (
    <label className="mt-1.5 flex items-start gap-2">
      <input
        type="checkbox"
        className="mt-1"
        checked={checked}
        disabled={disabled}
        onChange={({ target }) => change(target.checked)}
      />
      <span>
        {label}
        {help && <span className="block text-small text-soft">{help}</span>}
      </span>
    </label>
  );
}

/** Options of the left side, each with its counterpart; those of the right that have none are said. */
function OptionTable({
  line,
  left,
  right,
  editing,
  change,
}: {
  line: PairLine;
  left: Field;
  right: Field;
  editing: Editing;
  change: (options: PairedOption[]) => void;
}) {
  const pairs = line.options ?? [];
  const same = (side: Side, value: string): string | undefined => {
    const paired = pairs.find((pair) => pair[side] === value);
    if (paired) return paired[side === 'left' ? 'right' : 'left'];
    const other = side === 'left' ? right : left;
    return other.options?.find((option) => option.value === value || option.label === value)?.value;
  };
  const unpaired = (right.options ?? []).filter(
    ({ value }) =>
      same('right', value) === undefined &&
      !(left.options ?? []).some((option) => same('left', option.value) === value),
  );
  const set = (from: string, to: string): void => {
    const others = pairs.filter((pair) => pair.left !== from);
    change(to === '' ? others : [...others, { left: from, right: to }]);
  };
  const guesses = optionsBetween(left, right);
  return (
    <div className="mb-2 border-b border-hair pb-2">
      <table className="w-full">
        <thead>
          <tr className="text-left text-small text-soft">
            <th className="font-semibold">{editing.pairing.left.entityLabel}</th>
            <th className="font-semibold">{editing.pairing.right.entityLabel}</th>
          </tr>
        </thead>
        <tbody>
          {(left.options ?? []).map(({ value, label }) => (
            <tr key={value}>
              <td className="py-0.5 pr-3">{label}</td>
              <td className="py-0.5">
                <select
                  aria-label={`${label} on the other side`}
                  className="h-[28px] w-full rounded-[6px] border border-line bg-sheet px-2"
                  value={same('left', value) ?? ''}
                  onChange={({ target }) => set(value, target.value)}
                >
                  <option value="">has no counterpart</option>
                  {(right.options ?? []).map((option) => (
                    <option key={option.value} value={option.value}>
                      {option.label}
                    </option>
                  ))}
                </select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {unpaired.length > 0 && (
        <p className="mt-1 text-small text-saffron">
          Without a counterpart: {unpaired.map(({ label }) => label).join(', ')}
        </p>
      )}
      {guesses.some((guess) => !pairs.some((pair) => pair.left === guess.left)) && (
        <button
          type="button"
          className="mt-1 min-h-6 text-small font-semibold text-plum hover:underline"
          onClick={() =>
            change([...pairs, ...guesses.filter((guess) => !pairs.some((pair) => pair.left === guess.left))])
          }
        >
          take the best guesses
        </button>
      )}
    </div>
  );
}
