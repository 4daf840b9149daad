import { copyItem } from '@zusammen/core/asking';
import type { Standing } from '@zusammen/core/forms/hosted';
import { useState } from 'react';
import { call } from '../../../api/client.ts';
import { useDo, useIntakes } from '../../../api/hooks.ts';
import { Editable } from '../../../parts/editable.tsx';
import { useDraft } from '../draft.tsx';
import type { Editing } from './editing.tsx';

/** Copies a question to the draft of another form of ours, with the line that fills its record where one fits there. */
export function CopyTo({ standing, editing }: { standing: Standing; editing: Editing }) {
  const { document, detail } = useDraft();
  const others = (useIntakes().data ?? []).filter(
    ({ source, id }) => source.kind === 'ours' && id !== detail.intake.id,
  );
  const [done, setDone] = useState<string>();
  const copy = useDo(
    async ({ id, name }: { id: string; name: string }) => {
      const { intake } = await call('get /intakes/:id', { params: { id } });
      const next = copyItem(document, standing.item.id, intake.draft, editing.asking);
      await call('put /intakes/:id/draft', { params: { id }, body: { document: next, revision: intake.revision } });
      return name;
    },
    ['intakes'],
  );
  if (others.length === 0) return null;
  return (
    <>
      <Editable label="Copy it to another form" shown="copy it to …" bare className="min-h-6 text-plum hover:underline">
        {(close) => (
          <ul className="max-h-[260px] w-[260px] overflow-auto">
            {others.map(({ id, name }) => (
              <li key={id}>
                <button
                  type="button"
                  className="block w-full rounded-[6px] px-2 py-1 text-left hover:bg-wash"
                  onClick={() => {
                    setDone(undefined);
                    copy.mutate({ id, name }, { onSuccess: setDone });
                    close();
                  }}
                >
                  {name}
                </button>
              </li>
            ))}
          </ul>
        )}
      </Editable>
      {(done !== undefined || copy.error) && (
        <span role="status" className={copy.error ? 'text-brick' : 'text-soft'}>
          {copy.error ? copy.error.message : `copied into the draft of ${done}`}
        </span>
      )}
    </>
  );
}
