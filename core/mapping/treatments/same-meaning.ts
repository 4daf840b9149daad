import { fold, readCountry, readLanguage } from '../../values/index.ts';

interface Choice {
  value: string;
  label: string;
}

/** Words that mean the same in a list of choices, in the languages served; compared without case and accents. */
const WORDS = [
  'mr|herr|pan|monsieur|m|senor|sr|de heer|dhr|signor|sig',
  'ms|mrs|miss|frau|pani|madame|mme|mademoiselle|senora|sra|mevrouw|mevr|signora|sigra',
  'male|man|mannlich|mann|mezczyzna|homme|masculin|hombre|masculino|mannelijk|uomo|maschio',
  'female|woman|weiblich|kobieta|femme|feminin|mujer|femenino|vrouwelijk|vrouw|donna|femmina',
  'diverse|divers|non binary|nonbinary|nicht binar|niebinarna|non binaire|no binario|non binair|non binario',
  'yes|y|ja|tak|oui|si|true|on',
  'no|n|nein|nie|non|nee|false|off',
  'other|others|sonstige|sonstiges|anderes|andere|inne|inny|autre|autres|otro|otros|anders|overig|altro|altri',
  'none|keine|keiner|zadne|aucun|aucune|ninguno|ninguna|geen|nessuno|nessuna',
  'unknown|unbekannt|nieznane|inconnu|desconocido|onbekend|sconosciuto',
  'private|privat|prywatnie|prive|privado|privato',
  'business|geschaftlich|beruflich|sluzbowo|professionnel|profesional|zakelijk|aziendale|lavoro|work',
  'monday|montag|poniedzialek|lundi|lunes|maandag|lunedi',
  'tuesday|dienstag|wtorek|mardi|martes|dinsdag|martedi',
  'wednesday|mittwoch|sroda|mercredi|miercoles|woensdag|mercoledi',
  'thursday|donnerstag|czwartek|jeudi|jueves|donderdag|giovedi',
  'friday|freitag|piatek|vendredi|viernes|vrijdag|venerdi',
  'saturday|samstag|sonnabend|sobota|samedi|sabado|zaterdag|sabato',
  'sunday|sonntag|niedziela|dimanche|domingo|zondag|domenica',
  'apple|apples|apfel|jablko|jablka|pomme|pommes|manzana|manzanas|appel|mela|mele',
].map((line) => line.split('|'));

const MEANING = new Map(WORDS.flatMap((words, at) => words.map((word) => [word, `word ${at}`] as const)));
const wordMeant = (text: string): string | undefined => MEANING.get(fold(text).replace(/[^\p{L}\p{N} ]/gu, ''));

const countryMeant = (text: string): string | undefined => codeOf(readCountry(text));
const languageMeant = (text: string): string | undefined => codeOf(readLanguage(text));
const codeOf = (reading: { ok: boolean; value?: string }): string | undefined =>
  reading.ok ? reading.value : undefined;

/** So many of a list are countries, or languages, before it is taken for a list of them: "no" is one of each, too. */
const MOSTLY = 0.6;

/**
 * How choices of two lists are told to mean the same: as words, or, where both lists are of countries (ISO 3166-1) or of
 * languages (ISO 639-1), by the code that a name in any language served stands for.
 * @returns what a choice means, as a text that is equal where the meaning is; undefined where it isn't known
 */
export function meaningOfChoices(lists: readonly (readonly Choice[])[]): (choice: Choice) => string | undefined {
  const readers = [countryMeant, languageMeant].filter((reads) =>
    lists.every((list) => {
      const real = list.filter(({ value }) => value !== '');
      const read = real.filter((choice) => meant(choice, reads) !== undefined);
      return real.length >= 2 && read.length >= real.length * MOSTLY;
    }),
  );
  return (choice) => [...readers, wordMeant].map((reads) => meant(choice, reads)).find((code) => code !== undefined);
}

const meant = ({ value, label }: Choice, reads: (text: string) => string | undefined): string | undefined =>
  reads(label) ?? reads(value);
