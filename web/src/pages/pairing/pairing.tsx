import type { PairingDetail } from '@zusammen/core/api';
import {
  aroundOf,
  type Pairing as PairingDocument,
  type PairLine,
  type Side,
  type Sides,
} from '@zusammen/core/pairing';
import type { Around } from '@zusammen/core/pairing';
import type { Schema } from '@zusammen/core/schema';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useMe, useSystem } from '../../api/hooks.ts';
import { useLook, usePairing } from '../../api/pairings.ts';
import { useActions } from '../../parts/actions.ts';
import { useAddress } from '../../parts/address.ts';
import { Button } from '../../parts/button.tsx';
import { Dialog } from '../../parts/dialog.tsx';
import { useKeys } from '../../parts/keys.ts';
import { Heading } from '../../parts/sheet.tsx';
import { Fetched } from '../../parts/states.tsx';
import { usePairingDraft } from './draft.ts';
import { FieldsLeft } from './fields-left.tsx';
import { Findings } from './findings.tsx';
import { LinesTable } from './lines-table.tsx';
import { WhatWouldHappen } from './outcomes.tsx';
import { Rehearsed } from './rehearsed.tsx';
import { StandsNow } from './stands.tsx';
import { StateTag } from './state-tag.tsx';
import { WhichWithWhich } from './which.tsx';

/** One pairing: which goes with which, field by field who decides, what would happen, and how its pairs stand. */
export function Pairing() {
  const { id = '' } = useParams();
  const pairing = usePairing(id);
  const left = useSystem(pairing.data?.left.system);
  const right = useSystem(pairing.data?.right.system);
  return (
    <Fetched query={pairing}>
      {(data) => (
        <Fetched query={left}>
          {(mine) => (
            <Fetched query={right}>
              {(other) => (
                <Opened
                  key={id}
                  pairing={data}
                  schemas={
                    new Map<string, Schema>([
                      [data.left.system, mine.schema],
                      [data.right.system, other.schema],
                    ])
                  }
                />
              )}
            </Fetched>
          )}
        </Fetched>
      )}
    </Fetched>
  );
}

/** What every part of the page works with. */
export interface Editing {
  pairing: PairingDetail;
  document: PairingDocument;
  around: Sides<Around | undefined>;
  mayEdit: boolean;
  change: (work: (document: PairingDocument) => PairingDocument) => void;
  changeLine: (id: string, more: Partial<PairLine>) => void;
  systemName: (side: Side) => string;
}

