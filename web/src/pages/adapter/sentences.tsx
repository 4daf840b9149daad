import {
  PAGINGS,
  type AdapterOperation,
  type AdapterReasons,
  type AdapterTrial,
  type EntityAdapter,
  type PagingKind,
} from '@zusammen/core/adapters';
import type { ReactNode } from 'react';
import { cx } from '../../parts/cx.ts';
import { span } from '../../parts/time.tsx';
import { ChoicePart, PLACE_HELP, TextPart } from './parts.tsx';

interface Props {
  entity: EntityAdapter;
  reasons: AdapterReasons;
  trials: readonly AdapterTrial[];
  /** Which operation's answer is shown beside. */
  shown: AdapterOperation | undefined;
  show: (operation: AdapterOperation) => void;
  change: (change: (entity: EntityAdapter) => EntityAdapter) => void;
  locked: boolean;
}

/** How an entity's records are reached, as sentences whose underlined parts are edited in place. */
export function Sentences(props: Props) {
  const { entity } = props;
  return (
    <ol>
      {entity.list && <Listing {...props} list={entity.list} />}
      {entity.read && <Reading {...props} />}
      <Finding {...props} />
      {entity.create && <Creating {...props} />}
      {entity.update && <Updating {...props} />}
      {entity.remove && <Deleting {...props} />}
      <Changes {...props} />
    </ol>
  );
}

/** One sentence, with what came of trying it and why it is so. */
function Sentence({
  operations,
  parts,
  children,
  entity,
  reasons,
  trials,
  shown,
  show,
}: Props & { operations: readonly AdapterOperation[]; parts: readonly string[]; children: ReactNode }) {
  const those = trials.filter((each) => operations.includes(each.operation));
  const [main] = those;
  const isShown = shown !== undefined && operations.includes(shown);
  const why = parts.flatMap((part) => reasons[`${entity.name}/${part}`] ?? []);
  return (
    <li className={cx('border-b border-hair px-4 py-2.5', isShown && 'shadow-[inset_3px_0_0_var(--color-plum)]')}>
      <div className="flex items-start justify-between gap-3">
        <p className="min-w-0 leading-[26px]">{children}</p>
        <span className="flex flex-none flex-col items-end gap-0.5">
          {those.map((trial, at) => (
            <button
              key={`${trial.operation} ${at}`}
              type="button"
              onClick={() => show(trial.operation)}
              aria-label={`${trial.operation}: ${trial.words} Show its answer`}
              className="text-small whitespace-nowrap hover:underline"
            >
              <TrialMark trial={trial} />
            </button>
          ))}
        </span>
      </div>
      {those.some(({ state }) => state === 'failed') && (
        <p className="text-small text-brick">{those.find(({ state }) => state === 'failed')!.words}</p>
      )}
      {why.length > 0 && (
        <p className="text-small text-soft">
          {sentenceOf([...new Set(why.map((each) => each.why))])} {sureness(Math.min(...why.map(({ sure }) => sure)))}
        </p>
      )}
      {main === undefined && why.length === 0 && <p className="text-small text-soft">not tried yet</p>}
    </li>
  );
}

const sentenceOf = (whys: readonly string[]): string => {
  const text = whys.join('; ');
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
};

/** How sure an inference is, in a word and a figure. */
export function sureness(sure: number): string {
  if (sure >= 1) return '';
  const word = sure >= 0.9 ? 'Sure' : sure >= 0.6 ? 'Likely' : 'A guess';
  return `${word}: ${Math.round(sure * 100)} %.`;
}

export function TrialMark({ trial }: { trial: AdapterTrial }) {
  const { state, operation, ms } = trial;
  if (state === 'failed') return <span className="text-brick">■ {operation} fails</span>;
  if (state === 'untried') return <span className="text-soft">○ {operation} not tried</span>;
  return (
    <span className="text-moss">
      ● {operation}
      {ms !== undefined && <span className="font-mono"> {span(ms)}</span>}
    </span>
  );
}

const PAGING_WORDS: Record<PagingKind, string> = {
  none: 'all come at once',
  'link header': 'the Link header',
  'next link': 'a link in the answer',
  cursor: 'a cursor',
  'last record': 'the last record’s id',
  page: 'a page number',
  offset: 'an offset',
};

