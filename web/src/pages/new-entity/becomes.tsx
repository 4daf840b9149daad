import { fieldNameFor, type DefinedType } from '@zusammen/core/definitions';
import type { ColumnEvidence } from '@zusammen/core/forms';
import { asType, becomesInWords, joinedIn, withOptions, type SheetColumn } from '@zusammen/core/new-entities';
import type { Entity } from '@zusammen/core/schema';
import { Choices, Editable } from '../../parts/editable.tsx';
import { count } from '../../parts/time.tsx';

const KINDS: [type: DefinedType, label: string][] = [
  ['text', 'text'],
  ['long text', 'long text'],
  ['integer', 'whole number'],
  ['number', 'number with decimals'],
  ['yes/no', 'yes or no'],
  ['date', 'date'],
  ['date and time', 'date and time'],
  ['email', 'e-mail address'],
  ['phone', 'telephone number'],
  ['web address', 'web address'],
  ['option', 'one of several options'],
  ['options', 'several options'],
];
const LEFT_OUT = 'left out';
const REFERENCE = '→ ';

interface Props {
  column: SheetColumn;
  evidence: ColumnEvidence;
  entities: readonly Entity[];
  /** Names of the other columns' fields. */
  taken: readonly string[];
  change: (next: SheetColumn) => void;
  /** A reference was chosen: it is to be measured. */
  refer: (entity: Entity) => void;
  disabled: boolean;
}

/** What a column becomes: its kind, and what belongs to the kind; all that the rows speak against is said. */
export function Becomes({ column, evidence, entities, taken, change, refer, disabled }: Props) {
  const { field } = column;
  const leadsTo = entities.find(({ name }) => name === column.reference?.entity);
  const before = field ?? { name: fieldNameFor(column.column, taken), label: column.column.slice(0, 120) };
  const choose = (chosen: string, close: () => void): void => {
    close();
    if (chosen === LEFT_OUT) return change({ column: column.column });
    if (chosen.startsWith(REFERENCE)) {
      const entity = entities.find(({ name }) => name === chosen.slice(REFERENCE.length));
      if (entity) refer(entity);
      return;
    }
    change(asType(column.column, before, chosen as DefinedType, evidence));
  };
  const hasOptions = (evidence.options?.length ?? 0) > 0;
  return (
    <Editable
      label={`What ${column.column} becomes`}
      wide
      disabled={disabled}
      className="truncate text-left"
      shown={becomesInWords(column, leadsTo?.label)}
    >
      {(close) => (
        <>
          {field?.type === 'date' && <Order column={column} change={change} />}
          {field?.options && <Joined column={column} evidence={evidence} change={change} />}
          <div className="max-h-[200px] overflow-auto">
            <Choices
              chosen={!field ? LEFT_OUT : leadsTo ? `${REFERENCE}${leadsTo.name}` : field.type}
              choose={(chosen) => choose(chosen, close)}
              options={[
                ...KINDS.map(([type, label]) => ({
                  value: type as string,
                  label,
                  disabled: (type === 'option' || type === 'options') && !hasOptions,
                  ...((type === 'option' || type === 'options') && !hasOptions
                    ? { help: 'Too many different values to choose from.' }
                    : {}),
                })),
                ...entities.map(({ name, label }) => ({
                  value: `${REFERENCE}${name}`,
                  label: `→ a record of ${label}`,
                })),
                { value: LEFT_OUT, label: 'left out' },
              ]}
            />
          </div>
        </>
      )}
    </Editable>
  );
}

function Order({ column, change }: Pick<Props, 'column' | 'change'>) {
  return (
    <label className="mb-1 flex items-center gap-2 border-b border-hair px-3 pb-2 text-small">
      Written
      <select
        aria-label="Order of day and month"
        value={column.order ?? ''}
        className="h-[28px] rounded-[6px] border border-line bg-sheet px-2"
        onChange={({ target }) => {
          const { order: _, ...rest } = column;
          const order = target.value as NonNullable<SheetColumn['order']> | '';
          change(order === '' ? rest : { ...rest, order });
        }}
      >
        <option value="day first">day first: 20.4.2027</option>
        <option value="month first">month first: 4/20/2027</option>
        <option value="year first">year first: 2027-04-20</option>
        <option value="">as each can only be</option>
      </select>
    </label>
  );
}

/** The options, each with the spellings that go in as it; a spelling can be let go, or joined to another. */
function Joined({ column, evidence, change }: Pick<Props, 'column' | 'evidence' | 'change'>) {
  const counts = new Map(evidence.options?.map(({ value, count: many }) => [value, many]));
  const joined = joinedIn(column);
  const options = column.field!.options!;
  const all = evidence.options ?? [];
  /** Whose first spelling each value goes in as, by now. */
  const now = new Map<string, string>();
  for (const spellings of joined.values()) for (const each of spellings) now.set(each, spellings[0]!);
  const join = (value: string, into: string): void => {
    const next = new Map(now);
    for (const [each, first] of now) if (first === value || each === value) next.set(each, into);
    change(rebuilt(next));
  };
  const apart = (value: string): void => change(rebuilt(new Map(now).set(value, value)));
  const rebuilt = (into: ReadonlyMap<string, string>): SheetColumn =>
    withOptions(
      column,
      evidence,
      all.flatMap(({ value }) => {
        const others = all.filter((other) => other.value !== value && into.get(other.value) === value);
        return others.length === 0 ? [] : [{ value, others: others.map((other) => other.value), sure: true }];
      }),
    );
  return (
    <div className="mb-1 max-h-[190px] overflow-auto border-b border-hair px-3 pb-2">
      <table className="w-full text-small">
        <tbody>
          {options.map(({ value, label }) => {
            const spellings = joined.get(value) ?? [];
            const [first = label] = spellings;
            return (
              <tr key={value} className="align-baseline">
                <td className="py-0.5 pr-2 font-semibold">
                  {label}
                  {spellings.slice(1).map((other) => (
                    <span key={other} className="ml-2 font-normal text-soft">
                      “{other}”{' '}
                      <button
                        type="button"
                        className="font-semibold text-plum hover:underline"
                        onClick={() => apart(other)}
                      >
                        apart
                      </button>
                    </span>
                  ))}
                </td>
                <td className="py-0.5 pr-2 text-right font-mono">
                  {count(spellings.reduce((sum, each) => sum + (counts.get(each) ?? 0), 0))}
                </td>
                <td className="py-0.5 text-right">
                  <select
                    aria-label={`Join ${label} to`}
                    value=""
                    className="h-[24px] max-w-[120px] rounded-[5px] border border-line bg-sheet px-1"
                    onChange={({ target }) => join(first, target.value)}
                  >
                    <option value="">join to …</option>
                    {options
                      .filter((other) => other.value !== value)
                      .map((other) => (
                        <option key={other.value} value={joined.get(other.value)?.[0] ?? other.label}>
                          {other.label}
                        </option>
                      ))}
                  </select>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
