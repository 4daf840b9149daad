import type { MendDriftBody } from '@zusammen/core/api';
import type { LostPart, RequiredPart, UnfitPart } from '@zusammen/core/lost';
import type { Option } from '@zusammen/core/schema';
import { listed } from '@zusammen/core/values';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../api/client.ts';
import { useDo } from '../api/hooks.ts';
import { useDrift } from '../api/schema.ts';
import { Button } from '../parts/button.tsx';
import { Combobox } from '../parts/combobox.tsx';
import { Editable } from '../parts/editable.tsx';
import { plural } from '../parts/plural.ts';

/** What has changed in a system so that something of ours names what isn't there any more, mended everywhere at once. */
export function Drifted({ system }: { system: string }) {
  const look = useDrift(system);
  const { renames = [], steps = [], lost = [], required = [], unfit = [] } = look.data ?? {};
  return (
    <>
      {steps.length > 0 && <Renamed system={system} renames={renames} steps={steps} />}
      {lost.length > 0 && <Gone system={system} lost={lost} />}
      {required.length > 0 && <Required system={system} required={required} />}
      {unfit.length > 0 && <Unfit system={system} unfit={unfit} />}
    </>
  );
}

type Body = MendDriftBody;

/** Has the places mended, and goes to where that can be watched and taken back. */
function useMend(system: string) {
  const navigate = useNavigate();
  const mend = useDo(
    async (body: Body) => (await call('post /schema/:system/drift', { params: { system }, body })).change,
    ['schema changes', 'intakes', 'pairings', 'recognitions'],
  );
  return {
    ...{ busy: mend.isPending, error: mend.error },
    go: (body: Body) => mend.mutate(body, { onSuccess: (id) => void navigate(`/schema/changes/${id}`) }),
  };
}

/** Something that has changed, and the one press that mends it. */
function Change({
  title,
  mend: { busy, error },
  label,
  press,
  disabled = false,
  children,
}: {
  title: ReactNode;
  mend: ReturnType<typeof useMend>;
  label: string;
  press: () => void;
  disabled?: boolean;
  children: ReactNode;
}) {
  return (
    <div className="border-b border-hair bg-saffron-wash px-4 py-2.5">
      <p className="font-semibold text-saffron">◆ {title}</p>
      <ul className="my-1.5 grid gap-1.5 text-small">{children}</ul>
      <Button look="strong" busy={busy} disabled={disabled} onClick={press}>
        {label}
      </Button>
      {error && (
        <p role="alert" className="mt-1 text-brick">
          {error.message}
        </p>
      )}
    </div>
  );
}

function Renamed({ system, renames, steps }: { system: string; renames: Body['renames']; steps: readonly string[] }) {
  const mend = useMend(system);
  const title = `${plural(steps.length, 'place goes by an old name', 'places go by old names')}; what arrives for them waits.`;
  return (
    <Change title={title} mend={mend} label="Have all of them go by the new name" press={() => mend.go({ renames })}>
      {steps.slice(0, 8).map((step) => (
        <li key={step}>{step}</li>
      ))}
      {steps.length > 8 && <li>and {steps.length - 8} more</li>}
    </Change>
  );
}

const keyOf = ({ entity, field, option }: Omit<LostPart, 'choices'>): string =>
  JSON.stringify([entity, field, option?.value]);

/** What is gone and has no new name: somebody says what is named in its place. */
function Gone({ system, lost }: { system: string; lost: readonly LostPart[] }) {
  const mend = useMend(system);
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const mended = lost.filter((part) => chosen[keyOf(part)] !== undefined);
  const places = new Set(mended.flatMap((part) => part.places)).size;
  const body = (): Body => ({
    renames: mended.flatMap((part) =>
      part.option ? [] : [{ entity: part.entity, was: part.field, is: chosen[keyOf(part)]! }],
    ),
    options: mended.flatMap((part) =>
      part.option
        ? [{ entity: part.entity, field: part.field, from: part.option.value, into: chosen[keyOf(part)]! }]
        : [],
    ),
  });
  return (
    <Change
      title={`${plural(lost.length, 'thing that is named here has gone', 'things that are named here have gone')} from the system.`}
      mend={mend}
      label={
        mended.length === 0
          ? 'Choose what is named in its place'
          : `Have ${plural(places, 'place', 'places')} name what was chosen`
      }
      press={() => mend.go(body())}
      disabled={mended.length === 0}
    >
      {lost.map((part) => (
        <li key={keyOf(part)}>
          {part.option ? (
            <>
              <b className="font-semibold">“{part.option.label}”</b> of {part.called}
            </>
          ) : (
            <b className="font-semibold">{part.called}</b>
          )}
          , named by {listed(part.places, { most: 4, quoted: true })}. In its place:{' '}
          <OneOf
            label={`What is named in the place of ${part.option ? part.option.label : part.called}`}
            placeholder={part.option ? `An option of ${part.called}` : 'A field that is there'}
            choices={part.choices}
            chosen={chosen[keyOf(part)]}
            choose={(value) => setChosen((before) => ({ ...before, [keyOf(part)]: value }))}
          />
        </li>
      ))}
    </Change>
  );
}

