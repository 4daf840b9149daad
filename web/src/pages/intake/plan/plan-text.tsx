import { planInWords } from '@zusammen/core/plans';
import { useState } from 'react';
import { Button } from '../../../parts/button.tsx';
import { Dialog } from '../../../parts/dialog.tsx';
import { useDraft } from '../draft.tsx';

/** The plan as a text that a colleague reads without Zusammen. */
export function PlanText({ close }: { close: () => void }) {
  const { document, schemas, systems } = useDraft();
  const [copied, setCopied] = useState(false);
  const names = new Map(systems.map(({ id, name }) => [id, name]));
  const text = `${document.name}\n\n${planInWords(document, schemas, names)}`;
  return (
    <Dialog open close={close} title="The plan as text" width={760}>
      <pre
        tabIndex={0}
        aria-label="Plan"
        className="max-h-[52vh] overflow-auto rounded-[7px] bg-wash p-4 font-mono text-[13px] whitespace-pre-wrap"
      >
        {text}
      </pre>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>Close</Button>
        <Button look="strong" onClick={() => void navigator.clipboard.writeText(text).then(() => setCopied(true))}>
          {copied ? 'Copied' : 'Copy it'}
        </Button>
      </div>
    </Dialog>
  );
}
