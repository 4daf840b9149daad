import type { OneField, WantedField } from '@zusammen/core/one-field';
import { useState } from 'react';

const KEPT = 'one field';

const isDraft = (value: unknown): value is OneField =>
  typeof value === 'object' && value !== null && 'field' in value && 'places' in value && 'lines' in value;

function held(): OneField | undefined {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEPT) ?? 'null');
    return isDraft(kept) ? kept : undefined;
  } catch {
    return undefined;
  }
}

/** A field as it begins: in the entity that it was asked for from, if any. */
const fresh = (at: { system: string; entity: string } | undefined): OneField => ({
  field: { label: '', type: 'text' },
  places: at ? [at] : [],
  lines: [],
});

/** What somebody wants of one field, kept until it is made: leaving the page loses nothing. */
export function useFieldDraft(at: { system: string; entity: string } | undefined) {
  const [draft, setDraft] = useState<OneField>(() => held() ?? fresh(at));
  const keep = (next: OneField): void => {
    setDraft(next);
    try {
      localStorage.setItem(KEPT, JSON.stringify(next));
    } catch {
      // Where nothing can be kept, it lasts as long as the page.
    }
  };
  const forget = (): void => {
    try {
      localStorage.removeItem(KEPT);
    } catch {
      // The same.
    }
  };
  return {
    draft,
    change: keep,
    changeField: (change: Partial<WantedField>) => keep({ ...draft, field: withChange(draft.field, change) }),
    afresh: () => {
      forget();
      setDraft(fresh(at));
    },
    forget,
  };
}

/** What is made undefined goes; options belong to what is chosen from, a limit to texts. */
function withChange(field: WantedField, change: { [Name in keyof WantedField]?: WantedField[Name] | undefined }) {
  const next = { ...field, ...change } as WantedField;
  const chosen = next.type === 'option' || next.type === 'options';
  if (!chosen) delete next.options;
  if (next.type !== 'text') delete next.maxLength;
  if (next.type === 'options' || (chosen && !next.options?.some(({ value }) => value === next.default)))
    delete next.default;
  for (const name of Object.keys(next) as (keyof WantedField)[])
    if (next[name] === undefined || next[name] === '') if (name !== 'label') delete next[name];
  return next;
}
