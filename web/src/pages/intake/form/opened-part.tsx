import { notOnRecord, openOnRecord, withoutLink } from '@zusammen/core/asking';
import { linkedEntities, type LinkedRecord, type Panel } from '@zusammen/core/forms/hosted';
import { changeForm } from '@zusammen/core/intake';
import { Button } from '../../../parts/button.tsx';
import { Combobox } from '../../../parts/combobox.tsx';
import { plural } from '../../../parts/plural.ts';
import { useDraft } from '../draft.tsx';
import type { Editing } from './editing.tsx';
import { Part } from './part.tsx';

/** With what a form is opened: by anybody, with a signed link to a record, or as a panel on a record's page. */
export function OpenedPart({ editing, edited }: { editing: Editing; edited: boolean }) {
  const { link, panel } = editing.form;
  if (panel && link) return <OnPages editing={editing} edited={edited} link={link} panel={panel} />;
  if (link) return <ByLink editing={editing} edited={edited} link={link} />;
  if (!edited) return null;
  return (
    <>
      Opens for{' '}
      <Part label="Who opens it" shown="everybody" edited>
        {(close) => (
          <div className="w-[300px] space-y-2 p-2">
            <p className="text-small text-soft">
              Or as a panel on pages of records, for whoever is signed in there, beginning with what the record holds:
            </p>
            <AddEntity editing={editing} close={close} />
          </div>
        )}
      </Part>
      .{' '}
    </>
  );
}

/** Entities whose pages may show the form. */
function AddEntity({ editing, close }: { editing: Editing; close: () => void }) {
  const { schemas, change } = useDraft();
  const { link } = editing.form;
  const known = new Set(link ? linkedEntities(link).map(({ entity }) => entity) : []);
  const items = [...schemas].flatMap(([system, schema]) =>
    link && link.system !== system
      ? []
      : schema.entities
          .filter(({ name, rights }) => rights.read && !known.has(name))
          .map(({ name, label }) => ({
            value: `${system} ${name}`,
            label,
            words: `${label} ${name}`,
            group: 'Pages of',
          })),
  );
  return (
    <Combobox
      placeholder="On pages of …"
      items={items}
      choose={(value) => {
        const [system = '', name = ''] = value.split(' ');
        change((held) => openOnRecord(held, system, name, editing.asking));
        close();
      }}
    />
  );
}

const GONE: Record<Panel['whenGone'], string> = {
  ask: 'somebody is asked',
  connection: 'the connection goes on',
};

function OnPages({
  editing,
  edited,
  link,
  panel,
}: {
  editing: Editing;
  edited: boolean;
  link: LinkedRecord;
  panel: Panel;
}) {
  const { schemas, change } = useDraft();
  const labelOf = (name: string): string =>
    schemas.get(link.system)?.entities.find((each) => each.name === name)?.label ?? name;
  const entities = linkedEntities(link).map(({ entity }) => entity);
  const begun = editing.standings.filter(({ item }) => item.begins?.with === 'record').length;
  return (
    <>
      Opens on pages of{' '}
      <Part label="On whose pages" shown={entities.map(labelOf).join(' or ')} edited={edited}>
        {(close) => (
          <div className="w-[300px] space-y-2 p-2">
            <ul className="space-y-1">
              {entities.map((name) => (
                <li key={name} className="flex items-center justify-between gap-2">
                  {labelOf(name)}
                  <button
                    type="button"
                    className="min-h-6 text-small text-soft hover:text-brick hover:underline"
                    onClick={() => change((held) => notOnRecord(held, name))}
                  >
                    not on these
                  </button>
                </li>
              ))}
            </ul>
            <AddEntity editing={editing} close={close} />
            <label className="flex items-center gap-2 text-small">
              <input
                type="checkbox"
                checked={link.required}
                onChange={({ target }) =>
                  editing.changeWhole((held) =>
                    held.link ? { ...held, link: { ...held.link, required: target.checked } } : held,
                  )
                }
              />
              only there, or with a signed link
            </label>
            <Button
              look="quiet"
              onClick={() => {
                change((held) => withoutLink(held));
                close();
              }}
            >
              for everybody, without a record
            </Button>
          </div>
        )}
      </Part>
      , by whoever is signed in there; {plural(begun, 'question')} {begun === 1 ? 'begins' : 'begin'} with what the
      record holds. If they are gone when it is carried out,{' '}
      <Part label="If they are gone when it is carried out" shown={GONE[panel.whenGone]} edited={edited}>
        {(close) => (
          <div className="flex flex-col items-start gap-1 p-2">
            {(['ask', 'connection'] as const).map((each) => (
              <Button
                key={each}
                look={panel.whenGone === each ? 'moss' : 'plain'}
                onClick={() => {
                  change((held) => changeForm(held, (form) => ({ ...form, panel: { whenGone: each } })));
                  close();
                }}
              >
                {GONE[each]}
              </Button>
            ))}
          </div>
        )}
      </Part>
      .{' '}
    </>
  );
}

/** With a signed link to a record. */
function ByLink({ editing, edited, link }: { editing: Editing; edited: boolean; link: LinkedRecord }) {
  const { schemas, change } = useDraft();
  const { standings } = editing;
  const label = schemas.get(link.system)?.entities.find(({ name }) => name === link.entity)?.label ?? link.entity;
  const begun = standings.filter(({ item }) => item.begins?.with === 'record').length;
  return (
    <>
      Opens{' '}
      <Part
        label="Whether a link is needed"
        shown={link.required ? 'only with a signed link' : 'with a signed link, or without'}
        edited={edited}
      >
        {(close) => (
          <div className="flex flex-col items-start gap-1 p-2">
            {[true, false].map((required) => (
              <Button
                key={String(required)}
                look={link.required === required ? 'moss' : 'plain'}
                onClick={() => {
                  editing.changeWhole((held) => (held.link ? { ...held, link: { ...held.link, required } } : held));
                  close();
                }}
              >
                {required ? 'only with a signed link' : 'with one, or without'}
              </Button>
            ))}
            <Button
              onClick={() => {
                change((held) => openOnRecord(held, link.system, link.entity, editing.asking));
                close();
              }}
            >
              also on the record’s page
            </Button>
            <Button look="quiet" onClick={() => change(withoutLink)}>
              without any link
            </Button>
          </div>
        )}
      </Part>{' '}
      to one <b className="font-semibold">{label}</b>; {plural(begun, 'question')} {begun === 1 ? 'begins' : 'begin'}{' '}
      with what it holds.{' '}
    </>
  );
}
