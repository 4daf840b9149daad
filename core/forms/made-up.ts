import { isBlank } from '../values/index.ts';
import type { SubmittedValues } from './submission.ts';

const GIVEN = [
  'Alma',
  'Bruno',
  'Clara',
  'Dora',
  'Emil',
  'Frida',
  'Gustav',
  'Hanka',
  'Iwan',
  'Janina',
  'Konrad',
  'Ludmila',
  'Magda',
  'Nora',
  'Oskar',
  'Paula',
  'Renata',
  'Stefan',
  'Tilda',
  'Wanda',
];
const FAMILY = [
  'Ahorn',
  'Birke',
  'Dąbek',
  'Eschenbach',
  'Fichtner',
  'Grabski',
  'Holm',
  'Iwicki',
  'Jasny',
  'Kamiński',
  'Lindqvist',
  'Moor',
  'Nowina',
  'Olsza',
  'Pappel',
  'Quell',
  'Rohde',
  'Sikora',
  'Thal',
  'Weide',
];

/** What a field holds about a person, as far as made-up values differ. */
export type Personal = 'given name' | 'family name' | 'full name' | 'email' | 'phone' | 'text' | 'date' | 'number';

/**
 * Replaces what identifies a person by made-up values of the same shape: letters by letters of the same case, digits by
 * digits, names by names, addresses at `.example`. The same value becomes the same made-up one everywhere, so that
 * what belongs together stays together. Not encryption: who knows the seed and guesses a value can check the guess.
 * @param personal which names hold what; others are left as they are
 * @param seed a text; another seed gives other values
 */
export function madeUp(
  values: SubmittedValues,
  personal: ReadonlyMap<string, Personal>,
  seed: string,
): SubmittedValues {
  return Object.fromEntries(
    Object.entries(values).map(([name, value]) => {
      const kind = personal.get(name);
      if (kind === undefined || isBlank(value)) return [name, value];
      return [
        name,
        Array.isArray(value) ? value.map((each) => replaced(each, kind, seed)) : replaced(String(value), kind, seed),
      ];
    }),
  );
}

function replaced(value: string, kind: Personal, seed: string): string {
  const random = randomOf(`${seed}\n${value.trim().toLowerCase()}`);
  const pick = (list: readonly string[]): string => list[Math.floor(random() * list.length)]!;
  const edges = (text: string): string => value.replace(/\S(?:.*\S)?/su, () => text);
  switch (kind) {
    case 'given name':
      return edges(sameCase(pick(GIVEN), value));
    case 'family name':
      return edges(sameCase(pick(FAMILY), value));
    case 'full name':
      return edges(
        sameCase(value.includes(',') ? `${pick(FAMILY)}, ${pick(GIVEN)}` : `${pick(GIVEN)} ${pick(FAMILY)}`, value),
      );
    case 'email': {
      const at = value.lastIndexOf('@');
      // What is no address stays none: samples that fail must go on failing.
      return at < 1
        ? edges(shaped(value.trim(), random))
        : edges(`${shaped(value.slice(0, at).trim(), random)}@${pick(['meadow', 'orchard', 'hollow'])}.example`);
    }
    case 'phone':
      // The beginning tells country and network, and is kept so that the number stays one.
      return value.replace(/\d(?=\D*(?:\d\D*){0,4}$)/g, () => String(Math.floor(random() * 10)));
    case 'date':
      return value.replace(
        /(\d{4}-\d{2}-|(?:^|\D)\d{1,2}[./]\d{1,2}[./]\d{3})?\d(?=\D*$)/,
        (all) => all.slice(0, -1) + String(Math.floor(random() * 8) + 1),
      );
    default:
      return shaped(value, random);
  }
}

const shaped = (text: string, random: () => number): string =>
  text.replace(/\p{Lu}|\p{Ll}|\p{Lo}|\d/gu, (character) => {
    if (/\d/.test(character)) return String(Math.floor(random() * 10));
    const letter = String.fromCharCode(97 + Math.floor(random() * 26));
    return /\p{Lu}/u.test(character) ? letter.toUpperCase() : letter;
  });

function sameCase(name: string, like: string): string {
  const letters = like.replace(/[^\p{L}]/gu, '');
  if (letters === letters.toUpperCase() && letters.length > 1) return name.toUpperCase();
  return letters === letters.toLowerCase() ? name.toLowerCase() : name;
}

/** Numbers from 0 to 1 that depend on a text only (FNV-1a, then mulberry32). */
function randomOf(text: string): () => number {
  let state = 2166136261;
  for (let at = 0; at < text.length; at += 1) state = Math.imul(state ^ text.charCodeAt(at), 16777619);
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}
