import { changeSource, conversionOf, type RecordPart } from '@zusammen/core/intake';
import type { Entity } from '@zusammen/core/schema';
import { Sheet } from '../../../parts/sheet.tsx';
import { useDraft } from '../draft.tsx';
import { RecordParts } from './record-parts.tsx';

/** When records convert by themselves, how often one is, and whether their pages show it. */
export function ByItself({ entity }: { entity: Entity | undefined }) {
  const { document, change, mayEdit } = useDraft();
  const conversion = conversionOf(document);
  if (!conversion) return null;
  const { starts = [], converted = 'once', panel } = conversion;
  const set = (next: RecordPart[]): void =>
    change((held) => changeSource(held, { starts: next.length === 0 ? undefined : next }));
  const label = entity?.label ?? 'record';
  return (
    <Sheet title="By itself">
      <div className="space-y-3 p-4">
        <p className="text-small text-soft">
          {starts.length === 0
            ? `No ${label} converts by itself. With a comparison, one does as soon as it comes to meet it:`
            : `A ${label} converts as soon as it comes to meet this; those that meet it already are left alone.`}
        </p>
        <RecordParts parts={starts} entity={entity} disabled={!mayEdit} change={set} />
        <label className="flex items-start gap-2">
          <input
            type="checkbox"
            className="mt-1"
            disabled={!mayEdit}
            checked={converted === 'each version'}
            onChange={({ target }) =>
              change((held) => changeSource(held, { converted: target.checked ? 'each version' : undefined }))
            }
          />
          <span>
            Again when it has changed
            <span className="block text-small text-soft">Otherwise one {label} is converted once, however often.</span>
          </span>
        </label>
        <label className="flex items-start gap-2">
          <input
            type="checkbox"
            className="mt-1"
            disabled={!mayEdit}
            checked={panel !== undefined}
            onChange={({ target }) =>
              change((held) => changeSource(held, { panel: target.checked ? { whenGone: 'ask' } : undefined }))
            }
          />
          <span>
            On the {label}’s own page
            <span className="block text-small text-soft">
              Whoever is signed in there sees what would come of it, and converts it as themselves.
            </span>
          </span>
        </label>
        {panel && (
          <label className="flex items-center gap-2 pl-6 text-small">
            If they are gone when it is carried out
            <select
              className="h-[30px] rounded-[6px] border border-line bg-sheet px-2"
              disabled={!mayEdit}
              value={panel.whenGone}
              onChange={({ target }) =>
                change((held) => changeSource(held, { panel: { whenGone: target.value as typeof panel.whenGone } }))
              }
            >
              <option value="ask">somebody is asked</option>
              <option value="connection">the connection goes on</option>
            </select>
          </label>
        )}
      </div>
    </Sheet>
  );
}
