import { plural } from '../../parts/plural.ts';
import type { Recognition as Document } from '@zusammen/core/recognition';
import type { Entity } from '@zusammen/core/schema';
import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useMe, useSystem } from '../../api/hooks.ts';
import type { EffectOfChange, Learning, RecognitionDetail, RecognitionState } from '@zusammen/core/api';
import { useRecognition } from '../../api/recognition.ts';
import { Button } from '../../parts/button.tsx';
import { Tag } from '../../parts/chip.tsx';
import { useKeys } from '../../parts/keys.ts';
import { NoSuchEntity } from '../../parts/no-such-entity.tsx';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { Empty, Fetched, Trouble } from '../../parts/states.tsx';
import { EvidenceLines, KeysTable } from './evidence-lines.tsx';
import { NearPairs } from './near-pairs.tsx';
import { Scores } from './scores.tsx';
import { TryIt } from './try-it.tsx';

/** How records of an entity are recognised: what counts as evidence, where the lines are, and what that comes to. */
export function Recognition() {
  const [params] = useSearchParams();
  const [system, name] = [params.get('system') ?? undefined, params.get('entity') ?? undefined];
  const detail = useSystem(system);
  const recognition = useRecognition(system, name);
  const entity = detail.data?.schema.entities.find((each) => each.name === name);
  if (!system || !name || (detail.data && !entity)) return <NoSuchEntity />;
  if (detail.error) return <Trouble error={detail.error} retry={() => void detail.refetch()} />;
  return (
    <Fetched query={recognition} rows={12}>
      {(told) =>
        !entity || !system ? null : told.recognition ? (
          <Loaded
            key={told.recognition.revision}
            system={system}
            entity={entity}
            told={told}
            state={told.recognition}
          />
        ) : (
          <NotYet system={system} entity={entity} suggestion={told.suggestion} />
        )
      }
    </Fetched>
  );
}

const Crumbs = ({ system, entity }: { system: string; entity: Entity }) => (
  <>
    <Link to="/schema" className="hover:underline">
      Schema
    </Link>{' '}
    /{' '}
    <Link to={`/schema?system=${system}&entity=${entity.name}`} className="hover:underline">
      {entity.label}
    </Link>{' '}
    /
  </>
);

const STALE = ['recognition', 'recognitions', 'intakes'];

function NotYet({ system, entity, suggestion }: { system: string; entity: Entity; suggestion: Document | null }) {
  const me = useMe();
  const may = me.data !== undefined && me.data.role !== 'viewer';
  const begin = useDo(
    (document: Document) =>
      call('put /systems/:id/entities/:entity/recognition', {
        params: { id: system, entity: entity.name },
        body: { document, revision: 0 },
      }),
    STALE,
  );
  return (
    <>
      <Heading crumbs={<Crumbs system={system} entity={entity} />} title="Recognition" />
      <Sheet>
        <Empty
          title={
            suggestion
              ? `It isn’t set up yet how a ${entity.label} is recognised by evidence`
              : `${entity.label} keeps neither people nor organisations, as far as its fields tell`
          }
        >
          {suggestion ? (
            <>
              <p>
                Looks like a {suggestion.kind}: {suggestion.parts.length} of its fields say something about who is meant
                (
                {suggestion.parts
                  .map(({ field }) => entity.fields.find((each) => each.name === field)?.label ?? field)
                  .join(', ')}
                ). All records are read once, and what changes afterwards.
              </p>
              <Button
                look="strong"
                className="mt-3"
                disabled={!may}
                busy={begin.isPending}
                onClick={() => begin.mutate(suggestion)}
              >
                Read the records and begin
              </Button>
              {begin.error && (
                <p role="alert" className="mt-2 text-brick">
                  {begin.error.message}
                </p>
              )}
            </>
          ) : (
            'Exact keys in a plan recognise them all the same.'
          )}
        </Empty>
      </Sheet>
    </>
  );
}