function Listing(props: Props & { list: NonNullable<EntityAdapter['list']> }) {
  const { list, change, locked } = props;
  const { paging } = list;
  const set = (part: Partial<typeof list>): void => change((entity) => ({ ...entity, list: { ...list, ...part } }));
  const page = (part: Partial<typeof paging>): void => set({ paging: { ...paging, ...part } });
  const needsPlace = paging.kind === 'cursor' || paging.kind === 'next link';
  const needsParameter = ['cursor', 'last record', 'page', 'offset'].includes(paging.kind);
  return (
    <Sentence {...props} operations={['list', 'next page']} parts={['records', 'paging']}>
      <b>List</b> by GET{' '}
      <TextPart label="Path of the list" value={list.path} set={(path) => set({ path })} locked={locked} />; records
      stand at{' '}
      <TextPart
        label="Where the records stand"
        value={list.records}
        blank="the root"
        help={PLACE_HELP}
        set={(records) => set({ records })}
        locked={locked}
      />
      {list.byId ? ', each under its id' : ''}; the next page by{' '}
      <ChoicePart
        label="How pages follow one another"
        value={paging.kind}
        options={PAGINGS.map((kind) => ({ value: kind, label: PAGING_WORDS[kind] }))}
        set={(kind) => page({ kind })}
        locked={locked}
      />
      {needsParameter && (
        <>
          {' '}
          in{' '}
          <TextPart
            label="Parameter of the next page"
            value={paging.parameter}
            set={(parameter) => page({ parameter })}
            locked={locked}
          />
        </>
      )}
      {needsPlace && (
        <>
          {' '}
          from{' '}
          <TextPart
            label="Where it stands"
            value={paging.at}
            help={PLACE_HELP}
            set={(at) => page({ at })}
            locked={locked}
          />
        </>
      )}
      {paging.sizeParameter !== undefined && (
        <>
          ,{' '}
          <TextPart
            label="Records at a time"
            value={String(paging.size ?? 100)}
            set={(size) => Number(size) >= 1 && page({ size: Math.floor(Number(size)) })}
            locked={locked}
          />{' '}
          at a time by{' '}
          <TextPart
            label="Parameter of the page size"
            value={paging.sizeParameter}
            set={(sizeParameter) => page({ sizeParameter })}
            locked={locked}
          />
        </>
      )}
      {list.partial && ', less of each than alone'}.
    </Sentence>
  );
}

function Reading(props: Props) {
  const { entity, change, locked } = props;
  const read = entity.read!;
  const set = (part: Partial<typeof read>): void => change((each) => ({ ...each, read: { ...read, ...part } }));
  return (
    <Sentence {...props} operations={['read']} parts={['read', 'key']}>
      <b>Read one</b> by GET{' '}
      <TextPart label="Path of a single record" value={read.path} set={(path) => set({ path })} locked={locked} />,
      named by <KeyPart {...props} />; it stands at{' '}
      <TextPart
        label="Where the record stands"
        value={read.record}
        blank="the root"
        help={PLACE_HELP}
        set={(record) => set({ record })}
        locked={locked}
      />
      .
    </Sentence>
  );
}

function KeyPart({ entity, change, locked }: Props) {
  return (
    <ChoicePart
      label="What names a record"
      value={entity.key[0]!}
      options={entity.fields.map(({ name, label }) => ({ value: name, label: name, help: label }))}
      set={(name) => change((each) => ({ ...each, key: [name] }))}
      locked={locked || entity.key.length > 1}
    />
  );
}

function Finding(props: Props) {
  const { entity, change, locked } = props;
  const labels = new Map(entity.fields.map(({ name, label }) => [name, label]));
  const free = entity.fields.filter(
    ({ name, type }) => type !== 'options' && !entity.find.some(({ field }) => field === name),
  );
  return (
    <Sentence {...props} operations={['find']} parts={entity.find.map(({ field }) => `find/${field}`)}>
      <b>Find</b>{' '}
      {entity.find.map((finder, at) => (
        <span key={finder.field}>
          {at > 0 && ', '}by{' '}
          <ChoicePart
            label="Field that is searched by"
            value={finder.field}
            options={[
              { value: finder.field, label: labels.get(finder.field) ?? finder.field },
              ...free.map(({ name, label }) => ({ value: name, label })),
              { value: '', label: 'not by this' },
            ]}
            set={(field) =>
              change((each) => ({
                ...each,
                find: each.find.flatMap((one) => (one !== finder ? [one] : field === '' ? [] : [{ ...one, field }])),
              }))
            }
            locked={locked}
          />{' '}
          with{' '}
          <TextPart
            label="Parameter"
            value={finder.template === undefined ? finder.parameter : `${finder.parameter}=${finder.template}`}
            help="A parameter, or parameter=template with {value} in it."
            set={(said) =>
              change((each) => ({
                ...each,
                find: each.find.map((one) => (one === finder ? finderFrom(one, said) : one)),
              }))
            }
            locked={locked}
          />
        </span>
      ))}
      {entity.find.length > 0 && entity.list
        ? '; other fields are'
        : entity.list
          ? 'by no field: all are'
          : 'is not possible'}
      {entity.list && ' looked for among the known records'}
      {!locked && entity.list && free.length > 0 && (
        <>
          {' ('}
          <ChoicePart
            label="Search by another field"
            value=""
            options={[{ value: '', label: 'add one' }, ...free.map(({ name, label }) => ({ value: name, label }))]}
            set={(field) =>
              field !== '' && change((each) => ({ ...each, find: [...each.find, { field, parameter: field }] }))
            }
            locked={locked}
          />
          )
        </>
      )}
      .
    </Sentence>
  );
}

