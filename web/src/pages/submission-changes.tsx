import { plural } from '../parts/plural.ts';
import type { LedgerChange } from '@zusammen/core/api';
import { call } from '../api/client.ts';
import { useDo, useMe } from '../api/hooks.ts';
import { actorsOf } from '../parts/actors.ts';
import { Tag } from '../parts/chip.tsx';
import { Moment, span } from '../parts/time.tsx';

const ACTIONS = { create: 'Created', update: 'Changed', delete: 'Deleted', schema: 'Schema changed' };
const ATTEMPTS = {
  create: 'Was to be created',
  update: 'Was to change',
  delete: 'Was to be deleted',
  schema: 'Schema was to change',
};
const CHANGE_STATES: Record<LedgerChange['state'], [word: string, tone: 'moss' | 'sand' | 'brick' | 'saffron']> = {
  written: ['● written', 'moss'],
  intended: ['◌ on its way', 'sand'],
  refused: ['✕ refused', 'brick'],
  unclear: ['? not known', 'saffron'],
  overtaken: ['◆ overtaken, decided again', 'saffron'],
};

export function ChangeStateTag({ change }: { change: LedgerChange }) {
  const [word, tone] = CHANGE_STATES[change.state];
  return change.undoneBy === null ? <Tag tone={tone}>{word}</Tag> : <Tag tone="plum">↶ taken back</Tag>;
}

/** What was sent to the system and how it was answered, each with the way back. */
export function Changes({ changes }: { changes: LedgerChange[] }) {
  const me = useMe();
  const takeBack = useDo(
    (id: number) => call('post /ledger/:id/take-back', { params: { id: String(id) } }),
    ['submission', 'submissions', 'ledger'],
  );
  return (
    <section>
      <h3 className="border-y border-hair bg-wash px-4 py-2 font-semibold">On the ledger</h3>
      <ul>
        {changes.map((change) => (
          <li key={change.id} className="flex items-center gap-3 border-b border-hair px-4 py-2">
            <ChangeStateTag change={change} />
            <span className="min-w-0 flex-1 truncate">
              {change.undoes === null
                ? (change.state === 'written' ? ACTIONS : ATTEMPTS)[change.action]
                : change.action === 'delete'
                  ? 'Deleted, taking the creation back'
                  : 'Former values put back'}{' '}
              {change.recordId}
              <span className="ml-2 text-small text-soft">
                {Object.keys(change.after).length > 0 && `${plural(Object.keys(change.after).length, 'field')}, `}by{' '}
                {actorsOf(change)}, <Moment at={change.intendedAt} />
                {change.settledAt &&
                  `, answered after ${span(Math.max(0, new Date(change.settledAt).getTime() - new Date(change.intendedAt).getTime()))}`}
              </span>
              {change.refusal && <span className="block truncate text-brick">{change.refusal.words}</span>}
            </span>
            {change.state === 'written' &&
              change.undoes === null &&
              change.undoneBy === null &&
              me.data?.role !== 'viewer' && (
                <button
                  type="button"
                  className="font-semibold text-plum hover:underline"
                  disabled={takeBack.isPending}
                  onClick={() => takeBack.mutate(change.id)}
                >
                  Take back
                </button>
              )}
          </li>
        ))}
      </ul>
      {takeBack.error && (
        <p role="alert" className="px-4 py-2 text-brick">
          {takeBack.error.message}
        </p>
      )}
    </section>
  );
}
