import type { Texts } from '@zusammen/core/forms/hosted';
import { useEffect, useRef } from 'react';
import type { Editing } from './editing.tsx';

/** Texts with one language's changed; what is left blank is there no more, unless nothing would be left. */
export function worded(texts: Texts | undefined, language: string, text: string): Texts | undefined {
  const next = { ...texts, [language]: text };
  if (text === '') delete (next as Record<string, string>)[language];
  return Object.keys(next).length === 0 ? undefined : next;
}

/** The words of a question, edited where they stand: its label, and the help under it. */
export function Wording({ id, editing }: { id: string; editing: Editing }) {
  const { language, form } = editing;
  const item = editing.standings.find((each) => each.item.id === id)?.item;
  const first = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    first.current?.focus();
    first.current?.select();
  }, []);
  if (!item) return null;
  const hasHelp = item.kind !== 'heading' && item.kind !== 'words' && item.kind !== 'hidden';
  const done = (event: React.KeyboardEvent): void => {
    const isLong = item.kind === 'words' || item.kind === 'consent';
    if (event.key === 'Escape' || (event.key === 'Enter' && !event.shiftKey && !isLong)) {
      event.preventDefault();
      event.stopPropagation();
      editing.word(undefined);
    }
  };
  const others = form.languages.filter((each) => each !== language);
  return (
    <div className="space-y-1.5" onKeyDown={done}>
      <textarea
        ref={first}
        aria-label={`Its words in ${nameOf(language)}`}
        rows={item.kind === 'words' || item.kind === 'consent' ? 4 : 1}
        maxLength={2000}
        className="block w-full resize-y rounded-[6px] border border-plum bg-sheet px-2 py-1 text-[15px] font-semibold"
        value={item.label[language] ?? ''}
        placeholder={form.languages.map((each) => item.label[each]).find(Boolean)}
        onChange={({ target }) =>
          editing.change(id, (held) => ({ ...held, label: worded(held.label, language, target.value) ?? held.label }))
        }
      />
      {hasHelp && (
        <textarea
          aria-label="Help under it"
          rows={1}
          maxLength={2000}
          className="block w-full resize-y rounded-[6px] border border-line bg-sheet px-2 py-1 text-small"
          placeholder="Help under it, or nothing"
          value={item.help?.[language] ?? ''}
          onChange={({ target }) =>
            editing.change(id, ({ help, ...rest }) => {
              const next = worded(help, language, target.value);
              return next ? { ...rest, help: next } : rest;
            })
          }
        />
      )}
      <p className="text-small text-soft">
        Enter when done.
        {others.length > 0 && ` In ${others.map(nameOf).join(', ')}: choose the language above.`}
      </p>
    </div>
  );
}

/** A language by its own name (Unicode CLDR). */
export const nameOf = (language: string): string =>
  new Intl.DisplayNames([language], { type: 'language' }).of(language) ?? language;
