import type { Personal } from '../forms/index.ts';
import { AUTOFILL, meaningsOf, type Meaning } from './lexicon.ts';
import { tellingWords } from './words.ts';

const PERSONAL: Partial<Record<Meaning, Personal>> = {
  'given name': 'given name',
  'family name': 'family name',
  'full name': 'full name',
  name: 'full name',
  email: 'email',
  phone: 'phone',
  mobile: 'phone',
  fax: 'phone',
  'birth date': 'date',
  street: 'text',
  address: 'text',
  'house number': 'text',
};

interface Named {
  name: string;
  label: string;
  type: string;
  autocomplete?: string;
}

/** What a form's field says about a person, told by its words, its autofill token and its kind; undefined: nothing. */
export function personalKindOf(field: Named): Personal | undefined {
  if (field.type === 'email') return 'email';
  if (field.type === 'phone') return 'phone';
  const token = field.autocomplete?.split(/\s+/).at(-1);
  const meanings = [
    ...(token && AUTOFILL[token] ? [AUTOFILL[token]] : []),
    ...[...meaningsOf(tellingWords(field.label)), ...meaningsOf(tellingWords(field.name))].map(
      ({ meaning }) => meaning,
    ),
  ];
  // "Orchard name" names no person.
  if (meanings.includes('organisation')) return undefined;
  return meanings.map((meaning) => PERSONAL[meaning]).find((kind) => kind !== undefined);
}
