import type { PlaceTold, System } from '@zusammen/core/api';
import type { FoundLine, OneField, WantedPlace } from '@zusammen/core/one-field';
import { listed } from '@zusammen/core/values';
import { useState } from 'react';
import { useFieldCounts } from '../../api/schema.ts';
import { Incoming, Outgoing, Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Choices, Editable } from '../../parts/editable.tsx';
import { plural } from '../../parts/plural.ts';
import { Sheet, TD, TH } from '../../parts/sheet.tsx';
import { count } from '../../parts/time.tsx';

/** What is changed of a place; undefined takes it away. */
type PlaceChange = { [Name in 'field' | 'asIs']?: WantedPlace[Name] | undefined };

interface Props {
  draft: OneField;
  places: readonly PlaceTold[];
  lines: readonly FoundLine[];
  systems: readonly System[];
  change: (next: WantedPlace[]) => void;
  disabled: boolean;
}

/** The entities that are to have the field: what is made there, what is there already, and from where its value comes. */
export function PlacesTable({ draft, places, lines, systems, change, disabled }: Props) {
  const [all, setAll] = useState(false);
  // What has it, or something like it, comes before what only could have it.
  const rank = ({ wanted, there }: PlaceTold): number => (wanted ? 0 : there ? 1 : 2);
  const sorted = [...places].sort((a, b) => rank(a) - rank(b));
  const near = sorted.filter((each) => rank(each) < 2);
  const shown = all || near.length === 0 ? sorted : near;
  const set = (stand: PlaceTold, next: PlaceChange | undefined): void => {
    const is = (each: WantedPlace): boolean => each.system === stand.system && each.entity === stand.entity;
    if (next === undefined) return change(draft.places.filter((each) => !is(each)));
    const known = draft.places.find(is) ?? { system: stand.system, entity: stand.entity };
    const place = { ...known, ...next } as WantedPlace;
    for (const name of ['field', 'asIs'] as const) if (place[name] === undefined) delete place[name];
    change([...draft.places.filter((each) => !is(each)), place]);
  };
  return (
    <Sheet>
      <table className="w-full table-fixed">
        <thead>
          <tr>
            <th className={cx(TH, 'w-[21%] pl-4')}>Entity</th>
            <th className={cx(TH, 'w-[21%]')}>Field there</th>
            <th className={cx(TH, 'w-[27%]')}>Options agree</th>
            <th className={cx(TH, 'w-[19%]')}>Gets its value from</th>
            <th className={cx(TH, 'pr-4')}>Rows with a value</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((stand) => (
            <Place
              key={`${stand.system} ${stand.entity}`}
              stand={stand}
              draft={draft}
              first={systems[0]?.id}
              system={systems.find(({ id }) => id === stand.system)?.name ?? ''}
              from={lines.filter(
                (line) => line.taken && line.to.system === stand.system && line.to.entity === stand.label,
              )}
              set={(next) => set(stand, next)}
              disabled={disabled}
            />
          ))}
          {shown.length < sorted.length && (
            <tr>
              <td colSpan={5} className={cx(TD, 'px-4 py-2')}>
                <button type="button" className="font-semibold text-plum hover:underline" onClick={() => setAll(true)}>
                  Show {plural(sorted.length - shown.length, 'more entity', 'more entities')}
                </button>
              </td>
            </tr>
          )}
        </tbody>
      </table>
    </Sheet>
  );
}