function finderFrom(finder: EntityAdapter['find'][number], said: string): EntityAdapter['find'][number] {
  const at = said.indexOf('=');
  const { template: _, ...rest } = finder;
  if (at < 0 || !said.includes('{value}')) return { ...rest, parameter: said || finder.parameter };
  return { ...rest, parameter: said.slice(0, at), template: said.slice(at + 1) };
}

function Creating(props: Props) {
  const { entity, change, locked } = props;
  const create = entity.create!;
  const { repeat } = entity;
  const set = (part: Partial<typeof create>): void => change((each) => ({ ...each, create: { ...create, ...part } }));
  const texts = entity.fields.filter(({ type, readOnly, options }) => type === 'text' && !readOnly && !options);
  return (
    <Sentence {...props} operations={['create', 'repeat']} parts={['create', 'repeat']}>
      <b>Create</b> by{' '}
      <ChoicePart
        label="Method of creating"
        value={create.method}
        options={(['POST', 'PUT'] as const).map((method) => ({ value: method, label: method }))}
        set={(method) => set({ method })}
        locked={locked}
      />{' '}
      <TextPart label="Path of creating" value={create.path} set={(path) => set({ path })} locked={locked} />; what is
      sent stands at{' '}
      <TextPart
        label="Where the record stands in what is sent"
        value={create.body}
        blank="the root"
        help={PLACE_HELP}
        set={(body) => set({ body })}
        locked={locked}
      />
      . Sent again,{' '}
      <ChoicePart
        label="What makes sending again safe"
        value={repeat.by}
        options={[
          { value: 'key', label: 'a header makes it done once' },
          { value: 'marker', label: 'a mark of ours is looked for', help: 'A text field to spare holds it.' },
          { value: 'looking', label: 'it is looked for by its values first' },
          { value: 'none', label: 'Review asks first', help: 'Whether it was made can’t be told.' },
        ]}
        set={(by) =>
          change((each) => ({
            ...each,
            repeat: {
              by,
              ...(by === 'key' ? { header: each.repeat.header ?? 'Idempotency-Key' } : {}),
              ...(by === 'marker' ? { field: each.repeat.field ?? texts.at(-1)?.name ?? '' } : {}),
            },
          }))
        }
        locked={locked}
      />
      {repeat.by === 'key' && (
        <>
          {' '}
          (
          <TextPart
            label="Header of the idempotency key"
            value={repeat.header}
            set={(header) => change((each) => ({ ...each, repeat: { ...each.repeat, header } }))}
            locked={locked}
          />
          )
        </>
      )}
      {repeat.by === 'marker' && (
        <>
          {' in '}
          <ChoicePart
            label="Field that holds our mark"
            value={repeat.field ?? ''}
            options={texts.map(({ name, label }) => ({ value: name, label }))}
            set={(field) => change((each) => ({ ...each, repeat: { ...each.repeat, field } }))}
            locked={locked}
          />
        </>
      )}
      .
    </Sentence>
  );
}

