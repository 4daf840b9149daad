import type { AdapterDetail, System } from '@zusammen/core/api';
import { mended, OPERATIONS, type AdapterOperation, type AdapterTrial } from '@zusammen/core/adapters';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { call, type ApiProblem } from '../../api/client.ts';
import { useDo, useMe, useSystem } from '../../api/hooks.ts';
import { Button } from '../../parts/button.tsx';
import { Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { listKeys, useKeys } from '../../parts/keys.ts';
import { plural } from '../../parts/plural.ts';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { Fetched } from '../../parts/states.tsx';
import { Around, Lacks, SignsIn } from './around.tsx';
import { AsDocument } from './as-document.tsx';
import { AskBeforeWriting, Versions } from './adapter-dialogs.tsx';
import { Drift } from './drift.tsx';
import { useAdapterDraft } from './draft.ts';
import { Fields } from './fields.tsx';
import { Sentences } from './sentences.tsx';
import { Tried } from './tried.tsx';

export const useAdapter = (id: string) =>
  useQuery({
    queryKey: ['systems', id, 'adapter'],
    queryFn: () => call('get /systems/:id/adapter', { params: { id } }),
    enabled: id !== '',
  });

/** How a system with a plain JSON API is spoken to. */
export function Adapter() {
  const { id = '' } = useParams();
  const system = useSystem(id);
  const adapter = useAdapter(id);
  return (
    <Fetched query={system} rows={6}>
      {(detail) => (
        <Fetched query={adapter} rows={6}>
          {(known) => <Opened key={known.version} system={detail.system} known={known} />}
        </Fetched>
      )}
    </Fetched>
  );
}

/** Trying goes entity by entity, so that each is seen as soon as it stands. */
interface Trying {
  done: number;
  of: number;
}

function Opened({ system, known }: { system: System; known: AdapterDetail }) {
  const me = useMe();
  const client = useQueryClient();
  const [params, setParams] = useSearchParams();
  const draft = useAdapterDraft(system.id, known.version, known.document);
  const { document } = draft;
  const locked = me.data?.role !== 'administrator';
  const at = Math.max(
    0,
    document.entities.findIndex(({ name }) => name === params.get('entity')),
  );
  const entity = document.entities[at]!;
  const [trials, setTrials] = useState<AdapterTrial[]>(known.trials);
  const [shown, setShown] = useState<AdapterOperation>();
  const [trying, setTrying] = useState<Trying>();
  const [failure, setFailure] = useState<string>();
  const [asking, setAsking] = useState(false);
  const [asText, setAsText] = useState(false);
  const [earlier, setEarlier] = useState(false);
  const [caughtUp, setCaughtUp] = useState(false);
  useKeys({
    ...listKeys(document.entities.length, at, (to) => {
      const next = document.entities[to];
      if (next) setParams({ entity: next.name }, { replace: true });
    }),
    ...(draft.undo ? { u: draft.undo } : {}),
  });

  const tryAll = async (writes: boolean): Promise<void> => {
    setFailure(undefined);
    const names = document.entities.map(({ name }) => name);
    for (const [done, name] of names.entries()) {
      setTrying({ done, of: names.length });
      try {
        const body = { ...(draft.changed ? { document } : {}), entities: [name], writes };
        const answer = await call('post /systems/:id/adapter/try', { params: { id: system.id }, body });
        setTrials((before) => [...before.filter((each) => each.entity !== name), ...answer.trials]);
      } catch (error) {
        setFailure((error as ApiProblem).message);
        break;
      }
    }
    setTrying(undefined);
    setShown((before) => before ?? 'list');
  };
  const save = useDo(
    () =>
      call('put /systems/:id/adapter', {
        params: { id: system.id },
        body: { document, version: known.version, ...(caughtUp ? { caughtUp } : {}) },
      }),
    ['systems', 'schemas'],
  );
  const mine = trials.filter((each) => each.entity === entity.name);
  const inOrder = [...mine].sort((a, b) => OPERATIONS.indexOf(a.operation) - OPERATIONS.indexOf(b.operation));
  const trial =
    inOrder.find(({ operation }) => operation === shown) ??
    inOrder.find(({ state }) => state === 'failed') ??
    inOrder[0];
  const operations = document.entities.reduce((sum, each) => sum + operationsOf(each), 0);
  return (
    <>
      <Heading
        crumbs={
          <>
            <Link to={`/systems?system=${system.id}`} className="hover:underline">
              Systems / {system.name}
            </Link>{' '}
            /
          </>
        }
        title="How it is spoken to"
        actions={
          <>
            {draft.undo && <Button onClick={draft.undo}>Undo</Button>}
            <Button onClick={() => setAsText(true)}>As a document</Button>
            {!locked && (
              <Button
                busy={trying !== undefined}
                onClick={() => (system.practice ? void tryAll(true) : setAsking(true))}
              >
                {trials.length > 0 ? `Try all ${operations} again` : `Try all ${operations}`}
              </Button>
            )}
            {!locked && (
              <Button
                look="strong"
                disabled={!draft.changed}
                busy={save.isPending}
                onClick={() => save.mutate(undefined, { onSuccess: draft.drop })}
              >
                Save version {known.version + 1}
              </Button>
            )}
          </>
        }
      >
        <Tag tone="plum">
          {known.document.describedAt === undefined
            ? 'plain JSON'
            : /openapi|swagger|\.ya?ml|\.json/i.test(known.document.describedAt)
              ? 'plain JSON, from its OpenAPI'
              : 'plain JSON, from a list of records'}
        </Tag>
        <Tag tone={system.practice ? 'sand' : 'plum'}>{system.practice ? 'practice' : 'real'}</Tag>
        <button type="button" className="text-small text-soft hover:underline" onClick={() => setEarlier(true)}>
          version {known.version}
        </button>
      </Heading>
      {trying && (
        <p role="status" className="mb-3 text-soft">
          Trying {document.entities[trying.done]?.label}: {trying.done} of {plural(trying.of, 'entity', 'entities')}{' '}
          done.
        </p>
      )}
      {(failure ?? save.error?.message) && (
        <p role="alert" className="mb-3 text-brick">
          {failure ?? save.error!.message}
          {save.error &&
            save.error.errors.length > 0 &&
            ` ${save.error.errors.map(({ field, reason }) => `${field} ${reason}`).join('; ')}`}
        </p>
      )}
      <Drift system={system} draft={draft} locked={locked} caughtUp={() => setCaughtUp(true)} />
      <div className="grid grid-cols-[230px_minmax(0,1.25fr)_minmax(0,1fr)] items-start gap-3.5 max-[1100px]:grid-cols-1">
        <div className="space-y-3.5">
          <Sheet title="Entities found">
            <ul>
              {document.entities.map((each, index) => (
                <li key={each.name} className="border-b border-hair last:border-b-0">
                  <button
                    type="button"
                    aria-current={index === at}
                    onClick={() => setParams({ entity: each.name })}
                    className={cx(
                      'flex w-full items-center justify-between gap-2 px-4 py-2 text-left hover:bg-wash',
                      index === at && 'bg-plum-wash font-semibold shadow-[inset_3px_0_0_var(--color-plum)]',
                    )}
                  >
                    <span className="truncate">{each.label}</span>
                    <EntityMark
                      trials={trials.filter(({ entity: name }) => name === each.name)}
                      of={operationsOf(each)}
                    />
                  </button>
                </li>
              ))}
            </ul>
            {known.unused.length > 0 && (
              <details className="border-t border-hair px-4 py-2 text-small text-soft">
                <summary className="cursor-pointer">{plural(known.unused.length, 'path')} not used</summary>
                <ul className="mt-1 space-y-1">
                  {known.unused.slice(0, 50).map(({ path, why }) => (
                    <li key={path}>
                      <span className="font-mono break-all text-ink">{path}</span> {why}
                    </li>
                  ))}
                </ul>
              </details>
            )}
          </Sheet>
          <SignsIn document={document} set={draft.set} locked={locked} />
        </div>
        <div className="space-y-3.5">
          <Sheet
            title={entity.label}
            aside={`${plural(entity.fields.length, 'field')}, named by ${entity.key.join(' and ')}`}
          >
            <Sentences
              entity={entity}
              reasons={known.reasons}
              trials={inOrder}
              shown={trial?.operation}
              show={setShown}
              change={(change) => draft.entity(entity.name, change)}
              locked={locked}
            />
          </Sheet>
          <Fields
            entity={entity}
            reasons={known.reasons}
            change={(change) => draft.entity(entity.name, change)}
            locked={locked}
          />
          <Around document={document} set={draft.set} locked={locked} />
        </div>
        <div className="space-y-3.5">
          <Tried
            trial={trial}
            {...(locked ? {} : { apply: (mend) => draft.set(mended(document, entity.name, mend)) })}
          />
          <Lacks entity={entity} parallel={document.parallel} />
        </div>
      </div>
      {asking && (
        <AskBeforeWriting name={system.name} close={() => setAsking(false)} go={(writes) => void tryAll(writes)} />
      )}
      {asText && (
        <AsDocument document={document} close={() => setAsText(false)} {...(locked ? {} : { take: draft.set })} />
      )}
      {earlier && (
        <Versions
          known={known}
          close={() => setEarlier(false)}
          {...(locked
            ? {}
            : {
                take: async (version: number) => {
                  const { document: before } = await client.fetchQuery({
                    queryKey: ['systems', system.id, 'adapter', version],
                    queryFn: () =>
                      call('get /systems/:id/adapter/:version', {
                        params: { id: system.id, version: String(version) },
                      }),
                  });
                  draft.set(before);
                },
              })}
        />
      )}
    </>
  );
}

type Entity = AdapterDetail['document']['entities'][number];

/** Operations of an entity that can be tried. */
const operationsOf = ({ list, read, find, create, update, remove, changes, repeat }: Entity): number =>
  [list, read, create, update, remove, changes].filter((each) => each !== undefined).length +
  find.length +
  (list && list.paging.kind !== 'none' ? 1 : 0) +
  (create && repeat.by === 'key' ? 1 : 0);

function EntityMark({ trials, of }: { trials: readonly AdapterTrial[]; of: number }) {
  const worked = trials.filter(({ state }) => state === 'worked').length;
  if (trials.length === 0) return <span className="text-small whitespace-nowrap text-soft">○ {of}</span>;
  if (trials.some(({ state }) => state === 'failed')) {
    return (
      <span className="text-small whitespace-nowrap text-brick">
        ■ {worked} of {of}
      </span>
    );
  }
  return (
    <span className={cx('text-small whitespace-nowrap', worked >= of ? 'text-moss' : 'text-saffron')}>
      {worked >= of ? '●' : '◆'} {worked} of {of}
    </span>
  );
}
