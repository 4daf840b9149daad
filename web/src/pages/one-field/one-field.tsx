import type { LineChoice, OneField } from '@zusammen/core/one-field';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useMe, useSystems } from '../../api/hooks.ts';
import { useFieldPlan } from '../../api/schema.ts';
import { useActions } from '../../parts/actions.ts';
import { Button } from '../../parts/button.tsx';
import { plural } from '../../parts/plural.ts';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { Empty, Skeleton, Trouble } from '../../parts/states.tsx';
import { useFieldDraft } from './draft.ts';
import { CarryTable } from './lines-table.tsx';
import { PlacesTable } from './places-table.tsx';
import { Rehearsed } from './rehearsed.tsx';
import { Sentence } from './sentence.tsx';

/** Typing is waited for so long before what follows from it is looked at. */
const PAUSE_MS = 300;

/** One field, wherever it is needed: what it is, which entities have it, what carries it on; made in one go. */
export function OneFieldPage() {
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const system = params.get('system');
  const entity = params.get('entity');
  const me = useMe();
  const systems = useSystems();
  const { draft, change, changeField, afresh, forget } = useFieldDraft(
    system && entity ? { system, entity } : undefined,
  );
  const may = me.data !== undefined && me.data.role !== 'viewer';
  const settled = useSettled(draft);
  const { label, type, options } = draft.field;
  const chosen = type === 'option' || type === 'options';
  const lacks = label.trim() === '' ? 'a name' : chosen && !options ? 'its options' : undefined;
  const ready = may && lacks === undefined && settled === draft;
  const plan = useFieldPlan(settled, may && isWhole(settled));
  const make = useDo(
    async (wanted: OneField) => (await call('post /schema/one-field', { body: wanted })).change,
    ['schema changes', 'systems', 'intakes', 'pairings'],
  );
  const rehearse = useDo(
    async (wanted: OneField) => (await call('post /schema/one-field/rehearse', { body: wanted })).rehearsed,
    [],
  );
  const steps = plan.data?.steps.length ?? 0;
  const start = (): void => {
    if (!ready || make.isPending || steps === 0) return;
    make.mutate(draft, {
      onSuccess: (made) => {
        forget();
        void navigate(`/schema/changes/${made}`);
      },
    });
  };
  const wanted = plan.data?.places.filter((each) => each.wanted) ?? [];
  const fields = wanted.filter(({ made }) => made !== undefined).length;
  const mended = wanted.filter(
    ({ there }) => there && !there.asIs && there.spelt.length + there.missing.length > 0,
  ).length;
  const lines = plan.data?.lines.filter(({ taken }) => taken).length ?? 0;
  const parts = [
    ...(fields > 0 ? [`make ${plural(fields, 'field')}`] : []),
    ...(mended > 0 ? [`mend ${plural(mended, 'field')}`] : []),
    ...(lines > 0 ? [`draw ${plural(lines, 'line')}`] : []),
  ];
  const words =
    parts.length === 0
      ? 'Make it'
      : capital(parts.length > 2 ? `${parts.slice(0, 2).join(', ')} and ${parts[2]}` : parts.join(' and '));
  useActions(ready && steps > 0 ? [{ name: words, act: start }] : []);
  const choose = (choice: LineChoice): void => {
    const known = draft.lines.find(({ key }) => key === choice.key);
    change({ ...draft, lines: [...draft.lines.filter(({ key }) => key !== choice.key), { ...known, ...choice }] });
  };
  return (
    <>
      <Heading
        crumbs={<Link to="/schema">Schema /</Link>}
        title="One field, wherever it is needed"
        actions={
          may && (
            <>
              <Button onClick={afresh}>Begin anew</Button>
              <Button busy={rehearse.isPending} disabled={!ready || lines === 0} onClick={() => rehearse.mutate(draft)}>
                Rehearse on 50 of each
              </Button>
              <Button look="strong" busy={make.isPending} disabled={!ready || steps === 0} onClick={start}>
                {words}
              </Button>
            </>
          )
        }
      />
      {me.data && !may && (
        <p role="note" className="mb-3 rounded-[8px] bg-saffron-wash px-4 py-3 text-saffron">
          ◆ A viewer can’t change what systems keep. An administrator can change your role.
        </p>
      )}
      {(make.error ?? rehearse.error) && (
        <p role="alert" className="mb-3 rounded-[8px] bg-brick-wash px-4 py-3">
          {(make.error ?? rehearse.error)!.message}
        </p>
      )}
      <div className="space-y-3.5">
        <Sheet>
          <Sentence field={draft.field} change={changeField} disabled={!may} />
        </Sheet>
        {lacks !== undefined ? (
          <Sheet>
            <Empty title={`It needs ${lacks}`}>
              Then it stands here which entities could have it, which have it already, and what would carry it on.
            </Empty>
          </Sheet>
        ) : plan.error ? (
          <Trouble error={plan.error} />
        ) : plan.data ? (
          <>
            <PlacesTable
              draft={draft}
              places={plan.data.places}
              lines={plan.data.lines}
              systems={systems.data ?? []}
              change={(places) => change({ ...draft, places })}
              disabled={!may}
            />
            {rehearse.data && !rehearse.isPending && <Rehearsed label={label} rehearsed={rehearse.data} />}
            <CarryTable
              label={label}
              lines={plan.data.lines}
              choices={draft.lines}
              systems={systems.data ?? []}
              choose={choose}
              disabled={!may}
            />
          </>
        ) : (
          may && (
            <Sheet>
              <Skeleton rows={8} />
            </Sheet>
          )
        )}
      </div>
    </>
  );
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

const isWhole = ({ field: { label, type, options } }: OneField): boolean =>
  label.trim() !== '' && ((type !== 'option' && type !== 'options') || options !== undefined);

/** The draft once nobody has typed for a moment. */
function useSettled(draft: OneField): OneField {
  const [settled, setSettled] = useState(draft);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(draft), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [draft]);
  return settled;
}
