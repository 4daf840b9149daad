import { ChoicePart, PLACE_HELP, TextPart } from './parts.tsx';

import { Sentence, type SentenceProps } from './sentence.tsx';

export function Creating(props: SentenceProps) {
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

export function Updating(props: SentenceProps) {
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

export function Deleting(props: SentenceProps) {
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
