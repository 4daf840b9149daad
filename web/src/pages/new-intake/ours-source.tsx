import { emptyForm, STARTING_POINTS, type Started } from '@zusammen/core/asking';
import { fieldsOf } from '@zusammen/core/forms/hosted';
import { useQueries, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { intakeQuery, systemQuery, useIntakes, useLearned, useSystems } from '../../api/hooks.ts';
import { cx } from '../../parts/cx.ts';
import { SelectField } from '../../parts/form.tsx';
import { worker } from '../../work/index.ts';
import type { Brought } from './brought.ts';

const EMPTY = 'empty';
/** Begins the key of a form that is copied; its intake's id is behind. */
const COPY = 'copy-of-';
const isChosen = (key: string, chosen: string): boolean => (key === COPY ? chosen.startsWith(COPY) : key === chosen);

/** What a form of ours is begun with: a starting point, matched to a connected system, or nothing. */
export function OursSource({ bring }: { bring: (brought: Brought | undefined) => void }) {
  const [params, setParams] = useSearchParams();
  // The address follows: a choice that shows only once that has changed looks as if it hadn't been taken.
  const [chosen, setChosen] = useState(params.get('with') ?? STARTING_POINTS[0]!.key);
  const [system, setSystem] = useState(params.get('in') ?? '');
  const choose = (name: 'with' | 'in', value: string): void => {
    if (name === 'with') setChosen(value);
    else setSystem(value);
    setParams(
      (held) => {
        const next = new URLSearchParams(held);
        next.set(name, value);
        return next;
      },
      { replace: true },
    );
  };
  const systems = useSystems();
  const learned = useLearned();
  const wanted = (systems.data ?? []).filter(({ id }) => system === '' || id === system);
  const details = useQueries({ queries: wanted.map(({ id }) => ({ ...systemQuery(id), staleTime: 15_000 })) });
  const isRead =
    systems.data !== undefined && learned.data !== undefined && details.every(({ isPending }) => !isPending);
  const point = STARTING_POINTS.find(({ key }) => key === chosen);
  const started = useQuery({
    queryKey: ['starting point', chosen, wanted.map(({ id }) => id)],
    queryFn: () => {
      const schemas = new Map(
        details.flatMap(({ data }) => (data?.schema ? [[data.system.id, data.schema] as const] : [])),
      );
      return worker().start(point!, { schemas, learned: learned.data!, where: {} });
    },
    enabled: isRead && point !== undefined,
    staleTime: 60_000,
    gcTime: 60_000,
  });
  const others = (useIntakes().data ?? []).filter(({ source }) => source.kind === 'ours');
  const copied = useQuery({
    ...intakeQuery(chosen.slice(COPY.length)),
    enabled: chosen.startsWith(COPY) && chosen !== COPY,
  });
  const original = chosen.startsWith(COPY) ? copied.data?.intake.draft : undefined;
  const found = point ? started.data : chosen.startsWith(COPY) ? original : NOTHING;
  const name = point?.name ?? (original ? `Copy of ${original.name}` : 'New form');
  useEffect(() => {
    if (!found) return bring(undefined);
    if (original?.form)
      return bring({
        ...{
          name,
          fields: original.fields,
          left: [],
          source: { kind: 'ours' },
          settings: original.settings,
          samples: [],
        },
        ours: { form: original.form, plan: original.plan },
      });
    const made = (found as typeof NOTHING).document;
    const form = made?.form ?? emptyForm(name, () => crypto.randomUUID().slice(0, 8));
    const plan = made?.plan ?? { steps: [] };
    bring({
      ...{ name, fields: fieldsOf(form), left: [], source: { kind: 'ours' }, settings: {}, samples: [] },
      ours: { form, plan, ...(made ? { started: found as Started } : {}) },
    });
  }, [found, original, name, bring]);
  return (
    <div className="space-y-4">
      <fieldset>
        <legend className="mb-1 text-small font-semibold">Begin with</legend>
        <ul className="space-y-0.5">
          {[
            ...STARTING_POINTS,
            { key: EMPTY, name: 'Nothing', about: 'An empty form; you ask for what you need.' },
            ...(others.length === 0
              ? []
              : [{ key: COPY, name: 'Another form of ours', about: 'A copy of it, with its plan.' }]),
          ].map((each) => (
            <li key={each.key}>
              <label
                className={cx(
                  'flex cursor-pointer gap-2.5 rounded-[7px] px-2 py-1.5',
                  isChosen(each.key, chosen) ? 'bg-plum-wash' : 'hover:bg-wash',
                )}
              >
                <input
                  type="radio"
                  name="starting-point"
                  className="mt-1 accent-plum"
                  checked={isChosen(each.key, chosen)}
                  onChange={() => choose('with', each.key === COPY ? `${COPY}${others[0]!.id}` : each.key)}
                />
                <span>
                  <span className="font-semibold">{each.name}</span>
                  <span className="block text-small text-soft">{each.about}</span>
                </span>
              </label>
            </li>
          ))}
        </ul>
      </fieldset>
      {chosen.startsWith(COPY) && (
        <SelectField
          label="The form that is copied"
          value={chosen.slice(COPY.length)}
          onChange={({ target }) => choose('with', `${COPY}${target.value}`)}
          help="Its draft as it is now, with lines, words and settings."
        >
          {others.map(({ id, name: called }) => (
            <option key={id} value={id}>
              {called}
            </option>
          ))}
        </SelectField>
      )}
      {point && (systems.data?.length ?? 0) > 1 && (
        <SelectField
          label="For the records of"
          value={system}
          onChange={({ target }) => choose('in', target.value)}
          help="The questions become the fields that are there."
        >
          <option value="">whichever system has most of them</option>
          {systems.data!.map(({ id, name: called }) => (
            <option key={id} value={id}>
              {called}
            </option>
          ))}
        </SelectField>
      )}
      {point && started.isFetching && !started.data && (
        <p role="status" className="text-small text-soft">
          Looking at what the systems keep …
        </p>
      )}
    </div>
  );
}

const NOTHING: { document?: Started['document'] } = {};