function Place({
  stand,
  draft,
  first,
  system,
  from,
  set,
  disabled,
}: {
  stand: PlaceTold;
  draft: OneField;
  /** The system that is listed first: its fields are moss. */
  first: string | undefined;
  system: string;
  from: readonly FoundLine[];
  set: (next: PlaceChange | undefined) => void;
  disabled: boolean;
}) {
  const { label, wanted, there, cannot } = stand;
  const differs = wanted && there !== undefined && there.spelt.length + there.missing.length > 0;
  const name = there?.label ?? draft.field.label;
  const can = cannot === undefined;
  return (
    <tr className={cx(differs && !there.asIs && 'bg-saffron-wash/40', !wanted && 'text-soft')}>
      <td className={cx(TD, 'pl-4')}>
        <label className="flex items-start gap-2.5 py-1">
          <input
            type="checkbox"
            className="mt-1 size-[15px] accent-moss"
            checked={draft.places.some((each) => each.system === stand.system && each.entity === stand.entity)}
            disabled={disabled || (!can && !wanted)}
            aria-label={`${label} in ${system} has it`}
            onChange={({ target }) => set(target.checked ? {} : undefined)}
          />
          <span>
            <span className="font-semibold">{label}</span> <span className="text-small text-soft">{system}</span>
          </span>
        </label>
      </td>
      <td className={TD}>
        {!can ? (
          <span className="text-small text-soft">{cannot}</span>
        ) : (
          <span className="flex flex-wrap items-center gap-1.5">
            {(wanted || there) &&
              (stand.system === first ? (
                <Outgoing muted={!wanted}>{name}</Outgoing>
              ) : (
                <Incoming muted={!wanted}>{name}</Incoming>
              ))}
            {there ? (
              <Editable
                bare
                wide
                label={`Which field of ${label} it is`}
                disabled={disabled || !wanted}
                shown={<Tag>is there already</Tag>}
              >
                {(close) => (
                  <>
                    <p className="px-3 pt-1 pb-2 text-small font-normal text-soft">
                      It counts as the same by {listed(there.why)}.
                    </p>
                    <Choices
                      chosen="there"
                      choose={(chosen) => {
                        set(chosen === 'new' ? { field: '' } : {});
                        close();
                      }}
                      options={[
                        { value: 'there', label: `it is ${there.label}`, help: `${there.name} in ${system}` },
                        { value: 'new', label: 'it is another: make a new one', help: draft.field.label },
                      ]}
                    />
                  </>
                )}
              </Editable>
            ) : wanted ? (
              <>
                <Tag tone="moss">new</Tag>
                {draft.places.some(
                  (each) => each.field === '' && each.system === stand.system && each.entity === stand.entity,
                ) && (
                  <button
                    type="button"
                    disabled={disabled}
                    className="text-small font-semibold text-plum hover:underline"
                    onClick={() => set({ field: undefined })}
                  >
                    is it there?
                  </button>
                )}
              </>
            ) : (
              <span className="text-small">not made</span>
            )}
          </span>
        )}
      </td>
      <td className={cx(TD, 'text-small')}>
        {wanted && can && <Agree stand={stand} draft={draft} set={set} disabled={disabled} />}
      </td>
      <td className={cx(TD, 'text-small text-soft')}>
        {wanted &&
          from.map((line) => (
            <span key={line.key} className="my-0.5 block">
              {line.carried?.kind === 'question' || !line.from?.entity ? (
                <>
                  <Incoming>{line.name}</Incoming> asks for it
                </>
              ) : (
                <>
                  {line.from.system === first ? (
                    <Outgoing>{line.from.entity}</Outgoing>
                  ) : (
                    <Incoming>{line.from.entity}</Incoming>
                  )}{' '}
                  {line.at === 'pairing' ? 'kept in step' : 'when it is converted'}
                </>
              )}
            </span>
          ))}
        {wanted && can && from.length === 0 && 'whoever writes it there'}
      </td>
      <td className={cx(TD, 'pr-4 text-small text-soft')}>
        {there ? (
          <Filled system={stand.system} entity={stand.entity} field={there.name} />
        ) : (
          wanted && can && 'none yet'
        )}
      </td>
    </tr>
  );
}

/** Whether what is there has the options as they are wanted, and what is done where it hasn't. */
function Agree({
  stand: { there, made, as, byHand },
  draft: {
    field: { options = [], type },
  },
  set,
  disabled,
}: {
  stand: PlaceTold;
  draft: OneField;
  set: (next: PlaceChange) => void;
  disabled: boolean;
}) {
  const chosen = type === 'option' || type === 'options';
  if (made) {
    if (byHand)
      return (
        <span className="text-saffron">◆ made there by hand: it is asked for, and found by reading the schema</span>
      );
    if (as !== undefined) return <span className="text-saffron">◆ made as {as}: there is no such kind there</span>;
    return (
      <span className="text-soft">
        {chosen ? `${count(options.length)} of ${count(options.length)}, as above` : 'as above'}
      </span>
    );
  }
  if (!there) return null;
  const { agrees, spelt, missing, more, otherKind, asIs } = there;
  const kind = otherKind !== undefined && <span className="block text-saffron">◆ it is {otherKind} there</span>;
  if (!chosen) return kind || <span className="text-soft">the same kind</span>;
  if (spelt.length + missing.length === 0)
    return (
      <>
        {kind}
        <span className="text-soft">
          {count(agrees)} of {count(options.length)}, as above{more > 0 && `, and ${count(more)} more`}
        </span>
      </>
    );
  const first = spelt.slice(0, 3).map(({ there: is, wanted }) => `“${is.label}” is not “${wanted.label}”`);
  const lacking = missing.slice(0, 3).map(({ label }) => `“${label}”`);
  const words = [
    ...first,
    ...(spelt.length > 3 ? [`${spelt.length - 3} more are spelt otherwise`] : []),
    ...(missing.length === 0
      ? []
      : [
          missing.length > 3
            ? `${lacking.join(', ')} and ${missing.length - 3} more are missing`
            : `${listed(lacking)} ${missing.length === 1 ? 'is' : 'are'} missing`,
        ]),
  ];
  const many = spelt.length + missing.length;
  return (
    <>
      {kind}
      <span className="font-semibold text-saffron">◆ {words.join('; ')}</span>{' '}
      {!asIs && <span className="text-soft">it is mended, </span>}
      <button
        type="button"
        disabled={disabled}
        className="font-semibold text-plum hover:underline"
        title="Mended, missing options are added; records that hold one that is spelt otherwise are changed, then that one goes."
        onClick={() => set({ asIs: asIs ? undefined : true })}
      >
        {asIs ? (many === 2 ? 'mend both' : many === 1 ? 'mend it' : 'mend them') : 'leave it as it is'}
      </button>
    </>
  );
}

function Filled({ system, entity, field }: { system: string; entity: string; field: string }) {
  const counts = useFieldCounts(system, entity, field);
  if (counts.isError) return <span className="text-soft">can’t be counted now</span>;
  if (!counts.data) return <span className="text-soft">…</span>;
  const { filled, of, more } = counts.data;
  return (
    <span className="font-mono text-[13px]">
      {count(filled)} of {count(of)}
      {more && '+'}
    </span>
  );
}
