import { quoted, tooLong } from './bounds.ts';
import { fold } from './text.ts';
import { read, unreadable, type Reading } from './reading.ts';

/** The languages forms are written in; names are the runtime's own (Unicode CLDR). */
const LANGUAGES = ['en', 'de', 'pl', 'fr', 'es', 'nl', 'it'];

/** Names in daily use that CLDR doesn't give. */
const COUNTRY_ALIASES: Record<string, string> = {
  usa: 'US',
  us: 'US',
  america: 'US',
  amerika: 'US',
  uk: 'GB',
  england: 'GB',
  scotland: 'GB',
  wales: 'GB',
  'great britain': 'GB',
  grossbritannien: 'GB',
  holland: 'NL',
  brd: 'DE',
  rp: 'PL',
  'czech republic': 'CZ',
  tschechien: 'CZ',
  czechy: 'CZ',
  schweiz: 'CH',
  suisse: 'CH',
  svizzera: 'CH',
};
const LANGUAGE_ALIASES: Record<string, string> = {
  deutsch: 'de',
  english: 'en',
  englisch: 'en',
  polski: 'pl',
  polish: 'pl',
  francais: 'fr',
  espanol: 'es',
  nederlands: 'nl',
  italiano: 'it',
  castellano: 'es',
};

let countries: Map<string, string> | undefined;
let countryCodes: Set<string> | undefined;
let languages: Map<string, string> | undefined;

function countryNames(): Map<string, string> {
  if (countries) return countries;
  countries = new Map(Object.entries(COUNTRY_ALIASES));
  const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];
  for (const language of LANGUAGES) {
    const names = new Intl.DisplayNames([language], { type: 'region', fallback: 'none' });
    for (const first of letters)
      for (const second of letters) {
        const code = first + second;
        const name = code === 'ZZ' || code === 'EU' || code === 'UN' || code === 'EZ' ? undefined : names.of(code);
        if (name !== undefined && !countries.has(fold(name))) countries.set(fold(name), canonical(code));
      }
  }
  return countries;
}

/** Codes that have been replaced (DD, UK) lead to the one in use (CLDR's aliases). */
const canonical = (code: string): string => new Intl.Locale(`und-${code}`).region ?? code;

function languageNames(): Map<string, string> {
  if (languages) return languages;
  languages = new Map(Object.entries(LANGUAGE_ALIASES));
  const codes = [
    'en',
    'de',
    'pl',
    'fr',
    'es',
    'nl',
    'it',
    'pt',
    'cs',
    'sk',
    'da',
    'sv',
    'nb',
    'fi',
    'hu',
    'ro',
    'uk',
    'ru',
    'tr',
    'ar',
    'el',
    'bg',
    'hr',
    'sl',
    'et',
    'lv',
    'lt',
    'zh',
    'ja',
  ];
  for (const language of [...LANGUAGES, ...codes]) {
    const names = new Intl.DisplayNames([language], { type: 'language', fallback: 'none' });
    for (const code of codes) {
      const name = names.of(code);
      if (name !== undefined && !languages.has(fold(name))) languages.set(fold(name), code);
    }
  }
  return languages;
}

/** Reads a country's name in any of the forms' languages, or its code, into ISO 3166-1 alpha-2. */
export function readCountry(text: string): Reading<string> {
  const long = tooLong(text, 'place');
  if (long !== undefined) return unreadable(long);
  const key = fold(text).replace(/^(the|die|der|das|la|le|les|el|los|il|lo|het|de) /, '');
  const named = countryNames().get(key) ?? countryNames().get(fold(text));
  if (named) return read(named);
  const code = text.trim().toUpperCase();
  countryCodes ??= new Set(countryNames().values());
  if (countryCodes.has(code)) return read(code);
  return unreadable(`“${quoted(text)}” is not a country`);
}

const NAMES = new Map<string, Intl.DisplayNames>();

/** The names of a kind in a language; making them costs more than asking them. */
function namesIn(language: string, type: 'region' | 'language'): Intl.DisplayNames {
  const key = `${type} ${language}`;
  const names = NAMES.get(key) ?? new Intl.DisplayNames([language], { type });
  NAMES.set(key, names);
  return names;
}

/** A country's name by its ISO 3166-1 alpha-2 code, in a language (BCP 47). */
export function countryName(code: string, language: string): string {
  return namesIn(language, 'region').of(code) ?? code;
}

/** Reads a language's name, or a tag like `de-AT`, into ISO 639-1. */
export function readLanguage(text: string): Reading<string> {
  const long = tooLong(text, 'place');
  if (long !== undefined) return unreadable(long);
  const named = languageNames().get(fold(text));
  if (named) return read(named);
  const tag = /^([a-z]{2})(?:[-_][a-z]{2,4})?$/i.exec(text.trim())?.[1]?.toLowerCase();
  if (tag && new Set(languageNames().values()).has(tag)) return read(tag);
  return unreadable(`“${quoted(text)}” is not a language`);
}

export function languageName(code: string, language: string): string {
  return namesIn(language, 'language').of(code) ?? code;
}