function Opened({ pairing, schemas }: { pairing: PairingDetail; schemas: ReadonlyMap<string, Schema> }) {
  const me = useMe();
  const navigate = useNavigate();
  const [params, set] = useAddress();
  const draft = usePairingDraft(pairing);
  const [asking, setAsking] = useState(false);
  const [removing, setRemoving] = useState(false);
  const { document, change } = draft;
  const look = useLook(pairing.id, draft.kept.document, draft.kept.revision);
  const mayEdit = me.data !== undefined && me.data.role !== 'viewer';
  const around = { left: aroundOf(document, 'left', schemas), right: aroundOf(document, 'right', schemas) };
  const editing: Editing = {
    ...{ pairing, document, around, mayEdit, change },
    changeLine: (id, more) =>
      change((before) => ({
        ...before,
        lines: before.lines.map((line) => (line.id === id ? { ...line, ...more } : line)),
      })),
    systemName: (side) => pairing[side].systemName,
  };
  const stale = ['pairings'] as const;
  const start = useDo(
    async ({ accept }: { accept: boolean }) =>
      call('post /pairings/:id/start', {
        params: { id: pairing.id },
        body: { revision: await draft.settled(), accept },
      }),
    stale,
  );
  const goOn = useDo(() => call('post /pairings/:id/start', { params: { id: pairing.id }, body: {} }), stale);
  const pause = useDo(() => call('post /pairings/:id/pause', { params: { id: pairing.id } }), stale);
  const compare = useDo(() => call('post /pairings/:id/compare', { params: { id: pairing.id } }), stale);
  const remove = useDo(() => call('delete /pairings/:id', { params: { id: pairing.id } }), stale);
  const isSame = pairing.live !== null && JSON.stringify(pairing.live) === JSON.stringify(document);
  const findings = look.data?.findings ?? [];
  const stops = findings.filter(({ severity }) => severity === 'stops');
  const begin = (): void => {
    if (stops.length > 0 || findings.length > 0) setAsking(true);
    else start.mutate({ accept: false });
  };
  const chosen = document.lines.find(({ id }) => id === params.get('line')) ?? document.lines[0];
  const rehearsing = params.get('show') === 'rehearsal';
  const trouble = [start, goOn, pause, compare, remove].find(({ error }) => error)?.error?.message ?? draft.trouble;
  const running = pairing.state === 'running';
  const action = pairing.liveVersion === null ? 'Start' : isSame ? undefined : 'Save and apply';
  useKeys({ ...(draft.undo && mayEdit ? { 'ctrl+z': draft.undo } : {}) });
  useActions(
    mayEdit
      ? [
          ...(pairing.state === 'running' ? [{ name: 'Pause this pairing', act: () => pause.mutate(undefined) }] : []),
          ...(pairing.state === 'paused'
            ? [{ name: 'Let this pairing go on', act: () => goOn.mutate(undefined) }]
            : []),
          ...(pairing.state !== 'draft'
            ? [{ name: 'Compare everything anew', act: () => compare.mutate(undefined) }]
            : []),
          { name: 'Remove this pairing…', act: () => setRemoving(true) },
        ]
      : [],
  );
  return (
    <>
      <Heading
        crumbs={<Link to="/pairings">Pairings /</Link>}
        title={<Name editing={editing} />}
        actions={
          <>
            {draft.saving && <span className="text-small text-soft">keeping …</span>}
            {mayEdit && draft.undo && (
              <Button look="quiet" hotkey="Ctrl Z" onClick={draft.undo}>
                Undo
              </Button>
            )}
            {mayEdit && running && (
              <Button busy={pause.isPending} onClick={() => pause.mutate(undefined)}>
                Pause
              </Button>
            )}
            {mayEdit && pairing.state === 'paused' && (
              <Button look={isSame ? 'strong' : 'plain'} busy={goOn.isPending} onClick={() => goOn.mutate(undefined)}>
                Go on
              </Button>
            )}
            {mayEdit && (
              <Button onClick={() => set({ show: rehearsing ? '' : 'rehearsal' })}>
                {rehearsing ? 'Back to the fields' : 'Rehearse on 200 pairs'}
              </Button>
            )}
            {mayEdit && action && (
              <Button look="strong" busy={start.isPending} disabled={document.lines.length === 0} onClick={begin}>
                {action}
              </Button>
            )}
          </>
        }
      >
        <StateTag pairing={pairing} />
      </Heading>
      {trouble !== undefined && (
        <p role="alert" className="mb-2 text-brick">
          {trouble}
        </p>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)_320px] gap-4 max-[1023px]:grid-cols-1">
        <div className="min-w-0 space-y-4">
          {rehearsing ? (
            <Rehearsed editing={editing} settled={draft.settled} />
          ) : (
            <>
              <div className="sheet">
                <WhichWithWhich editing={editing} look={look.data} />
                <LinesTable editing={editing} look={look.data} chosen={chosen?.id} choose={(line) => set({ line })} />
              </div>
              {chosen && <WhatWouldHappen editing={editing} line={chosen} look={look.data} loading={look.isFetching} />}
              <FieldsLeft editing={editing} />
            </>
          )}
        </div>
        <div className="min-w-0 space-y-4">
          <Findings findings={findings} choose={(line) => set({ line, show: '' })} loading={look.isPending} />
          <StandsNow
            editing={editing}
            compare={mayEdit && pairing.state !== 'draft' ? () => compare.mutate(undefined) : undefined}
          />
        </div>
      </div>
      {asking && (
        <Dialog
          open
          close={() => setAsking(false)}
          title={stops.length > 0 ? 'It can’t be started like this' : 'Before it starts'}
          {...(stops.length > 0 ? {} : { description: 'This still wants a look; it can be started as it is.' })}
        >
          <ul className="mb-4 list-disc space-y-1 pl-5">
            {(stops.length > 0 ? stops : findings).map(({ id, sentence, place }) => (
              <li key={`${id} ${place.line ?? ''} ${sentence}`}>{sentence}</li>
            ))}
          </ul>
          <div className="flex justify-end gap-2">
            <Button autoFocus onClick={() => setAsking(false)}>
              {stops.length > 0 ? 'Mend it' : 'Not yet'}
            </Button>
            {stops.length === 0 && (
              <Button
                look="strong"
                busy={start.isPending}
                onClick={() => start.mutate({ accept: true }, { onSuccess: () => setAsking(false) })}
              >
                {action ?? 'Start'}
              </Button>
            )}
          </div>
        </Dialog>
      )}
      {removing && (
        <Dialog
          open
          close={() => setRemoving(false)}
          title={`Remove ${document.name}`}
          description="Its records are kept in step no longer, and which went with which is forgotten. What it has written stays, and can be taken back in the ledger."
        >
          <div className="flex justify-end gap-2">
            <Button autoFocus onClick={() => setRemoving(false)}>
              Keep it
            </Button>
            <Button
              look="danger"
              busy={remove.isPending}
              onClick={() => remove.mutate(undefined, { onSuccess: () => void navigate('/pairings') })}
            >
              Remove it
            </Button>
          </div>
        </Dialog>
      )}
    </>
  );
}

/** The pairing's name, edited where it stands. */
function Name({ editing: { document, change, mayEdit } }: { editing: Editing }) {
  if (!mayEdit) return document.name;
  return (
    <input
      aria-label="Name of the pairing"
      value={document.name}
      maxLength={120}
      onChange={({ target }) => change((before) => ({ ...before, name: target.value || before.name }))}
      className="max-w-[46ch] min-w-[8ch] truncate rounded-[5px] [field-sizing:content] border border-transparent bg-transparent font-bold hover:border-hair focus:border-line"
    />
  );
}
