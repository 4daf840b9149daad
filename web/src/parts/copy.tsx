import { useState } from 'react';
import { Button } from './button.tsx';

/** A text to be taken along, with a button that does. */
export function Copy({ label, text }: { label: string; text: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <div>
      <p className="mb-1 text-small font-semibold">{label}</p>
      <div className="flex items-center gap-2">
        <code
          className="min-w-0 flex-1 truncate rounded-[7px] bg-sand px-3 py-1.5 font-mono text-[13px]"
          data-testid="address"
        >
          {text}
        </code>
        <Button
          onClick={() => {
            void navigator.clipboard.writeText(text).then(() => {
              setCopied(true);
              setTimeout(() => setCopied(false), 2000);
            });
          }}
        >
          {copied ? 'Copied' : 'Copy'}
        </Button>
      </div>
    </div>
  );
}
