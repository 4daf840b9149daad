import { suggestRecognition } from '@zusammen/core/recognition';
import type { Entity, Field } from '@zusammen/core/schema';
import { useEffect, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useMe, useReach, useSystem, useSystems } from '../api/hooks.ts';
import { useRecognitions } from '../api/recognition.ts';
import type { ReachedUse } from '@zusammen/core/api';
import { RowsInSight } from '../parts/in-sight.tsx';
import { plural } from '../parts/plural.ts';
import { Incoming, Outgoing, Tag } from '../parts/chip.tsx';
import { cx } from '../parts/cx.ts';
import { DropFile } from '../parts/drop-file.tsx';
import { Editable } from '../parts/editable.tsx';
import { SearchBox } from '../parts/search-box.tsx';
import { Heading, Sheet, TD, TH, TH_WRAPS } from '../parts/sheet.tsx';
import { Empty, Fetched } from '../parts/states.tsx';
import { Moment } from '../parts/time.tsx';
import { useUpload } from './new-entity/use-upload.ts';
import { rightsInWords } from './rights-in-words.ts';

/** What the systems keep: systems › entities › fields, as read from them. */
export function Schema() {
  const systems = useSystems();
  const [params, setParams] = useSearchParams();
  const [search, setSearch] = useState('');
  const system = systems.data?.find(({ id }) => id === params.get('system')) ?? systems.data?.[0];
  const detail = useSystem(system?.id);
  const me = useMe();
  const may = me.data !== undefined && me.data.role !== 'viewer';
  const { share, problem, send } = useUpload(system?.id);
  const entities = detail.data?.schema.entities ?? [];
  const named = params.get('entity');
  const entity =
    named === null
      ? (entities.find(({ rights }) => rights.create) ?? entities[0])
      : entities.find(({ name }) => name === named);
  if (systems.data?.length === 0) {
    return (
      <>
        <Heading title="Schema" />
        <Sheet>
          <Empty title="No system is connected">
            <Link to="/systems?connect=1" className="text-plum underline">
              Connect one
            </Link>{' '}
            and its entities appear here.
          </Empty>
        </Sheet>
      </>
    );
  }
  return (
    <DropFile label="Make a new entity of this sheet" disabled={!may} choose={(file) => void send(file)}>
      <Heading
        crumbs={system && `Schema / ${system.name} /`}
        title={entity?.label ?? 'Schema'}
        actions={
          <>
            <SearchBox
              label="Find a field"
              placeholder="Find a field"
              text={search}
              change={setSearch}
              width="w-[180px]"
            />
            {may && system && (
              <Link
                to={`/schema/field?system=${system.id}&entity=${entity?.name ?? ''}`}
                className="inline-flex h-[33px] items-center rounded-[7px] border border-line bg-sheet px-3.5 font-semibold whitespace-nowrap hover:bg-wash"
              >
                New field
              </Link>
            )}
            {may && (
              <Link
                to={`/schema/new?system=${system?.id ?? ''}`}
                className="inline-flex h-[33px] items-center rounded-[7px] border border-line bg-sheet px-3.5 font-semibold whitespace-nowrap hover:bg-wash"
              >
                New entity
              </Link>
            )}
          </>
        }
      >
        {system && entity && <RecognitionLink system={system.id} entity={entity} />}
        {entity && <Tag>{rightsInWords(entity.rights)}</Tag>}
        {detail.data?.readAt && (
          <span className="text-soft">
            read <Moment at={detail.data.readAt} />
          </span>
        )}
      </Heading>
      {share !== undefined && (
        <p role="status" className="mb-2 text-soft">
          {share < 1 ? `Sending the sheet, ${Math.round(share * 100)} %` : 'Reading the sheet …'}
        </p>
      )}
      {problem !== undefined && (
        <p role="alert" className="mb-2 text-brick">
          {problem}
        </p>
      )}
      <div className="grid grid-cols-[240px_minmax(0,1fr)] items-start gap-3.5 max-[900px]:grid-cols-1">
        <div className="space-y-3.5">
          {systems.data?.map((each) => (
            <Sheet key={each.id} title={each.name} aside={each.practice ? 'practice' : 'real'}>
              {each.id === system?.id ? (
                <ul className="py-1">
                  {entities.map(({ name, label, fields }) => (
                    <li key={name}>
                      <button
                        type="button"
                        aria-current={name === entity?.name}
                        onClick={() => setParams({ system: each.id, entity: name })}
                        className={cx(
                          'flex w-full justify-between px-4 py-1.5 text-left hover:bg-wash',
                          name === entity?.name &&
                            'bg-moss-wash font-semibold shadow-[inset_4px_0_0_var(--color-moss)]',
                        )}
                      >
                        {label}
                        <span className="font-mono text-[13px] font-normal text-soft">{fields.length}</span>
                      </button>
                    </li>
                  ))}
                </ul>
              ) : (
                <button
                  type="button"
                  className="px-4 py-2 text-plum hover:underline"
                  onClick={() => setParams({ system: each.id })}
                >
                  Show its entities
                </button>
              )}
            </Sheet>
          ))}
          {entity?.roles && <WhoMay roles={entity.roles} />}
          <Link to="/schema/changes" className="block px-4 text-plum hover:underline">
            What was changed from here
          </Link>
        </div>
        <Sheet>
          <Fetched query={detail} rows={12}>
            {() =>
              entity ? (
                <Fields system={system!.id} entity={entity} search={search} at={params.get('field')} />
              ) : (
                <Empty title={named === null ? 'This connection can see no entities' : 'There is no such entity'} />
              )
            }
          </Fetched>
        </Sheet>
      </div>
    </DropFile>
  );
}

