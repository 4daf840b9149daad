import type { OptionField } from '@zusammen/core/api';
import { optionsFrom } from '@zusammen/core/definitions';
import { compareOptions, type ComparedOptions, type OptionChange, type OptionRow } from '@zusammen/core/option-sets';
import type { Option } from '@zusammen/core/schema';
import { useMemo, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useMe, useSystem, useSystems } from '../../api/hooks.ts';
import { useAllFieldCounts, useOptionPlan, useOptionsCompared } from '../../api/schema.ts';
import { useActions } from '../../parts/actions.ts';
import { Button } from '../../parts/button.tsx';
import { Dialog } from '../../parts/dialog.tsx';
import { Choices, Editable } from '../../parts/editable.tsx';
import { TextField } from '../../parts/form.tsx';
import { plural } from '../../parts/plural.ts';
import { Radios } from '../../parts/radios.tsx';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { Empty, Fetched } from '../../parts/states.tsx';
import { OptionTable } from './option-table.tsx';
import { withAllMended } from './planned.ts';

const keyOf = ({ system, entity, field }: ComparedOptions): string => [system, entity, field].join('~');

/** Fields named by the address, so that a comparison can be shared and come back to. */
function useFields(): [ComparedOptions[], (next: readonly ComparedOptions[]) => void] {
  const [params, setParams] = useSearchParams();
  const fields = params.getAll('of').flatMap((each): ComparedOptions[] => {
    const [system, entity, field] = each.split('~');
    return system && entity && field ? [{ system, entity, field }] : [];
  });
  return [fields, (next) => setParams({ of: next.map(keyOf) }, { replace: true })];
}

/** Options of several fields compared over entities and systems, and what is to be changed of them, made in one go. */
export function OptionsPage() {
  const navigate = useNavigate();
  const [fields, setFields] = useFields();
  const [list, setList] = useState<Option[]>([]);
  const [changes, setChanges] = useState<OptionChange[]>([]);
  const [pasting, setPasting] = useState(false);
  const [what, setWhat] = useState<'all' | 'differing'>('all');
  const me = useMe();
  const systems = useSystems();
  const may = me.data !== undefined && me.data.role !== 'viewer';
  const compared = useOptionsCompared(fields);
  // Counting asks the systems, which looking on alone doesn't.
  const counts = useAllFieldCounts(may ? (compared.data?.columns ?? []) : []);
  const plan = useOptionPlan(changes);
  const make = useDo(
    async (wanted: OptionChange[]) => (await call('post /schema/options', { body: { changes: wanted } })).change,
    ['schema changes', 'systems', 'intakes', 'pairings', 'field counts', 'options compared'],
  );
  const start = (): void => {
    if (changes.length === 0 || make.isPending) return;
    make.mutate(changes, { onSuccess: (id) => void navigate(`/schema/changes/${id}`) });
  };
  const words = `Make ${plural(changes.length, 'change')}`;
  useActions(may && changes.length > 0 ? [{ name: words, act: start }] : []);
  const rows = useMemo(
    () =>
      compared.data
        ? compareOptions(
            compared.data.columns.map(({ options }) => options),
            compared.data.linked,
            list,
          )
        : [],
    [compared.data, list],
  );
  const differing = rows.filter((row) => differs(row));
  const mendable = compared.data ? withAllMended(changes, compared.data.columns, rows).length - changes.length : 0;
  return (
    <>
      <Heading
        crumbs={<Link to="/schema">Schema /</Link>}
        title="Options compared"
        actions={
          may &&
          fields.length > 0 && (
            <>
              <Button onClick={() => setPasting(true)}>Paste a list</Button>
              {mendable > 0 && compared.data && (
                <Button onClick={() => setChanges(withAllMended(changes, compared.data.columns, rows))}>
                  Bring all in line
                </Button>
              )}
              <Button look="strong" busy={make.isPending} disabled={changes.length === 0} onClick={start}>
                {words}
              </Button>
            </>
          )
        }
      />
      {make.error && (
        <p role="alert" className="mb-3 rounded-[8px] bg-brick-wash px-4 py-3">
          {make.error.message}
        </p>
      )}
      {fields.length === 0 ? (
        <Sheet>
          <Empty title="Which options?">
            Choose a field with options: others that its values go to or come from are then one click away.
            <span className="mt-3 block">
              <AddField fields={fields} related={[]} add={(field) => setFields([field])} />
            </span>
          </Empty>
        </Sheet>
      ) : (
        <Fetched query={compared} rows={8}>
          {({ columns, related }) => (
            <div className="space-y-3.5">
              <Sheet
                title={
                  <Radios
                    label="Which options"
                    chosen={what}
                    choose={setWhat}
                    options={[
                      { value: 'all', label: `All ${rows.length}` },
                      { value: 'differing', label: `Differing ${differing.length}` },
                    ]}
                  />
                }
                aside={
                  <AddField
                    fields={fields}
                    related={related}
                    add={(field) => {
                      setFields([...fields, field]);
                    }}
                  />
                }
              >
                <OptionTable
                  columns={columns}
                  rows={what === 'all' ? rows : differing}
                  all={rows}
                  counts={counts}
                  changes={changes}
                  plan={setChanges}
                  systems={systems.data ?? []}
                  drop={(at) => {
                    const gone = fields[at]!;
                    setChanges(changes.filter(({ of }) => keyOf(of) !== keyOf(gone)));
                    setFields(fields.filter((_, each) => each !== at));
                  }}
                  disabled={!may}
                />
              </Sheet>
              {changes.length > 0 && (
                <Sheet title="What it comes to" aside="nothing is changed before you say so">
                  <Fetched query={plan} rows={2}>
                    {({ steps }) => (
                      <ol className="list-decimal px-4 py-2.5 pl-9">
                        {steps.map((step, at) => (
                          <li key={at} className="py-0.5">
                            {step}
                          </li>
                        ))}
                      </ol>
                    )}
                  </Fetched>
                </Sheet>
              )}
            </div>
          )}
        </Fetched>
      )}
      {pasting && (
        <PasteList
          list={list}
          close={() => setPasting(false)}
          take={(next) => {
            setList(next);
            setPasting(false);
          }}
        />
      )}
    </>
  );
}

