import { fieldBegunWith, linkedEntities, OF_PERSON, type Begins, type Item } from '@zusammen/core/forms/hosted';
import type { Entity } from '@zusammen/core/schema';
import { useDraft } from '../draft.tsx';
import type { Editing } from './editing.tsx';
import { BOX, Part } from './part.tsx';

interface Props {
  item: Item;
  edited: boolean;
  editing: Editing;
}

/** What a question begins with: nothing, a constant, a parameter of the address, or something of the record or of whoever acts. */
export function BeginsPart({ item, edited, editing }: Props) {
  const { begins } = item;
  const { schemas } = useDraft();
  const { link } = editing.form;
  const entities = link
    ? linkedEntities(link).flatMap(
        ({ entity }) => schemas.get(link.system)?.entities.find(({ name }) => name === entity) ?? [],
      )
    : [];
  const fieldOf = (entity: string): string | undefined => begins && link && fieldBegunWith(begins, link, entity);
  if (!begins && !edited) return null;
  const take = (next: Begins | undefined): void =>
    editing.change(item.id, ({ begins: _, ...rest }) => (next ? { ...rest, begins: next } : rest));
  const shown = !begins
    ? 'nothing'
    : begins.with === 'constant'
      ? `“${begins.value}”`
      : begins.with === 'record'
        ? ofRecord(entities, fieldOf, begins)
        : begins.with === 'person'
          ? OF_WHOEVER[begins.value as keyof typeof OF_WHOEVER]
          : `what the address says as “${begins.value}”`;
  const takeField = (entity: string, field: string): void => {
    const others = entities.slice(1).flatMap(({ name }) => {
      const of = name === entity ? field : fieldOf(name);
      return of ? [{ entity: name, field: of }] : [];
    });
    const value = entity === entities[0]?.name ? field : (fieldOf(entities[0]?.name ?? '') ?? '');
    take({
      ...{ with: 'record', value },
      ...(others.length > 0 ? { others } : {}),
      ...(begins?.ifBlank ? { ifBlank: true } : {}),
    });
  };
  return (
    <>
      {' '}
      Begins with{' '}
      <Part label="What it begins with" shown={shown} edited={edited}>
        {() => (
          <div className="w-[270px] space-y-2 p-2">
            <select
              aria-label="Begins with"
              className={`${BOX} w-full`}
              value={begins?.with ?? ''}
              onChange={({ target }) => {
                if (target.value === '') take(undefined);
                else if (target.value === 'record')
                  takeField(entities[0]?.name ?? '', entities[0]?.fields[0]?.name ?? '');
                else if (target.value === 'person') take({ with: 'person', value: 'name' });
                else if (target.value === 'parameter') take({ with: 'parameter', value: item.name ?? 'value' });
                else take({ with: 'constant', value: item.options?.[0]?.value ?? '' });
              }}
            >
              <option value="">nothing</option>
              <option value="constant">always the same</option>
              <option value="parameter">a parameter of the address</option>
              {link && <option value="record">what the record holds that opens it</option>}
              {editing.form.panel && <option value="person">something of whoever acts</option>}
            </select>
            {begins?.with === 'record' &&
              entities.map(({ name: entity, label: called, fields }) => (
                <label key={entity} className="block text-small text-soft">
                  Of the {called}
                  <select
                    aria-label={entities.length > 1 ? `The field of the ${called}` : 'The record’s field'}
                    className={`${BOX} w-full text-body text-ink`}
                    value={fieldOf(entity) ?? ''}
                    onChange={({ target }) => takeField(entity, target.value)}
                  >
                    {entities.length > 1 && <option value="">nothing</option>}
                    {fields
                      .filter(({ rights }) => rights !== 'none')
                      .map(({ name, label }) => (
                        <option key={name} value={name}>
                          {label}
                        </option>
                      ))}
                  </select>
                </label>
              ))}
            {begins?.with === 'person' && (
              <select
                aria-label="What of them"
                className={`${BOX} w-full`}
                value={begins.value}
                onChange={({ target }) => take({ ...begins, value: target.value })}
              >
                {OF_PERSON.map((each) => (
                  <option key={each} value={each}>
                    {OF_WHOEVER[each]}
                  </option>
                ))}
              </select>
            )}
            {(begins?.with === 'record' || begins?.with === 'person') && item.kind !== 'hidden' && (
              <label className="flex items-center gap-2 text-small">
                <input
                  type="checkbox"
                  checked={begins.ifBlank === true}
                  onChange={({ target }) =>
                    editing.change(item.id, ({ begins: held, required, ...rest }) => {
                      const { ifBlank: _, ...bare } = held!;
                      return {
                        ...rest,
                        ...(required && !target.checked ? { required } : {}),
                        begins: target.checked ? { ...bare, ifBlank: true } : bare,
                      };
                    })
                  }
                />
                not shown, only where it is left blank
              </label>
            )}
            {(begins?.with === 'constant' || begins?.with === 'parameter') && (
              <input
                aria-label={begins.with === 'constant' ? 'The value' : 'The parameter’s name'}
                className={`${BOX} w-full`}
                maxLength={1000}
                value={begins.value}
                onChange={({ target }) => take({ ...begins, value: target.value })}
              />
            )}
          </div>
        )}
      </Part>
      .
    </>
  );
}

const OF_WHOEVER = {
  id: 'how the system names whoever acts',
  name: 'the name of whoever acts',
  email: 'the e-mail address of whoever acts',
} as const;

/** Which fields of the record that opens a form a question begins with, in words. */
function ofRecord(
  entities: readonly Entity[],
  fieldOf: (entity: string) => string | undefined,
  { ifBlank }: Begins,
): string {
  const said = entities.flatMap(({ name, label, fields }) => {
    const field = fieldOf(name);
    return field === undefined ? [] : [`the ${label}’s ${fields.find((each) => each.name === field)?.label ?? field}`];
  });
  return `${said.join(' or ') || 'nothing of the record'}${ifBlank ? ', if left blank' : ''}`;
}