function Updating(props: Props) {
  const { entity, change, locked } = props;
  const update = entity.update!;
  const { version } = entity;
  const guard = version === undefined ? 'none' : version.by === 'ETag' ? 'ETag' : `field ${version.sent}`;
  const fields = entity.fields.filter(({ type }) => ['integer', 'text', 'number', 'date and time'].includes(type));
  return (
    <Sentence {...props} operations={['update']} parts={['update', 'version']}>
      <b>Change</b> by{' '}
      <ChoicePart
        label="Method of changing"
        value={update.method}
        options={[
          { value: 'PATCH', label: 'PATCH' },
          { value: 'PUT', label: 'PUT' },
          { value: 'POST', label: 'POST' },
        ]}
        set={(method) => change((each) => ({ ...each, update: { ...update, method } }))}
        locked={locked}
      />{' '}
      <TextPart
        label="Path of changing"
        value={update.path}
        set={(path) => change((each) => ({ ...each, update: { ...update, path } }))}
        locked={locked}
      />
      ,{' '}
      <ChoicePart
        label="What is sent"
        value={update.whole ? 'whole' : 'part'}
        options={[
          { value: 'part', label: 'only what changed' },
          { value: 'whole', label: 'the whole record' },
        ]}
        set={(what) => {
          const { whole: _, ...rest } = update;
          change((each) => ({ ...each, update: what === 'whole' ? { ...rest, whole: true } : rest }));
        }}
        locked={locked}
      />
      , when{' '}
      <ChoicePart
        label="How a change by somebody else is noticed"
        value={guard}
        options={[
          { value: 'none', label: 'it is as it was read just before' },
          { value: 'ETag', label: 'If-Match: its ETag is the same' },
          { value: 'field If-Match', label: 'If-Match: a field is the same' },
          { value: 'field body', label: 'a field sent with it is the same' },
          { value: 'field query', label: 'a parameter says which version' },
        ]}
        set={(how) =>
          change((each) => {
            const { version: before, ...rest } = each;
            if (how === 'none') return rest;
            if (how === 'ETag') return { ...rest, version: { by: 'ETag', sent: 'If-Match' } };
            const sent = how.slice('field '.length) as 'If-Match' | 'body' | 'query';
            const field =
              before?.field ?? fields.find(({ name }) => /version|rev/i.test(name))?.name ?? fields[0]?.name ?? '';
            return {
              ...rest,
              version: { by: 'field', field, sent, ...(sent === 'query' ? { parameter: field } : {}) },
            };
          })
        }
        locked={locked}
      />
      {version?.by === 'field' && (
        <>
          {' ('}
          <ChoicePart
            label="Field that holds the version"
            value={version.field ?? ''}
            options={fields.map(({ name }) => ({ value: name, label: name }))}
            set={(field) => change((each) => ({ ...each, version: { ...version, field } }))}
            locked={locked}
          />
          )
        </>
      )}
      .
    </Sentence>
  );
}

function Deleting(props: Props) {
  const { entity, change, locked } = props;
  return (
    <Sentence {...props} operations={['delete']} parts={['delete']}>
      <b>Delete</b> by DELETE{' '}
      <TextPart
        label="Path of deleting"
        value={entity.remove!.path}
        set={(path) => change((each) => ({ ...each, remove: { path } }))}
        locked={locked}
      />
      .
    </Sentence>
  );
}

function Changes(props: Props) {
  const { entity, change, locked } = props;
  const { changes } = entity;
  if (!entity.list) return null;
  const moments = entity.fields.filter(({ type }) => type === 'date and time' || type === 'date');
  return (
    <Sentence {...props} operations={['changes']} parts={['changes']}>
      <b>Changes since</b>{' '}
      {changes ? (
        <>
          by{' '}
          <TextPart
            label="Parameter of changes"
            value={changes.parameter}
            help="Empty: there is none, and everything is compared."
            set={(parameter) =>
              change((each) => {
                const { changes: _, ...rest } = each;
                return parameter === '' ? rest : { ...rest, changes: { ...changes, parameter } };
              })
            }
            locked={locked}
          />{' '}
          after the newest{' '}
          <ChoicePart
            label="Field that holds when it was changed"
            value={changes.field}
            options={moments.map(({ name }) => ({ value: name, label: name }))}
            set={(field) => change((each) => ({ ...each, changes: { ...changes, field } }))}
            locked={locked}
          />{' '}
          seen; deletions are not told, so all is compared each night.
        </>
      ) : (
        <>
          are not told, so all is compared every ten minutes
          {!locked && moments.length > 0 && (
            <>
              {' ('}
              <TextPart
                label="Parameter of changes"
                value={undefined}
                blank="there is a parameter"
                set={(parameter) =>
                  parameter !== '' && change((each) => ({ ...each, changes: { parameter, field: moments[0]!.name } }))
                }
                locked={locked}
              />
              )
            </>
          )}
          .
        </>
      )}
    </Sentence>
  );
}