function Loaded({
  system,
  entity,
  told,
  state,
}: {
  system: string;
  entity: Entity;
  told: RecognitionDetail;
  state: RecognitionState;
}) {
  const me = useMe();
  const may = me.data !== undefined && me.data.role !== 'viewer';
  const [document, setDocument] = useState(state.document);
  const [trying, setTrying] = useState(false);
  const params = { id: system, entity: entity.name };
  const changed = JSON.stringify(document) !== JSON.stringify(state.document);
  const save = useDo(
    () =>
      call('put /systems/:id/entities/:entity/recognition', { params, body: { document, revision: state.revision } }),
    STALE,
  );
  const learn = useDo(() => call('post /systems/:id/entities/:entity/recognition/learn', { params }), []);
  const weigh = useDo(
    (next: Document) =>
      call('post /systems/:id/entities/:entity/recognition/effect', { params, body: { document: next } }),
    [],
  );
  const { measure } = state;
  const comparable = changed && JSON.stringify(document.parts) === JSON.stringify(state.document.parts);
  useEffect(() => {
    if (!comparable) return;
    const timer = setTimeout(() => weigh.mutate(document), 400);
    return () => clearTimeout(timer);
    // The mutation itself is the same throughout.
  }, [document, comparable]);
  useKeys({ t: () => setTrying(true) });
  const effect = comparable ? weigh.data?.effect : undefined;
  const uses = told.uses ?? [];
  return (
    <>
      <Heading
        crumbs={<Crumbs system={system} entity={entity} />}
        title="Recognition"
        actions={
          <>
            <Button hotkey="T" disabled={state.filledAt === null} onClick={() => setTrying(true)}>
              Try it
            </Button>
            <Link
              to={`/schema/doubles?system=${system}&entity=${entity.name}`}
              className="inline-flex h-[33px] items-center rounded-[7px] border border-line bg-sheet px-3.5 font-semibold whitespace-nowrap hover:bg-wash"
            >
              Doubles among them
            </Link>
            <Button
              disabled={!may || measure === null}
              busy={learn.isPending}
              onClick={() =>
                learn.mutate(undefined, { onSuccess: ({ learned }) => setDocument((held) => ({ ...held, learned })) })
              }
            >
              Learn weights
            </Button>
            <Button
              look="strong"
              disabled={!may || !changed}
              busy={save.isPending}
              onClick={() => save.mutate(undefined)}
            >
              Save version {state.revision + 1}
            </Button>
          </>
        }
      >
        <Tag tone={uses.length > 0 ? 'moss' : 'sand'}>
          {uses.length === 0
            ? 'in no live plan'
            : uses.length === 1
              ? `in use by ${uses[0]}`
              : `in use by ${uses.length} intakes`}
        </Tag>
        <Tag>
          <span className="font-mono">{state.known.toLocaleString()}</span> known
        </Tag>
      </Heading>
      {save.error && (
        <p role="alert" className="mb-3 rounded-[8px] bg-brick-wash px-4 py-2 text-brick">
          {save.error.message}
        </p>
      )}
      {state.words && <p className="mb-3 rounded-[8px] bg-saffron-wash px-4 py-2 text-saffron">◆ {state.words}</p>}
      {changed && (
        <Changed
          effect={effect}
          learned={learn.data && document.learned === learn.data.learned ? learn.data : undefined}
          anew={!comparable}
          uses={uses}
          undo={() => setDocument(state.document)}
          error={weigh.error?.message ?? learn.error?.message}
        />
      )}
      {!measure || state.filledAt === null ? (
        <Sheet>
          <Empty title={state.filledAt === null ? 'The records are being read' : 'The records are being measured'}>
            <span className="font-mono">{state.known.toLocaleString()}</span> are known so far. Submissions that need
            them wait meanwhile.
          </Empty>
        </Sheet>
      ) : (
        <div className="grid grid-cols-[minmax(0,452px)_minmax(0,1fr)] items-start gap-3.5 max-[900px]:grid-cols-1 max-[1180px]:grid-cols-[minmax(0,400px)_minmax(0,1fr)]">
          <div className="space-y-3.5">
            <EvidenceLines
              {...{ entity, measure, may }}
              recognition={document}
              ignored={state.ignored ?? []}
              change={setDocument}
            />
            <KeysTable entity={entity} recognition={state.document} measure={measure} />
          </div>
          <div className="space-y-3.5">
            <Sheet
              title={
                <>
                  <span className="font-mono">{measure.pairs.toLocaleString()}</span> pairs by weight of evidence
                </>
              }
              aside="in bits, heights logarithmic; drag a line, or focus it and use the arrows"
            >
              <Scores
                measure={measure}
                thresholds={document.thresholds}
                disabled={!may}
                change={(thresholds) => setDocument((held) => ({ ...held, thresholds }))}
              />
            </Sheet>
            <NearPairs system={system} entity={entity} recognition={state.document} pairs={measure.near} may={may} />
            <p className="px-1 text-small text-soft">
              Version {state.revision}
              {told.versions?.[0] && `, saved by ${told.versions[0].savedBy}`}.{' '}
              {told.decided && told.decided.of > 0
                ? `${plural(told.decided.of, 'pair was', 'pairs were')} decided by people, ${told.decided.same} of them the same.`
                : 'Nobody has decided about a pair yet; weights are our defaults.'}
            </p>
          </div>
        </div>
      )}
      {trying && <TryIt system={system} entity={entity} recognition={state.document} close={() => setTrying(false)} />}
    </>
  );
}

