import type { RecordPart } from '@zusammen/core/intake';
import { READ_TESTS } from '@zusammen/core/forms/hosted';
import type { Entity } from '@zusammen/core/schema';
import { Button } from '../../../parts/button.tsx';
import { ComparedValue, RemoveComparison } from '../../../parts/condition-editor.tsx';
import { BOX } from '../form/part.tsx';

const YES_NO = [
  { value: 'yes', label: 'yes' },
  { value: 'no', label: 'no' },
];
const MOST = 10;

/** Comparisons that a record has to meet, all of them. */
export function RecordParts({
  parts,
  entity,
  disabled = false,
  change,
}: {
  parts: readonly RecordPart[];
  entity: Entity | undefined;
  disabled?: boolean;
  change: (parts: RecordPart[]) => void;
}) {
  const fields = (entity?.fields ?? []).filter(({ rights }) => rights !== 'none');
  const optionsOf = (name: string) => {
    const field = fields.find((each) => each.name === name);
    return field?.type === 'yes/no' ? YES_NO : field?.options;
  };
  const begun = (field: string, test: RecordPart['test']): RecordPart =>
    test.endsWith('blank') ? { field, test } : { field, test, value: optionsOf(field)?.[0]?.value ?? '' };
  return (
    <fieldset disabled={disabled} className="space-y-2">
      {parts.map((part, at) => (
        <div key={at} className="flex flex-wrap items-center gap-1.5">
          <select
            aria-label="Field"
            className={`${BOX} max-w-[180px]`}
            value={part.field}
            onChange={({ target }) => change(parts.with(at, begun(target.value, 'is')))}
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
              const test = target.value as RecordPart['test'];
              const next = begun(part.field, test);
              change(parts.with(at, next.value === undefined ? next : { ...next, value: part.value ?? next.value }));
            }}
          >
            {READ_TESTS.map((test) => (
              <option key={test}>{test}</option>
            ))}
          </select>
          {!part.test.endsWith('blank') && (
            <ComparedValue
              value={part.value ?? ''}
              options={optionsOf(part.field)}
              change={(value) => change(parts.with(at, { ...part, value }))}
            />
          )}
          <RemoveComparison remove={() => change(parts.toSpliced(at, 1))} />
        </div>
      ))}
      <Button
        disabled={fields.length === 0 || parts.length >= MOST}
        onClick={() => change([...parts, begun((fields.find(({ options }) => options) ?? fields[0]!).name, 'is')])}
      >
        Add a comparison
      </Button>
    </fieldset>
  );
}

/** Comparisons in words. */
export function partsInWords(parts: readonly RecordPart[], entity: Entity | undefined): string {
  if (parts.length === 0) return 'every record';
  return parts
    .map(({ field: name, test, value = '' }) => {
      const field = entity?.fields.find((each) => each.name === name);
      const said = field?.options?.find((option) => option.value === value)?.label ?? value;
      return `${field?.label ?? name} ${test}${test.endsWith('blank') ? '' : ` ${said}`}`;
    })
    .join(' and ');
}
