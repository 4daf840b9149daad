import { changeSettings, type ToldValue } from '@zusammen/core/intake';
import { stepName } from '@zusammen/core/plans';
import { Combobox } from '../../../parts/combobox.tsx';
import { Editable } from '../../../parts/editable.tsx';
import { Outgoing } from '../../../parts/chip.tsx';
import { Sheet } from '../../../parts/sheet.tsx';
import { useDraft } from '../draft.tsx';

/** What a page that waits for the outcome is told of the records that were found or made. */
export function Told() {
  const { document, change, mayEdit, schemas } = useDraft();
  const { steps } = document.plan;
  const told = document.settings.told ?? [];
  const set = (next: ToldValue[]): void =>
    change((held) => changeSettings(held, { told: next.length === 0 ? undefined : next }));
  const fieldsOf = (id: string) => {
    const step = steps.find((each) => each.id === id);
    const entity = step && schemas.get(step.system)?.entities.find(({ name }) => name === step.entity);
    return { step, fields: entity?.fields.filter(({ rights }) => rights !== 'none') ?? [] };
  };
  const labelOf = ({ step: id, field }: ToldValue): string => {
    const { step, fields } = fieldsOf(id);
    const name = step ? stepName(step, steps, schemas) : 'a step that is gone';
    return field === undefined
      ? `id of the ${name}`
      : `${fields.find((each) => each.name === field)?.label ?? field} of the ${name}`;
  };
  const items = steps
    .filter(({ repeat, record }) => repeat === undefined && record?.by !== 'step')
    .flatMap((step) => {
      const name = stepName(step, steps, schemas);
      return [
        { value: step.id, label: `id of the ${name}`, words: `id ${name}`, group: name },
        ...fieldsOf(step.id)
          .fields.filter(({ type }) => type !== 'id')
          .map((field) => ({
            value: `${step.id} ${field.name}`,
            label: `${field.label} of the ${name}`,
            words: `${field.label} ${field.name} ${name}`,
            note: field.type,
            group: name,
          })),
      ];
    });
  const add = (chosen: string): void => {
    const [step, field] = chosen.split(' ') as [string, string | undefined];
    const wanted = field ?? 'id';
    const taken = new Set(told.map(({ name }) => name));
    let name = wanted;
    for (let count = 2; taken.has(name); count += 1) name = `${wanted}-${count}`;
    set([...told, { name, step, ...(field === undefined ? {} : { field }) }]);
  };
  if (steps.length === 0) return null;
  return (
    <Sheet title="What the page is told">
      <div className="space-y-2 p-4">
        <p className="text-small text-soft">
          {document.source.kind === 'ours' && 'Whoever has sent the form sees these on its thanks page. '}A page that
          sends <code className="font-mono">Prefer: wait=10</code> gets these once the submission is carried out. Others
          get the number of the submission at once.
        </p>
        {told.map((each, at) => (
          <div key={at} className="flex items-center gap-2">
            <input
              aria-label={`Name under which ${labelOf(each)} is told`}
              value={each.name}
              disabled={!mayEdit}
              maxLength={60}
              onChange={({ target }) =>
                set(told.map((other, index) => (index === at ? { ...other, name: target.value } : other)))
              }
              className="h-[30px] w-[130px] rounded-[6px] border border-line bg-sheet px-2 font-mono text-[13px]"
            />
            <Outgoing>{labelOf(each)}</Outgoing>
            {mayEdit && (
              <button
                type="button"
                aria-label={`No longer tell ${labelOf(each)}`}
                className="grid size-6 place-items-center text-soft hover:text-brick"
                onClick={() => set(told.filter((_, index) => index !== at))}
              >
                ×
              </button>
            )}
          </div>
        ))}
        {mayEdit && (
          <Editable label="Tell a value" bare wide className="text-plum" shown="+ a value of a record">
            {(close) => (
              <Combobox
                placeholder="Find a field of a step’s record"
                items={items}
                choose={(value) => {
                  add(value);
                  close();
                }}
              />
            )}
          </Editable>
        )}
      </div>
    </Sheet>
  );
}
