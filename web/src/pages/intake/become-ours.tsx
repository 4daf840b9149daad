import { becomesOurs } from '@zusammen/core/asking';
import { standingsOf, troublesOf } from '@zusammen/core/forms/hosted';
import { useMemo } from 'react';
import { Button } from '../../parts/button.tsx';
import { Dialog } from '../../parts/dialog.tsx';
import { plural } from '../../parts/plural.ts';
import { useDraft } from './draft.tsx';
import { newId } from './form/editing.tsx';

/** Makes a page's form one of ours, after saying what becomes of it. */
export function BecomeOurs({ close }: { close: () => void }) {
  const { document, change } = useDraft();
  const become = useMemo(() => becomesOurs(document, newId), [document]);
  const form = become.document.form!;
  const questions = standingsOf(form).filter(({ name, item }) => name !== '' && item.kind !== 'group').length;
  const [trouble] = troublesOf(form);
  return (
    <Dialog open close={close} title="Make it a form of ours">
      <div className="space-y-3">
        <p>
          {plural(questions, 'question')}, under the same names, with the same options and limits; what fills the
          records stays as it is. From the next version on it has a page of its own, and what is sent here is held to
          what it asks.
        </p>
        {become.renamed.length > 0 && (
          <div>
            <p>Names that a form of ours can’t have become others; lines and conditions follow:</p>
            <ul className="mt-1 max-h-[180px] overflow-auto font-mono text-[13px]">
              {become.renamed.map(({ was, is }) => (
                <li key={was}>
                  {was} <span className="text-soft">is sent as</span> {is}
                </li>
              ))}
            </ul>
          </div>
        )}
        {trouble && (
          <p role="status" className="text-saffron">
            ◆ One thing has to be put right by hand then: {trouble.reason}.
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={close}>Leave it on its page</Button>
          <Button
            look="strong"
            disabled={trouble !== undefined}
            onClick={() => {
              change(() => become.document);
              close();
            }}
          >
            Make it ours
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
