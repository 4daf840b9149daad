import { PAGINGS, type EntityAdapter, type PagingKind } from '@zusammen/core/adapters';
import { ChoicePart, PLACE_HELP, TextPart } from './parts.tsx';

import { Sentence, type SentenceProps } from './sentence.tsx';
import { Creating, Deleting, Updating } from './write-sentences.tsx';

/** How an entity's records are reached, as sentences whose underlined parts are edited in place. */
export function Sentences(props: SentenceProps) {
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

const PAGING_WORDS: Record<PagingKind, string> = {
  none: 'all come at once',
  'link header': 'the Link header',
  'next link': 'a link in the answer',
  cursor: 'a cursor',
  'last record': 'the last record’s id',
  page: 'a page number',
  offset: 'an offset',
};

function Listing(props: SentenceProps & { list: NonNullable<EntityAdapter['list']> }) {
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

function Reading(props: SentenceProps) {
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

function KeyPart({ entity, change, locked }: SentenceProps) {
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

function Finding(props: SentenceProps) {
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

function Changes(props: SentenceProps) {
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
