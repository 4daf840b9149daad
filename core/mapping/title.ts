import { isBlank } from '../values/index.ts';
import { AUTOFILL, meaningsOf, type Meaning } from './lexicon.ts';
import { tellingWords } from './words.ts';

interface Named {
  name: string;
  label: string;
  type: string;
  autocomplete?: string;
}

/** Meanings by which people call a submission, the best first; those of one row are joined. */
const CALLED_BY: Meaning[][] = [
  ['organisation'],
  ['given name', 'family name'],
  ['full name'],
  ['name'],
  ['email'],
  ['phone'],
];

/** What a submission is called in lists: the organisation, the person or the address it speaks of; else its first value. */
export function titleOf(fields: readonly Named[], values: Readonly<Record<string, string | string[]>>): string {
  const meanings = fields.map((field) => {
    const spotted = [...meaningsOf(tellingWords(field.label)), ...meaningsOf(tellingWords(field.name))].map(
      ({ meaning }) => meaning,
    );
    const token = field.autocomplete && AUTOFILL[field.autocomplete];
    return new Set<Meaning>(field.type === 'email' ? ['email'] : token ? [token, ...spotted] : spotted);
  });
  const valueOf = (meaning: Meaning): string | undefined => {
    const at = fields.findIndex((field, index) => meanings[index]!.has(meaning) && !isBlank(values[field.name]));
    return at < 0 ? undefined : String(values[fields[at]!.name]).trim();
  };
  for (const row of CALLED_BY) {
    const said = row.flatMap((meaning) => valueOf(meaning) ?? []);
    if (said.length > 0) return [...new Set(said)].join(' ');
  }
  return String(Object.values(values).find((value) => !isBlank(value)) ?? '').slice(0, 80);
}
