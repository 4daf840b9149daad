import { plural } from '../parts/plural.ts';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { call } from '../api/client.ts';
import { useDo, useMe, useSystem, useSystems } from '../api/hooks.ts';
import { lacksOf } from '@zusammen/core/adapters';
import type { System } from '@zusammen/core/api';
import { Button } from '../parts/button.tsx';
import { Tag } from '../parts/chip.tsx';
import { cx } from '../parts/cx.ts';
import { listKeys, useKeys } from '../parts/keys.ts';
import { Heading, Sheet, TD, TH } from '../parts/sheet.tsx';
import { SystemStateTag } from '../parts/state.tsx';
import { Empty, Fetched } from '../parts/states.tsx';
import { Moment, span } from '../parts/time.tsx';
import { useAdapter } from './adapter/adapter.tsx';
import { ChangeSystem } from './change-system.tsx';
import { Connect } from './connect-system.tsx';
import { Drifted } from './drifted.tsx';
import { WhatDiffers } from './what-differs.tsx';
import { ActingPeople } from './acting-people.tsx';
import { rightsInWords } from './rights-in-words.ts';
import { PaymentServices } from './payment-services.tsx';
import { abilitiesOf, type Ability } from './system-abilities.ts';

export function Systems() {
  const systems = useSystems();
  const me = useMe();
  const [params, setParams] = useSearchParams();
  const list = systems.data ?? [];
  const at = Math.max(
    0,
    list.findIndex(({ id }) => id === params.get('system')),
  );
  const go = useNavigate();
  const connecting = params.get('connect') !== null;
  useKeys({ ...listKeys(list.length, at, (to) => list[to] && setParams({ system: list[to].id }, { replace: true })) });
  const administrator = me.data?.role === 'administrator';
  return (
    <>
      <Heading
        title="Systems"
        actions={
          administrator && (
            <Button look="strong" onClick={() => setParams({ connect: '1' })}>
              Connect a system
            </Button>
          )
        }
      />
      <Fetched query={systems}>
        {() =>
          list.length === 0 ? (
            <Sheet>
              <Empty title="No system is connected">
                Address and token are all that is needed; what the system keeps is read from it.
              </Empty>
            </Sheet>
          ) : (
            <div className="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)] items-start gap-3.5 max-[900px]:grid-cols-1">
              <div>
                <Sheet>
                  <table className="w-full">
                    <tbody>
                      {list.map((system, index) => (
                        <tr
                          key={system.id}
                          className={cx('cursor-pointer hover:bg-wash', index === at && 'bg-plum-wash/60')}
                          onClick={() => setParams({ system: system.id })}
                        >
                          <td
                            className={cx(
                              TD,
                              'w-full max-w-0 py-2.5 pl-4',
                              index === at && 'shadow-[inset_3px_0_0_var(--color-plum)]',
                            )}
                          >
                            <button type="button" className="font-semibold">
                              {system.name}
                            </button>
                            <span className="block truncate text-small text-soft">{system.address}</span>
                          </td>
                          <td className={TD}>
                            <Tag tone={system.practice ? 'sand' : 'plum'}>{system.practice ? 'practice' : 'real'}</Tag>
                          </td>
                          <td className={cx(TD, 'font-mono whitespace-nowrap')}>
                            {system.latencyMs === null ? '–' : span(system.latencyMs)}
                          </td>
                          <td className={cx(TD, 'pr-4 text-right')}>
                            <SystemStateTag state={system.state} />
                          </td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </Sheet>
                <PaymentServices administrator={administrator} />
              </div>
              {list[at] && <Opened key={list[at].id} system={list[at]} administrator={administrator} />}
            </div>
          )
        }
      </Fetched>
      {connecting && administrator && (
        <Connect
          close={() => setParams({})}
          done={(id, adapter) => (adapter ? void go(`/systems/${id}/adapter`) : setParams({ system: id }))}
        />
      )}
    </>
  );
}

/** What a system can do in a line or two; what it can't, one by one, with what is done instead. */
function Abilities({ of }: { of: System }) {
  const all = abilitiesOf(of.capabilities);
  const lists: [heading: string, state: Ability['state'], mark: string][] = [
    ['Tried: it can', 'tried', '●'],
    ['Says that it can', 'said', '◐'],
  ];
  return (
    <>
      {lists.map(([heading, state, mark]) => {
        const these = all.filter((each) => each.state === state);
        if (these.length === 0) return null;
        return (
          <div key={state} className="contents">
            <dt className="text-soft">{heading}</dt>
            <dd>
              <ul className="flex flex-wrap gap-x-3.5 gap-y-0.5">
                {these.map(({ name, sentence }) => (
                  <li key={name} title={sentence}>
                    <span aria-hidden="true" className="text-moss">
                      {mark}{' '}
                    </span>
                    {name.toLowerCase()}
                    <span className="sr-only">: {sentence}</span>
                  </li>
                ))}
              </ul>
            </dd>
          </div>
        );
      })}
      {all
        .filter(({ state }) => state === 'declined' || state === 'untried')
        .map(({ name, state, sentence, words }) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd>
              <span aria-hidden="true" className="text-saffron">
                {state === 'declined' ? '– ' : '○ '}
              </span>
              {state === 'declined' && 'not offered: '}
              {sentence}
              {words !== undefined && <span className="block text-small text-soft">“{words}”</span>}
            </dd>
          </div>
        ))}
    </>
  );
}

/** How a system with an adapter is spoken to, and where that may be changed. */
function SpokenTo({ system }: { system: System }) {
  const me = useMe();
  const adapter = useAdapter(system.id);
  const signIn = useDo(() => call('post /systems/:id/sign-in', { params: { id: system.id } }), []);
  const drift = system.adapterDrift ?? [];
  const document = adapter.data?.document;
  const weak = (document?.entities ?? []).flatMap((entity) =>
    lacksOf(entity, document!.parallel)
      .filter((lack) => lack.weak)
      .map((lack) => ({ ...lack, label: entity.label })),
  );
  const failed = adapter.data?.trials.filter(({ state }) => state === 'failed').length ?? 0;
  return (
    <>
      <dt className="text-soft">Spoken to</dt>
      <dd>
        as plain JSON, by{' '}
        <Link to={`/systems/${system.id}/adapter`} className="font-semibold underline">
          version {system.adapterVersion} of its adapter
        </Link>
        {failed > 0 && (
          <span className="text-brick">, of which {plural(failed, 'operation fails', 'operations fail')}</span>
        )}
      </dd>
      {weak.length > 0 && (
        <>
          <dt className="text-soft">Can’t be promised</dt>
          <dd>
            <ul>
              {weak.map(({ label, what, instead }) => (
                <li key={`${label} ${what}`}>
                  <span aria-hidden="true" className="text-saffron">
                    ◆{' '}
                  </span>
                  {label}, {what.charAt(0).toLowerCase() + what.slice(1)}: {instead}
                </li>
              ))}
            </ul>
          </dd>
        </>
      )}
      {drift.length > 0 && (
        <>
          <dt className="text-soft">Its API</dt>
          <dd className="text-saffron">
            ◆ has changed:{' '}
            {drift
              .slice(0, 3)
              .map(({ what }) => what)
              .join(' ')}
            {drift.length > 3 && ` and ${drift.length - 3} more.`}
          </dd>
        </>
      )}
      {adapter.data?.document.signIn.kind === 'authorization code' && me.data?.role === 'administrator' && (
        <>
          <dt className="text-soft">Acts there as</dt>
          <dd>
            whoever signed in there last{' '}
            <Button
              busy={signIn.isPending}
              onClick={() => signIn.mutate(undefined, { onSuccess: ({ address }) => window.location.assign(address) })}
            >
              Sign in there
            </Button>
            {signIn.error && <span className="text-brick"> {signIn.error.message}</span>}
          </dd>
        </>
      )}
    </>
  );
}

function Opened({ system, administrator }: { system: System; administrator: boolean }) {
  const detail = useSystem(system.id);
  const me = useMe();
  const [editing, setEditing] = useState(false);
  const again = useDo(
    () => call('post /systems/:id/read', { params: { id: system.id } }),
    ['systems', 'schemas', 'schema changes'],
  );
  const entities = detail.data?.schema.entities ?? [];
  const hidden = entities.flatMap(({ fields }) => fields).filter(({ rights }) => rights === 'none').length;
  return (
    <Sheet
      title={
        <>
          {system.name} <SystemStateTag state={system.state} />
        </>
      }
      aside={
        <>
          {administrator && <Button onClick={() => setEditing(true)}>Change…</Button>}
          {me.data?.role !== 'viewer' && (
            <Button busy={again.isPending} onClick={() => again.mutate(undefined)}>
              {system.kind === 'json' ? 'Look whether it has changed' : 'Read its schema again'}
            </Button>
          )}
        </>
      }
    >
      {system.stateWords && <p className="border-b border-hair px-4 py-2 text-brick">{system.stateWords}</p>}
      {again.error && (
        <p role="alert" className="border-b border-hair px-4 py-2 text-brick">
          {again.error.message}
        </p>
      )}
      {again.data?.differences.length === 0 && system.kind === 'odata' && (
        <p role="status" className="border-b border-hair px-4 py-2 text-moss">
          Read again just now: nothing has changed since the reading before.
        </p>
      )}
      {detail.data && system.kind === 'odata' && (
        <WhatDiffers readAt={detail.data.readAt} differences={detail.data.differences} />
      )}
      {me.data?.role !== 'viewer' && <Drifted system={system.id} />}
      <dl className="grid grid-cols-[170px_1fr] gap-y-1.5 px-4 py-3">
        <dt className="text-soft">Writes reach</dt>
        <dd>
          {system.practice ? 'a practice system' : 'the real system'},{' '}
          {system.personal ? 'may keep values about people' : 'not marked for values about people'}
        </dd>
        <dt className="text-soft">Address</dt>
        <dd className="truncate font-mono text-[13px]">{system.address}</dd>
        <dt className="text-soft">{system.kind === 'json' ? 'Sign-in' : 'Token'}</dt>
        <dd>sealed; it is never shown again</dd>
        <dt className="text-soft">Last heard of</dt>
        <dd>
          <Moment at={system.checkedAt} />
          {system.latencyMs !== null && `, answers in ${span(system.latencyMs)}`}
        </dd>
        <ActingPeople system={system} administrator={administrator} />
        {system.kind === 'json' ? <SpokenTo system={system} /> : <Abilities of={system} />}
      </dl>
      <Fetched query={detail} rows={4}>
        {({ schema, readAt }) => (
          <>
            <p className="border-y border-hair bg-wash px-4 py-2">
              {plural(schema.entities.length, 'entity', 'entities')}, read <Moment at={readAt} />.{' '}
              {hidden > 0 && (
                <span className="text-saffron">
                  {plural(hidden, 'field is', 'fields are')} hidden from this connection.
                </span>
              )}
            </p>
            {(schema.unusable ?? []).length > 0 && (
              <ul className="border-b border-hair px-4 py-2 text-small text-saffron">
                {schema.unusable!.map(({ name, why }) => (
                  <li key={name}>
                    {name} can’t be worked with. {why}
                  </li>
                ))}
              </ul>
            )}
            <table className="w-full">
              <thead>
                <tr>
                  <th className={cx(TH, 'pl-4')}>Entity</th>
                  <th className={TH}>Fields</th>
                  <th className={TH}>Hidden</th>
                  <th className={TH}>The connection may</th>
                </tr>
              </thead>
              <tbody>
                {schema.entities.map((entity) => (
                  <tr key={entity.name}>
                    <td className={cx(TD, 'pl-4')}>
                      <Link
                        to={`/schema?system=${system.id}&entity=${entity.name}`}
                        className="font-semibold hover:underline"
                      >
                        {entity.label}
                      </Link>
                    </td>
                    <td className={cx(TD, 'font-mono')}>
                      {entity.fields.filter(({ rights }) => rights !== 'none').length}
                    </td>
                    <td className={cx(TD, 'font-mono')}>
                      {entity.fields.filter(({ rights }) => rights === 'none').length || '–'}
                    </td>
                    <td className={TD}>{rightsInWords(entity.rights)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </Fetched>
      {editing && <ChangeSystem system={system} close={() => setEditing(false)} />}
    </Sheet>
  );
}
