import { Dialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

/** A dialog: to enter something whole, or to confirm what can't be undone. */
export function Dialog({
  open,
  close,
  title,
  description,
  children,
  width = 560,
}: {
  open: boolean;
  close: () => void;
  title: string;
  description?: string;
  children: ReactNode;
  width?: number;
}) {
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && close()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-30 bg-ink/25" />
        <Radix.Content
          aria-describedby={undefined}
          className="sheet fixed top-[8vh] left-1/2 z-40 max-h-[86vh] max-w-[calc(100vw-16px)] -translate-x-1/2 overflow-auto p-6"
          style={{ width }}
        >
          <Radix.Title className="text-title font-bold">{title}</Radix.Title>
          {description && <p className="mt-1 text-soft">{description}</p>}
          <div className="mt-4">{children}</div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