/** What saving would change, before it is saved. */
function Changed({
  effect,
  learned,
  anew,
  uses,
  undo,
  error,
}: {
  effect: EffectOfChange | undefined;
  learned: Learning | undefined;
  anew: boolean;
  /** Live intakes that recognise by it. */
  uses: readonly string[];
  undo: () => void;
  error: string | undefined;
}) {
  const moves = Object.entries(effect?.pairs.moves ?? {});
  return (
    <div
      role="status"
      className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1 rounded-[8px] border border-hair bg-plum-wash/50 px-4 py-2"
    >
      <span className="font-semibold text-plum">Not saved yet.</span>
      {anew && <span>What is compared changes: all records are read anew once it is saved.</span>}
      {learned && (
        <span>
          {learned.learned.length === 0
            ? 'The defaults fit these records; nothing was learned.'
            : `${plural(learned.learned.length, 'weight')} learned from ${plural(learned.effect.pairs.of, 'pair')} and ${plural(learned.decided, 'decision')}.`}
        </span>
      )}
      {effect && (
        <span>
          Of {plural(effect.pairs.of, 'pair')}{' '}
          {moves.length === 0
            ? 'none is judged otherwise.'
            : moves.map(([move, count]) => `${count} from ${move.replace(' to ', ' to ')}`).join(', ') + '.'}
        </span>
      )}
      {effect && effect.decided.of > 0 && (
        <span>
          Of {effect.decided.of} decided by people, {effect.decided.wouldAgree} would come out so (now{' '}
          {effect.decided.agreed}), {effect.decided.wouldBeWrong} against it (now {effect.decided.wrong}).
        </span>
      )}
      {uses.length > 0 && (
        <span>
          Saved, it holds at once for {uses.slice(0, 3).join(', ')}
          {uses.length > 3 && ` and ${uses.length - 3} more`}
          {effect &&
            (effect.live.of === 0
              ? '; nothing was weighed there lately.'
              : `: of the last ${effect.live.of} weighed there, ${
                  effect.live.moved.length === 0 ? 'none' : effect.live.moved.length
                } would be judged otherwise.`)}
        </span>
      )}
      {effect && effect.live.moved.length > 0 && (
        <span className="text-small text-soft">
          {effect.live.moved.slice(0, 3).map(({ submission, label, move }) => (
            <Link key={submission} to={`/ledger?submission=${submission}`} className="mr-3 underline">
              {label || 'one without a name'}: {move}
            </Link>
          ))}
        </span>
      )}
      {effect && effect.examples.length > 0 && (
        <span className="text-small text-soft">
          Such as{' '}
          {effect.examples.slice(0, 4).map(({ a, b, move }) => (
            <span key={`${a} ${b}`} className="mr-3 whitespace-nowrap">
              <span className="font-mono">
                {a} {b}
              </span>{' '}
              {move}
            </span>
          ))}
        </span>
      )}
      {error && <span className="text-brick">{error}</span>}
      <Button look="quiet" className="ml-auto h-[26px]" onClick={undo}>
        Undo the changes
      </Button>
    </div>
  );
}