const differs = ({ cells }: OptionRow): boolean => cells.some((cell) => cell?.how !== 'same');

/** Another field to compare: those in line with it first, then any with options. */
function AddField({
  fields,
  related,
  add,
}: {
  fields: readonly ComparedOptions[];
  related: readonly OptionField[];
  add: (field: ComparedOptions) => void;
}) {
  const systems = useSystems();
  if (fields.length >= 12) return null;
  return (
    <span className="flex flex-wrap items-center gap-3">
      {related.slice(0, 3).map((each) => (
        <button
          key={keyOf(each)}
          type="button"
          className="font-semibold text-plum hover:underline"
          onClick={() => add({ system: each.system, entity: each.entity, field: each.field })}
        >
          + {each.entityLabel} · {each.label}
        </button>
      ))}
      <Editable
        bare
        wide
        className="text-plum hover:underline"
        label="Compare with another field"
        shown="another field"
      >
        {(close) => (
          <PickField
            systems={systems.data ?? []}
            taken={fields}
            pick={(field) => {
              add(field);
              close();
            }}
          />
        )}
      </Editable>
    </span>
  );
}

function PickField({
  systems,
  taken,
  pick,
}: {
  systems: readonly { id: string; name: string }[];
  taken: readonly ComparedOptions[];
  pick: (field: ComparedOptions) => void;
}) {
  const [search, setSearch] = useState('');
  return (
    <div className="p-2 font-normal">
      <TextField
        label="A field with options"
        placeholder="Search"
        autoFocus
        value={search}
        onChange={({ target }) => setSearch(target.value)}
      />
      <div className="mt-2 max-h-[260px] overflow-auto">
        {systems.map(({ id, name }) => (
          <OfSystem key={id} system={id} name={name} search={search.toLowerCase()} taken={taken} pick={pick} />
        ))}
      </div>
    </div>
  );
}

function OfSystem({
  system,
  name,
  search,
  taken,
  pick,
}: {
  system: string;
  name: string;
  search: string;
  taken: readonly ComparedOptions[];
  pick: (field: ComparedOptions) => void;
}) {
  const detail = useSystem(system);
  const known = new Set(taken.map(keyOf));
  const fields = (detail.data?.schema.entities ?? []).flatMap((entity) =>
    entity.fields.flatMap((field) => {
      const words = `${entity.label} · ${field.label}`;
      const of = { system, entity: entity.name, field: field.name };
      const fits = field.options && words.toLowerCase().includes(search) && !known.has(keyOf(of));
      return fits ? [{ of, words }] : [];
    }),
  );
  if (fields.length === 0) return null;
  return (
    <>
      <p className="px-3 pt-2 text-small font-semibold text-soft">{name}</p>
      <Choices
        chosen=""
        choose={(at) => {
          const chosen = fields[Number(at)];
          if (chosen) pick(chosen.of);
        }}
        options={fields.slice(0, 100).map(({ words }, at) => ({ value: String(at), label: words }))}
      />
    </>
  );
}

function PasteList({
  list,
  take,
  close,
}: {
  list: readonly Option[];
  take: (next: Option[]) => void;
  close: () => void;
}) {
  const [text, setText] = useState(() => list.map(({ label }) => label).join('\n'));
  const { options, twice } = optionsFrom(text);
  return (
    <Dialog
      open
      close={close}
      title="Options as they should be"
      description="One on each line. What the fields lack of them, and what they spell otherwise, stands beside it then."
    >
      <textarea
        aria-label="The list, one option on each line"
        rows={12}
        autoFocus
        value={text}
        className="w-full rounded-[7px] border border-line bg-sheet px-2 py-1 leading-6"
        onChange={({ target }) => setText(target.value)}
      />
      <div className="mt-3 flex items-center justify-between gap-2">
        <span role="status" className="text-soft">
          {plural(options.length, 'option')}
          {twice.length > 0 && `; ${plural(twice.length, 'came twice and counts once', 'came twice and count once')}`}
        </span>
        <Button look="strong" onClick={() => take(options)}>
          Compare with them
        </Button>
      </div>
    </Dialog>
  );
}
