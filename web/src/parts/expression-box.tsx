import { FUNCTIONS, readExpression, type ExpressionField } from '@zusammen/core/expressions';
import { useId, useRef, useState } from 'react';
import { cx } from './cx.ts';

interface Props {
  label: string;
  value: string;
  fields: readonly (ExpressionField & { label: string })[];
  /** By what name the fields are reached. */
  root?: 'form' | 'record';
  change: (text: string) => void;
}
type Root = NonNullable<Props['root']>;

interface Offer {
  insert: string;
  shown: string;
  help: string;
}

const fieldAt = (root: Root, name: string): string =>
  /^[A-Za-z_]\w*$/.test(name) ? `${root}.${name}` : `${root}[${JSON.stringify(name)}]`;

/** What could stand where the cursor is: fields after `form.` or `record.`, and functions. */
function offersAt(text: string, at: number, fields: Props['fields'], root: Root): { offers: Offer[]; from: number } {
  const before = text.slice(0, at);
  const word = /(?<!\w)(?:(?:form|record)\.)?[A-Za-z_]\w*\.?$|(?:form|record)\[?"?[^"\]]*$/.exec(before)?.[0] ?? '';
  const from = at - word.length;
  const said = word.replace(/^(?:form|record)[.[]?"?/, '').toLowerCase();
  if (word === '') return { offers: [], from };
  const matching = fields
    .filter(({ name, label }) => `${name} ${label}`.toLowerCase().includes(said) || root.startsWith(word))
    .slice(0, 8)
    .map(({ name, label }) => ({ insert: fieldAt(root, name), shown: fieldAt(root, name), help: label }));
  const functions = word.startsWith(root)
    ? []
    : FUNCTIONS.filter(({ name }) => name.startsWith(word)).map(({ shown, help }) => ({ insert: shown, shown, help }));
  return { offers: [...matching, ...functions], from };
}

/** An expression in CEL: fields are offered while typing, what is wrong stands under the word it concerns. */
export function ExpressionBox({ label, value, fields, root = 'form', change }: Props) {
  const id = useId();
  const box = useRef<HTMLTextAreaElement>(null);
  const [at, setAt] = useState<number>();
  const [chosen, setChosen] = useState(0);
  const read = readExpression(value, fields);
  const { offers, from } = at === undefined ? { offers: [], from: 0 } : offersAt(value, at, fields, root);
  const open = offers.length > 0 && !(offers.length === 1 && value.slice(from, at) === offers[0]!.insert);
  const take = (offer: Offer): void => {
    const next = value.slice(0, from) + offer.insert + value.slice(at);
    change(next);
    setAt(undefined);
    requestAnimationFrame(() => {
      box.current?.focus();
      box.current?.setSelectionRange(from + offer.insert.length, from + offer.insert.length);
    });
  };
  return (
    <div className="w-full">
      <label htmlFor={id} className="mb-1 block text-small text-soft">
        {label}
      </label>
      <textarea
        id={id}
        ref={box}
        rows={2}
        spellCheck={false}
        value={value}
        maxLength={2000}
        aria-invalid={!read.ok}
        aria-describedby={`${id}-trouble`}
        onChange={({ target }) => {
          change(target.value);
          setAt(target.selectionStart);
          setChosen(0);
        }}
        onBlur={() => setTimeout(() => setAt(undefined), 150)}
        onKeyDown={(event) => {
          if (!open) return;
          if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            setChosen((held) => Math.max(0, Math.min(offers.length - 1, held + (event.key === 'ArrowDown' ? 1 : -1))));
          } else if (event.key === 'Enter' || event.key === 'Tab') {
            event.preventDefault();
            take(offers[chosen] ?? offers[0]!);
          } else if (event.key === 'Escape') {
            event.stopPropagation();
            setAt(undefined);
          }
        }}
        className={cx(
          'w-full rounded-[6px] border bg-sheet px-2 py-1 font-mono text-[13px]',
          read.ok ? 'border-line' : 'border-brick',
        )}
      />
      {open && (
        <ul aria-label="What could stand here" className="sheet max-h-[180px] overflow-auto border-line p-1">
          {offers.map((offer, index) => (
            <li key={offer.shown + offer.help}>
              <button
                type="button"
                tabIndex={-1}
                onMouseDown={(event) => (event.preventDefault(), take(offer))}
                className={cx(
                  'flex w-full justify-between gap-3 rounded-[5px] px-2 py-1 text-left',
                  index === chosen && 'bg-moss-wash',
                )}
              >
                <code className="font-mono text-[13px]">{offer.shown}</code>
                <span className="text-small text-soft">{offer.help}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      <div id={`${id}-trouble`} aria-live="polite" className="min-h-[20px] text-small">
        {!read.ok && value.trim() !== '' && (
          <>
            <pre
              aria-hidden="true"
              className="overflow-hidden px-2 font-mono text-[13px] leading-[14px] whitespace-pre-wrap text-transparent"
            >
              {value.slice(0, read.from)}
              <span className="border-t-2 border-brick">{value.slice(read.from, read.to) || ' '}</span>
            </pre>
            <span className="text-brick">{read.reason}.</span>
          </>
        )}
        {read.ok && (
          <span className="text-soft">comes to {read.type === 'dyn' ? 'what the values give' : read.type}</span>
        )}
      </div>
    </div>
  );
}
