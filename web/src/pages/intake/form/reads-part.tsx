import { askNewest, leadingTo } from '@zusammen/core/asking';
import {
  FIRST_FOUND,
  FIRST_LISTED,
  LETTERS,
  READ_TESTS,
  type Fill,
  type ReadPart,
  type Reads,
  type Standing,
} from '@zusammen/core/forms/hosted';
import { stepName } from '@zusammen/core/plans';
import type { Entity } from '@zusammen/core/schema';
import { Button } from '../../../parts/button.tsx';
import { Combobox } from '../../../parts/combobox.tsx';
import { ComparedValue, RemoveComparison } from '../../../parts/condition-editor.tsx';
import { useDraft } from '../draft.tsx';
import type { Editing } from './editing.tsx';
import { BOX, NumberBox, Part } from './part.tsx';

interface Props {
  standing: Standing;
  edited: boolean;
  editing: Editing;
}

/** Which records a question offers, what is shown of them, and what the choice fills. */
export function ReadsPart({ standing, edited, editing }: Props) {
  const { schemas } = useDraft();
  const { item } = standing;
  const { reads } = item;
  if (!reads) return null;
  const entity = schemas.get(reads.system)?.entities.find(({ name }) => name === reads.entity);
  const label = (name: string): string => entity?.fields.find((field) => field.name === name)?.label ?? name;
  const set = (change: Partial<Reads>): void =>
    editing.change(item.id, (held) => (held.reads ? { ...held, reads: { ...held.reads, ...change } } : held));
  const isLookedUp = item.kind === 'record';
  const readable = (entity?.fields ?? []).filter(({ rights }) => rights !== 'none');
  const order = reads.order?.[0];
  return (
    <>
      {' '}
      {isLookedUp ? 'Looked up among ' : 'Chosen among '}
      <Part label="Looked up or listed" shown={entity?.label ?? reads.entity} edited={edited}>
        {(close) => (
          <div className="space-y-1 p-2">
            {(['record', 'one of'] as const).map((kind) => (
              <Button
                key={kind}
                look={item.kind === kind ? 'moss' : 'plain'}
                onClick={() => {
                  editing.change(item.id, (held) => ({ ...held, kind }));
                  close();
                }}
              >
                {kind === 'record' ? 'looked up while typing' : 'listed, the first ones'}
              </Button>
            ))}
          </div>
        )}
      </Part>
      {isLookedUp && (
        <>
          {' '}
          by{' '}
          <Part label="Looked up by" shown={label(reads.by ?? reads.shows[0]!)} edited={edited} wide>
            {(close) => (
              <Combobox
                placeholder="What is typed is compared with"
                items={readable
                  .filter(({ type }) => type === 'text' || type === 'email')
                  .map((field) => ({ value: field.name, label: field.label, words: field.label }))}
                choose={(by) => {
                  set({ by });
                  close();
                }}
              />
            )}
          </Part>{' '}
          from{' '}
          <Part label="Letters" shown={`${reads.letters ?? LETTERS} letters`} edited={edited}>
            {() => (
              <div className="w-[200px] p-2">
                <NumberBox
                  label="From so many letters on"
                  value={reads.letters ?? LETTERS}
                  least={1}
                  most={10}
                  change={(letters = LETTERS) => set({ letters })}
                />
              </div>
            )}
          </Part>
        </>
      )}
      ; shows{' '}
      <Part label="What is shown of each" shown={reads.shows.map(label).join(', ')} edited={edited} wide>
        {() => (
          <ul className="max-h-[300px] space-y-1 overflow-auto p-2">
            {readable.map((field) => {
              const isShown = reads.shows.includes(field.name);
              const isFull = !isShown && reads.shows.length >= 6;
              return (
                <li key={field.name}>
                  <label className="flex items-center gap-2">
                    <input
                      type="checkbox"
                      checked={isShown}
                      disabled={isFull || (isShown && reads.shows.length === 1)}
                      onChange={() =>
                        set({
                          shows: isShown
                            ? reads.shows.filter((name) => name !== field.name)
                            : [...reads.shows, field.name],
                        })
                      }
                    />
                    {field.label}
                  </label>
                </li>
              );
            })}
          </ul>
        )}
      </Part>
      {((reads.where?.length ?? 0) > 0 || edited) && (
        <>
          , only those{' '}
          <Part label="Which records" shown={whereInWords(reads, label, editing)} edited={edited} wide>
            {() => <WhereBox reads={reads} entity={entity} own={standing} editing={editing} set={set} />}
          </Part>
        </>
      )}
      , the first{' '}
      <Part
        label="How many, and in which order"
        shown={`${reads.first ?? (isLookedUp ? FIRST_FOUND : FIRST_LISTED)}${order ? ` by ${label(order.field)}${order.down ? ', from the top' : ''}` : ''}`}
        edited={edited}
      >
        {() => (
          <div className="w-[260px] space-y-2 p-2">
            <NumberBox
              label="At most"
              value={reads.first ?? (isLookedUp ? FIRST_FOUND : FIRST_LISTED)}
              least={1}
              most={200}
              change={(first = FIRST_LISTED) => set({ first })}
            />
            {[0, 1].map((at) => (
              <select
                key={at}
                aria-label={at === 0 ? 'In the order of' : 'and then of'}
                className={`${BOX} w-full`}
                value={reads.order?.[at]?.field ?? ''}
                onChange={({ target }) => {
                  const kept = (reads.order ?? []).slice(0, at);
                  set({ order: target.value === '' ? kept : [...kept, { field: target.value }] });
                }}
              >
                <option value="">{at === 0 ? 'as the system gives them' : 'and nothing else'}</option>
                {readable.map((field) => (
                  <option key={field.name} value={field.name}>
                    by {field.label}
                  </option>
                ))}
              </select>
            ))}
            {order && (
              <label className="flex items-center gap-2">
                <input
                  type="checkbox"
                  checked={order.down === true}
                  onChange={({ target }) =>
                    set({ order: [{ field: order.field, down: target.checked }, ...(reads.order ?? []).slice(1)] })
                  }
                />
                the highest or newest first
              </label>
            )}
          </div>
        )}
      </Part>
      .
      {entity && (
        <Fills standing={standing} reads={reads} entity={entity} edited={edited} editing={editing} set={set} />
      )}
    </>
  );
}

