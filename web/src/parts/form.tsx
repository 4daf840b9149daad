import { useId, type InputHTMLAttributes, type ReactNode, type SelectHTMLAttributes } from 'react';
import { cx } from './cx.ts';

const BOX = 'w-full rounded-[7px] border border-line bg-sheet px-3 h-[34px] placeholder:text-soft';

interface FieldProps {
  label: string;
  help?: ReactNode;
  error?: string | undefined;
}

function Labelled({ label, help, error, id, children }: FieldProps & { id: string; children: ReactNode }) {
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-small font-semibold">
        {label}
      </label>
      {children}
      {error ? (
        <p id={`${id}-error`} role="alert" className="mt-1 text-small text-brick">
          {error}
        </p>
      ) : (
        help && <p className="mt-1 text-small text-soft">{help}</p>
      )}
    </div>
  );
}

export function TextField({
  label,
  help,
  error,
  className,
  ...rest
}: FieldProps & InputHTMLAttributes<HTMLInputElement>) {
  const id = useId();
  return (
    <Labelled label={label} help={help} error={error} id={id}>
      <input
        id={id}
        aria-invalid={error !== undefined}
        aria-describedby={error ? `${id}-error` : undefined}
        className={cx(BOX, error && 'border-brick', className)}
        {...rest}
      />
    </Labelled>
  );
}

export function SelectField({
  label,
  help,
  error,
  children,
  ...rest
}: FieldProps & SelectHTMLAttributes<HTMLSelectElement>) {
  const id = useId();
  return (
    <Labelled label={label} help={help} error={error} id={id}>
      <select id={id} className={BOX} {...rest}>
        {children}
      </select>
    </Labelled>
  );
}
