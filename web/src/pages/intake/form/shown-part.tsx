import { describeCondition } from '@zusammen/core/expressions';
import type { Shown, Standing } from '@zusammen/core/forms/hosted';
import { ConditionEditor } from '../../../parts/condition-editor.tsx';
import { useDraft } from '../draft.tsx';
import type { Editing } from './editing.tsx';
import { Part } from './part.tsx';

/** When something is shown. */
export function ShownPart({ standing, edited, editing }: { standing: Standing; edited: boolean; editing: Editing }) {
  const { document } = useDraft();
  const { item, name, groups } = standing;
  if (!item.shown && !edited) return null;
  // Within rows it may go by its own row's answers, and by those outside of all rows.
  const row = groups.length === 0 ? '' : standing.name.slice(0, standing.name.lastIndexOf('['));
  const fields = document.fields.filter(
    (field) =>
      field.name !== name &&
      !field.name.startsWith(`${name}[`) &&
      (!field.name.includes('[') || row.startsWith(field.name.slice(0, field.name.lastIndexOf('[')))),
  );
  const said = describeCondition(
    item.shown,
    (of) => fields.find((each) => each.name === of)?.label ?? of,
    (of, value) =>
      fields.find((each) => each.name === of)?.options?.find((each) => each.value === value)?.label ?? value,
  );
  const take = (shown: Shown | undefined): void =>
    editing.change(item.id, ({ shown: _, ...rest }) => (shown ? { ...rest, shown } : rest));
  return (
    <>
      {' '}
      Shown{' '}
      <Part label="When it is shown" shown={item.shown ? `when ${said}` : 'always'} edited={edited} wide>
        {() =>
          fields.length === 0 ? (
            <p className="p-2 text-small text-soft">There is no other question to go by.</p>
          ) : (
            <ConditionEditor
              pickedOnly
              condition={item.shown}
              fields={fields}
              change={(next) => take(next && { match: next.match, parts: next.parts })}
            />
          )
        }
      </Part>
      .
    </>
  );
}
