import {
  asType,
  definitionOfSheet,
  takenColumns,
  type SheetColumn,
  type SheetEntity,
} from '@zusammen/core/new-entities';
import type { Entity } from '@zusammen/core/schema';
import type { System } from '@zusammen/core/api';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useMe, useSystem } from '../../api/hooks.ts';
import { useAbilities } from '../../api/schema.ts';
import { useActions } from '../../parts/actions.ts';
import { Button } from '../../parts/button.tsx';
import { Tag } from '../../parts/chip.tsx';
import { Dialog } from '../../parts/dialog.tsx';
import { Choices, Editable } from '../../parts/editable.tsx';
import { TextField } from '../../parts/form.tsx';
import { plural } from '../../parts/plural.ts';
import { Progress } from '../../parts/progress.tsx';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { Skeleton, Trouble } from '../../parts/states.tsx';
import { count } from '../../parts/time.tsx';
import { Fixed, Made, WhoMay } from './beside.tsx';
import { ColumnsTable } from './columns-table.tsx';
import { forgetSheet, useSheet } from './use-sheet.ts';

/** A new entity out of an uploaded sheet: what each column becomes, what is made, and how its rows come in. */
export function SheetPage({ system, file }: { system: System; file: string }) {
  const navigate = useNavigate();
  const me = useMe();
  const detail = useSystem(system.id);
  const abilities = useAbilities(system.id);
  const state = useSheet(system.id, file);
  const { read, progress, sheet, evidence, references } = state;
  const [asDocument, setAsDocument] = useState(false);
  const entities = (detail.data?.schema.entities ?? []).filter(({ rights }) => rights.read);
  const may = me.data !== undefined && me.data.role !== 'viewer';
  const make = useDo(
    async (ready: SheetEntity) =>
      (await call('post /schema/:system/sheets', { params: { system: system.id }, body: { file, sheet: ready } }))
        .change,
    ['schema changes', 'systems'],
  );
  const measure = useDo(
    async (column: SheetColumn) =>
      (await call('post /schema/:system/sheets/reference', { params: { system: system.id }, body: { file, column } }))
        .seen,
    [],
  );
  const able = abilities.data?.entities === true;
  const start = (): void => {
    if (!sheet || make.isPending) return;
    make.mutate(sheet, {
      onSuccess: (change) => {
        forgetSheet(system.id, file);
        void navigate(`/schema/changes/${change}`);
      },
    });
  };
  useActions(sheet && may && able ? [{ name: `Make ${sheet.label} and take its rows in`, act: start }] : []);
  const refer = (column: SheetColumn, entity: Entity): void => {
    const before = column.field ?? { name: 'reference', label: column.column };
    const known = references.get(column.column)?.reference;
    const reference = known?.entity === entity.name ? known : { by: 'name' as const, entity: entity.name };
    const next: SheetColumn = {
      ...asType(column.column, { ...before, relation: entity.name }, 'reference', evidence.get(column.column)!),
      reference,
    };
    state.change({ ...sheet!, columns: sheet!.columns.map((each) => (each.column === next.column ? next : each)) });
    if (known?.entity !== entity.name) measure.mutate(next, { onSuccess: state.measured });
  };
  const problem = make.error;
  return (
    <>
      <Heading
        crumbs={
          <>
            <Link to={`/schema?system=${system.id}`}>Schema / {system.name} /</Link>
          </>
        }
        title={`A new entity from ${read?.name ?? 'a sheet'}`}
        actions={
          sheet && (
            <>
              {state.changed && <Button onClick={state.afresh}>Back to the proposal</Button>}
              <Button onClick={() => setAsDocument(true)}>As a document</Button>
              {may && (
                <Button
                  look="strong"
                  busy={make.isPending}
                  disabled={!able || takenColumns(sheet).length === 0}
                  onClick={start}
                >
                  Make {sheet.label} and take in {plural(read?.rows ?? 0, 'row')}
                </Button>
              )}
            </>
          )
        }
      >
        <Tag>{system.practice ? 'practice' : 'real'}</Tag>
      </Heading>
      {state.error !== undefined && <Trouble error={state.error} />}
      {problem && (
        <div role="alert" className="mb-3 rounded-[8px] bg-brick-wash px-4 py-3">
          <p className="font-semibold text-brick">{problem.title}</p>
          {problem.errors.length > 0 ? (
            <ul>
              {problem.errors.map(({ field, reason }) => (
                <li key={field}>
                  <code className="font-mono text-[13px]">{field}</code> {reason}
                </li>
              ))}
            </ul>
          ) : (
            <p>{problem.message}</p>
          )}
        </div>
      )}
      {abilities.data && !able && (
        <p role="note" className="mb-3 rounded-[8px] bg-saffron-wash px-4 py-3 text-saffron">
          ◆ {system.name} doesn’t let this connection make entities. Take it along as a document, have it made there,
          and read the schema again.
        </p>
      )}
      {!sheet && state.error === undefined && (
        <Sheet title={read ? `Looking through ${count(read.rows)} rows …` : 'Reading the sheet …'}>
          {read && (
            <div className="px-4 py-3">
              <Progress label="Rows looked through" done={progress} of={read.rows} />
            </div>
          )}
          <Skeleton rows={8} />
        </Sheet>
      )}
      {sheet && read && (
        <div className="grid grid-cols-[minmax(0,1fr)_330px] items-start gap-3.5 max-[1100px]:grid-cols-1">
          <Sheet>
            <Sentence
              {...{ sheet, change: state.change, disabled: !may }}
              place={`${read.sheet === undefined ? 'the file' : `sheet “${read.sheet}”`}, from line ${read.heading}`}
            />
            <ColumnsTable
              {...{ sheet, evidence, references, entities, refer, disabled: !may }}
              sample={read.sample}
              columns={read.columns}
              rows={read.rows}
              change={state.change}
            />
            <Footer {...{ read, whole: state.whole, measuring: measure.isPending }} trouble={measure.error?.message} />
          </Sheet>
          <div className="space-y-3.5">
            <Fixed sheet={sheet} />
            <Made {...{ sheet, references, entities }} rows={read.rows} removing={abilities.data?.removing === true} />
            {abilities.data && (
              <WhoMay
                {...{ sheet, change: state.change, disabled: !may }}
                abilities={abilities.data}
                system={system.name}
              />
            )}
          </div>
        </div>
      )}
      {asDocument && sheet && <AsDocument sheet={sheet} close={() => setAsDocument(false)} />}
    </>
  );
}