/** Who of the system's people reads and who changes records of the entity, as the system names them. */
function WhoMay({ roles: { reads, writes } }: { roles: NonNullable<Entity['roles']> }) {
  const named = (roles: readonly string[]): string => (roles.length === 0 ? 'nobody' : roles.join(', '));
  return (
    <Sheet title="Who may">
      <p className="px-4 py-2.5">
        <strong>{named(reads)}</strong> {reads.length > 1 ? 'read' : 'reads'}, <strong>{named(writes)}</strong>{' '}
        {writes.length > 1 ? 'change' : 'changes'}
      </p>
    </Sheet>
  );
}

/** The way to how an entity's records are recognised, where it keeps people or organisations. */
function RecognitionLink({ system, entity }: { system: string; entity: Entity }) {
  const known = useRecognitions().data?.find((each) => each.system === system && each.entity === entity.name);
  if (!known && !suggestRecognition(entity)) return null;
  return (
    <Link
      to={`/schema/recognition?system=${system}&entity=${entity.name}`}
      className="rounded-[5px] bg-moss-wash px-2 py-0.5 text-small font-semibold whitespace-nowrap text-moss hover:underline"
    >
      {known ? `Recognition, ${known.known.toLocaleString()} known` : 'Set up recognition'}
    </Link>
  );
}

function Fields({ system, entity, search, at }: { system: string; entity: Entity; search: string; at: string | null }) {
  const reach = useReach(system, entity.name);
  const low = search.toLowerCase();
  const fields = entity.fields.filter((field) => `${field.label} ${field.name}`.toLowerCase().includes(low));
  if (fields.length === 0) return <Empty title="No field is called so" />;
  return (
    <table className="w-full table-fixed">
      <thead>
        <tr>
          <th className={cx(TH, 'w-[19%] pl-4')}>Field</th>
          <th className={cx(TH_WRAPS, 'w-[15%]')}>Name in the system</th>
          <th className={cx(TH, 'w-[12%]')}>Type</th>
          <th className={cx(TH, 'w-[17%]')}>Options or limit</th>
          <th className={cx(TH, 'w-[15%]')}>Reach</th>
          <th className={TH}>Marks</th>
        </tr>
      </thead>
      <RowsInSight of={fields} nameOf={({ name }) => name} columns={6} height={34} chosen={at}>
        {(field) => (
          <FieldRow
            system={system}
            field={field}
            entity={entity}
            chosen={field.name === at}
            uses={reach.data?.filter((use) => use.field === field.name)}
          />
        )}
      </RowsInSight>
    </table>
  );
}

/** Where in an intake it stands how a field is used. */
function stationOf({ how }: ReachedUse): 'arrive' | 'open' | 'plan' {
  if (how === 'read by a form' || how === 'begins a question') return 'arrive';
  return how === 'starts a conversion' ? 'open' : 'plan';
}

