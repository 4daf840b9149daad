import type { ReactNode } from 'react';
import { Editable } from '../../../parts/editable.tsx';

/** A part of a question's sentence: words, and for the chosen question what they can be changed by. */
export function Part({
  label,
  shown,
  edited,
  wide = false,
  children,
}: {
  label: string;
  shown: ReactNode;
  /** Whether it can be changed here. */
  edited: boolean;
  wide?: boolean;
  children: (close: () => void) => ReactNode;
}) {
  if (!edited) return <b className="font-semibold">{shown}</b>;
  return (
    <Editable label={label} shown={shown} wide={wide}>
      {children}
    </Editable>
  );
}

/** A part that is one of two, and changes by a click. */
export function Toggle({
  label,
  shown,
  edited,
  flip,
}: {
  label: string;
  shown: string;
  edited: boolean;
  flip: () => void;
}) {
  if (!edited) return <b className="font-semibold">{shown}</b>;
  return (
    <button type="button" aria-label={label} className="min-h-6 border-b-2 border-moss font-semibold" onClick={flip}>
      {shown}
    </button>
  );
}

export const BOX = 'h-[30px] rounded-[6px] border border-line bg-sheet px-2';

/** A number that may be left out. */
export function NumberBox({
  label,
  value,
  change,
  step = 1,
  least,
  most,
}: {
  label: string;
  value: number | undefined;
  change: (value: number | undefined) => void;
  step?: number | 'any';
  least?: number;
  most?: number;
}) {
  return (
    <label className="flex items-center justify-between gap-3">
      <span className="text-small">{label}</span>
      <input
        type="number"
        step={step}
        min={least}
        max={most}
        className={`${BOX} w-[110px]`}
        value={value ?? ''}
        onChange={({ target }) => {
          const number = target.valueAsNumber;
          const isOut = (least !== undefined && number < least) || (most !== undefined && number > most);
          if (target.value === '') change(undefined);
          else if (!Number.isNaN(number) && !isOut) change(number);
        }}
      />
    </label>
  );
}