/** What a row becomes, what several are called, and by what a record is named. */
function Sentence({
  sheet,
  place,
  change,
  disabled,
}: {
  sheet: SheetEntity;
  place: string;
  change: (next: SheetEntity) => void;
  disabled: boolean;
}) {
  const named = takenColumns(sheet).filter(({ field }) => field.type === 'text' || field.unique);
  const by = named.find(({ field }) => field.name === sheet.namedBy)?.field;
  return (
    <p className="border-b border-hair px-4 py-3 text-[15px] leading-7">
      Each row of <strong>{place}</strong> becomes {/^[aeiou]/i.test(sheet.label) ? 'an' : 'a'}{' '}
      <Editable className="leading-[1.4]" label="What one is called" shown={sheet.label} disabled={disabled}>
        {() => (
          <div className="w-[300px] space-y-3 p-3">
            <TextField
              label="What one is called"
              value={sheet.label}
              maxLength={80}
              onChange={({ target }) => change({ ...sheet, label: target.value })}
            />
            <TextField
              label="Name in the system"
              className="font-mono"
              value={sheet.name}
              maxLength={60}
              help="It can’t be changed later."
              onChange={({ target }) => change({ ...sheet, name: target.value })}
            />
          </div>
        )}
      </Editable>
      , several are{' '}
      <Editable className="leading-[1.4]" label="What several are called" shown={sheet.plural} disabled={disabled}>
        {() => (
          <div className="w-[300px] p-3">
            <TextField
              label="What several are called"
              value={sheet.plural}
              maxLength={80}
              onChange={({ target }) => change({ ...sheet, plural: target.value })}
            />
          </div>
        )}
      </Editable>
      . A record is named by{' '}
      <Editable
        className="leading-[1.4]"
        label="What names a record"
        shown={by?.label ?? 'its number'}
        disabled={disabled}
      >
        {(close) => (
          <Choices
            chosen={by?.name ?? ''}
            choose={(name) => {
              const { namedBy: _, ...rest } = sheet;
              change(name === '' ? rest : { ...rest, namedBy: name });
              close();
            }}
            options={[
              ...named.map(({ field }) => ({ value: field.name, label: field.label })),
              { value: '', label: 'the number that the system gives it' },
            ]}
          />
        )}
      </Editable>
      {by ? ', or numbered by the system.' : ', which the system counts.'}
    </p>
  );
}

function Footer({
  read,
  whole,
  measuring,
  trouble,
}: {
  read: { oddities: readonly { row: number; what: string }[] };
  whole: boolean;
  measuring: boolean;
  trouble: string | undefined;
}) {
  const { oddities } = read;
  if (oddities.length === 0 && whole && !measuring && trouble === undefined) return null;
  return (
    <div className="border-t border-hair px-4 py-2.5 text-small">
      {(!whole || measuring) && (
        <p role="status" className="text-soft">
          Looking for the records that columns name …
        </p>
      )}
      {trouble !== undefined && <p className="text-brick">{trouble}</p>}
      {oddities.length > 0 && (
        <ul aria-label="What is odd about the sheet" className="max-h-[120px] overflow-auto text-soft" tabIndex={0}>
          {[...oddities]
            .sort((a, b) => a.row - b.row)
            .slice(0, 50)
            .map(({ row, what }, at) => (
              <li key={at}>
                Line {row} {what}
              </li>
            ))}
          {oddities.length > 50 && <li>and {oddities.length - 50} more</li>}
        </ul>
      )}
    </div>
  );
}

function AsDocument({ sheet, close }: { sheet: SheetEntity; close: () => void }) {
  const text = JSON.stringify(definitionOfSheet(sheet), undefined, 2);
  return (
    <Dialog open close={close} title={`${sheet.label} as a definition document`} width={720}>
      <pre tabIndex={0} className="max-h-[52vh] overflow-auto rounded-[8px] bg-sand p-3 font-mono text-[12.5px]">
        {text}
      </pre>
      <div className="mt-3 flex justify-end gap-2">
        <Button onClick={() => void navigator.clipboard.writeText(text)}>Copy</Button>
        <a
          className="inline-flex h-[33px] items-center rounded-[7px] border border-line px-3.5 font-semibold hover:bg-wash"
          download={`${sheet.name}.json`}
          href={`data:application/json;charset=utf-8,${encodeURIComponent(text)}`}
        >
          Take along
        </a>
      </div>
    </Dialog>
  );
}
