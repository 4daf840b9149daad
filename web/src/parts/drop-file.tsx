import { useState, type ReactNode } from 'react';
import { cx } from './cx.ts';

/** A part of a page on which a file may be dropped; what is done by dropping can be done by a button as well. */
export function DropFile({
  label,
  choose,
  disabled = false,
  children,
}: {
  /** What dropping would do, shown while a file is held over it. */
  label: string;
  choose: (file: File) => void;
  disabled?: boolean;
  children: ReactNode;
}) {
  const [over, setOver] = useState(false);
  if (disabled) return <>{children}</>;
  return (
    <div
      className={cx('relative', over && 'rounded-[10px] outline-2 outline-offset-4 outline-dashed outline-plum')}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes('Files')) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={({ currentTarget, relatedTarget }) => {
        if (!(relatedTarget instanceof Node) || !currentTarget.contains(relatedTarget)) setOver(false);
      }}
      onDrop={(event) => {
        const file = event.dataTransfer.files[0];
        setOver(false);
        if (!file) return;
        event.preventDefault();
        choose(file);
      }}
    >
      {over && (
        <p className="pointer-events-none absolute inset-x-0 top-2 z-20 mx-auto w-fit rounded-[7px] bg-plum px-4 py-2 font-semibold text-on-strong">
          {label}
        </p>
      )}
      {children}
    </div>
  );
}
