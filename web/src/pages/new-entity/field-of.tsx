import { CAN_BE_UNIQUE } from '@zusammen/core/definitions';
import type { SheetColumn } from '@zusammen/core/new-entities';
import { Outgoing } from '../../parts/chip.tsx';
import { Editable } from '../../parts/editable.tsx';
import { TextField } from '../../parts/form.tsx';

/** The field that a column becomes: what it is called, and what holds of it. */
export function FieldOf({
  column,
  change,
  disabled,
}: {
  column: SheetColumn;
  change: (next: SheetColumn) => void;
  disabled: boolean;
}) {
  const { field } = column;
  if (!field) return null;
  const set = (more: Partial<typeof field>): void => change({ ...column, field: { ...field, ...more } });
  const limited = field.type === 'text' || field.type === 'long text';
  return (
    <Editable
      bare
      wide
      disabled={disabled}
      label={`The field of ${column.column}`}
      className="max-w-full"
      shown={<Outgoing>{field.label}</Outgoing>}
    >
      {() => (
        <div className="space-y-3 p-3">
          <TextField
            label="Label"
            value={field.label}
            maxLength={120}
            onChange={({ target }) => set({ label: target.value })}
          />
          <TextField
            label="Name in the system"
            value={field.name}
            maxLength={60}
            className="font-mono"
            help="It can’t be changed later."
            onChange={({ target }) => set({ name: target.value })}
          />
          {limited && (
            <TextField
              label="At most so many characters"
              type="number"
              min={1}
              max={100_000}
              value={field.maxLength ?? ''}
              onChange={({ target }) => {
                const { maxLength: _, ...rest } = field;
                change({ ...column, field: target.value === '' ? rest : { ...rest, maxLength: Number(target.value) } });
              }}
            />
          )}
          <TextField
            label="What it is for"
            value={field.help ?? ''}
            maxLength={400}
            onChange={({ target }) => {
              const { help: _, ...rest } = field;
              change({ ...column, field: target.value === '' ? rest : { ...rest, help: target.value } });
            }}
          />
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={field.required === true}
              onChange={({ target }) => set({ required: target.checked })}
            />
            required
          </label>
          {CAN_BE_UNIQUE.includes(field.type) && (
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={field.unique === true}
                onChange={({ target }) => set({ unique: target.checked })}
              />
              unique: no two records have the same
            </label>
          )}
        </div>
      )}
    </Editable>
  );
}