/** What must be given by now: whatever makes records without it gives it a value from then on. */
function Required({ system, required }: { system: string; required: readonly RequiredPart[] }) {
  const mend = useMend(system);
  const [given, setGiven] = useState<Record<string, string>>({});
  const set = (part: RequiredPart, value: string): void => setGiven((before) => ({ ...before, [keyOf(part)]: value }));
  const filled = required.filter((part) => (given[keyOf(part)] ?? '').trim() !== '');
  const places = new Set(filled.flatMap((part) => part.places)).size;
  const fillingOf = (part: RequiredPart) => ({
    ...{ entity: part.entity, field: part.field },
    value: given[keyOf(part)]!.trim(),
  });
  return (
    <Change
      title={`${plural(required.length, 'field must', 'fields must')} be given by now, and not everything gives ${required.length === 1 ? 'it' : 'them'}.`}
      mend={mend}
      label={filled.length === 0 ? 'Say what is given' : `Have ${plural(places, 'place', 'places')} give it`}
      press={() => mend.go({ renames: [], filled: filled.map(fillingOf) })}
      disabled={filled.length === 0}
    >
      {required.map((part) => (
        <li key={keyOf(part)}>
          <b className="font-semibold">{part.called}</b>: nothing comes from{' '}
          {listed(part.places, { most: 4, quoted: true })}. From now on:{' '}
          {part.choices ? (
            <OneOf
              label={`What ${part.called} is given`}
              placeholder={`An option of ${part.called}`}
              choices={part.choices}
              chosen={given[keyOf(part)]}
              choose={(value) => set(part, value)}
            />
          ) : (
            <input
              aria-label={`What ${part.called} is given`}
              className="h-[30px] w-[180px] rounded-[6px] border border-line bg-sheet px-2.5"
              value={given[keyOf(part)] ?? ''}
              onChange={({ target }) => set(part, target.value)}
            />
          )}
        </li>
      ))}
    </Change>
  );
}

/** What takes other values than it did: lines that bring it something treat it accordingly from then on. */
function Unfit({ system, unfit }: { system: string; unfit: readonly UnfitPart[] }) {
  const mend = useMend(system);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const fitted = unfit.filter((part) => !left.has(keyOf(part)));
  const places = new Set(fitted.flatMap((part) => part.places)).size;
  const toggle = (key: string): void =>
    setLeft((before) => new Set(before.has(key) ? [...before].filter((each) => each !== key) : [...before, key]));
  return (
    <Change
      title={`${plural(unfit.length, 'field takes', 'fields take')} other values than before; lines still bring what ${unfit.length === 1 ? 'it' : 'they'} took.`}
      mend={mend}
      label={
        fitted.length === 0 ? 'Choose what is treated' : `Have ${plural(places, 'place', 'places')} bring what fits`
      }
      press={() => mend.go({ renames: [], fitted: fitted.map(({ entity, field }) => ({ entity, field })) })}
      disabled={fitted.length === 0}
    >
      {unfit.map((part) => (
        <li key={keyOf(part)}>
          <label className="grid grid-cols-[auto_1fr] items-baseline gap-x-2">
            <input
              type="checkbox"
              className="accent-plum"
              checked={!left.has(keyOf(part))}
              onChange={() => toggle(keyOf(part))}
            />
            <span>
              <b className="font-semibold">{part.called}</b> {part.what}; brought by{' '}
              {listed(part.places, { most: 4, quoted: true })}. From now on:{' '}
              {listed(part.treated, { most: 4, quoted: true })}.
            </span>
          </label>
        </li>
      ))}
    </Change>
  );
}

function OneOf({
  label,
  placeholder,
  choices,
  chosen,
  choose,
}: {
  label: string;
  placeholder: string;
  choices: readonly Option[];
  chosen: string | undefined;
  choose: (value: string) => void;
}) {
  const called = (value: string): string => choices.find((each) => each.value === value)?.label ?? value;
  return (
    <Editable label={label} shown={chosen === undefined ? 'nothing yet' : called(chosen)}>
      {(close) => (
        <Combobox
          placeholder={placeholder}
          items={choices.map(({ value, label: name }) => ({
            ...{ value, label: name, words: `${name} ${value}` },
            ...(name.toLowerCase() === value.toLowerCase() ? {} : { note: value }),
          }))}
          choose={(value) => {
            choose(value);
            close();
          }}
        />
      )}
    </Editable>
  );
}