/** What reads or writes a field: which intakes, from which fields of their forms, by which way. */
function Reach({ field, uses }: { field: Field; uses: ReachedUse[] | undefined }) {
  if (!uses) return null;
  if (uses.length === 0) return <span className="text-small text-soft">nothing</span>;
  const [intakes, pairings] = (['intake', 'pairing'] as const).map(
    (by) => new Set(uses.flatMap((use) => (use.by === by ? [use.id] : []))).size,
  ) as [number, number];
  const shown = [
    ...(intakes > 0 ? [plural(intakes, 'intake')] : []),
    ...(pairings > 0 ? [plural(pairings, 'pairing')] : []),
  ];
  return (
    <Editable
      bare
      wide
      label={`Reach of ${field.label}`}
      className="whitespace-nowrap text-plum hover:underline"
      shown={shown.join(', ')}
    >
      {() => (
        <ul className="space-y-2.5 p-2">
          {uses.map((use, at) => (
            <li key={at}>
              <Link
                className="font-semibold hover:underline"
                to={use.by === 'pairing' ? `/pairings/${use.id}` : `/intakes/${use.id}/${stationOf(use)}`}
              >
                {use.name}
              </Link>{' '}
              <span className="text-small text-soft">
                {use.live ? 'live' : 'draft only'}
                {use.suggested && ', suggested'}
              </span>
              <span className="mt-0.5 flex flex-wrap items-center gap-1.5">
                {use.from.map((label) => (
                  <Incoming key={label}>{label}</Incoming>
                ))}
                <span className="text-small text-soft">
                  {use.how === 'written'
                    ? `${use.treatments.length === 0 ? 'as it is' : use.treatments.join(', then ')} → ${use.ifBoth}`
                    : use.how === 'evidence'
                      ? 'counts as evidence of who is meant'
                      : use.how}
                </span>
              </span>
            </li>
          ))}
        </ul>
      )}
    </Editable>
  );
}

function FieldRow({
  system,
  field,
  entity,
  chosen,
  uses,
}: {
  system: string;
  field: Field;
  entity: Entity;
  chosen: boolean;
  uses: ReachedUse[] | undefined;
}) {
  const row = useRef<HTMLTableRowElement>(null);
  useEffect(() => {
    if (chosen) row.current?.scrollIntoView({ block: 'center' });
  }, [chosen]);
  const options = field.options?.map(({ label }) => label).join(', ');
  const isKey = field.name === entity.key || entity.keyParts?.includes(field.name) === true;
  return (
    <tr ref={row} className={cx(chosen && 'bg-moss-wash')}>
      <td className={cx(TD, 'truncate pl-4')}>
        <Outgoing muted={field.rights === 'none'}>{field.label}</Outgoing>
      </td>
      <td className={cx(TD, 'truncate font-mono text-[13px]')}>{field.name}</td>
      <td className={cx(TD, 'truncate')}>
        {field.type === 'reference' ? `→ ${field.relation ?? 'unseen'}` : field.type}
      </td>
      <td className={cx(TD, 'truncate text-small text-soft')} title={options}>
        {options !== undefined && field.rights !== 'none' ? (
          <Link
            to={`/schema/options?of=${encodeURIComponent([system, entity.name, field.name].join('~'))}`}
            aria-label={`${options}: compare the options of ${field.label}`}
            className="block truncate leading-6 text-plum hover:underline"
          >
            {options}
          </Link>
        ) : (
          (options ??
          (field.maxLength !== undefined
            ? plural(field.maxLength, 'character')
            : field.scale !== undefined
              ? plural(field.scale, 'decimal')
              : ''))
        )}
      </td>
      <td className={TD}>
        <Reach field={field} uses={uses} />
      </td>
      <td className={TD}>
        <span className="flex flex-wrap gap-1 [&>span]:whitespace-normal">
          {isKey && <Tag>names the record</Tag>}
          {field.given && <Tag>may be chosen</Tag>}
          {field.required && <Tag tone="plum">required</Tag>}
          {field.unique && <Tag tone="moss">unique</Tag>}
          {field.computed && !isKey && <Tag>filled by the system</Tag>}
          {field.immutable && <Tag>fixed after creation</Tag>}
          {field.defaulted && <Tag>has a default</Tag>}
          {field.rights === 'none' && <Tag tone="saffron">hidden from this connection</Tag>}
          {field.closed !== undefined && <Tag tone="saffron">can’t be written: {field.closed}</Tag>}
          {field.rights === 'read' && <Tag tone="saffron">read only</Tag>}
        </span>
      </td>
    </tr>
  );
}