function whereInWords(
  { where = [] }: Reads,
  label: (name: string) => string,
  { standings, language }: Editing,
): string {
  if (where.length === 0) return 'of any kind';
  return where
    .map(({ field, test, value, answer }) => {
      const other = standings.find(({ name }) => name === answer)?.item.label[language] ?? answer;
      return `whose ${label(field)} ${test}${test.endsWith('blank') ? '' : ` ${answer === undefined ? value : other}`}`;
    })
    .join(' and ');
}

function WhereBox({
  reads,
  entity,
  own,
  editing,
  set,
}: {
  reads: Reads;
  entity: Entity | undefined;
  own: Standing;
  editing: Editing;
  set: (change: Partial<Reads>) => void;
}) {
  const where = reads.where ?? [];
  const fields = (entity?.fields ?? []).filter(({ rights }) => rights !== 'none');
  const put = (at: number, part: ReadPart): void => set({ where: where.with(at, part) });
  const others = editing.standings.filter(
    ({ item, name, groups }) =>
      name !== '' &&
      item.kind !== 'group' &&
      item.id !== own.item.id &&
      (groups.length === 0 || groups.at(-1) === own.groups.at(-1)),
  );
  return (
    <div className="space-y-2 p-2">
      {where.map((part, at) => {
        const options = fields.find(({ name }) => name === part.field)?.options;
        return (
          <div key={at} className="flex flex-wrap items-center gap-1.5">
            <select
              aria-label="Field"
              className={`${BOX} max-w-[150px]`}
              value={part.field}
              onChange={({ target }) => put(at, { field: target.value, test: 'is not blank' })}
            >
              {fields.map(({ name, label }) => (
                <option key={name} value={name}>
                  {label}
                </option>
              ))}
            </select>
            <select
              aria-label="Comparison"
              className={BOX}
              value={part.test}
              onChange={({ target }) => {
                const test = target.value as ReadPart['test'];
                const isBare = test.endsWith('blank');
                put(
                  at,
                  isBare
                    ? { field: part.field, test }
                    : {
                        ...part,
                        test,
                        ...(part.answer === undefined ? { value: part.value ?? options?.[0]?.value ?? '' } : {}),
                      },
                );
              }}
            >
              {READ_TESTS.map((test) => (
                <option key={test}>{test}</option>
              ))}
            </select>
            {!part.test.endsWith('blank') && (
              <>
                <select
                  aria-label="Compared with"
                  className={`${BOX} max-w-[150px]`}
                  value={part.answer ?? ''}
                  onChange={({ target }) =>
                    put(
                      at,
                      target.value === ''
                        ? { field: part.field, test: part.test, value: '' }
                        : { field: part.field, test: part.test, answer: target.value },
                    )
                  }
                >
                  <option value="">this value</option>
                  {others.map(({ item, name }) => (
                    <option key={name} value={name}>
                      what is said to {item.label[editing.language] ?? name}
                    </option>
                  ))}
                </select>
                {part.answer === undefined && (
                  <ComparedValue
                    value={part.value ?? ''}
                    options={options}
                    change={(value) => put(at, { ...part, value })}
                  />
                )}
              </>
            )}
            <RemoveComparison remove={() => set({ where: where.toSpliced(at, 1) })} />
          </div>
        );
      })}
      <Button
        disabled={fields.length === 0 || where.length >= 10}
        onClick={() => set({ where: [...where, { field: fields[0]!.name, test: 'is not blank' }] })}
      >
        Add a comparison
      </Button>
    </div>
  );
}

