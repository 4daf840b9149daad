import type { FollowRenamesBody } from '@zusammen/core/api';
import type { LostPart } from '@zusammen/core/lost';
import { listed } from '@zusammen/core/values';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../api/client.ts';
import { useDo } from '../api/hooks.ts';
import { useRenames } from '../api/schema.ts';
import { Button } from '../parts/button.tsx';
import { Combobox } from '../parts/combobox.tsx';
import { Editable } from '../parts/editable.tsx';
import { plural } from '../parts/plural.ts';

/** What has changed in a system so that something of ours names what isn't there any more, mended everywhere at once. */
export function Drifted({ system }: { system: string }) {
  const look = useRenames(system);
  const { renames = [], steps = [], lost = [] } = look.data ?? {};
  return (
    <>
      {steps.length > 0 && <Renamed system={system} renames={renames} steps={steps} />}
      {lost.length > 0 && <Gone system={system} lost={lost} />}
    </>
  );
}

type Body = FollowRenamesBody;

/** Has the places mended, and goes to where that can be watched and taken back. */
function useMend(system: string) {
  const navigate = useNavigate();
  const mend = useDo(
    async (body: Body) => (await call('post /schema/:system/renames', { params: { system }, body })).change,
    ['schema changes', 'intakes', 'pairings', 'recognitions'],
  );
  return {
    ...{ busy: mend.isPending, error: mend.error },
    go: (body: Body) => mend.mutate(body, { onSuccess: (id) => void navigate(`/schema/changes/${id}`) }),
  };
}

function Renamed({ system, renames, steps }: { system: string; renames: Body['renames']; steps: readonly string[] }) {
  const { go, busy, error } = useMend(system);
  return (
    <div className="border-b border-hair bg-saffron-wash px-4 py-2.5">
      <p className="font-semibold text-saffron">
        ◆ {plural(steps.length, 'place goes by an old name', 'places go by old names')}; what arrives for them waits.
      </p>
      <ul className="my-1 text-small">
        {steps.slice(0, 8).map((step) => (
          <li key={step}>{step}</li>
        ))}
        {steps.length > 8 && <li>and {steps.length - 8} more</li>}
      </ul>
      <Button look="strong" busy={busy} onClick={() => go({ renames })}>
        Have all of them go by the new name
      </Button>
      {error && <p className="mt-1 text-brick">{error.message}</p>}
    </div>
  );
}

const keyOf = ({ entity, field, option }: LostPart): string => JSON.stringify([entity, field, option?.value]);

/** What is gone and has no new name: somebody says what is named in its place. */
function Gone({ system, lost }: { system: string; lost: readonly LostPart[] }) {
  const { go, busy, error } = useMend(system);
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
    <div className="border-b border-hair bg-saffron-wash px-4 py-2.5">
      <p className="font-semibold text-saffron">
        ◆ {plural(lost.length, 'thing that is named here has gone', 'things that are named here have gone')} from the
        system.
      </p>
      <ul className="my-1.5 grid gap-1.5 text-small">
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
            <InItsPlace
              part={part}
              chosen={chosen[keyOf(part)]}
              choose={(value) => setChosen((before) => ({ ...before, [keyOf(part)]: value }))}
            />
          </li>
        ))}
      </ul>
      <Button look="strong" busy={busy} disabled={mended.length === 0} onClick={() => go(body())}>
        {mended.length === 0
          ? 'Choose what is named in its place'
          : `Have ${plural(places, 'place', 'places')} name what was chosen`}
      </Button>
      {error && (
        <p role="alert" className="mt-1 text-brick">
          {error.message}
        </p>
      )}
    </div>
  );
}

function InItsPlace({
  part: { called, option, choices },
  chosen,
  choose,
}: {
  part: LostPart;
  chosen: string | undefined;
  choose: (value: string) => void;
}) {
  const label = (value: string): string => choices.find((each) => each.value === value)?.label ?? value;
  return (
    <Editable
      label={`What is named in the place of ${option ? option.label : called}`}
      shown={chosen === undefined ? 'nothing yet' : label(chosen)}
    >
      {(close) => (
        <Combobox
          placeholder={option ? `An option of ${called}` : 'A field that is there'}
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
