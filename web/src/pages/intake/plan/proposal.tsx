import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { changePlan } from '@zusammen/core/intake';
import type { Line } from '@zusammen/core/mapping';
import { firstRows, placedBy, type Step } from '@zusammen/core/plans';
import { useEffect, useRef, useState } from 'react';
import { Button } from '../../../parts/button.tsx';
import { Incoming, Outgoing } from '../../../parts/chip.tsx';
import { useKeys } from '../../../parts/keys.ts';
import { useDraft } from '../draft.tsx';
import { useSuggest } from './suggest.ts';

/** How many of a step's lines are shown before it is taken. */
const FEW_LINES = 9;

const sameEntity = (a: Pick<Step, 'system' | 'entity'>, b: Pick<Step, 'system' | 'entity'>): boolean =>
  a.system === b.system && a.entity === b.entity;

/** The plan that the form speaks of by itself, to be taken whole or in part: which records, known by what, filled from what. */
export function Proposal() {
  const { document, change, allRead, readAll, schemas } = useDraft();
  const suggest = useSuggest();
  const [without, setWithout] = useState<Pick<Step, 'system' | 'entity'>[]>([]);
  useEffect(readAll, [readAll]);
  const whole = useQuery({
    queryKey: ['proposal', document.fields, [...schemas.keys()]],
    queryFn: () => suggest.propose(),
    enabled: allRead,
    staleTime: Infinity,
  });
  const wanted = (whole.data ?? []).filter((step) => !without.some((each) => sameEntity(each, step)));
  const part = useQuery({
    queryKey: ['proposal', document.fields, wanted.map(({ system, entity }) => [system, entity])],
    queryFn: () => suggest.stepsFor(wanted.map(({ system, entity }) => ({ system, entity }))),
    enabled: without.length > 0 && wanted.length > 0,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  const steps =
    without.length === 0 ? whole.data : part.data?.filter((step) => wanted.some((each) => sameEntity(each, step)));
  const ready = steps !== undefined && wanted.length > 0 && !part.isFetching;
  const take = (): void => {
    if (ready) change((held) => changePlan(held, (plan) => ({ ...plan, steps })));
  };
  useKeys({ t: take });
  const button = useRef<HTMLButtonElement>(null);
  // Enter takes it, unless somebody is at something else already.
  useEffect(() => {
    if (ready && globalThis.document.activeElement === globalThis.document.body) button.current?.focus();
  }, [ready]);
  if (!whole.data)
    return (
      <p role="status" className="border-b border-hair p-4 text-soft">
        {whole.error
          ? `Nothing could be proposed: ${whole.error.message}`
          : 'Reading what the systems keep, to propose a plan …'}
      </p>
    );
  if (whole.data.length === 0)
    return (
      <p className="border-b border-hair p-4 text-soft">
        No plan suggests itself: no entity has a place for what this form asks.
      </p>
    );
  const fields = firstRows(document.fields);
  const placed = placedBy(ready ? steps : [], document.fields);
  const left = fields.filter(({ name }) => !placed.has(name));
  return (
    <section aria-label="Proposed plan" className="border-b border-hair">
      <p className="px-4 pt-3 text-soft">
        What this form asks fits {whole.data.length === 1 ? 'this record' : 'these records'}. Whatever is taken can be
        changed afterwards.
      </p>
      <ul className="p-4 pb-2 space-y-3">
        {whole.data.map((proposed) => {
          const taken = wanted.includes(proposed);
          const step = (taken && steps?.find((each) => sameEntity(each, proposed))) || proposed;
          return (
            <li key={proposed.id}>
              <ProposedStep
                step={step}
                steps={steps ?? whole.data}
                taken={taken}
                single={whole.data.length === 1}
                toggle={() =>
                  setWithout((held) =>
                    taken ? [...held, proposed] : held.filter((each) => !sameEntity(each, proposed)),
                  )
                }
              />
            </li>
          );
        })}
      </ul>
      <div className="flex items-center gap-4 px-4 pt-2 pb-4">
        <Button ref={button} look="strong" hotkey="T" disabled={!ready} onClick={take}>
          Take this plan
        </Button>
        <p className="min-w-0 text-small text-soft">
          {placed.size} of {fields.length} {fields.length === 1 ? 'field finds' : 'fields find'} a place.
          {left.length > 0 &&
            ` Without one: ${left
              .slice(0, 6)
              .map(({ label }) => label)
              .join(', ')}${left.length > 6 ? ` and ${left.length - 6} more` : ''}.`}
        </p>
      </div>
    </section>
  );
}

function ProposedStep({
  step,
  steps,
  taken,
  single,
  toggle,
}: {
  step: Step;
  steps: readonly Step[];
  taken: boolean;
  single: boolean;
  toggle: () => void;
}) {
  const { document, schemas, systems } = useDraft();
  const entity = schemas.get(step.system)?.entities.find(({ name }) => name === step.entity);
  const fieldLabel = (name: string): string => entity?.fields.find((field) => field.name === name)?.label ?? name;
  const entityLabel = (id: string): string => {
    const earlier = steps.find((each) => each.id === id);
    const found = schemas.get(step.system)?.entities.find(({ name }) => name === earlier?.entity);
    return found?.label ?? 'an earlier record';
  };
  const system = systems.find(({ id }) => id === step.system);
  const known = step.recognise.map(({ fields }) => fields.map(fieldLabel).join(' with ')).join(', or ');
  const links = step.lines.filter(({ fromStep }) => fromStep);
  const filled = step.lines.filter(({ fromStep }) => !fromStep);
  const sources = (line: Line): string =>
    line.from.map((name) => document.fields.find((field) => field.name === name)?.label ?? name).join(' + ');
  return (
    <div className={taken ? '' : 'opacity-60'}>
      <label className="flex items-baseline gap-2">
        {!single && <input type="checkbox" checked={taken} onChange={toggle} />}
        <span>
          <strong className="font-semibold">{entity?.label ?? step.entity}</strong> in {system?.name ?? 'a system'},{' '}
          {known === '' ? 'always a new one' : `recognised by ${known}`}
          {step.repeat !== undefined && `, for every row of ${step.repeat}`}
          {links.map(({ id, field, fromStep }) => (
            <span key={id} className="text-soft">
              ; {fieldLabel(field)}: the {entityLabel(fromStep!.step)}
            </span>
          ))}
        </span>
      </label>
      <ul className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1.5">
        {filled.slice(0, FEW_LINES).map((line) => (
          <li key={line.id} className="inline-flex items-center gap-1">
            <Incoming muted={line.origin === 'suggested'}>{sources(line)}</Incoming>
            <span aria-hidden="true" className="text-soft">
              →
            </span>
            <Outgoing muted={line.origin === 'suggested'}>{fieldLabel(line.field)}</Outgoing>
          </li>
        ))}
        {filled.length > FEW_LINES && (
          <li className="text-small text-soft">and {filled.length - FEW_LINES} more lines</li>
        )}
      </ul>
    </div>
  );
}