/** What the choice fills: questions by the chosen record's values, or by those of the newest record that leads to it. */
function Fills({
  standing,
  reads,
  entity,
  edited,
  editing,
  set,
}: {
  standing: Standing;
  reads: Reads;
  entity: Entity;
  edited: boolean;
  editing: Editing;
  set: (change: Partial<Reads>) => void;
}) {
  const { document, schemas, change } = useDraft();
  const fills = reads.fills ?? [];
  const named = fills
    .filter(({ field }) => field !== undefined)
    .map(({ into }) => editing.standings.find(({ name }) => name === into)?.item.label[editing.language] ?? into);
  if (fills.length === 0 && !edited) return null;
  const schema = schemas.get(reads.system)!;
  const leading = leadingTo(schema, entity.name);
  const over = leading.find(({ entity: name }) => fills.some(({ of }) => of?.entity === name));
  const labelOf = (name: string): string => schema.entities.find((each) => each.name === name)?.label ?? name;
  const others = editing.standings.filter(
    ({ item, name, groups }) =>
      name !== '' && item.kind !== 'group' && item.id !== standing.item.id && groups.at(-1) === standing.groups.at(-1),
  );
  const steps = document.plan.steps.filter(
    (step) => !step.record && leading.some(({ entity: name }) => name === step.entity) && step.system === reads.system,
  );
  const put = (into: string, value: string): void => {
    const rest = fills.filter((fill) => fill.into !== into);
    if (value === '') return set({ fills: rest });
    const [of, field] = value.split('\n');
    const newest = leading.find(({ entity: name }) => name === of);
    const fill: Fill = { into, ...(field ? { field } : {}), ...(newest ? { of: newest } : {}) };
    set({ fills: [...rest, fill] });
  };
  return (
    <>
      {' '}
      When chosen, fills{' '}
      <Part label="What it fills" shown={named.length === 0 ? 'nothing' : named.join(', ')} edited={edited} wide>
        {() => (
          <div className="space-y-2 p-2">
            {steps.map((step) => {
              const of = leading.find(({ entity: name }) => name === step.entity)!;
              return (
                <Button
                  key={step.id}
                  look="moss"
                  onClick={() => change((held) => askNewest(held, step.id, standing.item.id, of, editing.asking))}
                >
                  Change its newest {stepName(step, document.plan.steps, schemas)}
                </Button>
              );
            })}
            {others.length === 0 && <p className="text-small text-soft">There is no other question to fill.</p>}
            {others.map(({ item, name }) => {
              const fill = fills.find(({ into }) => into === name);
              return (
                <label key={name} className="grid grid-cols-[1fr_190px] items-center gap-2">
                  <span className="truncate text-small">{item.label[editing.language] ?? name}</span>
                  <select
                    className={`${BOX} w-full`}
                    value={fill ? `${fill.of?.entity ?? ''}\n${fill.field ?? ''}` : ''}
                    onChange={({ target }) => put(name, target.value)}
                  >
                    <option value="">stays as it is</option>
                    {entity.fields
                      .filter(({ rights, type }) => rights !== 'none' && type !== 'id')
                      .map((field) => (
                        <option key={field.name} value={`\n${field.name}`}>
                          its {field.label}
                        </option>
                      ))}
                    {leading.flatMap(({ entity: from }) =>
                      (schema.entities.find((each) => each.name === from)?.fields ?? [])
                        .filter(({ rights }) => rights !== 'none')
                        .map((field) => (
                          <option
                            key={`${from} ${field.name}`}
                            value={`${from}\n${field.type === 'id' ? '' : field.name}`}
                          >
                            its newest {labelOf(from)}: {field.label}
                          </option>
                        )),
                    )}
                  </select>
                </label>
              );
            })}
          </div>
        )}
      </Part>
      {over && (
        <>
          {' '}
          out of its <b className="font-semibold">newest {labelOf(over.entity)}</b>
        </>
      )}
      .
    </>
  );
}
