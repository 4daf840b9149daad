import { AdapterDocument, troubleWithAdapter } from '@zusammen/core/adapters';
import { validated } from '@zusammen/core/documents';
import { useState } from 'react';
import { Button } from '../../parts/button.tsx';
import { Dialog } from '../../parts/dialog.tsx';
import { FileInput } from '../../parts/file-input.tsx';

/** An adapter out of a text, or what is wrong with it, place by place. */
export function adapterIn(text: string): { document: AdapterDocument } | { complaints: string[] } {
  let plain: unknown;
  try {
    plain = JSON.parse(text);
  } catch (error) {
    return { complaints: [`It isn’t JSON: ${(error as Error).message}`] };
  }
  const read = validated(AdapterDocument, plain);
  const complaints = read.ok ? troubleWithAdapter(read.value) : read.complaints;
  if (!read.ok || complaints.length > 0)
    return { complaints: complaints.slice(0, 20).map(({ field, reason }) => `${field} ${reason}`) };
  return { document: plain as AdapterDocument };
}

/** Whether a text is meant to be an adapter, whatever is wrong with it, and no description of an API. */
export const looksLikeAdapter = (text: string): boolean =>
  /"entities"\s*:\s*\[/.test(text) && /"format"\s*:/.test(text) && !/"openapi"\s*:/.test(text.slice(0, 2_000));

/** The adapter as a document: to be handed on as a file, or taken from one. */
export function AsDocument({
  document,
  close,
  take,
}: {
  document: AdapterDocument;
  close: () => void;
  /** Absent: it may be looked at only. */
  take?: (document: AdapterDocument) => void;
}) {
  const [text, setText] = useState(() => JSON.stringify(document, null, 2));
  const [complaints, setComplaints] = useState<string[]>([]);
  const download = (): void => {
    const link = window.document.createElement('a');
    link.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
    link.download = `${document.name.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase() || 'adapter'}.adapter.json`;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  return (
    <Dialog
      open
      close={close}
      title="As a document"
      description="It holds no secrets: in another workspace it is taken in with a sign-in of its own."
      width={760}
    >
      <textarea
        aria-label="The adapter as JSON"
        value={text}
        readOnly={!take}
        spellCheck={false}
        onChange={({ target }) => {
          setText(target.value);
          setComplaints([]);
        }}
        className="h-[46vh] w-full rounded-[7px] border border-line bg-sheet p-3 font-mono text-[12.5px] leading-[18px]"
      />
      {complaints.length > 0 && (
        <ul role="alert" className="mt-2 max-h-[16vh] overflow-auto text-brick">
          {complaints.map((each) => (
            <li key={each}>{each}</li>
          ))}
        </ul>
      )}
      <div className="mt-3 flex flex-wrap items-center justify-between gap-2">
        <span className="flex items-center gap-2">
          <Button onClick={download}>Keep as a file</Button>
          {take && (
            <FileInput
              label="Take an adapter from a file"
              accept=".json,application/json"
              choose={(file) => void file.text().then(setText)}
            />
          )}
        </span>
        <span className="flex gap-2">
          <Button onClick={close}>Close</Button>
          {take && (
            <Button
              look="strong"
              onClick={() => {
                const read = adapterIn(text);
                if ('complaints' in read) setComplaints(read.complaints);
                else {
                  take(read.document);
                  close();
                }
              }}
            >
              Take this one
            </Button>
          )}
        </span>
      </div>
    </Dialog>
  );
}
