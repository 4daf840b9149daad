import { SURVIVOR_RULES, type SurvivorRule } from '@zusammen/core/recognition';
import type { Entity } from '@zusammen/core/schema';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { ApiProblem, call } from '../../api/client.ts';
import { useDo, useMe, useSystem } from '../../api/hooks.ts';
import type { GroupLine, GroupState, Search } from '@zusammen/core/api';
import type { Doubles as Told } from '@zusammen/core/api';
import { useDoubles, useRecognitions } from '../../api/recognition.ts';
import { Button } from '../../parts/button.tsx';
import { Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { bitsText } from '../../parts/evidence.tsx';
import { Key } from '../../parts/key.tsx';
import { listKeys, useKeys } from '../../parts/keys.ts';
import { useHeldPlace } from '../../parts/held-place.ts';
import { Radios } from '../../parts/radios.tsx';
import { NoSuchEntity } from '../../parts/no-such-entity.tsx';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { Empty, Fetched } from '../../parts/states.tsx';
import { Moment } from '../../parts/time.tsx';
import { OneGroup } from './one-group.tsx';

const SHOWN: Record<string, { name: string; states: GroupState[] }> = {
  open: { name: 'To decide', states: ['open', 'merging'] },
  merged: { name: 'Merged', states: ['merged'] },
  apart: { name: 'Kept apart', states: ['apart'] },
  back: { name: 'Taken back', states: ['taken back'] },
};

/** Doubles among known records: searched for in bulk, decided group by group. */
export function Doubles() {
  const [params, setParams] = useSearchParams();
  const [system, name] = [params.get('system') ?? '', params.get('entity') ?? ''];
  const shown = SHOWN[params.get('show') ?? ''] ? params.get('show')! : 'open';
  const detail = useSystem(system || undefined);
  const entity = detail.data?.schema.entities.find((each) => each.name === name);
  const doubles = useDoubles(system, name, SHOWN[shown]!.states.join(','));
  const set = (changed: Record<string, string>): void =>
    setParams((held) => ({ ...Object.fromEntries(held), ...changed }), { replace: true });
  if (system === '' || name === '' || (detail.data && !entity)) return <NoSuchEntity />;
  if (entity && doubles.error instanceof ApiProblem && doubles.error.status === 404)
    return <NotSetUp system={system} entity={entity} />;
  return (
    <Fetched query={doubles} rows={12}>
      {(told) =>
        entity ? (
          <>
            <Heading
              crumbs={<Crumbs system={system} entity={entity} />}
              title="Doubles"
              actions={
                <Radios
                  label="What is shown"
                  className="text-small"
                  chosen={shown}
                  choose={(key) => set({ show: key, group: '' })}
                  options={Object.entries(SHOWN).map(([value, { name: label, states }]) => ({
                    value,
                    label: (
                      <>
                        {label}{' '}
                        <span className="font-mono">
                          {states.reduce((sum, state) => sum + (told.counts[state] ?? 0), 0)}
                        </span>
                      </>
                    ),
                  }))}
                />
              }
            >
              {(told.counts.open ?? 0) > 0 && <Tag tone="saffron">{told.counts.open} to decide</Tag>}
            </Heading>
            <SearchLine system={system} entity={entity} search={told.searches[0]} />
            <Groups
              key={shown}
              told={told}
              entity={entity}
              system={system}
              chosen={params.get('group')}
              choose={(id) => set({ group: String(id) })}
            />
          </>
        ) : null
      }
    </Fetched>
  );
}

/** Doubles are found by what the records' recognition weighs; without one there is nothing to look with. */
function NotSetUp({ system, entity }: { system: string; entity: Entity }) {
  return (
    <>
      <Heading crumbs={<Crumbs system={system} entity={entity} />} title="Doubles" />
      <Sheet>
        <Empty title={`It isn’t set up yet how a ${entity.label} is recognised`}>
          Doubles are found by the same evidence.{' '}
          <Link className="text-plum underline" to={`/schema/recognition?system=${system}&entity=${entity.name}`}>
            Set it up
          </Link>
        </Empty>
      </Sheet>
    </>
  );
}

const Crumbs = ({ system, entity }: { system: string; entity: Entity }) => (
  <>
    <Link to="/schema" className="hover:underline">
      Schema
    </Link>{' '}
    /{' '}
    <Link to={`/schema/recognition?system=${system}&entity=${entity.name}`} className="hover:underline">
      {entity.label}, recognition
    </Link>{' '}
    /
  </>
);

/** How far the search is, and what can be done about it. */
function SearchLine({ system, entity, search }: { system: string; entity: Entity; search: Search | undefined }) {
  const me = useMe();
  const may = me.data !== undefined && me.data.role !== 'viewer';
  const [among, setAmong] = useState('');
  const recognitions = useRecognitions().data ?? [];
  const kind = recognitions.find((each) => each.system === system && each.entity === entity.name)?.kind;
  const others = recognitions.filter(
    (each) => each.kind === kind && !(each.system === system && each.entity === entity.name),
  );
  const start = useDo(
    () =>
      call('post /systems/:id/entities/:entity/doubles', {
        params: { id: system, entity: entity.name },
        body: among === '' ? undefined : { among },
      }),
    ['doubles'],
  );
  const move = useDo(
    (state: 'running' | 'paused' | 'cancelled') =>
      call('post /doubles/searches/:id/state', { params: { id: search!.id }, body: { state } }),
    ['doubles'],
  );
  const under = search && (search.state === 'running' || search.state === 'paused');
  const share = search && search.total > 0 ? search.done / search.total : 0;
  return (
    <Sheet className="mb-3.5">
      <div className="flex min-h-[46px] flex-wrap items-center gap-3 px-4 py-1.5">
        {!search && <span>Nobody has looked for doubles among these records yet.</span>}
        {under && (
          <>
            <span className="font-semibold">{search.state === 'running' ? 'Looking for doubles' : 'Paused'}</span>
            <span
              role="progressbar"
              aria-label="Records compared"
              aria-valuenow={Math.round(share * 100)}
              aria-valuemin={0}
              aria-valuemax={100}
              className="h-[8px] w-[220px] overflow-hidden rounded-full bg-sand"
            >
              <span className="block h-full bg-plum" style={{ width: `${share * 100}%` }} />
            </span>
            <span className="text-soft">
              {search.total === 0 ? (
                'reading the known records …'
              ) : (
                <>
                  <span className="font-mono">{search.done.toLocaleString()}</span> of{' '}
                  <span className="font-mono">{search.total.toLocaleString()}</span>
                </>
              )}
              {search.state === 'running' && share > 0.02 && `, ${timeLeft(search, share)}`}
            </span>
            <span className="ml-auto flex gap-2">
              {search.state === 'running' ? (
                <Button disabled={!may} onClick={() => move.mutate('paused')}>
                  Pause
                </Button>
              ) : (
                <Button disabled={!may} onClick={() => move.mutate('running')}>
                  Go on
                </Button>
              )}
              <Button disabled={!may} onClick={() => move.mutate('cancelled')}>
                Cancel
              </Button>
            </span>
          </>
        )}
        {search && !under && (
          <span className="text-soft">
            Looked {search.state === 'done' ? 'through' : 'at'}{' '}
            <span className="font-mono">{search.done.toLocaleString()}</span> records, compared{' '}
            <span className="font-mono">{search.compared.toLocaleString()}</span> pairs,{' '}
            <Moment at={search.endedAt ?? search.startedAt} />, {search.startedBy}
            {search.state !== 'done' && <Tag tone="saffron">◆ {search.state}</Tag>} {search.words}
          </span>
        )}
        {!under && others.length > 0 && (
          <label className="ml-auto flex items-center gap-2 text-small text-soft">
            among
            <select
              aria-label="Among which records"
              value={among}
              disabled={!may}
              onChange={({ target }) => setAmong(target.value)}
              className="h-[28px] rounded-[6px] border border-line bg-sheet px-2 text-ink"
            >
              <option value="">themselves</option>
              {others.map((each) => (
                <option key={`${each.system}/${each.entity}`} value={`${each.system}/${each.entity}`}>
                  {each.entity} in {each.systemName}
                </option>
              ))}
            </select>
          </label>
        )}
        {!under && (
          <Button
            look={search ? 'plain' : 'strong'}
            className={others.length > 0 ? '' : 'ml-auto'}
            disabled={!may}
            busy={start.isPending}
            onClick={() => start.mutate(undefined)}
          >
            {search ? 'Look again' : 'Look for doubles'}
          </Button>
        )}
        {(start.error ?? move.error) && (
          <p role="alert" className="w-full text-brick">
            {(start.error ?? move.error)!.message}
          </p>
        )}
      </div>
    </Sheet>
  );
}

function timeLeft({ startedAt }: Search, share: number): string {
  const seconds = ((Date.now() - Date.parse(startedAt)) / 1000 / share) * (1 - share);
  return seconds < 90
    ? `about ${Math.max(1, Math.round(seconds))} s left`
    : `about ${Math.round(seconds / 60)} min left`;
}

function Groups({
  told,
  entity,
  system,
  chosen,
  choose,
}: {
  told: Told;
  entity: Entity;
  system: string;
  chosen: string | null;
  choose: (id: number) => void;
}) {
  const [rule, setRule] = useState<SurvivorRule>(SURVIVOR_RULES[0]);
  const { groups } = told;
  const group = useHeldPlace(groups, ({ id }) => String(id), chosen ?? '');
  const at = group ? groups.indexOf(group) : 0;
  useKeys(listKeys(groups.length, at, (to) => groups[to] && choose(groups[to].id)));
  if (!group)
    return (
      <Sheet>
        <Empty title="No groups here">
          {told.searches[0]?.state === 'running'
            ? 'What belongs together is shown in groups as soon as all records have been compared. You may leave this page meanwhile.'
            : told.searches.length === 0
              ? 'Look for doubles: all known records are compared, and what belongs together is shown in groups.'
              : 'What was found has been decided.'}
        </Empty>
      </Sheet>
    );
  return (
    <div className="grid grid-cols-[272px_minmax(0,1fr)] items-start gap-3.5 max-[900px]:grid-cols-1">
      <Sheet
        title="Groups"
        aside={
          <>
            <Key name="J" /> <Key name="K" />
          </>
        }
      >
        <ul tabIndex={0} aria-label="Groups" className="max-h-[calc(100vh-236px)] overflow-auto">
          {groups.map((each, index) => (
            <li key={each.id} className="border-t border-hair first:border-t-0">
              <GroupButton group={each} current={index === at} choose={() => choose(each.id)} />
            </li>
          ))}
        </ul>
      </Sheet>
      <OneGroup
        key={`${group.id} ${group.state}`}
        system={system}
        entity={entity}
        id={group.id}
        rule={rule}
        setRule={setRule}
      />
    </div>
  );
}

function GroupButton({ group, current, choose }: { group: GroupLine; current: boolean; choose: () => void }) {
  return (
    <button
      type="button"
      aria-current={current}
      onClick={choose}
      className={cx(
        'block w-full px-4 py-2 text-left hover:bg-wash',
        current && 'bg-plum-wash/60 shadow-[inset_4px_0_0_var(--color-plum)]',
      )}
    >
      <span className="block truncate font-semibold">{group.names[0]}</span>
      <span className="flex items-center justify-between gap-2 text-small text-soft">
        <span className="truncate">{group.members.join(', ')}</span>
        <Tag tone={group.verdict === 'same' ? 'moss' : 'saffron'}>
          {group.verdict === 'same' ? '●' : '◆'} <span className="font-mono">{bitsText(group.weight)}</span>
        </Tag>
      </span>
    </button>
  );
}
